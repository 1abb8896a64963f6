"""What each answer feels: every field of the document is changed, one by one.

What lies in an answer's reach must change the key that the answer is known by; what lies outside
must leave the answer itself as it was: settled, clearance, checks and drawing to the last digit,
and of the moving oil all that a run is built from.
"""

from __future__ import annotations

import copy
import dataclasses
import hashlib
import itertools
import json
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.reach import REACH, Answer, felt_by, names_of_openings, unnamed
from bilge_core.document.read import build_from
from bilge_core.errors import BilgeError
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil
from bilge_core.pan import assemble_pan
from bilge_core.settled import cover_rose, settle_lap
from bilge_core.tell.drawing import drawing_out
from bilge_core.tell.known_by import VERSIONS, key_of
from bilge_core.tell.pan import pan_out

Document = dict[str, Any]
Path = tuple[str, ...]

TIME = np.arange(0.0, 6.0, 0.02)
LAP = Log(
    TIME, 30 + 0 * TIME, 4.0 * np.sin(TIME), 9.0 * np.sin(0.7 * TIME), 300 + 60 * TIME
)  # fmt: skip


PLATES: list[Document] = [
    {
        "kind": "vertical", "name": "P1", "from_mm": [120, -119], "to_mm": [120, 119],
        "top_depth_mm": 20, "bottom_depth_mm": 138,
        "openings": [
            {
                "name": "G1", "from_start_mm": 90, "width_mm": 60, "lower_depth_mm": 137,
                "height_mm": 40,
                "gate": {"swings": "right", "leaf": "rubber", "leak_pct": 4},
            },
        ],
    },
    {
        "kind": "horizontal", "name": "tray", "depth_mm": 30, "role": "windage_tray",
        "outline_mm": [[30, -100], [380, -100], [380, 100], [30, 100]], "open_pct": 30,
        "openings": [
            {"name": "H1", "x_mm": 200, "y_mm": 10, "length_mm": 60, "width_mm": 40}
        ],
    },
]  # fmt: skip


ZONES: list[Document] = [
    {"name": "sump", "outline_mm": [[0, -120], [300, -120], [300, 120], [0, 120]],
     "floor": {"kind": "flat", "depth_mm": 140}, "draft_deg": 3},
    {"name": "ramp", "outline_mm": [[300, -120], [400, -120], [400, 120], [300, 120]],
     "floor": {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 130,
               "to_depth_mm": 80}},
    {"name": "box", "outline_mm": [[40, 120], [200, 120], [200, 170], [40, 170]],
     "floor": {"kind": "flat", "depth_mm": 120}, "ceiling_depth_mm": 50},
]  # fmt: skip


