"""What a changed document takes: parts and operations, from the difference alone.

A figure edited by hand carries no act, so nothing here asks how a change came about.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from bilge_core.document.build import Build
from bilge_core.document.drive import BeltDrive
from bilge_core.document.floors import FLOORS
from bilge_core.document.ids import Document
from bilge_core.document.spacer import without_spacer
from bilge_core.job.named import MADE, gates_of, untold_entries
from bilge_core.job.operations import OPERATIONS, TO_OPEN_THE_PAN
from bilge_core.shop import OF_THE_CAR, bought_as

_HALF_LITRE = 0.5  # [L] in which oil is counted (ours)
_LITTLE_OIL = 0.02  # [L] nobody pours (ours)
_MOVED = 0.5  # [mm] that is a change to a hand (ours)


@dataclass(frozen=True)
class Work:
    """What a change takes.

    parts : pairs of a part's key and how many, see `bilge_core.shop`
    operations : pairs of an operation's key and how often
    """

    parts: tuple[tuple[str, float], ...]
    operations: tuple[tuple[str, int], ...]


@dataclass(frozen=True)
class Piece:
    """One piece of work on one part.

    operation : its key
    part : id of what it is done to; empty: the pan as a whole, or the engine
    name : of that part
    bought : pairs of a part's key in the shop and how many
    """

    operation: str
    part: str = ""
    name: str = ""
    bought: tuple[tuple[str, float], ...] = ()


_Pieces = Iterator[Piece]


def _piece(operation: str, part: Document | None = None, **bought: float) -> Piece:
    at = part or {}
    return Piece(operation, at.get("id", ""), at.get("name", ""), tuple(bought.items()))


_FITTED: dict[str, str] = {
    "accumulator": "fit_accumulator", "check_valve": "fit_valve", "shut_off_valve": "fit_valve",
    "remote_filter": "fit_remote_filter", "cooler": "fit_cooler",
    "plate_cooler": "fit_plate_cooler", "regulator": "fit_regulator", "breather": "fit_breather",
    "catch_can": "fit_breather", "filter": "fit_filter", "scavenge_stage": "fit_stage",
    "tank": "fit_tank", "pickup": "fit_scavenge_pickup",
}  # fmt: skip
"""What fitting a component is; any other is `fit_in_line`."""


def work_between(before: Build, after: Build) -> Work:
    """What it takes to make one build of another.

    Parameters
    ----------
    before, after : Build

    Returns
    -------
    Work
        Nothing where they are the same work; opening the pan is counted once.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.registry import read_act
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> poured = read_act({"kind": "refill", "to_l": 7.2}).done(build).build
    >>> work_between(build, poured)
    Work(parts=(('oil', 1.0),), operations=(('top_up', 1),))
    """
    pieces = pieces_between(before, after)
    was, now = before.model_dump(mode="json"), after.model_dump(mode="json")
    parts: Counter[str] = Counter()
    operations: Counter[str] = Counter()
    for each in (*pieces, *_opened(pieces, was, now)):
        operations[each.operation] += 1
        for key, count in each.bought:
            parts[key] += count  # type: ignore[assignment]
    order = {key: at for at, key in enumerate(OPERATIONS)}
    ordered = sorted(operations.items(), key=lambda row: order[row[0]])
    return Work(tuple(parts.items()), tuple(ordered))


def pieces_between(before: Build, after: Build) -> tuple[Piece, ...]:
    """The pieces of work, part by part, that make one build of another; getting at them left out.

    Parameters
    ----------
    before, after : Build

    Returns
    -------
    tuple of Piece
        Neither opening the pan nor the oil is among them.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.registry import read_act
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> lower = read_act({"kind": "spacer", "by_mm": 6.35}).done(build).build
    >>> [each.operation for each in pieces_between(build, lower)]
    ['fit_spacer', 'lower_pickup']
    """
    was, now = before.model_dump(mode="json"), after.model_dump(mode="json")
    return tuple(
        piece
        for count in (_plates, _zones, _pickup, _scrapers, _circuit, _bosses, _runs)
        # a dry sump's pump has no pickup whose tube was made: a line goes to it from the tank
        if count is not _pickup or not after.circuit.is_dry
        for piece in count(was, now)
    )


def oil_between(before: Build, after: Build) -> float:
    """Oil that is poured in [L], negative let out; nil where nobody would pour.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> oil_between(build, build)
    0.0
    """
    poured = round(after.oil.volume_l - before.oil.volume_l, 3)
    return poured if abs(poured) >= _LITTLE_OIL else 0.0


def oil_bought(litres: float) -> float:
    """As oil is bought: in half litres, no less.

    Examples
    --------
    >>> oil_bought(0.51), oil_bought(6.2)
    (1.0, 6.5)
    """
    return math.ceil(litres / _HALF_LITRE - 1e-6) * _HALF_LITRE


def _opened(pieces: tuple[Piece, ...], was: Document, now: Document) -> _Pieces:
    """Opening the pan once for all that needs it, with new oil; or oil alone."""
    poured = round(now["oil"]["volume_l"] - was["oil"]["volume_l"], 3)
    if any(OPERATIONS[each.operation].opens_pan for each in pieces):
        for key in TO_OPEN_THE_PAN[:-1]:
            yield _piece(key)
        oil = oil_bought(now["oil"]["volume_l"])
        yield _piece(TO_OPEN_THE_PAN[-1], pan_gasket=1, oil=oil)
    elif poured >= _LITTLE_OIL:
        yield _piece("top_up", oil=oil_bought(poured))
    elif poured <= -_LITTLE_OIL:
        yield _piece("let_out")


def _by_id(rows: list[Document]) -> dict[str, Document]:
    return {each["id"]: each for each in rows}


def _added(was: list[Document], now: list[Document]) -> list[Document]:
    known = _by_id(was)
    return [each for each in now if each["id"] not in known]


def _differs(was: Document, now: Document, *fields: str) -> bool:
    return any(was.get(field) != now.get(field) for field in fields)


_OF_PLATE = (
    "from_mm", "to_mm", "top_depth_mm", "bottom_depth_mm", "outline_mm", "depth_mm", "open_pct",
)  # fmt: skip


def _plates(was: Document, now: Document) -> _Pieces:
    before, after = was["pan"]["plates"], now["pan"]["plates"]
    known = _by_id(before)
    yield from (_piece("take_plate_out", plate) for plate in _added(after, before))
    for plate in after:
        old = known.get(plate["id"])
        if old is None or _differs(old, plate, *_OF_PLATE):
            if plate.get("role") == "windage_tray":
                yield _piece("fit_tray", plate, tray_sheet=1)
            else:
                yield _piece("fit_plate", plate, plate_sheet=1)
        elif len(plate["openings"]) > len(old["openings"]):
            yield _piece("fit_plate", plate)
        hung = {gate["id"]: gate for gate in gates_of(old or {"openings": []})}
        for gate in gates_of(plate):
            there = hung.get(gate["id"])
            if there is None or _differs(there, gate, "leaf"):
                yield _piece("hang_gate", gate, **{f"gate_{gate['leaf']}": 1})
            elif _differs(there, gate, "swings"):
                yield _piece("hang_gate", gate)


def _zones(was: Document, now: Document) -> _Pieces:
    spacer = now["pan"]["spacer_mm"] - was["pan"]["spacer_mm"]
    if spacer > _MOVED:
        yield _piece("fit_spacer", long_bolts=1, spacer_plate=1)
    elif spacer < -_MOVED:
        yield _piece("fit_spacer", long_bolts=1)
    known = _by_id(was["pan"]["zones"])
    fresh = _added(was["pan"]["zones"], now["pan"]["zones"])
    if len(fresh) == len(now["pan"]["zones"]):
        yield _piece("make_pan", pan_made=1)
        return
    changed = [
        zone
        for zone in now["pan"]["zones"]
        if zone["id"] in known
        and _differs(known[zone["id"]], without_spacer(zone, spacer), "outline_mm", "floor")
    ]
    gone = _added(now["pan"]["zones"], was["pan"]["zones"])
    yield from (_piece("reshape_sump", zone, sump_sheet=1) for zone in (*changed, *fresh, *gone))


def _floor_under(document: Document) -> float | None:
    """Depth of the floor under the mouth [mm], at the zone's deepest."""
    x, y = document["pickup"]["x_mm"], document["pickup"]["y_mm"]
    for zone in document["pan"]["zones"]:
        xs = [place[0] for place in zone["outline_mm"]]
        ys = [place[1] for place in zone["outline_mm"]]
        if min(xs) <= x <= max(xs) and min(ys) <= y <= max(ys):
            return FLOORS.validate_python(zone["floor"]).deepest_mm
    return None


