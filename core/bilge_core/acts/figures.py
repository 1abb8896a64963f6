"""Single figures of a document, by their paths."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, build_with
from bilge_core.document.build import Build
from bilge_core.document.ids import is_id
from bilge_core.document.parts import Part
from bilge_core.errors import InvalidInput, Problem
from bilge_core.quantities import field_unit

FieldPath = Annotated[str, Field(max_length=200, pattern=r"^[a-z_]+(\.[a-z0-9_]+)*$")]

_FIXED = {"format", "version", "kind", "id"}
"""What no figure is."""


class Figure(Part):
    """A field's path, through lists of parts by their ids, and its new value."""

    field: FieldPath
    value: float | Annotated[str, Field(max_length=20_000)] | None = Field(
        description="null: not known"
    )


def named_in(field: str) -> str:
    """The part of a path that names the figure: the last that is no place in a list and no id.

    Examples
    --------
    >>> named_in("pan.zones.z4.outline_mm.0.1")
    'outline_mm'
    """
    keys = reversed(field.split("."))
    return next(key for key in keys if not (key.isdigit() or is_id(key)))


def called(field: str) -> str:
    """What a figure is called in words.

    Examples
    --------
    >>> called("pickup.gap_mm"), called("pan.zones.z4.floor.depth_mm"), called("pump.drive_ratio")
    ("mouth's gap", 'depth', 'drive ratio')
    """
    name = named_in(field)
    bare = name if name.endswith("_ratio") or not field_unit(name) else name.rsplit("_", 1)[0]
    if ".mouth_at." in field:
        return _WORDS.get(f"pickup.{name}", "mouth's place")
    return _WORDS.get(field) or _NAMES.get(name) or bare.replace("_", " ")


def _key(holder: Any, key: str) -> int | str:
    """Where a step leads: in a list of parts by id, in others by place."""
    if not isinstance(holder, list):
        return key
    if is_id(key):
        return next(at for at, part in enumerate(holder) if part["id"] == key)
    return int(key)


def _step(holder: Any, key: str, field: str) -> Any:
    try:
        return holder[_key(holder, key)]
    except (KeyError, IndexError, ValueError, TypeError, StopIteration):
        raise InvalidInput([Problem(field, "is not a field of this build")]) from None


def _holder(document: Any, way: list[str], field: str, begun: list[Any]) -> Any:
    """What a figure lies in; a part that is not known yet is begun, its other figures to follow."""
    holder = document
    for key in way:
        inner = _step(holder, key, field)
        if inner is None:
            inner = holder[_key(holder, key)] = {}
            begun.append(inner)
        holder = inner
    return holder


_NO_FIGURES = {"assumed", "name", "wanted_mm"}
"""What may be said of a part that nobody measured."""


def _know(document: dict[str, Any], way: list[str], field: str) -> None:
    """The part that a figure is of is not assumed any more: somebody knows it now."""
    part: Any = document
    for key in way:
        part = _step(part, key, field)
        if isinstance(part, dict) and "assumed" in part:
            part["assumed"] = False


class SetFigures(Act):
    """Figures replaced by others; `typed` has them by their fields.

    Of a part that is not known (a filter's drop) all figures are given in one act.
    """

    kind: Literal["figures"]
    figures: list[Figure] = Field(min_length=1, max_length=50)

    @override
    def done(self, build: Build) -> Done:
        document = build.model_dump(mode="json")
        begun: list[Any] = []
        for figure in self.figures:
            if named_in(figure.field) in _FIXED:
                raise InvalidInput([Problem(figure.field, "cannot be changed this way")])
            *way, last = figure.field.split(".")
            holder = _holder(document, way, figure.field, begun)
            if not any(holder is part for part in begun):
                _step(holder, last, figure.field)
            holder[_key(holder, last)] = figure.value
            if last not in _NO_FIGURES:
                _know(document, way, figure.field)
        return Done(build_with(build, document), self._words(build))

    def _words(self, build: Build) -> str:
        """What was done, for the undo button."""
        field, value = self.figures[0].field, self.figures[-1]
        text = self.typed.get(value.field, f"{value.value}").strip()
        named = build.circuit.component(text)  # nobody knows a part by its id
        text = named.name if named else text
        whose = _whose(build, field)
        return f"{whose}{': ' if whose else ''}{called(field)} to {text}"[:200]


def _whose(build: Build, field: str) -> str:
    """The name of the innermost part that a figure is of; empty where none has one."""
    part: Any = build.model_dump()
    whose = ""
    for key in field.split(".")[:-1]:
        if part is not None:  # else it was begun by the act
            part = _step(part, key, field)
        if isinstance(part, dict):
            whose = part.get("name") or whose
    return whose


_NAMES = {
    "holds_l": "oil that it holds",
    "opens_bar": "opening",
    "opens_c": "opening",
    "precharge_bar": "pre-charge",
    "offset_mm": "pulley's offset",
    "belt_teeth": "belt's teeth",
    "travel_mm": "bracket's travel",
    "thermostat_c": "thermostat's opening",
}

_WORDS = {
    "drive": "belt drive",
    "oil.volume_l": "oil in the engine",
    "oil.away_l": "oil away from the pan",
    "oil.temperature_c": "oil temperature",
    "oil.grade": "oil grade",
    "oil.mark_l": "oil at the mark",
    "pickup.gap_mm": "mouth's gap",
    "pickup.mouth.diameter_mm": "mouth's diameter",
    "pickup.x_mm": "mouth's place",
    "pickup.y_mm": "mouth's place",
    "pan.sheet_mm": "pan's wall",
    "pan.skirt_height_mm": "skirt's height",
    "car.lean_right_deg": "lean",
    "car.nose_up_deg": "rake",
    "name": "name",
    "notes": "notes",
}
