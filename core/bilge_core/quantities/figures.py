"""Reading figures as people type them: ``3/8 in``, ``1 1/2"``, ``6 qt``, ``230 F``."""

from __future__ import annotations

import math
import re
from fractions import Fraction
from functools import cache

import pint

from bilge_core.errors import InvalidQuantity
from bilge_core.quantities.kinds import FIELD_SUFFIXES, KINDS, Kind

_REGISTRY: pint.UnitRegistry[float] = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)

_NUMBER = re.compile(
    r"""^\s*(?P<sign>[-+−]?)\s*
        (?:(?P<whole>\d+)\s+(?P<part>\d+/\d+)      # 1 1/2
          |(?P<fraction>\d+/\d+)                   # 3/8
          |(?P<decimal>(?:\d+[.,]?\d*|[.,]\d+)(?:e[-+]?\d+)?))
        \s*(?P<unit>.*?)\s*$""",
    re.VERBOSE | re.IGNORECASE,
)


@cache
def _linear(from_unit: str, to_unit: str) -> tuple[float, float]:
    """Scale and offset of `to = scale * from + offset`, from pint."""
    zero = float(_REGISTRY.Quantity(0.0, from_unit).to(to_unit).magnitude)
    if zero == 0.0:
        return float(_REGISTRY.Quantity(1.0, from_unit).to(to_unit).magnitude), 0.0
    hundred = float(_REGISTRY.Quantity(100.0, from_unit).to(to_unit).magnitude)
    return (hundred - zero) / 100.0, zero


def _pint_name(kind: Kind, unit: str) -> str:
    name = kind.units.get(unit.strip().lower())
    if name is None:
        known = ", ".join(f"{spelling!r}" for spelling in kind.units if spelling)
        raise InvalidQuantity("unit", repr(unit), f"one of {known} for a {kind.name}")
    return name


def convert(value: float, kind: str, from_unit: str, to_unit: str) -> float:
    """Convert a figure between two units of one kind.

    Parameters
    ----------
    value : float
        The figure in `from_unit`.
    kind : str
        A key of `KINDS`, such as ``"length"``.
    from_unit, to_unit : str
        Spellings listed for that kind.

    Returns
    -------
    float
        The figure in `to_unit`.

    Raises
    ------
    InvalidQuantity
        If a unit does not belong to the kind.

    References
    ----------
    The factors are pint's, which follow NIST SP 811.

    Examples
    --------
    >>> round(convert(1.0, "volume", "qt", "L"), 9)
    0.946352946
    """
    a_kind = KINDS[kind]
    scale, offset = _linear(_pint_name(a_kind, from_unit), _pint_name(a_kind, to_unit))
    return scale * value + offset


def si_from(value: float, kind: str, unit: str) -> float:
    """Convert a figure to SI [metre, cubic metre, kelvin, radian, ...].

    Raises
    ------
    InvalidQuantity
        If the unit does not belong to the kind.

    Examples
    --------
    >>> round(si_from(100.0, "temperature", "°C"), 2)
    373.15
    """
    a_kind = KINDS[kind]
    scale, offset = _linear(_pint_name(a_kind, unit), a_kind.si)
    return scale * value + offset


def parse_figure(text: str, kind: str, assumed_unit: str, wanted_unit: str) -> float:
    """Read a typed figure.

    Parameters
    ----------
    text : str
        What was typed: a decimal or a fraction, with or without a unit. Both
        ``1.5`` and ``1,5`` are read as one and a half.
    kind : str
        A key of `KINDS`.
    assumed_unit : str
        The unit meant when none is typed.
    wanted_unit : str
        The unit of the result.

    Returns
    -------
    float
        The figure in `wanted_unit`.

    Raises
    ------
    InvalidQuantity
        If the text is no number, or its unit is not one of that kind.

    Examples
    --------
    >>> round(parse_figure("3/8 in", "length", "mm", "mm"), 3)
    9.525
    >>> round(parse_figure("6 qt", "volume", "L", "L"), 2)
    5.68
    >>> parse_figure("12", "length", "mm", "mm")
    12.0
    """
    match = _NUMBER.match(text)
    if match is None:
        raise InvalidQuantity(
            "figure", repr(text), "a number with or without a unit, such as 12, 12.5 mm or 3/8 in"
        )
    try:
        if match["decimal"] is not None:
            number = float(match["decimal"].replace(",", "."))
        elif match["fraction"] is not None:
            number = float(Fraction(match["fraction"]))
        else:
            number = int(match["whole"]) + float(Fraction(match["part"]))
    except ZeroDivisionError:
        raise InvalidQuantity("figure", repr(text), "a fraction with no zero below it") from None
    if not math.isfinite(number):
        raise InvalidQuantity("figure", repr(text), "a finite number")
    if match["sign"] in ("-", "−"):
        number = -number
    return convert(number, kind, match["unit"] or assumed_unit, wanted_unit)


def field_unit(field: str) -> tuple[str, str] | None:
    """Kind and stored unit of a build document's field, from its name's ending.

    Returns
    -------
    tuple of str, or None
        For example ``("length", "mm")``; None for a field that holds no figure.

    Examples
    --------
    >>> field_unit("gap_mm")
    ('length', 'mm')
    >>> field_unit("grade") is None
    True
    """
    for suffix, unit in FIELD_SUFFIXES.items():
        if field.endswith(suffix):
            return unit
    return None
