"""A drain set otherwise: its size, where it enters, its feed, and what breathes beside it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, most
from bilge_core.acts.plumbing import OPEN, Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Breather
from bilge_core.document.circuit.engine_side import Turbo
from bilge_core.document.circuit.falling import drain_runs
from bilge_core.document.circuit.joining import Restrictor
from bilge_core.document.circuit.run import Dash, Waypoint
from bilge_core.document.ids import Document
from bilge_core.document.parts import Part
from bilge_core.drains.laid import places_of

Spot = tuple[Length, Length, Length]

_BOSS = "b9000000"  # made up here; the server gives a real one
_INCH = 25.4
_SAME = 0.5  # [mm] within which a place is the one it was


class LineBend(Part):
    """A bend of a line: where its legs would meet, and the radius of its middle."""

    at_mm: Spot = Field(description="ahead of the rail's rear face, left, over the rail")
    radius_mm: Typed | None = Field(
        default=None, le=most(Waypoint, "radius_mm"), description="null: an elbow"
    )


class TuneDrain(Act):
    """A drain by gravity as it is, or as it might be: what is not told stays as it is.

    Common practice, no published source: an entry that moves is a new hole, and the old one is
    blocked; a hose of another size takes a fitting and a hole of that size with it.
    """

    kind: Literal["tune_drain"]
    run: str = Field(description="the drain's first line, by its id")
    dash: Dash | None = None
    entry_mm: Spot | None = Field(
        default=None, description="ahead of the rail's rear face, left, depth under the rail"
    )
    outlet_mm: Spot | None = Field(
        default=None, description="where oil leaves what is drained: ahead, left, over the rail"
    )
    meets_mm: Spot | None = Field(
        default=None, description="where its line meets another's: ahead, left, over the rail"
    )
    bends: list[LineBend] | None = Field(
        default=None, max_length=20, description="of its own line, between its ends, in order"
    )
    seal_height_mm: Typed | None = Field(
        default=None, le=most(Turbo, "seal_height_mm"), description="over its drain flange"
    )
    restrictor_mm: Typed | None = Field(
        default=None, le=most(Restrictor, "bore_mm"), description="in the turbo's feed"
    )
    opening_mm: Typed | None = Field(
        default=None, le=most(Breather, "opening_mm"), description="of the breather"
    )

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        first = next((run for run in circuit.runs if run["id"] == self.run), None)
        if first is None or first["service"] not in ("drain", "scavenge"):
            raise refused("run", "must be a drain, by its id")
        drained = circuit.component(first["start"]["component"])
        if drained["kind"] not in ("turbo", "head"):
            raise refused("run", "must be the drain of a turbo or a head")
        laid = next(run for run in build.circuit.runs if run.id == self.run)
        ids = [run.id for run in drain_runs(build.circuit, laid)]
        chain = [next(run for run in circuit.runs if run["id"] == each) for each in ids]
        said: list[str] = []
        if self.outlet_mm is not None:
            said.append(self._leave(drained, first))
        if self.seal_height_mm is not None:
            said.append(self._seal(drained))
        if self.entry_mm is not None:
            said.append(self._enter(circuit, chain[-1], first["name"]))
        if self.meets_mm is not None:
            said.append(self._meet(circuit, first))
        if self.bends is not None:
            said.append(self._bend(circuit, first))
        if self.dash is not None:
            said.append(self._size(circuit, chain))
        if self.restrictor_mm is not None:
            said.append(self._restrict(circuit, drained))
        if self.opening_mm is not None:
            said.append(self._open(circuit))
        first["assumed"] = False
        return circuit.done(", ".join([first["name"], *said]))

    def _leave(self, drained: Document, first: Document) -> str:
        assert self.outlet_mm is not None
        if drained["kind"] == "turbo":
            drained["place"] = {"fixed_to": "engine", "at_mm": self.outlet_mm}
            drained["ports"] = [each for each in drained["ports"] if each["port"] != "drain"]
            drained["assumed"] = False
        if first["route"] or drained["kind"] == "head":
            first["route"] = [{"at_mm": self.outlet_mm}, *first["route"][1:]]
            _told_by_route(first)
        x, y, z = self.outlet_mm
        return f"outlet at {x:g} ahead, {y:g} left, {z:g} up"

    def _seal(self, drained: Document) -> str:
        if drained["kind"] != "turbo":
            raise refused("seal_height_mm", "is a turbo's; a head has walls")
        drained["seal_height_mm"] = self.seal_height_mm
        return f"seals {self.said('seal_height_mm')} over its flange"

    def _enter(self, circuit: Plumbing, last: Document, name: str) -> str:
        assert self.entry_mm is not None
        x, y, depth = self.entry_mm
        side = "under" if depth >= 0 else "over"
        words = f"enters {x:g} ahead, {y:g} left, {abs(depth):g} {side} the rail"
        into = circuit.component(last["end"]["component"])
        if into["kind"] == "crankcase":
            self._into_block(circuit, last)
            return words
        if into["kind"] != "pan_region":
            raise refused("entry_mm", "needs a drain that ends in the pan or the block")
        bosses: list[Document] = circuit.document["pan"]["bosses"]
        boss = next((each for each in bosses if each["id"] == last["end"]["port"]), None)
        here = {"x_mm": x, "y_mm": y, "depth_mm": depth}
        if boss is None or any(abs(boss[key] - here[key]) > _SAME for key in here):
            bore = _bore_of(last["line"]) if boss is None else boss["bore_mm"]
            bosses.append(
                {
                    "kind": "turbo_drain", "id": _BOSS, "name": f"entry of the {name}"[:80],
                    "bore_mm": bore, "fixing": "through_fitting", **here,
                }
            )  # fmt: skip
            last["end"]["port"] = _BOSS
        if len(last["route"]) > 1:
            last["route"][-1] = {"at_mm": (x, y, -depth)}
        return words

    def _into_block(self, circuit: Plumbing, last: Document) -> None:
        """The block has no bosses of its own: its line's route says where it comes in."""
        assert self.entry_mm is not None
        x, y, depth = self.entry_mm
        outlet, _ = places_of(circuit.done("").build, last["id"])
        if outlet is None:
            raise refused("entry_mm", "needs the place where oil leaves first")
        begins = {"at_mm": [round(each * 1e3, 1) for each in outlet.tolist()]}
        last["route"] = [begins, *last["route"][1:-1], {"at_mm": (x, y, -depth)}]
        _told_by_route(last)

    def _meet(self, circuit: Plumbing, first: Document) -> str:
        assert self.meets_mm is not None
        junction = circuit.component(first["end"]["component"])
        if junction["kind"] in ("pan_region", "crankcase"):
            raise refused("meets_mm", "needs a line that meets another's; this one goes on alone")
        junction["place"] = {"fixed_to": "engine", "at_mm": self.meets_mm}
        junction["ports"] = []
        x, y, z = self.meets_mm
        return f"meets the other's line at {x:g} ahead, {y:g} left, {z:g} up"

    def _bend(self, circuit: Plumbing, first: Document) -> str:
        """Its line's route anew: from where oil leaves over the bends to where it goes."""
        assert self.bends is not None
        outlet, end = places_of(circuit.done("").build, self.run)
        if outlet is None or end is None:
            raise refused("bends", "needs the places of its line's two ends first")
        ways = [each.model_dump() for each in self.bends]
        ends = [{"at_mm": [round(mm * 1e3, 1) for mm in place.tolist()]} for place in (outlet, end)]
        first["route"] = [ends[0], *ways, ends[1]]
        _told_by_route(first)
        count = len(ways)
        return f"{count or 'no'} bend{'' if count == 1 else 's'} on its way"

    def _size(self, circuit: Plumbing, chain: list[Document]) -> str:
        assert self.dash is not None
        for run in chain:
            line = {key: value for key, value in run["line"].items() if key != "bore_mm"}
            run["line"] = {**line, "dash": self.dash}
            if run["line"]["kind"] not in ("hose", "hard_line"):
                run["line"] = {"kind": "hose", "dash": self.dash}
            for end in ("start", "end"):
                narrowest = run[end].get("narrowest_mm")
                if narrowest is not None:
                    run[end]["narrowest_mm"] = max(narrowest, self.dash / 16 * _INCH - 2)
        for boss in circuit.document["pan"]["bosses"]:
            if boss["id"] == chain[-1]["end"]["port"]:
                boss["bore_mm"] = max(boss["bore_mm"], round(self.dash / 16 * _INCH, 2))
        return f"size {self.dash}"

    def _restrict(self, circuit: Plumbing, drained: Document) -> str:
        run = circuit.run_into(drained, "feed")
        if run is None:
            raise refused("restrictor_mm", "needs a feed to be in; there is none")
        before = circuit.component(run["start"]["component"])
        if before["kind"] == "restrictor":
            before["bore_mm"] = self.restrictor_mm
        else:
            name = f"{drained['name']}'s restrictor"
            hole = circuit.add("restrictor", name, bore_mm=self.restrictor_mm)
            circuit.insert(run, (hole, "a"), (hole, "b"), f"restrictor to {drained['name']}", OPEN)
        return f"restrictor {self.said('restrictor_mm')}"

    def _open(self, circuit: Plumbing) -> str:
        breather = circuit.only("breather")
        breather["opening_mm"] = self.opening_mm
        return f"breather {self.said('opening_mm')}"


def _bore_of(line: Document) -> float:
    dash = line.get("dash")
    return float(line.get("bore_mm") or round((dash or 10) / 16 * _INCH, 2))


def _told_by_route(run: Document) -> None:
    """A run with a route has that route's length."""
    if len(run["route"]) > 1:
        run["line"].pop("length_mm", None)