def everything() -> Document:
    """A box pan with one of everything that a document can hold, each figure on no limit."""
    frame = {"name": "it", "wanted_mm": 6}
    return {
        "format": "bilge-build", "version": 2, "name": "all of it", "notes": "n",
        "car": {
            "nose_points": "front", "lean_right_deg": 5, "nose_up_deg": 2, "place": "front",
            "cylinders": "in_line", "rail_height_mm": 210, "least_ground_mm": 45,
            "crank": {"height_mm": 70, "swept_radius_mm": 75, "from_x_mm": 20, "to_x_mm": 380},
            "keep_outs": [
                {**frame, "kind": "box", "frame": "car", "from_mm": [430, -200, -90],
                 "to_mm": [470, 200, -40]},
                {**frame, "kind": "cylinder", "frame": "engine", "from_mm": [-60, -200, -60],
                 "to_mm": [-60, 200, -60], "diameter_mm": 40},
                {**frame, "kind": "plane", "frame": "engine", "at_mm": -170, "free": "above"},
            ],
        },
        "oil": {
            "grade": "5W-40", "volume_l": 5.5, "away_l": 1.0, "temperature_c": 95, "mark_l": 5.2,
            "held": [{"name": "filter", "volume_l": 0.6}, {"name": "galleries", "volume_l": 0.4}],
        },
        "pan": {
            "zones": ZONES,
            "skirt_height_mm": 60, "plates": PLATES, "spacer_mm": 6, "bolt_length_mm": 20,
            "dipped": {"engine": "level", "points": [
                {"poured_l": 3.0, "level_mm": 60.0}, {"poured_l": 5.0, "level_mm": 70.0}]},
            "dip_marks": [{"name": "full", "level_mm": 66}],
            "sheet_mm": 1.5, "made": "sheet",
            "flange": {"outline_mm": [[-20, -140], [420, -140], [420, 140], [-20, 140]],
                       "thickness_mm": 6,
                       "bolts": [{"x_mm": 200, "y_mm": 135, "diameter_mm": 7}]},
            "bosses": [{"kind": "turbo_drain", "name": "drain", "x_mm": 205, "y_mm": 119,
                        "depth_mm": 40, "bore_mm": 16, "fixing": "welded_boss",
                        "blocked": False}],
            "scrapers": [{"name": "S", "side": "left", "from_x_mm": 30, "to_x_mm": 370,
                          "gap_mm": 2}],
            "inspection": [{"item": "Cracks", "found": "sound", "note": "none",
                            "off_flat_mm": 0.1, "photos": ["abcdefgh12"]}],
        },
        "pickup": {
            "x_mm": 200, "y_mm": 4, "mouth": {"kind": "rectangular", "length_mm": 60,
                                              "width_mm": 40},
            "gap_mm": 8,
            "tube": {"bore_mm": 19, "length_mm": 240,
                     "bends": [{"angle_deg": 80, "radius_mm": 40}]},
            "screen": {"kind": "wire", "open_pct": 45},
            "joint": {"seal": "o_ring", "age": "reused"},
            "braces": {"at_bell": True, "at_tube": False},
        },
        "pump": {
            "displacement_cm3": 16, "drive_ratio": 0.6, "relief_bar": 5.0,
            "low_stage": {"displacement_cm3": 9, "up_to_rpm": 3400, "relief_bar": 3.0,
                          "unplugged": False},
        },
        "gauge_readings": [
            {"engine_rpm": 3000, "pressure_bar": 2.8, "oil_temperature_c": 93},
        ],
    }  # fmt: skip


def by_flow() -> Document:
    """Another pump, whose displacement follows from what it delivers; oil away by its sum alone."""
    document = everything()
    document["pump"]["flow_point"] = {"flow_l_min": 40, "engine_rpm": 5000, "filling_pct": 85}
    del document["oil"]["held"]
    return document


def leaves(value: Any, path: Path = ()) -> Iterator[tuple[Path, Any]]:
    if isinstance(value, dict):
        for key, part in value.items():
            yield from leaves(part, (*path, key))
    elif isinstance(value, list):
        for at, part in enumerate(value):
            yield from leaves(part, (*path, str(at)))
    else:
        yield path, value


def words_of_the_schema() -> list[str]:
    """Every word that a field may have to be."""
    found: set[str] = set()

    def look(part: Any) -> None:
        if isinstance(part, dict):
            found.update(word for word in part.get("enum", []) if isinstance(word, str))
            for each in part.values():
                look(each)
        elif isinstance(part, list):
            for each in part:
                look(each)

    look(Build.model_json_schema())
    return sorted(found)


WORDS = words_of_the_schema()


def others(value: Any) -> list[Any]:
    """Values that a field might have instead."""
    if isinstance(value, bool):
        return [not value]
    if isinstance(value, int | float):
        return [value + 1.5, value - 1.5, value + 0.2, value - 0.2, value * 1.02]
    if isinstance(value, str):
        return [*WORDS, "10W-60", "another", "hgfedcba21", "q97"]
    return [1.0]


