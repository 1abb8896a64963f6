"""The remedies that the trade tries on a wet sump, the least first, worked out on a build.

Which are tried, and what is said of each: common practice, no published source; sizes and steps
are Bilge's own.
"""

from __future__ import annotations

from collections.abc import Iterator

from bilge_core.acts.pan_widened import refill
from bilge_core.acts.round_mouth import room_at_mouth
from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Head
from bilge_core.document.remembered import remembered
from bilge_core.errors import BilgeError
from bilge_core.options.candidate import Act, Candidate, candidate
from bilge_core.options.on_circuit import circuit_remedies
from bilge_core.rules.mouth import GAP

_OVER = (0.5, 1.0, 1.5)  # [L] over the mark, in steps (ours)
_DEEPER = (19.0, 46.0)  # [mm] (the first is common practice's three quarters of an inch)
_SPACER = 6.35  # [mm] a quarter of an inch (common practice)
_ASIDE = 30.0  # [mm] that a pickup is moved across, and along (ours)
_BOX = 40.0  # [mm] of a side box (ours)
_WIDER = 1.3  # of the mouth (ours)
_LEAST_GAP = GAP.least * 1e3  # [mm]
_HEIGHTS = (0.48, 0.62, 0.76)  # of the sump's depth, for a level plate (ours)
_DRY = (70.0, 60.0, 50.0)  # [mm] of a dry sump's pan, tried in this order (ours)
_RUBBER_AGES = "Rubber gates age: look at them at every strip, or once a season."


@remembered(lambda build: build.model_dump_json(), most=2)
def remedies(base: Build, charge: float | None = None) -> tuple[Candidate, ...]:
    """All single remedies for a build; those that do not apply say why.

    Parameters
    ----------
    base : Build
    charge : float, optional
        The pre-charge of a bottle [bar] that does best on the build's own record, if it was looked
        for.

    Returns
    -------
    tuple of Candidate

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> found = remedies(read_build(Path("demo/dunlin.json").read_text()))
    >>> [each.key for each in found][:4]
    ['joint', 'brace', 'oil_0.5', 'oil_1']
    >>> all(each.applies or each.reason for each in found)
    True
    """
    if base.circuit.is_dry:  # its pan has hardly any oil: plates and gates keep none there
        return (*_oil(base), *_returns(base), *circuit_remedies(base, None))
    found = [
        *_joint(base), *_brace(base), *_oil(base), *_gates(base), *_plates(base), *_crank(base),
        *_sump(base), *_pickup(base), *_pan(base), *_returns(base),
        *circuit_remedies(base, charge), *_dry(base),
    ]  # fmt: skip
    return tuple(found)


def _joint(base: Build) -> Iterator[Candidate]:
    """The suction joint, before anything else."""
    pump = base.circuit.pump.id
    run = next(
        (r for r in base.circuit.runs if r.end.component == pump and r.end.port == "inlet"), None
    )
    if run is None:
        return
    way = f"circuit.runs.{run.id}.end"
    figures: list[dict[str, str | None]] = [{"field": f"{way}.age", "value": "new"}]
    leaks = bool(run.end.leak_mm)
    if leaks:
        figures.append({"field": f"{way}.leak_mm", "value": None})
    note = (
        "An old seal here lets the pump draw air at any g and looks just like slosh."
        if leaks
        else "Before any remedy: an old seal lets the pump draw air at any g and looks just like "
        "slosh. No leak is known here, so the forecast does not move."
    )
    acts: list[Act] = [{"kind": "figures", "figures": figures}]
    title = "Pickup joint's seal renewed"
    if run.end.age == "new" and not leaks:
        yield Candidate("joint", title, "joint", (), note, reason="it is new, and no leak is known")
        return
    yield candidate(base, "joint", title, "joint", acts, note, told=leaks)


