"""An accumulator teed into the feed."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed
from bilge_core.acts.plumbing import OPEN, Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document


def cooler_return(circuit: Plumbing) -> Document | None:
    """The run that comes back from the last cooler."""
    coolers = circuit.of_kind("cooler", "plate_cooler")
    return circuit.run_from(coolers[-1], "outlet") if coolers else None


class FitAccumulator(Act):
    """A bottle with its valve, and a check valve that keeps the charge for the engine.

    Common practice, no published source: teed into the cooler's return or the main gallery's feed
    with a size 10 line; a check valve ahead of the tee, or none by another school; a ball valve by
    hand, or an electric one where the bottle is out of reach.
    """

    kind: Literal["fit_accumulator"]
    volume_l: Typed = Field(le=20)
    precharge_bar: Typed | None = Field(default=None, le=30)
    at: Literal["gallery_feed", "cooler_return", "gallery_tapping"] = "gallery_feed"
    check_valve: bool = True
    valve: Literal["by_hand", "electric"] = "by_hand"
    dash: Dash = 10

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        start = self._tapping(circuit) if self.at == "gallery_tapping" else self._tee(circuit)
        valve = circuit.add("shut_off_valve", "bottle's valve", worked=self.valve)
        bottle = circuit.add(
            "accumulator", "accumulator", volume_l=self.volume_l, precharge_bar=self.precharge_bar
        )
        circuit.join("to the bottle's valve", "pressure", start, (valve, "a"), hose(self.dash))
        circuit.join("valve to bottle", "pressure", (valve, "b"), (bottle, "line"), OPEN)
        where = self.at.replace("_", " ")
        check = ", check valve ahead of its tee" if self._checks else ""
        said = self.said("volume_l", "L")
        return circuit.done(f"accumulator {said} at the {where}{check}")

    @property
    def _checks(self) -> bool:
        return self.check_valve and self.at != "gallery_tapping"

    def _tapping(self, circuit: Plumbing) -> tuple[Document, str]:
        return circuit.only("gallery"), "tappings"

    def _tee(self, circuit: Plumbing) -> tuple[Document, str]:
        """The branch of a new tee in the line, behind a check valve where one is wanted."""
        if self.at == "cooler_return":
            run = cooler_return(circuit)
            if run is None:
                raise refused("at", "needs a cooler, and there is none: use the gallery's feed")
        else:
            run = circuit.feed_line()
        if run is None:
            raise refused(
                "at",
                "has no line to screw a tee into: the feed is a passage in the block. Use a "
                "tapping of the gallery or the cooler's return, or move the filter first",
            )
        line = {key: value for key, value in run["line"].items() if key != "length_mm"}
        before = circuit.component(run["start"]["component"])
        if self.check_valve:
            valve = circuit.add("check_valve", "check valve", after=before)
            run = circuit.insert(run, (valve, "inlet"), (valve, "outlet"), "behind the check", line)
            before = valve
        tee = circuit.add("tee", "bottle's tee", after=before)
        circuit.insert(run, (tee, "a"), (tee, "b"), "behind the bottle's tee", line)
        return tee, "c"
