"""Coolers, and the plate that sends oil to one."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, least, most
from bilge_core.acts.bottle import cooler_return
from bilge_core.acts.plumbing import OPEN, Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.feeding import Cooler, SandwichPlate, Thermostat
from bilge_core.document.circuit.run import Dash
from bilge_core.document.ids import Document


def under_filter(circuit: Plumbing, thermostat_c: float | None) -> Document:
    """A new sandwich plate under what sits on the filter's pad, its cooler ports plugged.

    Raises
    ------
    InvalidInput
        If there is nothing on the block to put it under.
    """
    pads = circuit.of_kind("filter", "take_off_plate")
    run = circuit.run_into(pads[0], "inlet") if pads else None
    if run is None:
        raise refused("kind", "needs a filter on the block to go under; there is none")
    before = circuit.component(run["start"]["component"])
    plate = circuit.add(
        "sandwich_plate", "sandwich plate", after=before, thermostat_c=thermostat_c,
        plugged=["cooler_out", "cooler_in"],
    )  # fmt: skip
    circuit.insert(run, (plate, "inlet"), (plate, "outlet"), "plate to filter", OPEN)
    return plate


class FitSandwichPlate(Act):
    """A plate under the filter, its cooler ports plugged until a cooler is fitted."""

    kind: Literal["fit_sandwich_plate"]
    thermostat_c: Typed | None = Field(
        default=None,
        ge=least(SandwichPlate, "thermostat_c"),
        le=most(SandwichPlate, "thermostat_c"),
    )

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if circuit.of_kind("sandwich_plate"):
            raise refused("kind", "is there already: one plate goes under a filter")
        under_filter(circuit, self.thermostat_c)
        with_it = ", with a thermostat" if self.thermostat_c else ""
        return circuit.done(f"sandwich plate under the filter{with_it}")


class FitCooler(Act):
    """An oil cooler, in the lines of a filter that was moved, or at a plate under it.

    With lines to a remote filter it goes behind that, else to a sandwich plate; a further one
    behind the last. A thermostat in the lines or in the plate lets oil by until it is warm.
    """

    kind: Literal["fit_cooler"]
    cooler: Literal["air", "plate"] = "air"
    thermostat_c: Typed | None = Field(
        default=None,
        ge=least(Thermostat, "opens_c"),
        le=most(Thermostat, "opens_c"),
        description="null: none",
    )
    holds_l: Typed | None = Field(
        default=None, le=most(Component, "holds_l"), description="with its lines, hot"
    )
    rating_kw: Typed | None = Field(default=None, le=most(Cooler, "rating_kw"))
    rated_over_kelvin: Typed | None = Field(
        default=None,
        ge=least(Cooler, "rated_over_kelvin"),
        le=most(Cooler, "rated_over_kelvin"),
        description="between oil and air or water, at that rating",
    )
    dash: Dash = 10
    fill_up: bool = Field(default=True, description="with as much oil as it holds")

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        kind = "cooler" if self.cooler == "air" else "plate_cooler"
        name = "oil cooler" if self.cooler == "air" else "plate cooler"
        rated = {"rating_kw": self.rating_kw, "rated_over_kelvin": self.rated_over_kelvin}
        run = cooler_return(circuit) or self._from_remote(circuit)
        if run is not None:
            before = circuit.component(run["start"]["component"])
            cooler = circuit.add(kind, name, after=before, **rated)
            self._in_line(circuit, run, cooler)
        else:
            plate = next(iter(circuit.of_kind("sandwich_plate")), None)
            if plate is None:
                plate = under_filter(circuit, self.thermostat_c)
            elif self.thermostat_c is not None:
                plate["thermostat_c"] = self.thermostat_c
            cooler = circuit.add(kind, name, after=plate, **rated)
            self._looped(circuit, plate, cooler)
        if self.cooler == "plate":
            self._with_water(circuit, cooler)
        circuit.hold(cooler, self.holds_l, self.fill_up)
        held = f", holds {self.said('holds_l', 'L')}" if self.holds_l else ""
        warm = ", with a thermostat" if self.thermostat_c else ""
        return circuit.done(f"{cooler['name']}{warm}{held}")

    def _from_remote(self, circuit: Plumbing) -> Document | None:
        for base in circuit.of_kind("remote_filter"):
            for port in ("out_left", "out_right"):
                run = circuit.run_from(base, port)
                if run is not None:
                    return run
        return None

    def _in_line(self, circuit: Plumbing, run: Document, cooler: Document) -> None:
        line = hose(self.dash)
        first = not [c for c in circuit.of_kind("cooler", "plate_cooler") if c is not cooler]
        if self.thermostat_c is not None and not first:
            self._where_one_is_missing(circuit)
        if self.thermostat_c is None or not first:
            circuit.insert(run, (cooler, "inlet"), (cooler, "outlet"), "from the cooler", line)
            return
        before = circuit.component(run["start"]["component"])
        valve = circuit.add("thermostat", "thermostat", after=before, opens_c=self.thermostat_c)
        circuit.insert(run, (valve, "inlet"), (valve, "outlet"), "behind the thermostat", line)
        self._looped(circuit, valve, cooler)

    def _where_one_is_missing(self, circuit: Plumbing) -> None:
        """A further cooler is behind the first, whose plate or valve lets oil by for both."""
        for kind, field in (("sandwich_plate", "thermostat_c"), ("thermostat", "opens_c")):
            for holder in circuit.of_kind(kind):
                if holder.get(field) is None:
                    holder[field] = self.thermostat_c

    def _looped(self, circuit: Plumbing, plate: Document, cooler: Document) -> None:
        line = hose(self.dash)
        out, back = (plate, "cooler_out"), (plate, "cooler_in")
        circuit.join("to the cooler", "pressure", out, (cooler, "inlet"), line)
        circuit.join("from the cooler", "pressure", (cooler, "outlet"), back, line)

    def _with_water(self, circuit: Plumbing, cooler: Document) -> None:
        sources = circuit.of_kind("water_source")
        water = sources[0] if sources else circuit.add("water_source", "engine's water")
        line: Document = {"kind": "hose"}
        circuit.join("water to the cooler", "water", (water, "flow"), (cooler, "water_in"), line)
        circuit.join("water back", "water", (cooler, "water_out"), (water, "back"), line)
