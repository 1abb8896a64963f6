"""Every act there is: what a button, a check, a search and the history speak in."""

from __future__ import annotations

import json
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from bilge_core.acts.act import MOST_TYPED
from bilge_core.acts.bottle import FitAccumulator
from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.acts.breathing import FitBreather, FitCatchCan, OutsideReturn
from bilge_core.acts.calibrate import Calibrate
from bilge_core.acts.cooling import FitCooler, FitSandwichPlate
from bilge_core.acts.deepen import Deepen, Spacer
from bilge_core.acts.drain_tuned import TuneDrain
from bilge_core.acts.engine_parts import FitCover, FitJets
from bilge_core.acts.figures import SetFigures, named_in
from bilge_core.acts.filtering import MoveFilter, SecondFilter
from bilge_core.acts.fit_drive import FitDrive
from bilge_core.acts.fitted import BracePickup, FitScraper
from bilge_core.acts.flange import LayOutFlange
from bilge_core.acts.flange_drawn import FlangeDrawn
from bilge_core.acts.gates_fitted import FitGates
from bilge_core.acts.go_dry import GoDry
from bilge_core.acts.lay_line import LayLine, SetPort
from bilge_core.acts.learn import Learn
from bilge_core.acts.make_of_sheet import MakeOfSheet
from bilge_core.acts.mend import CarryToWall, TurnGate
from bilge_core.acts.pan_from_scan import PanFromScan
from bilge_core.acts.pan_widened import KickOut, MovePickup, Refill
from bilge_core.acts.piecing import JoinPorts, PutInLine
from bilge_core.acts.plates_fitted import FitLevelPlate, FitSidePlates, FitTray
from bilge_core.acts.regulating import DirectFeed, FitRegulator
from bilge_core.acts.reshape import SumpPreset
from bilge_core.acts.taking_out import PlugPort, TakeOut
from bilge_core.acts.turbo import DrainTurbo, FeedTurbo
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.quantities import KINDS, UnitSystem, field_unit, parse_figure

AnyAct = Annotated[
    SetFigures | Spacer | Deepen | SumpPreset | LayOutFlange | TurnGate | CarryToWall
    | FitAccumulator | TuneAccumulator | FitCooler | FitSandwichPlate | MoveFilter | SecondFilter
    | FitRegulator | DirectFeed | FeedTurbo | DrainTurbo | TuneDrain | OutsideReturn | FitCatchCan
    | FitBreather | TakeOut | PlugPort | Calibrate | FitGates | FitLevelPlate | FitSidePlates
    | LayLine | SetPort | GoDry | FitTray | FitScraper | BracePickup | MovePickup | KickOut
    | Refill | Learn | FitJets | FitCover | FitDrive | MakeOfSheet
    | PanFromScan | FlangeDrawn | PutInLine | JoinPorts,
    Field(discriminator="kind"),
]  # fmt: skip

TELL_ALONE = frozenset({"figures", "calibrate", "learn", "pan_from_scan", "flange_drawn"})
"""Kinds of acts that may but tell what is there; all others make something else of it."""

_ACTS: TypeAdapter[AnyAct] = TypeAdapter(AnyAct)


def _number(typed: str, name: str, field: str, system: UnitSystem) -> float | str:
    """A figure as typed, in the unit that its field is stored in; text where it is no figure."""
    unit = field_unit(name)
    if unit is None:
        return typed.strip()
    kind, stored = unit
    shown = KINDS[kind].shown_in(system)
    try:
        return round(parse_figure(typed, kind, shown, stored), 6)
    except InvalidQuantity as error:
        if error.name == "unit":
            message = f"{error.value} is no unit of a {kind}; it must be {error.requirement}"
        else:
            message = f"{error.value} cannot be read; it must be {error.requirement}"
        raise InvalidInput([Problem(field, message)]) from None


