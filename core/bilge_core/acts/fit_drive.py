"""A toothed belt from the crank to the pump, laid out."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, ValidationError
from typing_extensions import override

from bilge_core.acts.act import Act, Angle, Done, Length, Typed, figures_named, least, most
from bilge_core.acts.plumbing import Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.drive import LEAST_TEETH, MOST_TEETH, BeltDrive
from bilge_core.document.ids import Document
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput, Problem
from bilge_core.scavenge.drive import drive_of, nearest_belt

_ANY = 100  # teeth, until the nearest are known
_ALIKE = frozenset(BeltDrive.model_fields) - {"belt_teeth", "idler", "body", "assumed"}


class FitDrive(Act):
    """Pulleys, belt and where the pump stands; every stage turns as they say from then on.

    Places are from the crank's centreline. What it replaces is gone.
    """

    kind: Literal["fit_drive"]
    crank_teeth: int = Field(ge=LEAST_TEETH, le=MOST_TEETH)
    pump_teeth: int = Field(ge=LEAST_TEETH, le=MOST_TEETH)
    belt_teeth: int | None = Field(
        default=None,
        ge=int(least(BeltDrive, "belt_teeth")),
        le=int(most(BeltDrive, "belt_teeth")),
        description="null: the belt that comes nearest",
    )
    pitch_mm: Typed = 8.0
    width_mm: Typed = 25.0
    across_mm: Length = Field(description="pump's shaft, left of the crank's centreline")
    up_mm: Length = Field(description="pump's shaft, above the crank's centreline")
    offset_mm: Length = Field(default=0.0, description="pump's pulley ahead of the crank's")
    turned_deg: Angle = 0.0
    tilted_deg: Angle = 0.0
    travel_mm: Length = Field(default=6.0, description="that the pump can be moved by")
    idler: Literal["none", "back", "teeth"] = "none"
    idler_across_mm: Length | None = None
    idler_up_mm: Length | None = None
    idler_diameter_mm: Typed | None = None
    crank_x_mm: Length | None = Field(
        default=None, description="crank's pulley ahead of the rail's rear face"
    )
    body_length_mm: Typed | None = None
    body_diameter_mm: Typed | None = None

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if not circuit.of_kind("tank"):
            raise refused("kind", "belongs to a dry sump's pump: go dry first")
        drive = self._drive()
        try:
            found = drive_of(drive)
        except InvalidInput as error:
            raise refused("across_mm", error.problems[0].message) from None
        ratio = round(found.ratio, 4)
        for kind in ("pressure_stage", "scavenge_stage"):
            for stage in circuit.of_kind(kind):
                stage["drive_ratio"] = ratio
        circuit.document["drive"] = drive.model_dump(mode="json")
        words = (
            f"belt drive {drive.crank_teeth} to {drive.pump_teeth} teeth, belt of "
            f"{drive.belt_teeth}: the pump turns {found.ratio:.3f} times a turn of the crank"
        )
        return circuit.done(words)

    def _drive(self) -> BeltDrive:
        """Its figures as the document holds them, with the belt that comes nearest.

        Raises
        ------
        InvalidInput
        """
        told = {name: getattr(self, name) for name in _ALIKE}
        told |= {"belt_teeth": self.belt_teeth or _ANY, "idler": self._idler(),
                 "body": self._body()}  # fmt: skip
        try:
            drive = BeltDrive.model_validate(told)
        except ValidationError as error:
            found = problems_of(error)
            fields = [(each.field.replace(".", "_"), each.message) for each in found]
            raise InvalidInput([Problem(*each) for each in fields]) from None
        if self.belt_teeth is not None:
            return drive
        with figures_named(**{"distance of the shafts": "across_mm"}):
            return drive.model_copy(update={"belt_teeth": nearest_belt(drive)})

    def _idler(self) -> Document | None:
        if self.idler == "none":
            return None
        figures = {
            "across_mm": self.idler_across_mm, "up_mm": self.idler_up_mm,
            "diameter_mm": self.idler_diameter_mm,
        }  # fmt: skip
        for name, value in figures.items():
            if value is None:
                raise refused(f"idler_{name}", "must be said of an idler")
        return {**figures, "runs_on": self.idler}

    def _body(self) -> Document | None:
        if self.body_length_mm is None and self.body_diameter_mm is None:
            return None
        if self.body_length_mm is None or self.body_diameter_mm is None:
            missing = "length" if self.body_length_mm is None else "diameter"
            raise refused(f"body_{missing}_mm", "must be said with the other measure of the body")
        return {"length_mm": self.body_length_mm, "diameter_mm": self.body_diameter_mm}