def _pickup(was: Document, now: Document) -> _Pieces:
    old, new = was["pickup"], now["pickup"]
    there, here = suction_joint(was), suction_joint(now)
    if _differs(there.get("end", {}), here.get("end", {}), "seal", "age"):
        yield _piece("renew_seal", here, pickup_seal=1)
    if old["braces"] != new["braces"]:
        yield _piece("brace_pickup", pickup_brace=1)
    if max(abs(new["x_mm"] - old["x_mm"]), abs(new["y_mm"] - old["y_mm"])) > _MOVED:
        yield _piece("make_pickup", tube=1)
        return
    if _differs(old, new, "mouth"):
        yield _piece("make_pickup", bell=1)
        return
    floors = _floor_under(was), _floor_under(now)
    lowered = 0.0 if None in floors else floors[1] - floors[0]  # type: ignore[operator]
    if abs(lowered) > _MOVED:
        yield _piece("lower_pickup", pickup_spacer=1)
    elif abs(new["gap_mm"] - old["gap_mm"]) > 0.05:
        yield _piece("set_gap")


def suction_joint(document: Document) -> Document:
    """The run into the pump, whose joint it draws through; empty where there is none.

    Parameters
    ----------
    document : dict
        As `Build.model_dump(mode="json")` gives it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> suction_joint(build.model_dump(mode="json"))["name"]
    'pickup tube'
    """
    parts = document["circuit"]["components"]
    pump = next((each["id"] for each in parts if each["kind"] == "pressure_stage"), None)
    found = (r for r in document["circuit"]["runs"] if r["end"]["component"] == pump)
    return next((run for run in found if run["end"]["port"] == "inlet"), {})