def with_other(document: Document, path: Path) -> Document | None:
    """The document with another value at a place, as it would be stored; None if there is none."""
    *keys, last = path
    for value in others(dict(leaves(document))[path]):
        changed = copy.deepcopy(document)
        holder: Any = changed
        for key in keys:
            holder = holder[int(key)] if isinstance(holder, list) else holder[key]
        holder[int(last) if isinstance(holder, list) else last] = value
        try:
            build = build_from(changed)
            assemble_pan(build)
        except BilgeError:
            continue
        plain = build.model_dump(mode="json")
        if plain != document:
            return plain
    return None


ID_OF_A_MEND = {
    ("pan", "plates", "*", "id"),
    ("pan", "plates", "*", "openings", "*", "gate", "id"),
}


def is_within(path: Path, answer: Answer) -> bool:
    if path[-1] == "id" and kind_of(path) not in ID_OF_A_MEND:
        return False  # answers tell parts by their places

    def matches(pattern: list[str]) -> bool:
        return len(pattern) <= len(path) and all(
            want in ("*", key) for want, key in zip(pattern, path, strict=False)
        )

    return any(matches(pattern.split(".")) for pattern in REACH[answer])


def changed_paths(one: Document, other: Document) -> set[Path]:
    before, after = dict(leaves(one)), dict(leaves(other))
    return {path for path in before.keys() | after.keys() if before.get(path) != after.get(path)}


def kind_of(path: Path) -> Path:
    return tuple("*" if key.isdigit() else key for key in path)


DOCUMENTS = [build_from(make()).model_dump(mode="json") for make in (everything, by_flow)]
FIELDS = {
    # one of each kind of field: every item of a list has the same ones
    (number, kind_of(path), len(path)): path
    for number, document in enumerate(DOCUMENTS)
    for path, _ in leaves(document)
}
CASES = sorted(
    {(number, path) for (number, _, _), path in FIELDS.items()}
    | {(0, path) for path, _ in leaves(DOCUMENTS[0]) if path[0] in ("car", "pan")}
)
CHANGED = {case: with_other(DOCUMENTS[case[0]], case[1]) for case in CASES}
ONLY_ONE = {("format",), ("version",), ("pump", "flow_point")}  # the last is a part, not a figure


def test_every_field_could_be_changed() -> None:
    """But those that have one value, and what tells one kind of thing from another."""
    tried = {kind_of(path) for _, path in CHANGED}
    moved = {kind_of(path) for (_, path), changed in CHANGED.items() if changed is not None}
    assert {path for path in tried - moved if path[-1] != "kind"} == ONLY_ONE


@pytest.mark.parametrize("answer", REACH)
def test_what_is_felt_changes_the_key_and_nothing_else_does(answer: Answer) -> None:
    wrong = []
    for (number, path), changed in CHANGED.items():
        if changed is None:
            continue
        document = DOCUMENTS[number]
        felt = any(is_within(each, answer) for each in changed_paths(document, changed))
        if felt != (key_of(answer, document) != key_of(answer, changed)):
            wrong.append(path)
    assert wrong == []


def digest(*arrays: Any) -> str:
    total = hashlib.sha256()
    for array in arrays:
        total.update(np.ascontiguousarray(array).tobytes())
    return total.hexdigest()


def settled(document: Document) -> str:
    build = build_from(document)
    pan = assemble_pan(build)
    lap = settle_lap(pan, build, LAP)
    rose = cover_rose(pan, build.car, directions=12)
    return digest(lap.cover, lap.gas_share, lap.levels, lap.zones, lap.to_cover, rose.edge)


def clearance(document: Document) -> str:
    told = pan_out(build_from(document), None)
    return json.dumps(
        [
            told.ground.model_dump() if told.ground else None,
            [each.model_dump(exclude={"name"}) for each in told.clearances],
        ]
    )


def checks(document: Document) -> str:
    return pan_out(build_from(document), LAP).model_dump_json()


def drawing(document: Document) -> str:
    build = build_from(document)
    return drawing_out(assemble_pan(build), build).model_dump_json()


