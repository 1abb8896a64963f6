"""How the pan is made of sheet, set: an edge bent or welded, the sheet, what it is cut from."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, build_with, least, most
from bilge_core.acts.plumbing import refused
from bilge_core.document.build import Build
from bilge_core.document.making import Making, is_same_edge

_FIGURES = ("radius_mm", "k_factor", "gap_mm", "relief", "metal", "sheet_long_mm", "sheet_wide_mm")


class MakeOfSheet(Act):
    """An edge bent or welded, or a figure of the sheet; what is not told stays as it is."""

    kind: Literal["make_of_sheet"]
    edge_mm: tuple[float, float, float] | None = Field(
        default=None, description="middle of an edge, as the seams are told"
    )
    bent: bool = True
    weld_all: bool = False
    radius_mm: Length | None = Field(default=None, ge=0, le=most(Making, "radius_mm"))
    k_factor: float | None = Field(default=None, ge=0, le=most(Making, "k_factor"))
    gap_mm: Length | None = Field(default=None, ge=0, le=most(Making, "gap_mm"))
    relief: bool | None = None
    metal: Literal["steel", "aluminium"] | None = None
    sheet_long_mm: Typed | None = Field(
        default=None, ge=least(Making, "sheet_long_mm"), le=most(Making, "sheet_long_mm")
    )
    sheet_wide_mm: Typed | None = Field(
        default=None, ge=least(Making, "sheet_wide_mm"), le=most(Making, "sheet_wide_mm")
    )

    @override
    def done(self, build: Build) -> Done:
        document = build.model_dump(mode="json")
        making = (build.pan.making or Making()).model_dump(mode="json")
        said = []
        if self.weld_all:
            making["bent"] = []
            said.append("all edges welded")
        if self.edge_mm is not None:
            others = [each for each in making["bent"] if not is_same_edge(each, self.edge_mm)]
            making["bent"] = [*others, list(self.edge_mm)] if self.bent else others
            said.append(f"an edge {'bent' if self.bent else 'welded'}")
        for name in _FIGURES:
            value = getattr(self, name)
            if value is not None:
                making[name] = value
                said.append(f"{_WORDS[name]} {self.typed.get(name, _told(value))}")
        if not said:
            raise refused("kind", "changes nothing: say what is to be another")
        document["pan"]["making"] = making
        return Done(build_with(build, document), ", ".join(["pan of sheet", *said]))


_WORDS = {
    "radius_mm": "bends' radius", "k_factor": "K-factor", "gap_mm": "gap of welds",
    "relief": "corner reliefs", "metal": "of", "sheet_long_mm": "sheet's length",
    "sheet_wide_mm": "sheet's width",
}  # fmt: skip


def _told(value: object) -> str:
    if isinstance(value, bool):
        return "cut" if value else "left out"
    return f"{value:g}" if isinstance(value, float) else str(value)
