"""What each answer feels: every field of the document is changed, one by one.

What lies in an answer's reach must change the key that the answer is known by; what lies outside
must leave the answer itself as it was: settled, clearance, checks and drawing to the last digit,
and of the moving oil all that a run is built from.
"""

from __future__ import annotations

import copy
import dataclasses
import functools
import hashlib
import itertools
import json
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from bilge_core.document.reach import REACH, Answer, as_felt, felt_by, names_of_openings, unnamed
from bilge_core.document.read import build_from, read_build
from bilge_core.forecast.back_ups import forecast_drains
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil
from bilge_core.pan import assemble_pan
from bilge_core.settled import cover_rose, settle_lap
from bilge_core.tell.drains import drains_out
from bilge_core.tell.drawing import drawing_out
from bilge_core.tell.known_by import VERSIONS, key_of
from bilge_core.tell.pan import pan_out

from tests.changing import Document, Path, kind_of, leaves, placed, with_other
from tests.conftest import DEMO
from tests.everything import by_flow, everything_of_today

TIME = np.arange(0.0, 6.0, 0.02)
LAP = Log(
    TIME, 30 + 0 * TIME, 4.0 * np.sin(TIME), 9.0 * np.sin(0.7 * TIME), 300 + 60 * TIME
)  # fmt: skip


def is_within(path: Path, answer: Answer) -> bool:
    if path[-1] == "id":  # answers tell parts by their places, but for those that they mend
        return ".".join(kind_of(path)) in REACH[answer]

    def matches(pattern: list[str]) -> bool:
        return len(pattern) <= len(path) and all(
            want in ("*", key) for want, key in zip(pattern, path, strict=False)
        )

    return any(matches(pattern.split(".")) for pattern in REACH[answer])


def changed_paths(one: Document, other: Document) -> set[Path]:
    """As answers see the document: the pump and its suction line for themselves."""
    before, after = dict(leaves(as_felt(one))), dict(leaves(as_felt(other)))
    return {path for path in before.keys() | after.keys() if before.get(path) != after.get(path)}


DOCUMENTS = [build_from(make()).model_dump(mode="json") for make in (everything_of_today, by_flow)]
FIELDS = {
    # one of each kind of field: every item of a list has the same ones
    (number, kind_of(path), len(path)): path
    for number, document in enumerate(DOCUMENTS)
    for path, _ in leaves(document)
}
PUMP = next(
    str(at) for at, part in enumerate(DOCUMENTS[1]["circuit"]["components"])
    if part["kind"] == "pressure_stage"
)  # fmt: skip


def is_of_the_other_pump(path: Path) -> bool:
    """What the second document has that the first has not."""
    return path[0] == "oil" or path[:3] == ("circuit", "components", PUMP)


def is_drawn_through(path: Path) -> bool:
    """The pickup's tube, which checks feel as no other run."""
    run = DOCUMENTS[0]["circuit"]["runs"][int(path[2])] if path[1:2] == ("runs",) else None
    return run is not None and run["end"]["port"] == "inlet" and run["service"] == "suction"


CASES = sorted(
    {(0, path) for (number, _, _), path in FIELDS.items() if number == 0}
    | {(1, path) for path, _ in leaves(DOCUMENTS[1]) if is_of_the_other_pump(path)}
    | {
        (0, path)
        for path, _ in leaves(DOCUMENTS[0])
        if path[0] in ("car", "pan") or is_drawn_through(path)
    }
)


@functools.cache
def changed_documents() -> dict[tuple[int, Path], Document | None]:
    """Each case with another value in its one field: a minute's work, for tests that ask."""
    return {case: with_other(DOCUMENTS[case[0]], case[1]) for case in CASES}


@functools.cache
def changed_with_it() -> dict[tuple[int, Path], set[Path]]:
    """Each case's places that are not as they were, as answers see them."""
    return {
        (number, path): changed_paths(DOCUMENTS[number], changed)
        for (number, path), changed in changed_documents().items()
        if changed is not None
    }


ONLY_ONE = {
    ("format",), ("version",),
    # parts, no figures
    ("circuit", "components", "*", "flow_point"), ("circuit", "components", "*", "place"),
    ("circuit", "components", "*", "mouth_at"),
    # one of a few, or not known: nothing is near it
    ("circuit", "runs", "*", "start", "hose_end_deg"),
    ("circuit", "runs", "*", "end", "hose_end_deg"),
    # named by others
    ("circuit", "components", "*", "id"), ("pan", "bosses", "*", "id"),
}  # fmt: skip


