"""What thread a port shows: as the builder says, else as such a part usually has it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Component, Faces
from bilge_core.document.circuit.run import End, Hose, Run
from bilge_core.network.breathing import place_of_port
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.shop.threads import Joint, joint_of

ON_ENGINE = frozenset(
    {
        "pan_region",
        "pickup",
        "pressure_stage",
        "scavenge_stage",
        "relief",
        "regulator",
        "filter",
        "sandwich_plate",
        "take_off_plate",
        "gallery",
        "jets",
        "head",
        "timing_chest",
        "crankcase",
        "turbo",
        "cover",
    }
)
"""Kinds that the engine carries where nobody says otherwise (ours)."""

_TAPER_HALF = ("accumulator", "shut_off_valve", "thermostat", "sandwich_plate", "take_off_plate")
_O_RING = ("remote_filter", "pressure_stage", "scavenge_stage", "regulator")
_METRIC = {"cooler": "metric M22x1.5", "plate_cooler": "metric M22x1.5"}
BARE = frozenset({"vent", "water"})
"""Services whose hoses go bare over a barb, with a clip."""


def is_through_a_wall(kind: str, service: str) -> bool:
    """Whether a line that ends at such a component comes in through the pan's wall.

    Common practice, no published source: by a bung or a through-fitting.

    Examples
    --------
    >>> is_through_a_wall("pan_region", "drain"), is_through_a_wall("tank", "return")
    (True, False)
    """
    return kind == "pan_region" and service not in BARE


_AXES: dict[Faces, tuple[float, float, float]] = {
    "ahead": (1, 0, 0), "behind": (-1, 0, 0), "left": (0, 1, 0), "right": (0, -1, 0),
    "up": (0, 0, 1), "down": (0, 0, -1),
}  # fmt: skip


@dataclass(frozen=True)
class PortEnd:
    """One end of a line as it is screwed on.

    component, port : by id and key
    name : of the component
    words : of the port
    joint : the thread that it shows
    is_usual : nobody said which: such a part usually has it
    written : what the builder wrote that is no thread known here; empty: nothing such
    place : in the car's frame [m]; None: nobody gave it
    faces : which way a line leaves it, car's frame; None: nobody said
    on_engine : it goes with the engine as that rocks
    """

    component: str
    port: str
    name: str
    words: str
    joint: Joint
    is_usual: bool
    written: str
    place: Array | None
    faces: Array | None
    on_engine: bool


def usual_joint(component: Component, port: str, dash: int, service: str) -> Joint:
    """The thread that such a port usually shows (ours: look at the part).

    Parameters
    ----------
    component : Component
    port : str
        Its key.
    dash : int
        Size of the line.
    service : str
        What the line carries.

    Examples
    --------
    >>> from bilge_core.document.circuit.feeding import Accumulator
    >>> bottle = Accumulator(kind="accumulator", name="bottle", volume_l=2)
    >>> usual_joint(bottle, "line", 10, "pressure").words  # common practice: 1/2 in pipe thread
    'taper pipe 1/2, female'
    """
    kind: str = component.kind  # type: ignore[attr-defined]
    if kind == "turbo":
        return Joint("flange drain" if port == "drain" else "metric M12x1.5", "female")
    if service == "water" or (service == "vent" and kind not in _METRIC):
        return Joint(f"barb {dash}", "male")
    thread = _usual_thread(kind, dash)
    return Joint(thread, "female") if thread else Joint(f"flare {dash}", "male")


def _usual_thread(kind: str, dash: int) -> str:
    """A tapped port's thread; empty: the part carries flares."""
    if kind in _METRIC:
        return _METRIC[kind] if dash <= 10 else f"o_ring {dash}"
    if kind in _O_RING:
        return f"o_ring {max(4, dash)}"
    if kind in ("gallery", "head", "jets") and dash <= 4:
        return "taper 1/8"
    return "taper 1/2" if kind in (*_TAPER_HALF, "gallery", "head", "jets") else ""


def faces_of(build: Build, component: Component, key: str) -> Array | None:
    """Which way a line leaves a port, in the car's frame; None: nobody said."""
    said = next((each.faces for each in component.ports if each.port == key), None)
    if said is None:
        return None
    way = np.array(_AXES[said], dtype=np.float64)
    if component.place is not None and component.place.fixed_to == "car":
        return way
    return np.asarray(engine_to_car(build.car) @ way)


def faces_word(way: Array) -> Faces:
    """The nearest of the six ways to one in the car's frame, shape (3,).

    Examples
    --------
    >>> faces_word(np.array([0.1, -0.9, 0.2]))
    'right'
    """
    return max(_AXES, key=lambda word: float(np.dot(_AXES[word], way)))


def thread_of(component: Component, key: str) -> str | None:
    """What the builder wrote of a port's thread; None: nobody did."""
    return next((each.thread for each in component.ports if each.port == key), None)


def place_of(build: Build, component: Component, key: str) -> Array | None:
    """Where a port or a boss of the pan is, in the car's frame [m]; None: nobody gave it."""
    boss = next((each for each in build.pan.bosses if each.id == key), None)
    if boss is not None:
        own = np.array([boss.x_mm, boss.y_mm, -boss.depth_mm]) * 1e-3
        return np.asarray(engine_to_car(build.car) @ own)
    place = place_of_port(build.car, component, key)
    return None if place is None else np.asarray(engine_to_car(build.car) @ place)


def dash_of(run: Run, usual: int = 10) -> int:
    """Size of a run's line; one that is usual where it has none.

    Examples
    --------
    >>> ends = {"component": "c1", "port": "a"}
    >>> dash_of(Run(name="it", service="vent", start=ends, end=ends, line={"kind": "hose"}))
    10
    """
    dash = getattr(run.line, "dash", None)
    return int(dash) if dash else usual


def port_end(build: Build, run: Run, end: End) -> PortEnd | None:
    """One end of a run; None where its component is not in the circuit."""
    component = build.circuit.component(end.component)
    if component is None:
        return None
    port = build.circuit.port(component, end.port, {boss.id for boss in build.pan.bosses})
    said = thread_of(component, end.port)
    joint = None if said is None else joint_of(said)
    usual = usual_joint(component, end.port, dash_of(run), run.service)
    fixed = None if component.place is None else component.place.fixed_to
    on_engine = fixed == "engine" if fixed else component.kind in ON_ENGINE
    return PortEnd(
        end.component, end.port, component.name, port.words if port else end.port,
        joint or usual, joint is None, said if said and joint is None else "",
        place_of(build, component, end.port), faces_of(build, component, end.port), on_engine,
    )  # fmt: skip


def line_end(run: Run) -> Joint:
    """What a line's own end shows: a flare to be screwed on, or a bare hose that goes over a barb.

    Examples
    --------
    >>> ends = {"component": "c1", "port": "a"}
    >>> hose = {"kind": "hose", "dash": 10}
    >>> line_end(Run(name="it", service="pressure", start=ends, end=ends, line=hose)).words
    '37° flare size 10, female'
    """
    if run.service in BARE and isinstance(run.line, Hose):
        return Joint(f"barb {dash_of(run)}", "female")
    return Joint(f"flare {dash_of(run)}", "female")
