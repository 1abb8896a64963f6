"""Ways back for oil, and ways out for gas."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.plumbing import Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import CatchCan
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document


class OutsideReturn(Act):
    """A drain line outside the engine, from a head down to the pan."""

    kind: Literal["outside_return"]
    head: str = Field(description="by its id")
    dash: Dash = 12

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        head = circuit.component(self.head, "head")
        if head["kind"] != "head":
            raise refused("head", "must be a head or cam box, by its id")
        back = (circuit.only("pan_region"), "returns")
        name = f"outside return of the {head['name']}"
        circuit.join(name, "drain", (head, "drains"), back, hose(self.dash))
        return circuit.done(f"{name}, size {self.dash}")


def _out_of(circuit: Plumbing) -> Document:
    """Where gas leaves the circuit: a breather, put in where there is none."""
    breathers = circuit.of_kind("breather")
    return breathers[0] if breathers else circuit.add("breather", "breather")


class FitCatchCan(Act):
    """A can between the crankcase and the open air; emptied by hand or drained back."""

    kind: Literal["fit_catch_can"]
    volume_l: Typed = Field(le=most(CatchCan, "volume_l"))
    drains_back: bool = Field(default=False, description="through a check valve into the pan")
    dash: Dash = 12

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if circuit.of_kind("catch_can"):
            raise refused("kind", "is there already: another breather can be led to it")
        breather = _out_of(circuit)
        can = circuit.add("catch_can", "catch can", volume_l=self.volume_l, plugged=["drain"])
        before = [
            run for run in circuit.runs
            if run["end"]["component"] == breather["id"] and run["service"] == "vent"
        ]  # fmt: skip
        for run in before:
            run["end"] |= {"component": can["id"], "port": "gas_in"}
        if not before:
            case = circuit.only("crankcase")
            line = hose(self.dash)
            circuit.join("crankcase to the can", "vent", (case, "gas"), (can, "gas_in"), line)
        out = (breather, "inlet")
        circuit.join("can to the open air", "vent", (can, "gas_out"), out, hose(self.dash))
        if self.drains_back:
            valve = circuit.add("check_valve", "can's check valve", after=can)
            back = (circuit.only("pan_region"), "returns")
            circuit.join("drain of the can", "drain", (can, "drain"), (valve, "inlet"), hose(6))
            circuit.join("can back to the pan", "drain", (valve, "outlet"), back, hose(6))
        how = "drained back" if self.drains_back else "emptied by hand"
        return circuit.done(f"catch can {self.said('volume_l', 'L')}, {how}")


class FitBreather(Act):
    """One more way up for gas: from a head, the timing chest, the crankcase or the tank."""

    kind: Literal["fit_breather"]
    at: str = Field(description="where gas comes from, by its id")
    dash: Dash = 12

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        space = circuit.component(self.at, "at")
        if not circuit.has_port(space, "gas"):
            raise refused("at", "must be a head, a timing chest, the crankcase or a tank")
        cans = circuit.of_kind("catch_can")
        end = (cans[0], "gas_in") if cans else (_out_of(circuit), "inlet")
        name = f"breathing of the {space['name']}"
        circuit.join(name, "vent", (space, "gas"), end, hose(self.dash))
        to = "the catch can" if cans else "the breather"
        return circuit.done(f"{name}, led to {to}")
