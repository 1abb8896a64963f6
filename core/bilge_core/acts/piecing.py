"""Single parts put into a line, and one more line between two ports: what no whole set covers."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import Field, ValidationError
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.plumbing import Plumbing, hose, refused
from bilge_core.acts.taking_out import THROUGH
from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import fault_of_end
from bilge_core.document.circuit.component import OIL, Service
from bilge_core.document.circuit.joining import ShutOffValve
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.circuit.run import MOST_CORNERS, Dash, Run
from bilge_core.document.ids import Document
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput
from bilge_core.lines.laid import is_line
from bilge_core.physics.axes import engine_to_car

InLine = Literal[
    "bulkhead", "check_valve", "shut_off_valve", "restrictor", "sender_tee", "tee"
]  # fmt: skip
_NAMES: dict[str, str] = {
    "bulkhead": "bulkhead fitting", "check_valve": "check valve", "shut_off_valve": "valve",
    "restrictor": "restrictor", "sender_tee": "sender tee", "tee": "tee",
}  # fmt: skip
_LONGEST_NAME = 76
"""Letters: room is left for the number that makes one of two alike another."""


class PutInLine(Act):
    """One part put into a hose or hard line: the line is cut there and goes on behind it.

    At a bend of its way both pieces keep theirs; else where it is cut is not known, and the pieces
    have no length until they are measured or laid. A tee's branch is plugged until it is used.
    """

    kind: Literal["put_in_line"]
    run: str = Field(description="the line, by its id")
    part: InLine
    at_bend: int | None = Field(
        default=None,
        ge=1,
        le=MOST_CORNERS - 2,
        description="of its way, in whose place it sits; null: not known",
    )
    bore_mm: Typed | None = Field(
        default=None, le=most(ShutOffValve, "bore_mm"), description="a restrictor's, a valve's"
    )
    opens_bar: Typed | None = Field(
        default=None,
        le=most(ShutOffValve, "opens_bar"),
        description="from which a check valve lets oil by, or under which an electric valve opens",
    )
    worked: Literal["by_hand", "electric"] | None = Field(
        default=None, description="a valve; null: by hand"
    )

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        run = circuit.run(self.run)
        if not is_line(Run.model_validate(run)):
            raise refused("run", f"is {run['name']}, no hose and no hard line that could be cut")
        if self.part == "check_valve" and run["service"] not in OIL:
            raise refused("part", f"is for oil; {run['name']} carries none")
        route = self._cut(run)
        before = circuit.component(run["start"]["component"])
        there = circuit.component(run["end"]["component"])
        part = circuit.add(self.part, _NAMES[self.part], after=before, **self._figures())
        entry, leave = THROUGH[self.part]
        name = f"{part['name']} to {there['name']}"[:_LONGEST_NAME]
        line = {key: value for key, value in run["line"].items() if key != "length_mm"}
        rest = circuit.insert(run, (part, entry), (part, leave), name, line)
        if route is not None:
            run["route"], rest["route"] = route
            self._placed(build, part, rest["route"][0]["at_mm"])
        rest["assumed"] = run.get("assumed", False)
        if self.part == "tee":
            circuit.plug(part, "c")
        bore = f", {self.said('bore_mm')}" if self.bore_mm is not None else ""
        return circuit.done(f"{part['name']}{bore} in {run['name']}"[:200])

    def _figures(self) -> Document:
        """The part's own fields, held to the limits that its kind has.

        Raises
        ------
        InvalidInput
        """
        kind = CLASSES[self.part]
        given = {"bore_mm": self.bore_mm, "opens_bar": self.opens_bar}
        for field, value in given.items():
            if value is not None and field not in kind.model_fields:
                raise refused(field, f"is none of a {_NAMES[self.part]}'s figures")
        told: Document = {field: value for field, value in given.items() if value is not None}
        if self.part == "shut_off_valve":
            worked = self.worked or "by_hand"
            if self.opens_bar is not None and worked == "by_hand":
                raise refused("opens_bar", "is an electric valve's; this one is worked by hand")
            told |= {"worked": worked}
        try:
            kind.model_validate({"kind": self.part, "name": _NAMES[self.part], **told})
        except ValidationError as error:
            raise InvalidInput(list(problems_of(error))) from None
        return told

    def _cut(self, run: Document) -> tuple[list[Document], list[Document]] | None:
        """Both pieces' ways, where it sits at a bend."""
        if self.at_bend is None:
            return None
        route: list[Document] = run.get("route", [])
        if not 1 <= self.at_bend <= len(route) - 2:
            bends = max(len(route) - 2, 0)
            words = f"1 to {bends}" if bends else "left out: its way has none"
            raise refused("at_bend", f"must be a bend of its way, {words}")
        end = {**route[self.at_bend], "radius_mm": None}
        return [*route[: self.at_bend], end], [dict(end), *route[self.at_bend + 1 :]]

    def _placed(self, build: Build, part: Document, spot: list[float]) -> None:
        """A fitting through a wall stands in the car; any other moves with the engine."""
        if self.part != "bulkhead":
            part["place"] = {"fixed_to": "engine", "at_mm": list(spot)}
            return
        turned = engine_to_car(build.car) @ np.asarray(spot, dtype=np.float64)
        at = [round(float(value), 2) + 0.0 for value in turned]
        part["place"] = {"fixed_to": "car", "at_mm": at}


class JoinPorts(Act):
    """One more line from a free port to another; what was plugged there is unplugged."""

    kind: Literal["join_ports"]
    start: str = Field(description="the component that it comes from")
    start_port: str
    end: str = Field(description="the component that it goes to")
    end_port: str
    service: Service
    made_of: Literal["hose", "hard_line"] = "hose"
    dash: Dash = 10

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        start = circuit.component(self.start, "start")
        end = circuit.component(self.end, "end")
        if start is end:
            raise refused("end", "must be another component than the one it comes from")
        line: Document = {**hose(self.dash), "kind": self.made_of}
        name = f"{start['name']} to {end['name']}"[:_LONGEST_NAME]
        ends = (start, self.start_port), (end, self.end_port)
        taken = [circuit.run_into(*each) or circuit.run_from(*each) for each in ends]
        run = circuit.join(name, self.service, *ends, line)
        self._hold(build, Run.model_validate(run), taken)
        return circuit.done(f"line from {run['name']}, size {self.dash}"[:200])

    def _hold(self, build: Build, run: Run, taken: list[Document | None]) -> None:
        """Refuse a port that is none, is taken, takes no such thing, or goes the other way."""
        for which, end, by in (("start", run.start, taken[0]), ("end", run.end, taken[1])):
            known = build.circuit.component(end.component)
            assert known is not None
            free = known.model_copy(update={"plugged": []})
            port = build.circuit.port(free, end.port, build.drain_bosses)
            words = fault_of_end(free, port, run, end, which == "start")
            if not words and port is not None and not port.many and by is not None:
                words = f"of {known.name} is taken by {by['name']}: put a tee into that line"
            if words:
                raise refused(f"{which}_port", words)
