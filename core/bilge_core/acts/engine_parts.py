"""What an engine has on its gallery: jets under the pistons, a cover that carries a tapping."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.plumbing import OPEN, Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Jets

_PASSAGE = {"kind": "passage"}


class FitJets(Act):
    """Piston cooling jets, fed by the gallery; oil off them falls into the crankcase.

    Common practice, no published source: on some engines they open at 20 to 30 psi, on others at
    about 48; below that they take no oil.
    """

    kind: Literal["fit_jets"]
    count: int = Field(ge=1, le=int(most(Jets, "count")))
    bore_mm: Typed = Field(le=most(Jets, "bore_mm"))
    opens_bar: Typed | None = Field(
        default=None, le=most(Jets, "opens_bar"), description="null: not known, guessed"
    )

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if circuit.of_kind("jets"):
            raise refused("kind", "has its jets already: their figures are among the numbers")
        gallery, crankcase = circuit.only("gallery"), circuit.only("crankcase")
        gallery["jets"] = None  # what was told is of other jets
        jets = circuit.add(
            "jets", "piston jets", after=gallery,
            count=self.count, bore_mm=self.bore_mm, opens_bar=self.opens_bar,
        )  # fmt: skip
        circuit.join(
            "feed of the jets", "pressure", (gallery, "tappings"), (jets, "feed"), _PASSAGE
        )
        circuit.join("off the pistons", "drain", (jets, "spray"), (crankcase, "oil_in"), OPEN)
        opens = (
            "opening not known"
            if self.opens_bar is None
            else f"open at {self.said('opens_bar', 'bar')}"
        )
        return circuit.done(f"{self.count} piston jets of {self.said('bore_mm', 'mm')}, {opens}")


class FitCover(Act):
    """A bolt-on cover or block-off plate over the gallery that carries a tapping.

    Common practice, no published source: it is drilled before it goes on, its gasket's tab and its
    way up checked against its mark.
    """

    kind: Literal["fit_cover"]

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        gallery = circuit.only("gallery")
        cover = circuit.add("cover", "gallery cover", after=gallery)
        start, end = (gallery, "tappings"), (cover, "tappings")
        circuit.join(f"to the {cover['name']}", "pressure", start, end, OPEN)
        return circuit.done(f"{cover['name']}, drilled and tapped before it goes on")