def _brace(base: Build) -> Iterator[Candidate]:
    """Which the model does not feel: what it saves is the tube."""
    yield candidate(
        base, "brace", "Pickup braced at its tube", "joint", [{"kind": "brace_pickup"}],
        "Held at its bell alone, a tube flexes and cracks along its edge, and draws air there.",
        told=False,
    )  # fmt: skip


def _oil(base: Build) -> Iterator[Candidate]:
    mark = base.oil.mark_l or base.oil.volume_l
    for over in _OVER:
        to = round(max(mark, base.oil.volume_l) + over, 2)
        yield candidate(
            base, f"oil_{over:g}", f"{over:g} L over the mark", "oil",
            [{"kind": "refill", "to_l": to}],
            "Only as a measured trial, with the crank's clearance looked at.",
        )  # fmt: skip


def _gates(base: Build) -> Iterator[Candidate]:
    kinds: tuple[tuple[str, str, Act, str], ...] = (
        ("gates_3", "Plates, three gates and a lid", {}, _RUBBER_AGES),
        ("gates_open", "Plates and three gates, open above", {"lid": False}, _RUBBER_AGES),
        ("gates_2", "Plates, two gates and a lid", {"gates": 2}, _RUBBER_AGES),
        ("gates_4", "Plates, four gates and a lid", {"gates": 4}, _RUBBER_AGES),
        (
            "gates_metal", "Plates, three metal gates and a lid", {"leaf": "metal"},
            "Metal gates last and seal less; how much less is Bilge's guess.",
        ),
    )  # fmt: skip
    for key, title, more, note in kinds:
        yield candidate(base, key, title, "gates", [{"kind": "fit_gates", **more}], note)


def _plates(base: Build) -> Iterator[Candidate]:
    sides: Act = {"kind": "fit_side_plates"}
    yield candidate(
        base, "sides", "Upright plates with gates both sides", "plates", [sides], _RUBBER_AGES
    )
    try:
        depth = room_at_mouth(base).depth
    except BilgeError:
        return
    for share in _HEIGHTS:
        at = float(round(share * depth))
        level: Act = {"kind": "fit_level_plate", "depth_mm": at}
        title = f"Level plate {at:.0f} mm under the rail"
        yield candidate(base, f"level_{share:g}", title, "plates", [level])
    level = {"kind": "fit_level_plate", "depth_mm": float(round(0.45 * depth))}
    title = "Level plate over upright plates with gates"
    yield candidate(base, "level_sides", title, "plates", [sides, level], _RUBBER_AGES)


def _crank(base: Build) -> Iterator[Candidate]:
    yield candidate(
        base, "tray", "Windage tray", "crank", [{"kind": "fit_tray"}],
        "Holds oil down as any plate does; what it saves of what the crank throws is known to "
        "15 % at best, and not counted.",
    )  # fmt: skip
    yield candidate(
        base, "scraper", "Crank scraper", "crank", [{"kind": "fit_scraper"}],
        "Strips oil off the turning crank. What that saves is not known, so nothing is run.",
        told=False,
    )  # fmt: skip


def _with_refill(base: Build, act: Act) -> list[Act]:
    """A change that makes room, and the oil that goes with it: without it nothing is gained."""
    one = candidate(base, "", "", "sump", [act])
    if one.build is None:
        return [act]
    try:
        return [act, {"kind": "refill", "to_l": refill(base, one.build)}]
    except BilgeError:
        return [act]


def _sump(base: Build) -> Iterator[Candidate]:
    spacer: Act = {"kind": "spacer", "by_mm": _SPACER}
    yield candidate(
        base, "spacer", "Spacer of a quarter inch, filled up", "sump", _with_refill(base, spacer),
        "Pickup, bolts and studs go with it by the same.",
    )  # fmt: skip
    zones = _under_mouth(base)
    for by in _DEEPER:
        deeper: Act = {"kind": "deepen", "by_mm": by, "zones": zones}
        title = f"Sump {by:.0f} mm deeper, filled up"
        yield candidate(
            base, f"deeper_{by:.0f}", title, "sump", _with_refill(base, deeper),
            "Pickup lowered by the same.",
        )  # fmt: skip
    for side in ("left", "right"):
        box: Act = {"kind": "kick_out", "side": side, "width_mm": _BOX}
        title = f"Side box {_BOX:.0f} mm wider on the {side}, filled up"
        yield candidate(base, f"box_{side}", title, "sump", _with_refill(base, box))


