"""The kinds of figure a builder types, and the unit names understood for each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

UnitSystem = Literal["metric", "us"]


@dataclass(frozen=True)
class Kind:
    """A kind of figure.

    `units` maps each spelling (lower case) to the name of the unit in pint.
    `metric` and `us` are the spellings used on screen in each unit system;
    `decimals` how many places each shows.
    """

    name: str
    si: str
    units: dict[str, str]
    metric: str
    us: str
    metric_decimals: int
    us_decimals: int

    def shown_in(self, system: UnitSystem) -> str:
        """The spelling of the unit that a system shows.

        Examples
        --------
        >>> KINDS["length"].shown_in("us")
        'in'
        """
        return self.metric if system == "metric" else self.us


_LENGTH = {
    "mm": "millimeter",
    "cm": "centimeter",
    "m": "meter",
    "in": "inch",
    "inch": "inch",
    "inches": "inch",
    '"': "inch",
    "ft": "foot",
    "'": "foot",
    "thou": "thou",
}
_VOLUME = {
    "l": "liter",
    "litre": "liter",
    "litres": "liter",
    "liter": "liter",
    "liters": "liter",
    "ml": "milliliter",
    "cc": "centimeter**3",
    "cm3": "centimeter**3",
    "cm³": "centimeter**3",
    "qt": "quart",
    "us qt": "quart",
    "quart": "quart",
    "quarts": "quart",
    "pt": "pint",
    "us pt": "pint",
    "gal": "gallon",
    "us gal": "gallon",
    "imp qt": "imperial_quart",
    "imp pt": "imperial_pint",
    "imp gal": "imperial_gallon",
    "in3": "inch**3",
    "cu in": "inch**3",
    "ci": "inch**3",
}
_TEMPERATURE = {
    "c": "degree_Celsius",
    "°c": "degree_Celsius",
    "degc": "degree_Celsius",
    "f": "degree_Fahrenheit",
    "°f": "degree_Fahrenheit",
    "degf": "degree_Fahrenheit",
    "k": "kelvin",
}
_ANGLE = {"deg": "degree", "°": "degree", "degrees": "degree", "rad": "radian"}
_TURNING = {
    "deg/s": "degree/second",
    "°/s": "degree/second",
    "dps": "degree/second",
    "rad/s": "radian/second",
}
_PRESSURE = {
    "bar": "bar",
    "kpa": "kilopascal",
    "mbar": "millibar",
    "pa": "pascal",
    "mpa": "megapascal",
    "psi": "pound_force_per_square_inch",
}
_GAS_PRESSURE = {
    "mbar": "millibar",
    "hpa": "hectopascal",
    "pa": "pascal",
    "kpa": "kilopascal",
    "inh2o": "inch_H2O",
    "inhg": "inch_Hg",
    "psi": "pound_force_per_square_inch",
}
_FLOW = {
    "l/min": "liter/minute",
    "lpm": "liter/minute",
    "l/s": "liter/second",
    "gpm": "gallon/minute",
    "us gal/min": "gallon/minute",
    "qt/min": "quart/minute",
}
_DISTANCE = {"m": "meter", "km": "kilometer", "ft": "foot", "mi": "mile", "mile": "mile"}
_COUNT = {"": "dimensionless"}
_RATIO = {"": "dimensionless", "%": "percent"}
_SPEED = {
    "km/h": "kilometer/hour",
    "kmh": "kilometer/hour",
    "kph": "kilometer/hour",
    "m/s": "meter/second",
    "mph": "mile/hour",
    "mi/h": "mile/hour",
}
_FLOW_SPEED = {"m/s": "meter/second", "ft/s": "foot/second"}
_WARMER = {
    "k": "kelvin",
    "c": "delta_degree_Celsius",
    "°c": "delta_degree_Celsius",
    "f": "delta_degree_Fahrenheit",
    "°f": "delta_degree_Fahrenheit",
}
_ACCELERATION = {
    "g": "standard_gravity",
    "m/s2": "meter/second**2",
    "m/s²": "meter/second**2",
    "m/s^2": "meter/second**2",
    "ft/s2": "foot/second**2",
}
_HEAT = {"kw": "kilowatt", "w": "watt", "btu/h": "Btu/hour", "hp": "horsepower"}
_POWER = {"kw": "kilowatt", "w": "watt", "hp": "horsepower", "ps": "metric_horsepower"}
_TIME = {"s": "second", "sec": "second", "ms": "millisecond", "min": "minute"}
_ROTATION = {"rpm": "revolution/minute", "1/min": "revolution/minute", "rad/s": "radian/second"}

KINDS: dict[str, Kind] = {
    kind.name: kind
    for kind in (
        Kind("length", "meter", _LENGTH, "mm", "in", 0, 2),
        Kind("volume", "meter**3", _VOLUME, "L", "qt", 1, 1),
        Kind("displacement", "meter**3", _VOLUME, "cm3", "in3", 1, 2),
        Kind("temperature", "kelvin", _TEMPERATURE, "°C", "°F", 0, 0),
        Kind("temperature difference", "kelvin", _WARMER, "K", "°F", 0, 0),
        Kind("angle", "radian", _ANGLE, "deg", "deg", 1, 1),
        Kind("ratio", "dimensionless", _RATIO, "", "", 2, 2),
        Kind("share", "dimensionless", _RATIO, "%", "%", 0, 0),
        Kind("speed", "meter/second", _SPEED, "km/h", "mph", 0, 0),
        Kind("flow speed", "meter/second", _FLOW_SPEED, "m/s", "ft/s", 1, 1),
        Kind("acceleration", "meter/second**2", _ACCELERATION, "g", "g", 2, 2),
        Kind("time", "second", _TIME, "s", "s", 1, 1),
        Kind("rotation", "radian/second", _ROTATION, "rpm", "rpm", 0, 0),
        Kind("turning", "radian/second", _TURNING, "deg/s", "deg/s", 0, 0),
        Kind("pressure", "pascal", _PRESSURE, "bar", "psi", 1, 0),
        Kind("gas pressure", "pascal", _GAS_PRESSURE, "mbar", "inH2O", 1, 1),
        Kind("flow", "meter**3/second", _FLOW, "L/min", "gpm", 1, 1),
        Kind("power", "watt", _POWER, "kW", "hp", 0, 0),
        Kind("heat flow", "watt", _HEAT, "kW", "BTU/h", 1, 0),
        Kind("distance", "meter", _DISTANCE, "m", "ft", 0, 0),
        Kind("run", "meter", _DISTANCE, "m", "ft", 1, 1),
        Kind("count", "dimensionless", _COUNT, "", "", 0, 0),
    )
}

FIELD_SUFFIXES: dict[str, tuple[str, str]] = {
    "_mm": ("length", "mm"),
    "_l": ("volume", "L"),
    "_cm3": ("displacement", "cm3"),
    "_c": ("temperature", "°C"),
    "_kelvin": ("temperature difference", "K"),
    "_deg": ("angle", "deg"),
    "_ratio": ("ratio", ""),
    "_pct": ("share", "%"),
    "_rpm": ("rotation", "rpm"),
    "_bar": ("pressure", "bar"),
    "_mbar": ("gas pressure", "mbar"),
    "_l_min": ("flow", "L/min"),
    "_power_kw": ("power", "kW"),
    "_kw": ("heat flow", "kW"),
    "_m_s": ("flow speed", "m/s"),
    "_km_h": ("speed", "km/h"),
    "_m": ("run", "m"),
}
"""Ending of a field's name in a build document: its kind and the unit it is stored in."""