def test_every_field_could_be_changed() -> None:
    """But those that have one value, and what tells one kind of thing from another."""
    tried = {kind_of(path) for _, path in changed_documents()}
    moved = {
        kind_of(path) for (_, path), changed in changed_documents().items() if changed is not None
    }
    assert {path for path in tried - moved if path[-1] != "kind"} == ONLY_ONE


@pytest.mark.parametrize("answer", REACH)
def test_what_is_felt_changes_the_key_and_nothing_else_does(answer: Answer) -> None:
    wrong = []
    for (number, path), changed in changed_documents().items():
        if changed is None:
            continue
        document = DOCUMENTS[number]
        felt = any(is_within(each, answer) for each in changed_with_it()[number, path])
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
    speeds = [oil._speed(time) for time in np.linspace(0.0, 5.9, 30)]
    flows = [rows[name] for rows in oil.engine._state for name in rows.dtype.names or [...]]
    names = json.dumps([oil._names, [f"{o.plate}, {o.name}" for o in coupled.oil.domain.openings]])
    parts = (coupled.oil, coupled.inlets, coupled.returns, coupled.observer, loads, speeds, flows)
    sweep = coupled.observer._sweep
    figures = list(itertools.chain.from_iterable(arrays_in(part) for part in parts))
    return digest(*figures, sweep) + names


def drains(document: Document) -> str:
    build = build_from(document)
    forecast = forecast_drains(build, LAP, ())
    return drains_out(build, assemble_pan(build), forecast).model_dump_json()


ANSWERS = {
    "settled": settled, "clearance": clearance, "checks": checks, "drawing": drawing,
    "moving": moving, "drains": drains,
}  # fmt: skip


def with_all_others(document: Document, values: dict[Path, Any], answer: Answer) -> Document:
    """A document with every one of some values, as far as they go together."""
    changed = placed(document, values)
    if changed is not None and key_of(answer, changed) == key_of(answer, document):
        return changed
    if len(values) <= 1:
        return document
    each = list(values.items())
    for half in (each[: len(each) // 2], each[len(each) // 2 :]):
        document = with_all_others(document, dict(half), answer)
    return document


@pytest.mark.parametrize("answer", REACH)
def test_what_is_not_felt_leaves_the_answer(answer: Answer) -> None:
    """And the answer does feel something: it changes for at least half of its reach."""
    now = [ANSWERS[answer](document) for document in DOCUMENTS]
    unfelt: list[dict[Path, Any]] = [{}, {}]
    seen = 0
    for (number, path), changed in changed_documents().items():
        if changed is None:
            continue
        if key_of(answer, DOCUMENTS[number]) == key_of(answer, changed):
            unfelt[number][path] = dict(leaves(changed))[path]
        elif answer != "moving" and seen <= 10:  # each costs a third of a second
            seen += ANSWERS[answer](changed) != now[number]
    for number, values in enumerate(unfelt):
        everywhere = with_all_others(DOCUMENTS[number], values, answer)
        if ANSWERS[answer](everywhere) != now[number]:  # by which?
            wrong = [
                p for p in values if ANSWERS[answer](changed_documents()[number, p]) != now[number]
            ]
            assert wrong == []
            pytest.fail("several fields together are felt")
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


def test_what_stands_on_disk_is_known_by_what_it_was_known_by() -> None:
    """A field that says nothing makes no other key: all runs of all cars would be made anew.

    The print is this program's own, of what an invented build's runs were known by on 2026-11-30.
    """
    document = read_build((DEMO / "dunlin-shop.json").read_text()).model_dump(mode="json")
    felt = json.dumps(felt_by("moving", document), sort_keys=True).encode()
    assert hashlib.sha256(felt).hexdigest()[:16] == "bf1d2ffe5ab7b77b"


def test_that_nobody_measured_a_part_starts_no_run() -> None:
    document = copy.deepcopy(DOCUMENTS[0])
    for part in (document["car"]["crank"], document["car"]["keep_outs"][0]):
        keys = []
        for assumed in (None, False, True):
            part.pop("assumed", None)
            if assumed is not None:
                part["assumed"] = assumed
            keys.append([key_of(answer, document) for answer in REACH])
        part["assumed"] = False
        never, measured, guessed = keys
        assert never == measured
        told = {answer for answer, a, b in zip(REACH, measured, guessed, strict=True) if a != b}
        assert {"checks"} <= told and not told & {"moving", "settled"}


def test_openings_get_their_names_back() -> None:
    document = DOCUMENTS[0]
    build = build_from(unnamed(document))
    names = names_of_openings(document)
    there = {
        f"{plate.name}, {opening.name}" for plate in build.pan.plates for opening in plate.openings
    }
    assert {names[name] for name in there} == {"P1, G1", "tray, H1"}