def _scrapers(was: Document, now: Document) -> _Pieces:
    fresh = _added(was["pan"]["scrapers"], now["pan"]["scrapers"])
    yield from (_piece("fit_scraper", each, scraper=1) for each in fresh)


def _circuit(was: Document, now: Document) -> _Pieces:
    before, after = was["circuit"]["components"], now["circuit"]["components"]
    known = _by_id(before)
    gone = [each for each in _added(after, before) if each["kind"] not in OF_THE_CAR]
    yield from (_piece("take_out_part", each) for each in gone)
    for part in (each for each in after if each["kind"] not in OF_THE_CAR):
        old = known.get(part["id"])
        if old is None:
            yield _fitted(part)
            continue
        more = (part.get("filters") or 0) - (old.get("filters") or 0)
        yield from (_piece("fit_filter", part, oil_filter=1) for _ in range(more))
        if _differs(old, part, "precharge_bar"):
            yield _piece("set_charge", part)
        if _is_exchanged(old, part):
            yield _fitted(part)
    tank = next((each for each in _added(before, after) if each["kind"] == "tank"), None)
    if tank is not None:
        yield _piece("fit_drive", pump_drive=1)
        yield _piece("wet_pump_out")
    elif was["drive"] and now["drive"] and was["drive"] != now["drive"]:
        old_drive, drive = (BeltDrive.model_validate(each["drive"]) for each in (was, now))
        bought = {} if drive.is_bought_like(old_drive) else {"pump_drive": 1.0}
        yield Piece("fit_drive", bought=tuple(bought.items()))


def _bosses(was: Document, now: Document) -> _Pieces:
    """Holes that are new, and those that are out of use from now on.

    Of a pan that goes altogether only the dipstick's is left: its tube comes through elsewhere
    (common practice, no published source: when a sump moves, the old dipstick hole is blocked).
    """
    known, zones = _by_id(was["pan"]["bosses"]), _by_id(was["pan"]["zones"])
    is_kept = any(zone["id"] in zones for zone in now["pan"]["zones"])
    for gone in _added(now["pan"]["bosses"], was["pan"]["bosses"]):
        if not gone["blocked"] and (is_kept or gone["kind"] == "dipstick"):
            yield _piece("blank_boss", gone)
    for boss in now["pan"]["bosses"]:
        if boss["id"] not in known:
            yield _piece("open_boss", boss, bung=1)
        elif boss["blocked"] and not known[boss["id"]]["blocked"]:
            yield _piece("blank_boss", boss)


def _is_exchanged(old: Document, part: Document) -> bool:
    """A bottle of another size, a valve worked otherwise: bought anew."""
    return (part["kind"] == "accumulator" and _differs(old, part, "volume_l")) or (
        part["kind"] == "shut_off_valve" and _differs(old, part, "worked")
    )


def _fitted(part: Document) -> Piece:
    kind = part["kind"]
    bought: dict[str, float] = {bought_as(kind, part.get("worked")): 1}
    if kind == "remote_filter":
        bought["oil_filter"] = part["filters"]
    return _piece(_FITTED.get(kind, "fit_in_line"), part, **bought)


def _line(run: Document) -> tuple[Any, ...]:
    line = run["line"]
    return line["kind"], line.get("dash"), line.get("bore_mm")


def _ends(run: Document) -> tuple[str, str]:
    return run["start"]["component"], run["end"]["component"]


def _runs(was: Document, now: Document) -> _Pieces:
    """Lines that are new, of another size or reach further; those cut short for a part in them.

    One cut in two for a part is one more. Of one that ends at another part now, both that it
    joined are still there where something came in between, and it grows shorter; else it is made
    anew.
    """
    # a hole that another line leaves, as one cut in two does, is had already
    had, holes = (_by_id([*untold_entries(each)]) for each in (was, now))
    for run in [holes[each] for each in holes if each not in had][len(had.keys() - holes.keys()) :]:
        yield _piece("open_boss", {**run, "name": f"entry of the {run['name']}"}, bung=1)
    known = _by_id(was["circuit"]["runs"])
    there = _by_id(now["circuit"]["components"])
    for run in now["circuit"]["runs"]:
        old, made = known.get(run["id"]), run["line"]["kind"]
        if made not in MADE:
            continue
        if old is None or _line(old) != _line(run):
            yield _piece("make_line", run, **{made: 1})
        elif _ends(old) != _ends(run):
            if there.keys() >= set(_ends(old)):
                yield _piece("shorten_line", run)
            else:
                yield _piece("make_line", run, **{made: 1})
