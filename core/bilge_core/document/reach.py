"""Which part of the document each answer feels: a whitelist for each.

Paths are of the document as `as_felt` lays it out: the pump and its suction line by themselves, and
`flows`, the circuit with its parts named by their places, so that only what changes a flow makes
another answer of it.

What an answer is known by is made from its part alone, so that moving a keep-out, renaming or
ticking starts no run; `bilge_core.tell.known_by` adds the versions of the code. A path that ends at
a part counts all of it; ``*`` stands for every place in a list.
"""

from __future__ import annotations

import math
from typing import Any, Literal

from bilge_core.document.circuit.run import Run, contents_of, length_of
from bilge_core.document.ids import Document, with_ids_by_place, without_ids

Answer = Literal["settled", "moving", "clearance", "checks", "drains", "drawing"]

_ATTITUDE = ("car.nose_points", "car.lean_right_deg", "car.nose_up_deg")
_SPACE = (
    "pan.zones.*.outline_mm",
    "pan.zones.*.floor",
    "pan.zones.*.ceiling_depth_mm",
    "pan.zones.*.draft_deg",
    "pan.skirt_height_mm",
)
_OIL = ("oil.grade", "oil.volume_l", "oil.away_l", "oil.temperature_c")
_MOUTH = ("pickup.x_mm", "pickup.y_mm", "pickup.mouth", "pickup.gap_mm")
_PUMP = (
    "pump.displacement_cm3",
    "pump.drive_ratio",
    "pump.low_stage.displacement_cm3",
    "pump.low_stage.up_to_rpm",
    "pump.low_stage.unplugged",
)
_PLATES = tuple(
    f"pan.plates.*.{field}"
    for field in (
        "kind", "from_mm", "to_mm", "top_depth_mm", "bottom_depth_mm", "outline_mm", "depth_mm",
        "open_pct",
        *(
            f"openings.*.{opening}"
            for opening in (
                "from_start_mm", "width_mm", "lower_depth_mm", "height_mm", "gate.swings",
                "gate.leaf", "gate.leak_pct", "x_mm", "y_mm", "length_mm",
            )
        ),
    )
)  # fmt: skip

_FLOWS = (
    "car.top_rpm", "car.engine_power_kw", "car.power_rpm", "car.wear", "pickup.screen.open_pct",
    *(
        f"flows.components.*.{field}"
        for field in (
            "kind", "holds_l", "displacement_cm3", "drive_ratio", "low_stage", "opens_bar",
            "bore_mm", "senses", "bypass_bar", "drop", "filters", "thermostat_c", "opens_c",
            "bleeds", "bearing", "volume_l", "precharge_bar", "worked", "count", "floor_length_mm",
            "floor_width_mm", "wall_height_mm", "opening_mm", "blow_by_l_min",
            "bearings.flow_l_min", "bearings.at_bar", "bearings.oil_temperature_c", "jets.share",
            "diameter_mm", "height_mm", "length_mm", "width_mm", "outlet", "outlet_mm", "mouth_at",
        )
    ),
    *(
        f"flows.runs.*.{field}"
        for field in (
            "service", "start.component", "start.port", "end.component", "end.port", "line.kind",
            "line.dash", "line.bore_mm", "line.length_mm", "line.count", "line.bends",
            "line.slack_mm", "line.laid", "route.*.at_mm", "route.*.radius_mm", "end.leak_mm",
        )
    ),
)  # fmt: skip
"""What the network is laid out from."""

_LEARNED = ("learned.up_top_more_l.value", "learned.sealing_pct.value")

_SETTLED = (*_ATTITUDE, *_SPACE, *_OIL, *_MOUTH, *_PUMP, *_FLOWS, *_LEARNED)

_CRANK = tuple(
    f"car.crank.{field}" for field in ("height_mm", "swept_radius_mm", "from_x_mm", "to_x_mm")
)

