"""What is fitted without a plate: a scraper at the crank, a brace at the pickup's tube."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, build_with, most
from bilge_core.acts.names import free_name
from bilge_core.acts.plumbing import refused
from bilge_core.document.build import Build
from bilge_core.document.fitted import Scraper

_SCRAPER_GAP = 1.5  # [mm] to the crank's swept circle (from memory: a sixteenth of an inch)


class FitScraper(Act):
    """A scraper along the crank's swept circle, on the side where the throws go down.

    What it saves of the oil that the crank carries round is not known: the forecast does not move.
    """

    kind: Literal["fit_scraper"]
    side: Literal["left", "right"] = "right"
    gap_mm: float = Field(default=_SCRAPER_GAP, ge=0, le=most(Scraper, "gap_mm"))

    @override
    def done(self, build: Build) -> Done:
        crank = build.car.crank
        if crank is None:
            raise refused("kind", "needs the crank's sweep, under Car: a scraper follows it")
        if any(each.side == self.side for each in build.pan.scrapers):
            raise refused("side", "has a scraper already")
        document = build.model_dump(mode="json")
        taken = {each.name for each in build.pan.scrapers}
        document["pan"]["scrapers"].append(
            {
                "name": free_name(taken, f"{self.side} scraper"), "side": self.side,
                "from_x_mm": crank.from_x_mm, "to_x_mm": crank.to_x_mm, "gap_mm": self.gap_mm,
            }
        )  # fmt: skip
        words = f"crank scraper on the {self.side}, {self.gap_mm:g} mm off the sweep"
        return Done(build_with(build, document), words)


class BracePickup(Act):
    """The pickup braced at its tube: held at its bell alone, it flexes and cracks along its edge.

    Common practice, no published source.
    """

    kind: Literal["brace_pickup"]

    @override
    def done(self, build: Build) -> Done:
        braces = build.pickup.braces
        if braces is not None and braces.at_tube:
            raise refused("kind", "is braced at its tube already")
        document = build.model_dump(mode="json")
        at_bell = braces is not None and braces.at_bell
        document["pickup"]["braces"] = {"at_bell": at_bell, "at_tube": True}
        return Done(build_with(build, document), "pickup braced at its tube")
