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
from bilge_core.document.ids import Document
from bilge_core.job.operations import OPERATIONS, TO_OPEN_THE_PAN
from bilge_core.shop import bought_as

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


@dataclass
class _Tally:
    parts: Counter[str]
    operations: Counter[str]

    def part(self, key: str, count: float = 1) -> None:
        self.parts[key] += count  # type: ignore[assignment]

    def do(self, key: str, times: int = 1) -> None:
        if times:
            self.operations[key] += times


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
    tally = _Tally(Counter(), Counter())
    was, now = before.model_dump(mode="json"), after.model_dump(mode="json")
    for count in (_plates, _zones, _pickup, _scrapers, _circuit, _runs):
        count(tally, was, now)
    _opened(tally, now, was)
    order = {key: at for at, key in enumerate(OPERATIONS)}
    operations = sorted(tally.operations.items(), key=lambda row: order[row[0]])
    return Work(tuple(tally.parts.items()), tuple(operations))


def _opened(tally: _Tally, now: Document, was: Document) -> None:
    """Opening the pan once for all that needs it, with new oil; or oil alone."""
    poured = round(now["oil"]["volume_l"] - was["oil"]["volume_l"], 3)
    if any(OPERATIONS[key].opens_pan for key in tally.operations):
        for key in TO_OPEN_THE_PAN:
            tally.do(key)
        tally.part("pan_gasket")
        tally.part("oil", _halves(now["oil"]["volume_l"]))
    elif abs(poured) >= _LITTLE_OIL:
        tally.do("top_up" if poured > 0.0 else "let_out")
        if poured > 0.0:
            tally.part("oil", _halves(poured))


def _halves(litres: float) -> float:
    """In half litres, no less.

    >>> _halves(0.51), _halves(6.2)
    (1.0, 6.5)
    """
    return math.ceil(litres / _HALF_LITRE - 1e-6) * _HALF_LITRE


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


def _gates(plate: Document) -> Iterator[Document]:
    for opening in plate["openings"]:
        if opening.get("gate"):
            yield opening["gate"]


def _plates(tally: _Tally, was: Document, now: Document) -> None:
    before, after = was["pan"]["plates"], now["pan"]["plates"]
    known = _by_id(before)
    tally.do("take_plate_out", len(_added(after, before)))
    for plate in after:
        old = known.get(plate["id"])
        if old is None or _differs(old, plate, *_OF_PLATE):
            if plate.get("role") == "windage_tray":
                tally.do("fit_tray")
                tally.part("tray_sheet")
            else:
                tally.do("fit_plate")
                tally.part("plate_sheet")
        elif len(plate["openings"]) > len(old["openings"]):
            tally.do("fit_plate")
        hung = {gate["id"]: gate for gate in _gates(old or {"openings": []})}
        for gate in _gates(plate):
            there = hung.get(gate["id"])
            if there is None or _differs(there, gate, "leaf"):
                tally.part(f"gate_{gate['leaf']}")
            if there is None or _differs(there, gate, "leaf", "swings"):
                tally.do("hang_gate")


def _zones(tally: _Tally, was: Document, now: Document) -> None:
    spacer = now["pan"]["spacer_mm"] - was["pan"]["spacer_mm"]
    if abs(spacer) > _MOVED:
        tally.do("fit_spacer")
        tally.part("long_bolts")
        if spacer > 0.0:
            tally.part("spacer_plate")
    known = _by_id(was["pan"]["zones"])
    fresh = _added(was["pan"]["zones"], now["pan"]["zones"])
    if len(fresh) == len(now["pan"]["zones"]):
        tally.do("make_pan")
        tally.part("pan_made")
        return
    changed = sum(
        _differs(known[zone["id"]], _lifted(zone, spacer), "outline_mm", "floor")
        for zone in now["pan"]["zones"]
        if zone["id"] in known
    )
    gone = len(_added(now["pan"]["zones"], was["pan"]["zones"]))
    pieces = changed + len(fresh) + gone
    tally.do("reshape_sump", pieces)
    if pieces:
        tally.part("sump_sheet", pieces)


def _lifted(zone: Document, spacer: float) -> Document:
    """A zone as it would be without what a spacer lowered it by."""
    floor = {
        key: round(value - spacer, 6) if key.endswith("depth_mm") else value
        for key, value in zone["floor"].items()
    }
    return {**zone, "floor": floor}


