"""An accumulator set otherwise: its size and charge, and what is in its line."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.bottle import FROM_CHECK, top_up
from bilge_core.acts.plumbing import OPEN, Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Accumulator
from bilge_core.document.circuit.joining import Restrictor, ShutOffValve
from bilge_core.document.circuit.run import LONGEST_LINE, Dash
from bilge_core.document.ids import Document


class TuneAccumulator(Act):
    """The first accumulator set otherwise; what is not told stays as it is.

    Common practice, no published source: a restrictor in its line slows the refill, and with it the
    sag that a refill causes; a valve by hand is shut while the pressure is high.
    """

    kind: Literal["tune_accumulator"]
    volume_l: Typed | None = Field(default=None, le=most(Accumulator, "volume_l"))
    precharge_bar: Typed | None = Field(default=None, le=most(Accumulator, "precharge_bar"))
    check_valve: bool | None = None
    valve: Literal["by_hand", "electric"] | None = None
    switch_bar: Typed | None = Field(
        default=None, le=most(ShutOffValve, "opens_bar"), description="of an electric valve"
    )
    restrictor: bool | None = None
    restrictor_mm: Typed | None = Field(
        default=None, le=most(Restrictor, "bore_mm"), description="its hole, where fitted"
    )
    dash: Dash | None = None
    length_mm: Typed | None = Field(default=None, le=LONGEST_LINE, description="of its line")
    fill_up: bool = Field(default=True, description="with as much oil as the bottle then takes")

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        bottle = circuit.only("accumulator")
        said: list[str] = []
        if self.volume_l is not None:
            bottle["volume_l"] = self.volume_l
            said.append(self.said("volume_l", "L"))
        if self.precharge_bar is not None:
            bottle["precharge_bar"] = self.precharge_bar
            said.append(f"charged to {self.said('precharge_bar', 'bar')}")
        line = _Line(circuit, bottle)
        if self.valve is not None or self.switch_bar is not None:
            said.append(self._switch(line))
        if self.restrictor is not None or self.restrictor_mm is not None:
            said.append(self._restrict(line))
        if self.dash is not None or self.length_mm is not None:
            said.append(self._lead(line))
        if self.check_valve is not None and self.check_valve != (line.check is not None):
            said.append(self._check(line))
        bottle["assumed"] = False
        done = circuit.done(", ".join(["accumulator", *said]))
        return top_up(build, done) if self.fill_up else done

    def _switch(self, line: _Line) -> str:
        valve = line.of_kind("shut_off_valve")
        if valve is None:
            raise refused("valve", "needs a valve in the bottle's line; there is none")
        valve["worked"] = self.valve or "electric"
        if self.switch_bar is not None:
            valve["opens_bar"] = self.switch_bar
        if valve["worked"] == "by_hand":
            valve["opens_bar"] = None
            return "valve by hand"
        if self.switch_bar is None:
            return "valve electric"
        return f"valve electric, open under {self.said('switch_bar', 'bar')}"

    def _restrict(self, line: _Line) -> str:
        there = line.of_kind("restrictor")
        if self.restrictor is False:
            if there is not None:
                line.circuit.splice(there, "a", "b")
            return "no restrictor"
        if self.restrictor_mm is None and there is None:
            raise refused("restrictor_mm", "must be told: how wide is the restrictor's hole")
        if there is None:
            there = line.circuit.add("restrictor", "bottle's restrictor", bore_mm=2.0)
            line.circuit.insert(line.last, (there, "a"), (there, "b"), "restrictor to bottle", OPEN)
        there["bore_mm"] = self.restrictor_mm or there["bore_mm"]
        return f"restrictor {there['bore_mm']:g} mm"

    def _lead(self, line: _Line) -> str:
        hose = line.first["line"]
        if self.length_mm is not None and len(line.first.get("route", [])) > 1:
            words = "is that of its way as laid: change it on Lines, or take its way away there"
            raise refused("length_mm", words)
        dash = self.dash or hose.get("dash") or 10
        long = self.length_mm or hose.get("length_mm")
        of_a_hose = hose if hose["kind"] == "hose" else {"kind": "hose"}
        bore = None if self.dash else of_a_hose.get("bore_mm")  # another size has another bore
        line.first["line"] = {**of_a_hose, "dash": dash, "bore_mm": bore, "length_mm": long}
        line.first["assumed"] = False
        return f"its line size {dash}" + (f", {long / 1e3:g} m" if long else "")

    def _check(self, line: _Line) -> str:
        circuit = line.circuit
        if line.check is not None:
            circuit.splice(line.check, "inlet", "outlet")
            return "no check valve"
        tee = line.tee
        run = None if tee is None else circuit.run_into(tee, "a")
        if run is None:
            words = "needs a line to sit in: the bottle is on a tapping of the gallery"
            raise refused("check_valve", words)
        before = circuit.component(run["start"]["component"])
        valve = circuit.add("check_valve", "check valve", after=before)
        own = {key: value for key, value in run["line"].items() if key != "length_mm"}
        circuit.insert(run, (valve, "inlet"), (valve, "outlet"), FROM_CHECK, own)
        return "check valve ahead of its tee"


class _Line:
    """A bottle's line, from where it is teed in."""

    def __init__(self, circuit: Plumbing, bottle: Document) -> None:
        self.circuit = circuit
        self.parts: list[Document] = []
        run = circuit.run_into(bottle, "line")
        if run is None:
            raise refused("kind", f"{bottle['name']} has no line: join it to the circuit first")
        self.last = self.first = run
        here = circuit.component(run["start"]["component"])
        while here["kind"] in ("shut_off_valve", "restrictor", "check_valve"):
            self.parts.append(here)
            before = circuit.run_into(here, "inlet" if here["kind"] == "check_valve" else "a")
            if before is None:
                break
            self.first = before
            here = circuit.component(before["start"]["component"])
        self.tee = here if here["kind"] == "tee" else None

    def of_kind(self, kind: str) -> Document | None:
        """The part of a kind in the line."""
        return next((each for each in self.parts if each["kind"] == kind), None)

    @property
    def check(self) -> Document | None:
        """The check valve right ahead of the tee."""
        run = None if self.tee is None else self.circuit.run_into(self.tee, "a")
        before = None if run is None else self.circuit.component(run["start"]["component"])
        return before if before is not None and before["kind"] == "check_valve" else None
