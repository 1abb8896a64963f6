"""A circuit in other conditions: oil hot or cold, at any speed, its regulator set, just started."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.optimize import brentq

from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import Bearings
from bilge_core.document.circuit.engine_side import Gallery
from bilge_core.document.circuit.pumps import Regulator, Relief
from bilge_core.errors import InvalidQuantity
from bilge_core.network.assembly import Network, network_of
from bilge_core.network.guesses import GUESSES
from bilge_core.network.order import order_of
from bilge_core.network.records import Flowing, at_rest
from bilge_core.network.running import LEVEL, on_steadily
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import rpm_of_speed

_STEADY_FOR = 8.0  # [s] to come to rest at a speed, cold oil among it (ours)
_LEAST_SET, _MOST_SET = 0.3, 25.0  # [bar] that a regulator may be set to (ours)
_CRANKING_FILLS = 0.85  # of what a slow, dry pump sweeps that it brings (ours)
_SHUT = 1e3  # by which a bottle's gas is more, so that no oil goes in
_FREE_PASSES = 1e-9  # [m3/s] of a bypass that is shut


def at_temperature(build: Build, temperature_c: float) -> Build:
    """The same engine with its oil at another temperature.

    Parameters
    ----------
    build : Build
    temperature_c : float
        [°C]

    Returns
    -------
    Build

    Notes
    -----
    Where no gauge told of the bearings they are guessed at the running temperature, and are then
    the same bearings at every other.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network.running import steady
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> idle = np.array([90.0])
    >>> hot, cold = (steady(network_of(at_temperature(build, t)), idle) for t in (110.0, 20.0))
    >>> bool(cold.gallery[0] > 2.0 * hot.gallery[0])
    True
    """
    circuit = build.circuit
    if circuit.bearings is None:
        relief = circuit.relief_bar or GUESSES["relief"].likely / 1e5
        pump = circuit.pump
        swept = pump.displacement_cm3 * 1e-3 * pump.drive_ratio  # [L/rev]
        guess = Bearings(
            flow_l_min=swept * float(rpm_of_speed(GUESSES["onto_relief"].likely)),
            at_bar=relief, oil_temperature_c=build.oil.temperature_c, uncertainty_pct=100.0,
            source="guessed",
        )  # fmt: skip
        parts = [
            each.model_copy(update={"bearings": guess}) if isinstance(each, Gallery) else each
            for each in circuit.components
        ]
        circuit = circuit.model_copy(update={"components": parts})
    oil = build.oil.model_copy(update={"temperature_c": temperature_c})
    return build.model_copy(update={"circuit": circuit, "oil": oil})


def bearings_let(build: Build, share: float) -> Build:
    """The same engine whose bearings let through a share of what they were thought to.

    Parameters
    ----------
    build : Build
    share : float

    Returns
    -------
    Build

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = at_temperature(read_build(Path("demo/dunlin.json").read_text()), 110.0)
    >>> worn = bearings_let(build, 1.1).circuit.bearings.flow_l_min
    >>> round(worn / build.circuit.bearings.flow_l_min, 3)
    1.1
    """
    fixed = build if build.circuit.bearings else at_temperature(build, build.oil.temperature_c)
    parts = [
        each.model_copy(
            update={
                "bearings": each.bearings.model_copy(
                    update={"flow_l_min": each.bearings.flow_l_min * share}
                )
            }
        )
        if isinstance(each, Gallery) and each.bearings is not None
        else each
        for each in fixed.circuit.components
    ]
    circuit = fixed.circuit.model_copy(update={"components": parts})
    return fixed.model_copy(update={"circuit": circuit})


@dataclass(frozen=True)
class AlongPart:
    """A part of the line, steadily.

    component : its id
    drop : across it [Pa]
    flow : through it [m3/s]
    bypassed : of it past the element, through its bypass [m3/s]
    """

    component: str
    drop: float
    flow: float
    bypassed: float


@dataclass(frozen=True)
class Condition:
    """A circuit running steadily at a speed.

    speed : of the crank [rad/s]
    outlet, gallery, inlet : pressures over the air's at the pump's outlet, in the gallery, at the
        pump's inlet [Pa]
    swept : what the pump brings [m3/s]
    relieved : let back by relief and regulator [m3/s]
    along : parts of the line, in order
    """

    speed: float
    outlet: float
    gallery: float
    inlet: float
    swept: float
    relieved: float
    along: tuple[AlongPart, ...]


def _flow(state: Flowing, network: Network, component: str, *what: str) -> float:
    found = [
        float(state.elements["flow"][at])
        for at, (of, named) in enumerate(network.elements)
        if of == component and named in what
    ]
    return sum(found)


def conditions(
    build: Build, speeds: Array, network: Network | None = None
) -> tuple[Condition, ...]:
    """A build's circuit running steadily at each of some speeds, level, its mouth covered.

    Parameters
    ----------
    build : Build
    speeds : ndarray, shape (n,)
        Of the crank, rising [rad/s].
    network : Network, optional
        Of it.

    Returns
    -------
    tuple of Condition

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> idle, fast = conditions(build, np.array([100.0, 600.0]))
    >>> idle.relieved < 0.1 * idle.swept, fast.relieved > 0.2 * fast.swept
    (True, True)
    """
    network = network_of(build) if network is None else network
    order = order_of(build, network)
    valves = [each.id for each in build.circuit.components if isinstance(each, Relief | Regulator)]
    state = at_rest(network.still)
    state.bottles["amount"] *= _SHUT  # one that is being filled is not steady
    found = []
    for speed in speeds.tolist():
        on_steadily(state, speed, _STEADY_FOR, LEVEL)
        pressure = state.nodes["pressure"]
        along = []
        for part in order.line:
            through = ("element", "matrix", "to cooler", "past cooler", "valve", "hole", "bypass")
            along.append(
                AlongPart(
                    part.component,
                    float(pressure[part.enters] - pressure[part.leaves]),
                    _flow(state, network, part.component, *through),
                    max(_flow(state, network, part.component, "bypass", "past cooler"), 0.0),
                )
            )
        relieved = sum(_flow(state, network, each, "relief") for each in valves)
        found.append(
            Condition(
                speed, float(pressure[network.outlet]), float(pressure[network.gallery]),
                float(pressure[network.inlet]),
                _flow(state, network, build.circuit.pump.id, "stage"), relieved, tuple(along),
            )
        )  # fmt: skip
    return tuple(found)


def with_setting(build: Build, opens_bar: float) -> Build:
    """The same build with the valve that rules its pressure set to open at a pressure [bar].

    That is its regulator, or the first relief where there is none.

    Raises
    ------
    InvalidQuantity
        If it has neither.
    """
    circuit = build.circuit
    rules = next(iter([*circuit.of_kind(Regulator), *circuit.of_kind(Relief)]), None)
    if rules is None:
        raise InvalidQuantity("valve", "none", "a regulator or a relief")
    parts = [
        each.model_copy(update={"opens_bar": opens_bar}) if each is rules else each
        for each in circuit.components
    ]
    return build.model_copy(update={"circuit": circuit.model_copy(update={"components": parts})})


@dataclass(frozen=True)
class Setting:
    """What the valve that rules is set to for a wanted gallery.

    opens : [Pa]; None: no setting gives it
    most, least : gallery with the valve shut for good, and with the softest [Pa]
    """

    opens: float | None
    most: float
    least: float


def setting_for(build: Build, wanted: float, speed: float) -> Setting:
    """Set the valve that rules the pressure so that the gallery has a wanted one at a speed.

    Parameters
    ----------
    build : Build
    wanted : float
        In the gallery, over the air's [Pa].
    speed : float
        Of the crank [rad/s].

    Returns
    -------
    Setting

    Raises
    ------
    InvalidQuantity
        If the circuit has no such valve, or the pressure wanted is not above nil.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> found = setting_for(build, 4.0e5, 500.0)
    >>> 4.0e5 < found.opens < 5.0e5  # filter and cooler take the rest
    True
    """
    if not wanted > 0.0:
        raise InvalidQuantity("wanted", wanted, "above 0")
    # the bearings stay what they are: guessed ones rest on the relief's own setting
    fixed = at_temperature(build, build.oil.temperature_c)

    def misses(opens_bar: float) -> float:
        there = conditions(with_setting(fixed, opens_bar), np.array([speed]))[0]
        return there.gallery - wanted

    least, most = misses(_LEAST_SET), misses(_MOST_SET)
    if least > 0.0 or most < 0.0:
        return Setting(None, most + wanted, least + wanted)
    opens = float(brentq(misses, _LEAST_SET, _MOST_SET, xtol=0.005))
    return Setting(opens * 1e5, most + wanted, least + wanted)


@dataclass(frozen=True)
class StartUp:
    """How long until the gallery has pressure.

    from_dry, from_primed : to be filled first [m3]
    cranking : what the pump brings while it is cranked [m3/s]
    """

    from_dry: float
    from_primed: float
    cranking: float

    @property
    def dry(self) -> float:
        """[s] with tube, filter, cooler, lines and galleries empty."""
        return self.from_dry / self.cranking

    @property
    def primed(self) -> float:
        """[s] with all but the galleries filled beforehand."""
        return self.from_primed / self.cranking


def start_up(build: Build, cranking_speed: float) -> StartUp:
    """What has to be filled before a build's gallery has pressure, and how soon cranking does it.

    Parameters
    ----------
    build : Build
    cranking_speed : float
        Of the crank [rad/s].

    Returns
    -------
    StartUp

    Raises
    ------
    InvalidQuantity
        If the crank does not turn.

    Notes
    -----
    Volume over flow. A bottle is not counted: its valve is shut, or it gives.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> found = start_up(build, 26.0)
    >>> 5.0 < found.dry < 60.0, found.primed < found.dry
    (True, True)
    """
    if not cranking_speed > 0.0:
        raise InvalidQuantity("cranking", cranking_speed, "above 0")
    network = network_of(build)
    still = network.still
    volumes = still.nodes["volume"]
    order = order_of(build, network)
    on_the_way = {network.inlet, network.outlet, network.gallery}
    for part in order.line:
        on_the_way |= {part.enters, part.leaves}
    tube = float(still.whole["tube"][0])
    pump = build.circuit.pump
    swept = pump.displacement_cm3 * 1e-6 * pump.drive_ratio * cranking_speed / (2.0 * np.pi)
    return StartUp(
        tube + float(volumes[sorted(on_the_way)].sum()),
        float(volumes[network.gallery]),
        float(_CRANKING_FILLS * swept),
    )


def past_filter(condition: Condition, filters: frozenset[str]) -> float:
    """Share of what comes to the filters that goes past their elements unfiltered."""
    through = [each for each in condition.along if each.component in filters]
    flow = sum(max(each.flow, 0.0) for each in through)
    if flow < _FREE_PASSES:
        return 0.0
    return min(sum(each.bypassed for each in through) / flow, 1.0)