def _floor_under(document: Document) -> float | None:
    """Depth of the floor under the mouth [mm], at the zone's deepest."""
    x, y = document["pickup"]["x_mm"], document["pickup"]["y_mm"]
    for zone in document["pan"]["zones"]:
        xs = [place[0] for place in zone["outline_mm"]]
        ys = [place[1] for place in zone["outline_mm"]]
        if min(xs) <= x <= max(xs) and min(ys) <= y <= max(ys):
            depths = [v for key, v in zone["floor"].items() if key.endswith("depth_mm")]
            return float(max(depths))
    return None


def _pickup(tally: _Tally, was: Document, now: Document) -> None:
    old, new = was["pickup"], now["pickup"]
    there, here = _suction(was), _suction(now)
    if there.get("end", {}).get("seal") != here.get("end", {}).get("seal") or there.get(
        "end", {}
    ).get("age") != here.get("end", {}).get("age"):
        tally.do("renew_seal")
        tally.part("pickup_seal")
    if old["braces"] != new["braces"]:
        tally.do("brace_pickup")
        tally.part("pickup_brace")
    if max(abs(new["x_mm"] - old["x_mm"]), abs(new["y_mm"] - old["y_mm"])) > _MOVED:
        tally.do("make_pickup")
        tally.part("tube")
        return
    if _differs(old, new, "mouth"):
        tally.do("make_pickup")
        tally.part("bell")
        return
    floors = _floor_under(was), _floor_under(now)
    lowered = 0.0 if None in floors else floors[1] - floors[0]  # type: ignore[operator]
    if abs(lowered) > _MOVED:
        tally.do("lower_pickup")
        tally.part("pickup_spacer")
    elif abs(new["gap_mm"] - old["gap_mm"]) > 0.05:
        tally.do("set_gap")


def _suction(document: Document) -> Document:
    """The run into the pump."""
    parts = document["circuit"]["components"]
    pump = next((each["id"] for each in parts if each["kind"] == "pressure_stage"), None)
    found = (r for r in document["circuit"]["runs"] if r["end"]["component"] == pump)
    return next((run for run in found if run["end"]["port"] == "inlet"), {})


def _scrapers(tally: _Tally, was: Document, now: Document) -> None:
    fresh = len(_added(was["pan"]["scrapers"], now["pan"]["scrapers"]))
    tally.do("fit_scraper", fresh)
    if fresh:
        tally.part("scraper", fresh)


def _circuit(tally: _Tally, was: Document, now: Document) -> None:
    before, after = was["circuit"]["components"], now["circuit"]["components"]
    known = _by_id(before)
    tally.do("take_out_part", len(_added(after, before)))
    for part in after:
        old = known.get(part["id"])
        if old is None:
            _fitted(tally, part)
            continue
        more = (part.get("filters") or 0) - (old.get("filters") or 0)
        if more > 0:
            tally.do("fit_filter", more)
            tally.part("oil_filter", more)
        if _differs(old, part, "precharge_bar"):
            tally.do("set_charge")
        _exchanged(tally, old, part)
    if any(each["kind"] == "tank" for each in _added(before, after)):
        tally.do("fit_drive")
        tally.part("pump_drive")
    holes = _added(was["pan"]["bosses"], now["pan"]["bosses"])
    tally.do("open_boss", len(holes))
    if holes:
        tally.part("bung", len(holes))


def _exchanged(tally: _Tally, old: Document, part: Document) -> None:
    """A bottle of another size, a valve worked otherwise: bought anew."""
    if part["kind"] == "accumulator" and _differs(old, part, "volume_l"):
        _fitted(tally, part)
    if part["kind"] == "shut_off_valve" and _differs(old, part, "worked"):
        _fitted(tally, part)


def _fitted(tally: _Tally, part: Document) -> None:
    kind = part["kind"]
    tally.part(bought_as(kind, part.get("worked")))
    tally.do(_FITTED.get(kind, "fit_in_line"))
    if kind == "remote_filter":
        tally.part("oil_filter", part["filters"])


_MADE = ("hose", "hard_line")


def _line(run: Document) -> tuple[Any, ...]:
    line = run["line"]
    return line["kind"], line.get("dash"), line.get("bore_mm")


def _runs(tally: _Tally, was: Document, now: Document) -> None:
    """Lines that are new or of another size; one cut in two for a part is one more."""
    known = _by_id(was["circuit"]["runs"])
    for run in now["circuit"]["runs"]:
        old = known.get(run["id"])
        if run["line"]["kind"] in _MADE and (old is None or _line(old) != _line(run)):
            tally.part(run["line"]["kind"])
            tally.do("make_line")
