"""What gauge readings tell of the engine, taken over into the circuit: the one act that does."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done
from bilge_core.acts.plumbing import Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import known_by
from bilge_core.document.circuit.engine_side import Jets
from bilge_core.document.pump import GaugeReading
from bilge_core.network.gauging import Told, told_by_gauge


def _not_told(found: Told, build: Build) -> str:
    """What readings did not tell, and which told nothing."""
    aside = [
        f"{len(rows)} {why}"
        for rows, why in (
            (found.on_relief, "on the relief"), (found.other, "with oil too cold or too hot")
        )
        if rows
    ]  # fmt: skip
    told = f"told nothing: {', '.join(aside)}; " if aside else ""
    unknown = ["the pump's slip"]
    if build.circuit.of_kind(Jets):
        unknown.append("where jets open" if found.jets else "what jets take")
    return f"{told}not told: {', '.join(unknown)}"


def _of_jets(found: Told) -> str:
    if found.jets is None:
        return ""
    share, by = found.jets.share, found.jets.uncertainty_pct
    return f"; jets spray {share:.2f} of what such holes do, to {by:.0f} %"


class Calibrate(Act):
    """The bearings of the main gallery, and its jets, as gauge readings tell of them."""

    kind: Literal["calibrate"]
    readings: list[GaugeReading] = Field(min_length=1, max_length=40)

    @override
    def done(self, build: Build) -> Done:
        circuit, of = Plumbing(build), build.circuit
        if of.relief_bar is None:
            raise refused("readings", "tell nothing while it is not known where the relief opens")
        found = told_by_gauge(build, self.readings)
        told = found.bearings
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
        if found.jets:
            gallery["jets"] = found.jets.model_dump(mode="json")
        words = f"bearings by {told.source}: {told.flow_l_min:.0f} L/min at {told.at_bar:g} bar"
        return circuit.done(
            f"{words}, to {told.uncertainty_pct:.0f} %{_of_jets(found)}; {_not_told(found, build)}"
        )
