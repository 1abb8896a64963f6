"""The card: all steps that make one build of another, each behind what it needs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.document.plates import HorizontalPlate
from bilge_core.job.changed import (
    done_again,
    is_open_still,
    open_again,
    put_back_still,
    send_back,
    stale_steps,
    stopped_by,
    taken_back,
)
from bilge_core.job.difference import Piece, oil_between, oil_bought, pieces_between, suction_joint
from bilge_core.job.expand import METAL, PICKUP_OFF, Circumstances, steps_of
from bilge_core.job.gathered import Gathered
from bilge_core.job.named import parts_of
from bilge_core.job.operations import OPERATIONS
from bilge_core.job.order import in_order
from bilge_core.job.settings import HOLDS_THE_ENGINE, WHOLE_PAN, CardSettings
from bilge_core.job.standing import NOTHING_DONE, Standing
from bilge_core.job.step import CardStep

_OF_THE_PAN: tuple[str, ...] = (
    "drain", "pan_off", "clean_pan", "look_over", "look_at_tube", "dry_fit", "seal_pan",
    "finger_tight", "torque_pan",
)  # fmt: skip
_RUN: tuple[str, ...] = ("prime", "prove_pressure", "first_start", "leak_check", "write_down")
_NO_OIL = frozenset({"set_charge", "look_over"})
"""Operations that open nothing oil is in."""
_NEW_LEVELS = frozenset({"make_pan", "reshape_sump", "fit_spacer"})
"""Operations after which a litre stands at another height."""


@dataclass(frozen=True)
class Card:
    """A job.

    steps : in the order of the work
    opens : whether the pan comes off
    ignores_in_place : holes were to be drilled in place, but the pan comes off for something else
    """

    steps: tuple[CardStep, ...]
    opens: bool
    ignores_in_place: bool = False

    def step(self, name: str) -> CardStep | None:
        """A step by its id."""
        return next((each for each in self.steps if each.id == name), None)


def _extras(
    settings: CardSettings, parts: Mapping[str, Document], joint: Document
) -> Iterator[Piece]:
    """What is renewed or looked at whatever the plan changes."""
    for extra in settings.extras:
        row = parts.get(extra.part, {})
        name = str(row.get("name", "pan" if extra.part == WHOLE_PAN else extra.part))
        if extra.do == "look_at":
            yield Piece("look_over", extra.part, name)
        elif extra.part == WHOLE_PAN:
            yield Piece("renew_pan_joint", extra.part, name)
        elif "swings" in row:
            yield Piece("hang_gate", extra.part, name, ((f"gate_{row['leaf']}", 1),))
        elif row.get("kind") == "pressure_stage":
            yield Piece("lock_nut", extra.part, name)
        elif row.get("kind") in {"filter", "remote_filter"}:
            yield Piece("fit_filter", extra.part, name, (("oil_filter", 1),))
        elif extra.part == joint.get("id"):
            yield Piece("renew_seal", extra.part, name, (("pickup_seal", 1),))
        else:
            yield Piece("renew_joint", extra.part, name)


def _opens(piece: Piece, in_place: bool) -> bool:
    """Whether the pan comes off for a piece of work."""
    if piece.operation == "renew_pan_joint":
        return True
    if piece.operation in {"open_boss", "blank_boss"} and in_place:
        return False
    known = OPERATIONS.get(piece.operation)
    return known is not None and known.opens_pan


def _work(gathered: Gathered, pieces: Iterable[Piece], at: Circumstances) -> None:
    for piece in pieces:
        if piece.operation in {"renew_pan_joint", "look_over", "renew_joint"}:
            key = {"look_over": "look_at", "renew_joint": "renew_joint"}.get(piece.operation)
            if key:
                gathered.add(key, piece.part, piece.name, piece.bought)
            continue
        keys = steps_of(piece, at)
        for place, key in enumerate(keys):
            gathered.add(key, piece.part if _is_of_a_part(key) else "", piece.name,
                         piece.bought if place == 0 else ())  # fmt: skip


_WHOLE = frozenset(
    {"trim_webs", "measure_gap", "make_tube", "brace_tube", "space_pickup", "fit_spacer",
     "long_bolts", "look_at_new", "offer_up", "fit_drive", "old_pump", "shut_valve"}
)  # fmt: skip


def _is_of_a_part(key: str) -> bool:
    return key not in _WHOLE


_SEALED = {
    "gasket": "its gasket or O-ring, where the maker has one",
    "liquid": "a thin bead inside the bolt holes",
}


def _open_and_close(gathered: Gathered, pieces: tuple[Piece, ...], at: Circumstances) -> None:
    """Getting the pan off and back on, and what comes with that."""
    for key in _OF_THE_PAN:
        gathered.add(key, name=_SEALED[at.settings.sealing] if key == "seal_pan" else "",
                     bought=(("pan_gasket", 1),) if key == "seal_pan" else ())  # fmt: skip
    if at.settings.sealing == "gasket":  # nothing has to set; it settles, and is torqued again
        gathered.steps["finger_tight"] = replace(gathered.steps["finger_tight"], wait=0.0)
        gathered.add("retorque")
    done = {piece.operation for piece in pieces}
    if done & METAL:
        gathered.add("wash_pan")
    if "fit_spacer" in done:
        for plate in at.baffles:
            gathered.add("raise_baffle", plate["id"], plate["name"])
    joint = at.joint
    is_new = any(each.step.key == "renew_seal" for each in gathered.steps.values())
    if done & PICKUP_OFF and joint and not is_new and not at.is_dry:
        gathered.add("renew_seal", joint["id"], joint["name"], (("pickup_seal", 1),))
    if done & _NEW_LEVELS and not at.is_dry:  # a tank's level is found with the engine turning
        gathered.add("mark_stick")


def _access(gathered: Gathered, settings: CardSettings, opens: bool) -> None:
    if any(item.kind in HOLDS_THE_ENGINE for item in settings.access):
        gathered.add("hold_engine")
    for item in settings.access:
        loose = "" if item.how == "off" else ", loosened"
        gathered.add("take_off", item.id, item.name + loose, hours=item.hours_off)
        gathered.add("put_back", item.id, item.name, hours=item.hours_back)
    if opens and not settings.access:
        everything = "all that hides the pan"
        gathered.add("take_off", "all", everything)
        gathered.add("put_back", "all", everything)


def _oil(gathered: Gathered, before: Build, after: Build, is_drained: bool, opened: bool) -> None:
    litres = oil_between(before, after)
    whole = after.oil.volume_l
    if is_drained:
        gathered.add("refill", name=f"{whole:.1f} L", bought=(("oil", oil_bought(whole)),))
    elif litres > 0.0:
        gathered.add("top_up", name=f"{litres:.1f} L", bought=(("oil", oil_bought(litres)),))
    elif litres < 0.0:
        gathered.add("let_out", name=f"{-litres:.1f} L")
    elif opened:
        gathered.add("refill", name="what the new parts take, to the mark")
    if opened:
        for key in _RUN:
            gathered.add(key)
        for turbo in (each for each in after.circuit.components if each.kind == "turbo"):
            gathered.add("prime_turbo", turbo.id, turbo.name)
    elif gathered.steps:
        gathered.add("write_down")


_HANGS_ON: dict[str, tuple[str, ...]] = {"lay_line": ("torque_pan",)}


def _needs(step: CardStep, steps: Mapping[str, CardStep], joins_pan: bool) -> tuple[str, ...]:
    """Ids of all that comes first, of what is on this card."""
    found: dict[str, None] = {}
    wanted = step.step.after
    if joins_pan:
        wanted = (*wanted, *_HANGS_ON.get(step.step.key, ()))
    for after in wanted:
        for each in steps.values():
            if each.id == step.id:
                continue
            if after.startswith("@"):
                is_it = each.step.phase == after[1:]
            elif after.endswith("."):
                is_it = each.step.key == after[:-1] and each.part == step.part
            else:
                is_it = each.step.key == after
            if is_it:
                found[each.id] = None
    return tuple(found)


def _joins_pan(step: CardStep, parts: Mapping[str, dict[str, object]]) -> bool:
    row = parts.get(step.part, {})
    ends = [row.get("start"), row.get("end")]
    named = [str(end["component"]) for end in ends if isinstance(end, dict)]
    return any(parts.get(name, {}).get("kind") == "pan_region" for name in named)


def card_of(
    before: Build,
    after: Build,
    settings: CardSettings,
    hours: Mapping[str, float] | None = None,
    standing: Standing = NOTHING_DONE,
    states: Mapping[int, Build] | None = None,
) -> Card:
    """The card that makes one build of another.

    Parameters
    ----------
    before : Build
        The car as it is.
    after : Build
        The plan.
    settings : CardSettings
    hours : mapping of operation to hours, optional
        A workshop's own.
    standing : Standing, optional
        What was done already.
    states : mapping of number to Build, optional
        States of the plan that something was ticked on.

    Returns
    -------
    Card
        Without steps where nothing is to do.

    Raises
    ------
    InvalidQuantity
        If steps wait for each other in a ring: a fault of the library.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.registry import read_act
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> poured = read_act({"kind": "refill", "to_l": 7.2}).done(build).build
    >>> [each.id for each in card_of(build, poured, CardSettings()).steps]
    ['stands', 'top_up', 'write_down']
    """
    was, now = parts_of(before), parts_of(after)
    parts = {**was, **now}
    joint = suction_joint(after.model_dump(mode="json"))
    pieces = (*pieces_between(before, after), *_extras(settings, parts, joint))
    others = any(_opens(each, in_place=True) for each in pieces)
    holes = any(each.operation in {"open_boss", "blank_boss"} for each in pieces)
    in_place = settings.sump_in_place and not others
    at = Circumstances(
        settings, parts, after.pan.made == "cast", in_place,
        tuple(parts[plate.id] for plate in after.pan.plates
              if isinstance(plate, HorizontalPlate) and plate.role == "baffle" and plate.id in was),
        joint, after.circuit.is_dry,
    )  # fmt: skip
    opens = any(_opens(each, in_place) for each in pieces) or is_open_still(standing)
    gathered = Gathered(hours or {})
    _work(gathered, pieces, at)
    taken_back(gathered, standing)
    if any(each.step.key == "undo" and each.step.phase == "bench"
           for each in gathered.steps.values()):  # fmt: skip
        opens = True
    if opens:
        _open_and_close(gathered, pieces, at)
    elif in_place and holes:
        gathered.add("drain")
    _finish(gathered, before, after, settings, opens, pieces)
    put_back_still(gathered, standing)
    send_back(gathered, standing, {key: str(row["name"]) for key, row in parts.items()})
    stale = stale_steps(gathered.steps.values(), standing, after, states or {})
    done_again(gathered, stale, standing)
    open_again(gathered, standing)
    steps = [
        replace(each, needs=(*_needs(each, gathered.steps, _joins_pan(each, parts)),
                             *stopped_by(each, standing)))
        for each in gathered.steps.values()
    ]  # fmt: skip
    return Card(in_order(steps), opens, settings.sump_in_place and holes and not in_place)


def _finish(
    gathered: Gathered,
    before: Build,
    after: Build,
    settings: CardSettings,
    opens: bool,
    pieces: tuple[Piece, ...],
) -> None:
    """Access, the bottle that is there, oil and the run, where there is anything to do at all."""
    opened = opens or any(each.operation not in _NO_OIL for each in pieces)
    _oil(gathered, before, after, "drain" in gathered.steps, opened)
    if not gathered.steps:
        return
    gathered.add("stands")
    _access(gathered, settings, opens)
    bottles = [each for each in before.circuit.components if each.kind == "accumulator"]
    if opened:
        for bottle in bottles:
            gathered.add("release_bottle", bottle.id, bottle.name)
