"""What gauge readings tell of the engine, taken over into the circuit: the one act that does."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done
from bilge_core.acts.plumbing import Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import bearings_told, known_by
from bilge_core.document.pump import GaugeReading


class Calibrate(Act):
    """The bearings of the main gallery as gauge readings tell of them."""

    kind: Literal["calibrate"]
    readings: list[GaugeReading] = Field(min_length=1, max_length=40)

    @override
    def done(self, build: Build) -> Done:
        circuit, of = Plumbing(build), build.circuit
        told = bearings_told(of.pump, of.relief_bar, self.readings, build.oil.temperature_c)
        if of.relief_bar is None:
            raise refused("readings", "tell nothing while it is not known where the relief opens")
        if told is None:
            raise refused(
                "readings",
                "say nothing of the engine: each is on the relief, or its oil was not within 20 K "
                "of the running oil; read one hot at middling rpm",
            )
        gallery = circuit.only("gallery")
        gallery["bearings"] = {
            **told.model_dump(mode="json"), "circuit": known_by(circuit.document["circuit"])
        }  # fmt: skip
        return circuit.done(
            f"bearings by {told.source}: {told.flow_l_min:.0f} L/min at {told.at_bar:g} bar"
        )