def figures_read(raw: Any, system: UnitSystem, field: str) -> Any:
    """Plain data with every figure that was typed as text read, however deep it lies.

    A figure is known by its field's name ending in a unit.

    Raises
    ------
    InvalidInput
        Naming each that cannot be read.

    Examples
    --------
    >>> figures_read({"points": [{"level_mm": "2 in", "name": "2 in"}]}, "metric", "record")
    {'points': [{'level_mm': 50.8, 'name': '2 in'}]}
    """
    problems: list[Problem] = []

    def read(value: Any, path: str, name: str) -> Any:
        if isinstance(value, dict):
            return {key: read(each, f"{path}.{key}", str(key)) for key, each in value.items()}
        if isinstance(value, list):
            return [read(each, f"{path}.{at}", "") for at, each in enumerate(value)]
        if not isinstance(value, str) or not field_unit(name):
            return value
        if len(value) > MOST_TYPED:
            problems.append(Problem(path, f"must be at most {MOST_TYPED} letters long"))
            return value
        try:
            return _number(value, name, path, system)
        except InvalidInput as error:
            problems.extend(error.problems)
            return value

    found = read(raw, field, "")
    if problems:
        raise InvalidInput(problems)
    return found


def as_typed(raw: Any, system: UnitSystem) -> Any:
    """An act's plain data with its figures read as they were typed: numbers, and `typed` beside.

    What is not of an act's shape is left as it is, for `read_act` to refuse.

    Raises
    ------
    InvalidInput
        Naming each figure that cannot be read.

    Examples
    --------
    >>> as_typed({"kind": "spacer", "by_mm": "1/4 in"}, "metric")
    {'kind': 'spacer', 'by_mm': 6.35, 'typed': {'by_mm': '1/4 in'}}
    >>> as_typed({"kind": "tune_drain", "entry_mm": ["4 in", 10]}, "metric")["entry_mm"]
    [101.6, 10]
    >>> bends = [{"at_mm": [0, 0, "4 in"], "radius_mm": "1 in"}]
    >>> as_typed({"kind": "tune_drain", "bends": bends}, "metric")["bends"]
    [{'at_mm': [0, 0, 101.6], 'radius_mm': 25.4}]
    """
    if not isinstance(raw, dict):
        return raw
    act, problems = dict(raw), list[Problem]()
    typed = dict(raw["typed"]) if isinstance(raw.get("typed"), dict) else {}

    def read(holder: Any, key: Any, name: str, field: str) -> None:
        text = holder[key]
        try:
            holder[key] = _number(text, name, field, system)
        except InvalidInput as error:
            problems.extend(error.problems)
        typed[field] = text

    def one(holder: Any, key: Any, name: str, field: str) -> None:
        if len(holder[key]) > MOST_TYPED:
            problems.append(Problem(field, f"must be at most {MOST_TYPED} letters long"))
        else:
            read(holder, key, name, field)

    def walk(holder: dict[str, Any], before: str) -> None:
        for key, value in holder.items():
            field = f"{before}{key}"
            if isinstance(value, str) and field_unit(key):
                one(holder, key, key, field)
            elif isinstance(value, list) and field_unit(key):  # a place: ahead, left, up
                holder[key] = list(value)
                for at, each in enumerate(value):
                    if isinstance(each, str):
                        one(holder[key], at, key, f"{field}.{at}")
            elif isinstance(value, list) and field != "figures":  # rows, as of a line's bends
                holder[key] = [dict(each) if isinstance(each, dict) else each for each in value]
                for at, each in enumerate(holder[key]):
                    if isinstance(each, dict):
                        walk(each, f"{field}.{at}.")

    walk(act, "")
    figures = raw.get("figures")
    if isinstance(figures, list):
        act["figures"] = [dict(each) if isinstance(each, dict) else each for each in figures]
        for each in act["figures"]:
            field = each.get("field") if isinstance(each, dict) else None
            if isinstance(field, str) and field and isinstance(each.get("value"), str):
                read(each, "value", named_in(f"it.{field}"), field)
    if problems:
        raise InvalidInput(problems)
    return {**act, "typed": typed} if typed else act


def read_act(raw: Any, system: UnitSystem = "metric") -> AnyAct:
    """An act from plain data, its figures as numbers or as typed.

    Parameters
    ----------
    raw : dict
    system : metric or us
        In which bare figures were typed.

    Returns
    -------
    AnyAct

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_act({"kind": "deepen", "by_mm": "3/4", "zones": ["z4"]}, "us").by_mm
    19.05
    """
    try:
        return _ACTS.validate_json(json.dumps(as_typed(raw, system)))
    except ValidationError as error:
        # the union names a field behind its act's kind, and none where there is no such kind
        kind = raw.get("kind") if isinstance(raw, dict) else None
        found = [(each.field.removeprefix(f"{kind}."), each.message) for each in problems_of(error)]
        problems = [Problem("kind" if field == "file" else field, words) for field, words in found]
        raise InvalidInput(problems) from None