def _under_mouth(base: Build) -> list[str]:
    """The zone that the mouth stands in, and those as deep that join it."""
    x, y = base.pickup.x_mm, base.pickup.y_mm
    zones = base.pan.zones
    found = [z for z in zones if _covers(z.polygon.bounds, x, y)]
    beside = [
        z for z in zones
        if z.ceiling_depth_mm is not None and found and z.floor == found[0].floor
    ]  # fmt: skip
    return [each.id for each in (*found, *beside)] or [zones[0].id]


def _covers(bounds: tuple[float, ...], x: float, y: float) -> bool:
    return bounds[0] <= x <= bounds[2] and bounds[1] <= y <= bounds[3]


def _pickup(base: Build) -> Iterator[Candidate]:
    ways: tuple[tuple[str, str, Act], ...] = (
        ("right", "right", {"left_mm": -_ASIDE}),
        ("left", "left", {"left_mm": _ASIDE}),
        ("ahead", "front", {"ahead_mm": _ASIDE}),
        ("back", "rear", {"ahead_mm": -_ASIDE}),
    )
    for key, words, act in ways:
        yield candidate(
            base, f"pickup_{key}", f"Pickup {_ASIDE:.0f} mm to the {words}", "pickup",
            [{"kind": "move_pickup", **act}],
            "What one hand gains, the other may lose: both are run.",
        )  # fmt: skip
    if base.pickup.gap_mm > _LEAST_GAP + 0.5:
        figures = [{"field": "pickup.gap_mm", "value": _LEAST_GAP}]
        yield candidate(
            base, "gap", f"Mouth {_LEAST_GAP:g} mm over the floor", "pickup",
            [{"kind": "figures", "figures": figures}],
        )  # fmt: skip
    mouth = base.pickup.mouth
    if mouth.kind == "round":
        wide = float(round(mouth.diameter_mm * _WIDER))
        figures = [{"field": "pickup.mouth.diameter_mm", "value": wide}]
        yield candidate(
            base, "mouth", f"Mouth of {wide:.0f} mm", "pickup",
            [{"kind": "figures", "figures": figures}],
        )  # fmt: skip


def _pan(base: Build) -> Iterator[Candidate]:
    try:
        depth = room_at_mouth(base).depth
    except BilgeError:
        return
    for place, words in (("front", "in front"), ("middle", "in the middle"), ("rear", "behind")):
        act: Act = {
            "kind": "sump_preset", "place": place, "depth_mm": depth,
            "shelf_mm": float(round(0.4 * depth)),
        }  # fmt: skip
        yield candidate(
            base, f"pan_{place}", f"New pan, sump {words}", "pan", _with_refill(base, act),
            "A pan by a fabricator: where the dominant g throws the oil, if the chassis has room.",
        )  # fmt: skip


def _dry(base: Build) -> Iterator[Candidate]:
    """When the dips are long, or the sump must be shallow: as deep a pan as there is room for."""
    for depth in _DRY:
        one = candidate(
            base, "dry", f"Dry sump, pan {depth:.0f} mm deep, three scavenge stages", "dry",
            [{"kind": "go_dry", "depth_mm": depth}],
            "Sizes are invented: the stage Dry sump has them one by one, wanted against found.",
        )  # fmt: skip
        if one.applies or not one.reason.startswith("no room"):
            break
    yield one


def _returns(base: Build) -> Iterator[Candidate]:
    heads = base.circuit.of_kind(Head)
    if heads:
        yield candidate(
            base, "outside_return", "Outside return line from the head", "returns",
            [{"kind": "outside_return", "head": heads[0].id}],
            "Oil that is up top comes down sooner.",
        )  # fmt: skip