REACH: dict[Answer, tuple[str, ...]] = {
    "settled": _SETTLED,
    "moving": (*_SETTLED, *_PLATES, *_CRANK, "flows.bosses"),
    "clearance": (
        *_ATTITUDE, *_SPACE, "car.rail_height_mm", "car.least_ground_mm", "car.keep_outs",
        "pan.sheet_mm",
    ),
    "checks": (
        *_SETTLED, *_PLATES, "car.top_rpm", "pan.zones.*.name", "pan.plates.*.name",
        "pan.plates.*.role",
        "pan.plates.*.openings.*.name", "pan.spacer_mm", "pan.bolt_length_mm",
        "pan.dip_marks", "pan.sheet_mm", "pan.flange.thickness_mm", "pan.flange.bolts",
        "pan.bosses", "pan.scrapers",
        "pan.plates.*.id", "pan.plates.*.openings.*.gate.id",
        "suction.bore_mm", "suction.dash", "suction.seal", "suction.age", "pickup.braces",
        "pump.relief_bar",
        "oil.mark_l", "car.crank", "car.rail_height_mm", "car.least_ground_mm",
        "car.keep_outs",
    ),
    "drains": ("car", "oil", "pan", "pickup", "circuit", "flows", *_LEARNED),
    "drawing": (
        *_ATTITUDE, *_SPACE, *_OIL, *_MOUTH, *_PLATES, *_FLOWS, *_LEARNED, "pan.zones.*.name",
        "pan.plates.*.name", "pan.plates.*.openings.*.name", "pan.sheet_mm", "car.crank",
        "car.keep_outs",
    ),
}  # fmt: skip
"""`checks` feels what it names, and by which id it is mended; `drawing` what it shows; `drains`
names nearly all that there is."""


def as_felt(document: Document) -> Document:
    """A document with the pump, its relief, its suction line and `flows` taken out of the circuit.

    How the pan is made of sheet is left out: no oil feels it.

    Examples
    --------
    >>> parts = [{"id": "c1", "kind": "pressure_stage"}, {"id": "c2", "kind": "relief",
    ...           "opens_bar": 5.0}]
    >>> as_felt({"circuit": {"components": parts, "runs": []}})["pump"]["relief_bar"]
    5.0
    """
    circuit = document.get("circuit")
    if circuit is None:
        return document
    parts = [_as_before(each) for each in circuit["components"]]
    document = {**document, "circuit": {**circuit, "components": parts}}
    if "car" in document:
        document["car"] = _round_the_pan(document["car"])
    pump = next(each for each in parts if each["kind"] == "pressure_stage")
    relief: Document = next((each for each in parts if each["kind"] == "relief"), {})
    into = {"component": pump["id"], "port": "inlet"}
    run = next((each for each in circuit["runs"] if into.items() <= each["end"].items()), None)
    suction = {} if run is None else {**run["end"], **run["line"]}
    flows = _flows(document)
    oil = document.get("oil")
    if oil is not None and any("laid" in run["line"] for run in flows["runs"]):
        steps = round(oil["away_l"] * 1e-3 / _LITRES)  # what laid lines hold is among it
        oil = {**oil, "away_l": round(steps * _LITRES * 1e3, 3)}
    learned = {key: found for key, found in (document.get("learned") or {}).items() if found}
    pan = {key: part for key, part in document.get("pan", {}).items() if key != "making"}
    return {
        **{key: part for key, part in document.items() if key != "learned"},
        **({"pan": pan} if "pan" in document else {}),
        **({"learned": learned} if learned else {}),
        **({} if oil is None else {"oil": oil}),
        "pump": {**pump, "relief_bar": relief.get("opens_bar")},
        "suction": suction,
        "flows": flows,
    }


def _as_before(part: Document) -> Document:
    """A component by what it was known by before gauge readings could tell of jets."""
    return {key: value for key, value in part.items() if key != "jets" or value is not None}


def _round_the_pan(car: Document) -> Document:
    """The car by what it was known by before what nobody measured was marked."""

    def known(part: Document) -> Document:
        return {key: value for key, value in part.items() if key != "assumed" or value}

    crank, keep_outs = car.get("crank"), car.get("keep_outs")
    return {
        **car,
        **({"crank": known(crank)} if crank else {}),
        **({"keep_outs": [known(each) for each in keep_outs]} if keep_outs else {}),
    }


def _flows(document: Document) -> Document:
    """The circuit with its parts named by their places, and the bosses that runs end at."""
    pan = {"bosses": document.get("pan", {}).get("bosses", [])}
    placed = with_ids_by_place({"circuit": document["circuit"], "pan": pan})
    ends = {run["end"]["port"] for run in placed["circuit"]["runs"]}
    bosses = [
        {field: boss[field] for field in ("id", "x_mm", "y_mm", "depth_mm")}
        for boss in placed["pan"]["bosses"]
        if boss["id"] in ends
    ]
    runs = [_as_laid(run) for run in placed["circuit"]["runs"]]
    return {**placed["circuit"], "runs": runs, "bosses": {boss.pop("id"): boss for boss in bosses}}


_BY_ITS_HEIGHTS = frozenset({"drain", "vent"})
"""Services whose lines feel where they lie; of the others oil feels what they hold and take."""


