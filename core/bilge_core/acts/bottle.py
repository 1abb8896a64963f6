"""An accumulator teed into the feed."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, build_with, most
from bilge_core.acts.plumbing import OPEN, Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Accumulator
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document
from bilge_core.network import held_running
from bilge_core.oil import GRADES, hot_volume_ratio
from bilge_core.quantities import si_from

_NOT_WORTH_POURING = 0.05  # [L] (ours)
FROM_CHECK = "from the check valve"
"""What the line behind a bottle's check valve is called."""


def cooler_return(circuit: Plumbing) -> Document | None:
    """The run that comes back from the last cooler."""
    coolers = circuit.of_kind("cooler", "plate_cooler")
    return circuit.run_from(coolers[-1], "outlet") if coolers else None


def pressed_return(circuit: Plumbing) -> Document | None:
    """The same under pressure: a cooler in what scavenge stages send back feeds no engine."""
    run = cooler_return(circuit)
    return run if run is not None and run["service"] == "pressure" else None


def top_up(before: Build, done: Done) -> Done:
    """Filled up with as much oil as the engine holds more while it runs.

    Less of it where it holds less; the mark goes with it, as that oil never shows on the dipstick.

    Raises
    ------
    InvalidInput
        If more would come out than there is.
    """
    more = held_running(done.build).total - held_running(before).total
    oil = before.oil
    ratio = hot_volume_ratio(GRADES[oil.grade], si_from(oil.temperature_c, "temperature", "°C"))
    cold = round(more * 1e3 / ratio, 2)
    if abs(cold) < _NOT_WORTH_POURING:
        return done
    document = done.build.model_dump(mode="json")
    document["oil"]["volume_l"] = round(oil.volume_l + cold, 3)
    if oil.mark_l is not None:
        document["oil"]["mark_l"] = round(oil.mark_l + cold, 3)
    words = f"{abs(cold):.1f} L of oil {'added' if cold > 0.0 else 'let out'}"
    return Done(build_with(before, document), f"{done.words}, {words}")


Tapped = Literal["gallery_feed", "cooler_return", "gallery_tapping"]


def nearest_line(circuit: Plumbing) -> Tapped:
    """Where a bottle can be teed in, as near to the gallery as there is a line to screw a tee into.

    Common practice, no published source: the main gallery's feed or the cooler's return.
    """
    if circuit.feed_line() is not None:
        return "gallery_feed"
    return "gallery_tapping" if pressed_return(circuit) is None else "cooler_return"


class FitAccumulator(Act):
    """A bottle with its valve, and a check valve that keeps the charge for the engine.

    Common practice, no published source: teed into the cooler's return or the main gallery's feed
    with a size 10 line; a check valve ahead of the tee, or none by another school; a ball valve by
    hand, or an electric one where the bottle is out of reach.
    """

    kind: Literal["fit_accumulator"]
    volume_l: Typed = Field(le=most(Accumulator, "volume_l"))
    precharge_bar: Typed | None = Field(default=None, le=most(Accumulator, "precharge_bar"))
    at: Tapped | None = Field(
        default=None,
        description="null: the gallery's feed where that is a line, else the cooler's return, else "
        "a tapping of the gallery",
    )
    check_valve: bool = True
    valve: Literal["by_hand", "electric"] = "by_hand"
    dash: Dash = 10
    fill_up: bool = Field(default=True, description="with as much oil as the bottle takes")

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        at = self.at or nearest_line(circuit)
        checks = self.check_valve and at != "gallery_tapping"
        start = self._tapping(circuit) if at == "gallery_tapping" else self._tee(circuit, at)
        valve = circuit.add("shut_off_valve", "bottle's valve", worked=self.valve)
        bottle = circuit.add(
            "accumulator", "accumulator", volume_l=self.volume_l, precharge_bar=self.precharge_bar
        )
        circuit.join("to the bottle's valve", "pressure", start, (valve, "a"), hose(self.dash))
        circuit.join("valve to bottle", "pressure", (valve, "b"), (bottle, "line"), OPEN)
        where = at.replace("_", " ")
        none = ", with no tee to put a check valve ahead of" if self.check_valve else ""
        check = ", check valve ahead of its tee" if checks else none
        said = self.said("volume_l", "L")
        done = circuit.done(f"accumulator {said} at the {where}{check}")
        return top_up(build, done) if self.fill_up else done

    def _tapping(self, circuit: Plumbing) -> tuple[Document, str]:
        return circuit.only("gallery"), "tappings"

    def _tee(self, circuit: Plumbing, at: Tapped) -> tuple[Document, str]:
        """The branch of a new tee in the line, behind a check valve where one is wanted."""
        if at == "cooler_return":
            run = pressed_return(circuit)
            if run is None:
                raise refused(
                    "at", "needs a cooler under pressure, and there is none: use the gallery's feed"
                )
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
            run = circuit.insert(run, (valve, "inlet"), (valve, "outlet"), FROM_CHECK, line)
            before = valve
        tee = circuit.add("tee", "bottle's tee", after=before)
        circuit.insert(run, (tee, "a"), (tee, "b"), "from the bottle's tee", line)
        return tee, "c"
