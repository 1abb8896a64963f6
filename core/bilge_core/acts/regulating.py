"""Where the pressure is limited, and which way oil goes into the gallery."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.plumbing import Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.pumps import Regulator
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document


class FitRegulator(Act):
    """A regulator in the lines, its bypass led back to the pan or to the pump's inlet.

    With the engine's own relief blocked the pump's return port is free for it.
    """

    kind: Literal["fit_regulator"]
    opens_bar: Typed = Field(le=most(Regulator, "opens_bar"))
    bypass_to: Literal["pan", "pump_inlet"] = "pan"
    block_relief: bool = True
    dash: Dash = 10

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        run = circuit.feed_line()
        if run is None:
            raise refused("kind", "needs a line outside the engine: move the filter first")
        if self.bypass_to == "pump_inlet" and not self.block_relief:
            words = "is taken by the engine's own relief: block that, or lead it to the pan"
            raise refused("bypass_to", words)
        pump = circuit.only("pressure_stage")
        if self.block_relief:
            self._block(circuit, pump)
        before = circuit.component(run["start"]["component"])
        regulator = circuit.add("regulator", "regulator", after=before, opens_bar=self.opens_bar)
        line = {key: value for key, value in run["line"].items() if key != "length_mm"}
        circuit.insert(run, (regulator, "inlet"), (regulator, "outlet"), "from the regulator", line)
        back = (
            (circuit.only("pan_region"), "returns")
            if self.bypass_to == "pan"
            else (pump, "relief_return")
        )
        name = "regulator's bypass"
        circuit.join(name, "return", (regulator, "bypass"), back, hose(self.dash))
        own = ", the engine's own relief blocked" if self.block_relief else ""
        place = self.bypass_to.replace("_", "'s ")
        said = self.said("opens_bar", "bar")
        return circuit.done(f"regulator at {said}, bypass to the {place}{own}")

    def _block(self, circuit: Plumbing, pump: Document) -> None:
        for relief in circuit.of_kind("relief"):
            bypass = circuit.run_from(relief, "bypass")
            if bypass is not None:
                circuit.drop_run(bypass)
            circuit.splice(relief, "inlet", "outlet")
        if circuit.run_into(pump, "relief_return") is None:
            circuit.plug(pump, "relief_return")


class DirectFeed(Act):
    """The line from the remote filter straight into the gallery, the old passage blocked."""

    kind: Literal["direct_feed"]
    dash: Dash = 10

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        gallery = circuit.only("gallery")
        if circuit.run_into(gallery, "second_feed") is not None:
            raise refused("kind", "is there already")
        plates = circuit.of_kind("take_off_plate")
        back = circuit.run_into(plates[0], "line_in") if plates else None
        if back is None:
            raise refused("kind", "needs a line from a remote filter: move the filter first")
        old = circuit.run_from(plates[0], "outlet")
        if old is not None:
            circuit.drop_run(old)
        back["end"] |= {"component": gallery["id"], "port": "second_feed"}
        back["line"] = hose(self.dash)
        back["name"] = "direct feed of the gallery"
        circuit.plug(plates[0], "outlet", "line_in")
        circuit.plug(gallery, "feed")
        return circuit.done("direct feed of the gallery, the old passage blocked")
