"""The circuit to begin from: what every wet-sump engine of a layout has.

Plain data, since documents of before the circuit are upgraded with it. Ids are by slot, so that the
same part has the same id in every state of a build. Everything in it is assumed until it is edited.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from bilge_core.document.ids import Document

OPEN: Document = {"kind": "open"}
_PASSAGE: Document = {"kind": "passage"}

MOST_SLOTS = 200
"""No id of a slot has a greater number."""


def component(slot: int, kind: str, name: str, **fields: Any) -> Document:
    """A component in a slot, its figures a template's.

    Examples
    --------
    >>> component(3, "gallery", "main gallery", plugged=["second_feed"])["id"]
    'c3'
    """
    return {"id": f"c{slot}", "kind": kind, "name": name, "assumed": True, **fields}


def run(
    slot: int, name: str, service: str, start: str, end: str, line: Document = _PASSAGE
) -> Document:
    """A run in a slot from one port to another, each as "component.port".

    Examples
    --------
    >>> run(4, "to the gallery", "pressure", "c5.outlet", "c6.feed")["end"]
    {'component': 'c6', 'port': 'feed'}
    """
    ends = [dict(zip(("component", "port"), each.split("."), strict=True)) for each in (start, end)]
    return {
        "id": f"r{slot}", "name": name, "service": service, "start": ends[0], "end": ends[1],
        "line": line, "assumed": True,
    }  # fmt: skip


def heads_of(cylinders: str | None) -> tuple[str, ...]:
    """Names of the heads of a layout: one in line, two in a vee or a flat engine.

    Examples
    --------
    >>> heads_of("vee"), heads_of(None)
    (('left head', 'right head'), ('head',))
    """
    return ("left head", "right head") if cylinders in ("vee", "flat") else ("head",)


def wet_circuit(cylinders: str | None, pump: Document, relief_bar: float | None) -> Document:
    """A wet sump's circuit: pan, pickup, pump, relief, filter, gallery, heads and the way back.

    Parameters
    ----------
    cylinders : in_line, vee, flat or None
    pump : dict
        The pressure stage's own fields.
    relief_bar : float or None
        At which its relief opens [bar].

    Returns
    -------
    dict
        Plain data of a `Circuit` that checks out.

    References
    ----------
    Common practice, no published source: one relief in the pump's housing that returns to its
    inlet, a full-flow filter on the block, gauge at the main gallery.

    Examples
    --------
    >>> pump = {"displacement_cm3": 12.0, "drive_ratio": 0.5}
    >>> [each["name"] for each in wet_circuit("in_line", pump, 5.0)["components"]][:4]
    ['pan', 'pickup', 'oil pump', 'relief valve']
    """
    heads = heads_of(cylinders)
    components = [
        component(1, "pan_region", "pan"),
        component(2, "pickup", "pickup"),
        {**component(3, "pressure_stage", "oil pump"), **pump},
        component(4, "relief", "relief valve", opens_bar=relief_bar),
        component(5, "filter", "filter"),
        component(6, "gallery", "main gallery", plugged=["second_feed"]),
        *(component(8 + at, "head", name) for at, name in enumerate(heads)),
        component(7, "crankcase", "crankcase"),
        component(10, "breather", "breather"),
    ]
    tube = {"kind": "hard_line", "bends": []}
    runs = [
        run(1, "pickup's mouth", "suction", "c1.pickup", "c2.mouth", OPEN),
        run(2, "pickup tube", "suction", "c2.outlet", "c3.inlet", tube),
        run(3, "to the relief", "pressure", "c3.outlet", "c4.inlet"),
        run(6, "relief's return", "return", "c4.bypass", "c3.relief_return"),
        run(4, "to the filter", "pressure", "c4.outlet", "c5.inlet"),
        run(5, "filter to gallery", "pressure", "c5.outlet", "c6.feed"),
        run(7, "off the bearings", "drain", "c6.bearings", "c7.oil_in", OPEN),
    ]
    for at, name in enumerate(heads):
        head = f"c{8 + at}"
        runs.append(run(8 + at, f"feed of the {name}", "pressure", "c6.tappings", f"{head}.feed"))
        runs.append(run(10 + at, f"drains of the {name}", "drain", f"{head}.drains", "c7.oil_in"))
    runs.append(run(12, "down to the pan", "drain", "c7.oil_out", "c1.returns", OPEN))
    runs.append(run(13, "breathing", "vent", "c7.gas", "c10.inlet", {"kind": "hose"}))
    return {"components": components, "runs": runs, "gauge": "c6"}


def _cooled(circuit: Document, name: str) -> Document:
    """With a sandwich plate under the filter and a cooler."""
    to_filter = next(at for at, each in enumerate(circuit["runs"]) if each["id"] == "r4")
    runs = [
        *circuit["runs"][:to_filter],
        run(4, "to the sandwich plate", "pressure", "c4.outlet", "c11.inlet"),
        run(14, "to the filter", "pressure", "c11.outlet", "c5.inlet", OPEN),
        run(15, "to the cooler", "pressure", "c11.cooler_out", "c12.inlet", {"kind": "hose"}),
        run(16, "from the cooler", "pressure", "c12.outlet", "c11.cooler_in", {"kind": "hose"}),
        *circuit["runs"][to_filter + 1 :],
    ]
    filtered = next(at for at, each in enumerate(circuit["components"]) if each["id"] == "c5")
    more = [
        component(11, "sandwich_plate", "sandwich plate"),
        component(12, "cooler", name),
    ]
    components = [
        *circuit["components"][:filtered], *more, *circuit["components"][filtered:]
    ]  # fmt: skip
    return {**circuit, "components": components, "runs": runs}


_WHERE = (
    ("cooler", "c12"),
    ("filter", "c5"),
    ("galler", "c6"),
    ("head", "c8"),
    ("cam", "c8"),
)
"""Words of a place that holds oil, and the slot of the component that it is; else the crankcase."""


def with_held(circuit: Document, held: Sequence[Document]) -> Document:
    """A template's circuit whose components hold what was said place by place before.

    Parameters
    ----------
    circuit : dict
    held : sequence of dict
        Each with a name and a volume [L].

    Returns
    -------
    dict
        Several places in one component are added up; a name that is no component's is kept in the
        name of the one that it is counted with.

    Examples
    --------
    >>> pump = {"displacement_cm3": 12.0, "drive_ratio": 0.5}
    >>> rows = [{"name": "cooler and lines", "volume_l": 0.6}, {"name": "film", "volume_l": 0.2}]
    >>> told = with_held(wet_circuit(None, pump, None), rows)
    >>> [(each["name"], each["holds_l"]) for each in told["components"] if "holds_l" in each]
    [('cooler and lines', 0.6), ('crankcase, film', 0.2)]
    """
    sums: dict[str, float] = {}
    names: dict[str, list[str]] = {}
    for row in held:
        lower = str(row["name"]).lower()
        slot = next((each for word, each in _WHERE if word in lower), "c7")
        sums[slot] = sums.get(slot, 0.0) + row["volume_l"]
        names.setdefault(slot, []).append(str(row["name"]))
    if "c12" in sums:
        circuit = _cooled(circuit, names["c12"][0])
    components = []
    for each in circuit["components"]:
        if each["id"] in sums:
            kept = {**each, "holds_l": round(sums[each["id"]], 6), "assumed": False}
            if each["id"] == "c7":
                kept["name"] = ", ".join([each["name"], *names["c7"]])[:80].strip()
            components.append(kept)
        else:
            components.append(each)
    return {**circuit, "components": components}


def with_drained_bosses(circuit: Document, bosses: Sequence[Document]) -> Document:
    """A template's circuit with what the pan's bosses say of it: turbos drained, lines back.

    Parameters
    ----------
    circuit : dict
    bosses : sequence of dict
        The pan's, each with its id; those that are blocked drain nothing.
    """
    components, runs = list(circuit["components"]), list(circuit["runs"])
    hose: Document = {"kind": "hose"}
    for at, boss in enumerate(bosses):
        if boss.get("blocked") or boss["kind"] not in ("turbo_drain", "return"):
            continue
        slot = 13 + 2 * at
        if boss["kind"] == "return":
            runs.append(run(slot + 4, boss["name"], "drain", "c8.drains", f"c1.{boss['id']}", hose))
            continue
        components.append(component(slot, "restrictor", "turbo's restrictor", bore_mm=2.0))
        components.append(component(slot + 1, "turbo", "turbo"))
        runs.append(run(slot + 4, "turbo feed", "pressure", "c6.tappings", f"c{slot}.a", hose))
        into = f"c{slot + 1}"
        runs.append(run(slot + 100, "to the turbo", "pressure", f"c{slot}.b", f"{into}.feed", OPEN))
        runs.append(run(slot + 5, boss["name"], "drain", f"{into}.drain", f"c1.{boss['id']}", hose))
    return {**circuit, "components": components, "runs": runs}
