"""The filter somewhere else, and a second one beside it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Typed, most
from bilge_core.acts.plumbing import Plumbing, hose, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.run import Dash


class MoveFilter(Act):
    """The filter off the block to a base with one or two, by a take-off plate and two lines.

    Common practice, no published source: lines of size 10 or 12; of a base's four ports those that
    are not used are plugged.
    """

    kind: Literal["move_filter"]
    filters: Literal[1, 2] = 1
    dash: Dash = 12
    holds_l: Typed | None = Field(
        default=None, le=most(Component, "holds_l"), description="with its lines, hot"
    )
    fill_up: bool = Field(default=True, description="with what they hold more than the old one")

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        if not circuit.of_kind("filter"):
            raise refused("kind", "needs a filter on the block; it was moved already")
        old = circuit.only("filter")
        into, out = circuit.run_into(old, "inlet"), circuit.run_from(old, "outlet")
        if into is None or out is None:
            raise refused("kind", "needs both ports of the filter joined")
        plate = circuit.add("take_off_plate", "take-off plate", after=old)
        base = circuit.add(
            "remote_filter", "remote filter", after=plate, filters=self.filters,
            bypass_bar=old["bypass_bar"], drop=old["drop"], plugged=["in_right", "out_right"],
        )  # fmt: skip
        into["end"] |= {"component": plate["id"], "port": "inlet"}
        out["start"] |= {"component": plate["id"], "port": "outlet"}
        line = hose(self.dash)
        there, back = (base, "in_left"), (base, "out_left")
        circuit.join("to the remote filter", "pressure", (plate, "line_out"), there, line)
        circuit.join("from the remote filter", "pressure", back, (plate, "line_in"), line)
        held = old["holds_l"]
        circuit.components.remove(old)
        if self.holds_l is not None and held is not None:
            more = round(self.holds_l - held, 3)
            circuit.hold(base, more, self.fill_up)
        elif self.holds_l is not None:
            circuit.hold(base, self.holds_l, self.fill_up)
        if self.holds_l is not None or held is not None:
            base["holds_l"] = self.holds_l if self.holds_l is not None else held
        what = "two filters" if self.filters == 2 else "filter"
        return circuit.done(f"{what} on a remote base, lines of size {self.dash}")


class SecondFilter(Act):
    """A second filter on a remote base."""

    kind: Literal["second_filter"]
    holds_l: Typed | None = Field(
        default=None, le=most(Component, "holds_l"), description="the second alone, hot"
    )
    fill_up: bool = True

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        single = [each for each in circuit.of_kind("remote_filter") if each["filters"] == 1]
        if not single:
            raise refused("kind", "needs a remote base with one filter: move the filter first")
        base = single[0]
        held = base["holds_l"] or 0.0
        base["filters"] = 2
        if self.holds_l is not None:
            circuit.hold(base, self.holds_l, self.fill_up)
            base["holds_l"] = round(held + self.holds_l, 3)
        return circuit.done("second filter on the remote base")
