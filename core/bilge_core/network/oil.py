"""The oil in the network: how heavy and how thick, running and at what else a figure was had."""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.document.build import Build
from bilge_core.oil import GRADES, density, hot_volume_ratio, kinematic_viscosity
from bilge_core.quantities import si_from


@dataclass(frozen=True)
class NetworkOil:
    """Oil of a grade at the running temperature.

    grade : str
    density : [kg/m3]
    viscosity : dynamic [Pa s]
    at_100 : dynamic, at 100 °C, where makers give their drops [Pa s]
    """

    grade: str
    density: float
    viscosity: float
    at_100: float

    def viscosity_at(self, temperature_c: float) -> float:
        """Dynamic viscosity [Pa s] at another temperature [°C].

        Examples
        --------
        >>> hot = NetworkOil("5W-40", 800.0, 0.009, 0.011)
        >>> hot.viscosity_at(40.0) > 5 * hot.viscosity_at(100.0)
        True
        """
        grade = GRADES[self.grade]
        temperature = si_from(temperature_c, "temperature", "°C")
        return kinematic_viscosity(grade, temperature) * density(grade, temperature)


def oil_of(build: Build) -> NetworkOil:
    """The oil of a build, running.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> oil = oil_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> 0.01 < oil.viscosity < 0.02
    True
    """
    bare = NetworkOil(build.oil.grade, 0.0, 0.0, 0.0)
    temperature = si_from(build.oil.temperature_c, "temperature", "°C")
    return NetworkOil(
        build.oil.grade,
        density(GRADES[build.oil.grade], temperature),
        bare.viscosity_at(build.oil.temperature_c),
        bare.viscosity_at(100.0),
    )


def hot_ratio(build: Build) -> float:
    """Volume of a build's oil at its running temperature, of what it was as it was poured.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> 1.05 < hot_ratio(read_build(Path("demo/dunlin.json").read_text())) < 1.09
    True
    """
    oil = build.oil
    return hot_volume_ratio(GRADES[oil.grade], si_from(oil.temperature_c, "temperature", "°C"))


def learned_up_top(build: Build) -> float:
    """Oil up top beyond what a build's circuit holds, as the track book told of it, hot [m3].

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.learned import Learned
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> learned_up_top(build)
    0.0
    >>> more = {"value": 0.3, "give": 0.1, "source": "12 November"}
    >>> told = build.model_copy(update={"learned": Learned(up_top_more_l=more)})
    >>> 0.3e-3 < learned_up_top(told) < 0.33e-3
    True
    """
    found = build.learned.up_top_more_l if build.learned else None
    return found.value * 1e-3 * hot_ratio(build) if found else 0.0