def _as_laid(run: Document) -> Document:
    """A line with a route by what oil feels of it: litres to 20 mL, loss to 5 %, no place.

    A bore and a length give both. The loss of laminar flow goes with length over bore to the
    fourth: with the bore told beside it, lengths that are within 5 % of each other are one.
    """
    line = run["line"]
    if len(run.get("route", [])) < 2:  # slack is a route's
        return {**run, "line": {key: value for key, value in line.items() if key != "slack_mm"}}
    if run["service"] in _BY_ITS_HEIGHTS:
        return _without_nulls(run)
    known = Run.model_validate(run)
    length, held = length_of(known), contents_of(known)
    if length is None:
        return run
    steps = [round((held or 0.0) / _LITRES), round(math.log(length) / math.log(_LOSS))]
    told = {key: value for key, value in line.items() if key != "slack_mm"}
    return {**run, "route": [], "line": {**told, "laid": steps}}


def _without_nulls(run: Document) -> Document:
    """A line with a route, known by what it was known by before bends and slack were counted."""
    line = {k: v for k, v in run["line"].items() if k != "slack_mm" or v is not None}
    route = [
        {k: v for k, v in point.items() if k != "radius_mm" or v is not None}
        for point in run["route"]
    ]
    return {**run, "line": line, "route": route}


_LITRES = 20e-6  # [m3] (ours)
_LOSS = 1.05  # of a line's pressure loss (ours)


def _kept(value: Any, inside: list[list[str]]) -> Any:
    """What of a value lies on some of the paths."""
    if any(not path for path in inside):
        return without_ids(value)
    if isinstance(value, list):
        below = [path[1:] for path in inside if path[0] == "*"]
        return [_kept(each, below) for each in value] if below else []
    if not isinstance(value, dict):
        return value
    kept = {}
    for key, part in value.items():
        below = [path[1:] for path in inside if path[0] == key]
        if below:
            kept[key] = _kept(part, below)
    return kept


def felt_by(answer: Answer, document: dict[str, Any]) -> dict[str, Any]:
    """The part of a document, as plain data, that an answer feels.

    Parameters
    ----------
    answer : settled, moving, clearance, checks or drawing
    document : dict
        As `Build.model_dump(mode="json")` gives it.

    Returns
    -------
    dict
        Of the same shape, without the rest, and without ids but those that a path ends at.

    Examples
    --------
    >>> felt_by("settled", {"name": "Dunlin", "pan": {"dipped": {}, "skirt_height_mm": 90.0}})
    {'pan': {'skirt_height_mm': 90.0}}
    """
    kept = _kept(as_felt(document), [path.split(".") for path in REACH[answer]])
    assert isinstance(kept, dict)
    return kept


def _renamed(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{**row, "name": str(number)} for number, row in enumerate(rows)]


def unnamed(document: dict[str, Any]) -> dict[str, Any]:
    """A document whose plates and openings are named by their places: what a run is made from.

    Its ids are by place too.

    Examples
    --------
    >>> plate = {"name": "P1", "openings": [{"name": "G1"}, {"name": "G2"}]}
    >>> [each["name"] for each in unnamed({"pan": {"plates": [plate]}})["pan"]["plates"]]
    ['0']
    """
    document = with_ids_by_place(document)
    pan = document["pan"]
    plates = [{**plate, "openings": _renamed(plate["openings"])} for plate in pan["plates"]]
    return {**document, "pan": {**pan, "plates": _renamed(plates)}}


def names_of_mouths(document: dict[str, Any]) -> dict[str, str]:
    """From the names that a run knows mouths by to the builder's own.

    Examples
    --------
    >>> names_of_mouths({"circuit": {"components": [{"kind": "pickup", "name": "front pickup"}]}})
    {'pickup': 'front pickup'}
    >>> parts = [{"kind": "pickup", "name": "front"}, {"kind": "tank", "name": "oil tank"}]
    >>> names_of_mouths({"circuit": {"components": parts}})
    {'tank': "oil tank's outlet", 'mouth 1': 'front'}
    """
    parts = document["circuit"]["components"]
    pickups = [each["name"] for each in parts if each["kind"] == "pickup"]
    tanks = [each["name"] for each in parts if each["kind"] == "tank"]
    if not tanks:
        return {"pickup": pickups[0]} if pickups else {}
    return {
        "tank": f"{tanks[0]}'s outlet",
        **{f"mouth {at}": name for at, name in enumerate(pickups, start=1)},
    }


def names_of_openings(document: dict[str, Any]) -> dict[str, str]:
    """From the names in an `unnamed` document's answers to the builder's own.

    Examples
    --------
    >>> names_of_openings({"pan": {"plates": [{"name": "P1", "openings": [{"name": "G1"}]}]}})
    {'0, 0': 'P1, G1'}
    """
    return {
        f"{at}, {number}": f"{plate['name']}, {opening['name']}"
        for at, plate in enumerate(document["pan"]["plates"])
        for number, opening in enumerate(plate["openings"])
    }