def arrays_in(thing: Any, depth: int = 0) -> Iterator[Any]:
    """All arrays and figures in dataclasses, to a depth."""
    if isinstance(thing, np.ndarray):
        yield thing
    elif isinstance(thing, int | float | bool):
        yield np.array(thing)
    elif isinstance(thing, tuple | list) and depth < 4:
        for each in thing:
            yield from arrays_in(each, depth + 1)
    elif dataclasses.is_dataclass(thing) and depth < 4:
        for field in dataclasses.fields(thing):
            yield from arrays_in(getattr(thing, field.name), depth + 1)


def moving(document: Document) -> str:
    """All that a run is built from: cells, walls, gates, particles, inlet, load, demand."""
    build = build_from(unnamed(document))
    oil = MovingOil(build, assemble_pan(build), LAP, RESOLUTIONS["quick"])
    coupled = oil.coupled
    loads = [oil.load(time) for time in np.linspace(0.0, 5.9, 30)]
    demands = [oil._demand(time) for time in np.linspace(0.0, 5.9, 30)]
    names = json.dumps([oil._names, [f"{o.plate}, {o.name}" for o in coupled.oil.domain.openings]])
    parts = (coupled.oil, coupled.inlet, coupled.returns, coupled.observer, loads, demands)
    sweep = coupled.observer._sweep
    figures = list(itertools.chain.from_iterable(arrays_in(part) for part in parts))
    return digest(*figures, sweep) + names


ANSWERS = {
    "settled": settled, "clearance": clearance, "checks": checks, "drawing": drawing,
    "moving": moving,
}  # fmt: skip


@pytest.mark.parametrize("answer", REACH)
def test_what_is_not_felt_leaves_the_answer(answer: Answer) -> None:
    """And the answer does feel something: it changes for at least half of its reach."""
    now = [ANSWERS[answer](document) for document in DOCUMENTS]
    wrong, seen = [], 0
    for (number, path), changed in CHANGED.items():
        if changed is None or (number == 1 and path[0] not in ("pump", "oil")):
            continue
        if key_of(answer, DOCUMENTS[number]) == key_of(answer, changed):
            if ANSWERS[answer](changed) != now[number]:
                wrong.append(path)
        elif answer != "moving":  # each costs a third of a second
            seen += ANSWERS[answer](changed) != now[number]
    assert wrong == []
    assert answer == "moving" or seen > 10


def test_every_answer_has_versions() -> None:
    assert VERSIONS.keys() == REACH.keys()
    assert all(VERSIONS.values())


def test_a_version_makes_another_key(monkeypatch: pytest.MonkeyPatch) -> None:
    before = key_of("moving", DOCUMENTS[0])
    monkeypatch.setitem(VERSIONS, "moving", ("another",))
    assert key_of("moving", DOCUMENTS[0]) != before


def test_an_answer_is_known_by_its_lap_too() -> None:
    document = DOCUMENTS[0]
    keys = {key_of("settled", document, *more) for more in ((), (b"a",), (b"b",), (b"a", b"b"))}
    assert len(keys) == 4


def test_a_list_grown_by_one_is_felt() -> None:
    more = copy.deepcopy(DOCUMENTS[0])
    more["car"]["keep_outs"].append(more["car"]["keep_outs"][0])
    assert key_of("clearance", more) != key_of("clearance", DOCUMENTS[0])
    assert key_of("moving", more) == key_of("moving", DOCUMENTS[0])
    more["pan"]["plates"].append(more["pan"]["plates"][0])
    assert key_of("moving", more) != key_of("moving", DOCUMENTS[0])
    assert felt_by("settled", more) == felt_by("settled", DOCUMENTS[0])


def test_openings_get_their_names_back() -> None:
    document = DOCUMENTS[0]
    build = build_from(unnamed(document))
    names = names_of_openings(document)
    there = {
        f"{plate.name}, {opening.name}" for plate in build.pan.plates for opening in plate.openings
    }
    assert {names[name] for name in there} == {"P1, G1", "tray, H1"}
