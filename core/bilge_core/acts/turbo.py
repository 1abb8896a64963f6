"""A turbocharger fed and drained."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, most
from bilge_core.acts.plumbing import OPEN, Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.joining import Restrictor
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document


class FeedTurbo(Act):
    """A turbocharger: fed through a restrictor, drained into the pan by gravity.

    Common practice, no published source: a feed behind the filter, from the gallery (at the
    sender's tee) or from the line into it; of size 4 with a restrictor of about 2 mm, a size 10
    drain that falls all the way and enters above the running oil.
    """

    kind: Literal["feed_turbo"]
    fed_from: Literal["gallery", "line", "cover"] = Field(
        default="gallery",
        description="the gallery, a tee in the last line before it, or a cover drilled for it",
    )
    bearing: Literal["journal", "ball"] | None = None
    restrictor_mm: Typed | None = Field(
        default=2.0, le=most(Restrictor, "bore_mm"), description="null: none"
    )
    feed_dash: Dash = 4
    drain_dash: Dash = 10

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        pan = circuit.only("pan_region")
        start, place = self._tapped(circuit)
        turbo = circuit.add("turbo", "turbo", bearing=self.bearing)
        name, feed = turbo["name"], (turbo, "feed")
        line = hose(self.feed_dash)
        if self.restrictor_mm is not None:
            hole = circuit.add("restrictor", f"{name}'s restrictor", bore_mm=self.restrictor_mm)
            circuit.join(f"feed of the {name}", "pressure", start, (hole, "a"), line)
            circuit.join(f"restrictor to {name}", "pressure", (hole, "b"), feed, OPEN)
        else:
            circuit.join(f"feed of the {name}", "pressure", start, feed, line)
        drain = hose(self.drain_dash)
        circuit.join(f"drain of the {name}", "drain", (turbo, "drain"), (pan, "returns"), drain)
        return circuit.done(f"{name} fed from {place}, drained into the pan by gravity")

    def _tapped(self, circuit: Plumbing) -> tuple[tuple[Document, str], str]:
        """The port that the feed leaves by, and what that is in words."""
        if self.fed_from == "gallery":
            return (circuit.only("gallery"), "tappings"), "the gallery"
        if self.fed_from == "cover":
            covers = circuit.of_kind("cover")
            if not covers:
                raise refused("fed_from", "needs a cover over the gallery: fit one first")
            return (covers[-1], "tappings"), covers[-1]["name"]
        line = circuit.feed_line()
        if line is None:
            words = "needs a line into the gallery; here all is cast: choose another place"
            raise refused("fed_from", words)
        before = line["name"]
        tee = circuit.add("tee", "tee of the turbo's feed")
        circuit.insert(line, (tee, "a"), (tee, "b"), f"{before}, on", line["line"])
        return (tee, "c"), f"a tee in {before}"


class DrainTurbo(Act):
    """Another drain for a turbocharger: by gravity, pulled by a stage, or into another's drain.

    Common practice, no published source: into the pan over its running oil, or into the block,
    where a blanked drain passage or a pad over the rail is.
    """

    kind: Literal["drain_turbo"]
    turbo: str = Field(description="by its id")
    how: Literal["gravity", "block", "scavenged", "joined"]
    other: str | None = Field(
        default=None, description="joined: the turbo whose drain it comes into, by its id"
    )
    dash: Dash = 10
    boss_mm: tuple[Length, Length, Length] | None = Field(
        default=None,
        description="of a new boss in the pan: ahead of the rear face, left, depth under the rail",
    )
    displacement_cm3: Typed = Field(
        default=4.0,
        le=most(ScavengeStage, "displacement_cm3"),
        description="of the scavenge stage, per turn",
    )
    drive_ratio: float = Field(default=0.5, gt=0, le=most(ScavengeStage, "drive_ratio"))

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        turbo = circuit.component(self.turbo, "turbo")
        if turbo["kind"] != "turbo":
            raise refused("turbo", "must be a turbo, by its id")
        self._take_away(circuit, turbo)
        name, pan = f"drain of the {turbo['name']}", circuit.only("pan_region")
        if self.how == "joined":
            return self._joined(circuit, turbo, name)
        if self.how == "block":
            end = (circuit.only("crankcase"), "oil_in")
            circuit.join(name, "drain", (turbo, "drain"), end, hose(self.dash))
            return circuit.done(f"{turbo['name']} drained into the block by gravity")
        if self.how == "gravity":
            end = (pan, self._boss(circuit, turbo) if self.boss_mm else "returns")
            circuit.join(name, "drain", (turbo, "drain"), end, hose(self.dash))
            return circuit.done(f"{turbo['name']} drained by gravity")
        stage = circuit.add(
            "scavenge_stage", f"scavenge stage of the {turbo['name']}", after=turbo,
            displacement_cm3=self.displacement_cm3, drive_ratio=self.drive_ratio,
        )  # fmt: skip
        start, back = (turbo, "drain"), (pan, "returns")
        circuit.join(name, "scavenge", start, (stage, "inlet"), hose(self.dash))
        circuit.join(f"{stage['name']} to pan", "return", (stage, "outlet"), back, hose(self.dash))
        return circuit.done(f"{turbo['name']} drained by a scavenge stage")

    def _joined(self, circuit: Plumbing, turbo: Document, name: str) -> Done:
        """By a tee into another turbo's drain, ahead of wherever that goes."""
        drained = circuit.component(self.other or "", "other")
        if drained["kind"] != "turbo" or drained is turbo:
            raise refused("other", "must be another turbo, by its id")
        into = circuit.run_from(drained, "drain")
        if into is None:
            raise refused("other", "must have a drain of its own to come into")
        tee = circuit.add("tee", f"tee of {drained['name']} and {turbo['name']}", after=turbo)
        onward = f"{into['name']} and {turbo['name']}"
        circuit.insert(into, (tee, "a"), (tee, "b"), onward, into["line"])
        start, end = (turbo, "drain"), (tee, "c")
        circuit.join(name, into["service"], start, end, hose(self.dash))
        return circuit.done(f"{turbo['name']} drained into the {into['name']}")

    def _take_away(self, circuit: Plumbing, turbo: Document) -> None:
        """The drain that it has: its run, and the stage in it."""
        run = circuit.run_from(turbo, "drain")
        if run is None:
            return
        end = circuit.component(run["end"]["component"])
        if end["kind"] == "scavenge_stage":
            circuit.drop(end)
            return
        circuit.drop_run(run)
        if end["kind"] == "tee":  # the other's line goes on without it
            entry = next((key for key in "abc" if circuit.run_into(end, key)), None)
            leave = next((key for key in "abc" if circuit.run_from(end, key)), None)
            if entry and leave:
                circuit.splice(end, entry, leave)

    def _boss(self, circuit: Plumbing, turbo: Document) -> str:
        """A new boss in the pan for it; its id."""
        assert self.boss_mm is not None
        x, y, depth = self.boss_mm
        bosses: list[Document] = circuit.document["pan"]["bosses"]
        boss = {
            "kind": "turbo_drain", "id": "b9000000", "name": f"drain of the {turbo['name']}",
            "x_mm": x, "y_mm": y, "depth_mm": depth, "bore_mm": self.dash / 16 * 25.4,
            "fixing": "through_fitting",
        }  # fmt: skip
        bosses.append(boss)
        return "b9000000"
