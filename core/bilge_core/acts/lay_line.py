"""A line laid: its way in the car, its kind and size, its ends; and a port told."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, Typed, most
from bilge_core.acts.drain_tuned import LineBend
from bilge_core.acts.plumbing import Plumbing, refused
from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Faces
from bilge_core.document.circuit.run import (
    LONGEST_LINE,
    MOST_CORNERS,
    MOST_FITTINGS,
    Dash,
    HardLine,
    Hose,
)
from bilge_core.document.ids import Document
from bilge_core.lines.chain import chain_of
from bilge_core.physics.axes import engine_to_car
from bilge_core.shop import is_own
from bilge_core.shop.threads import JOINT_WANTED, joint_of

Spot = tuple[Length, Length, Length]
_FROM_RAIL = "ahead of the rail's rear face, left of the crank, over the rail, along the car"
_KEPT = frozenset(Hose.model_fields) & frozenset(HardLine.model_fields) - {"kind"}


def in_engine(build: Build, spots: Sequence[Sequence[float]]) -> list[list[float]]:
    """Places in the car's frame as the document has them, in the engine's; to 0.01 mm.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> in_engine(build, [[100.0, 50.0, 20.0]])  # its engine stands upright, along the car
    [[100.0, 50.0, 20.0]]
    """
    turned = np.asarray(spots, dtype=np.float64) @ engine_to_car(build.car)
    return [[round(float(value), 2) + 0.0 for value in row] for row in turned]


class LayLine(Act):
    """A hose or hard line as it is made up and laid: what is not told stays as it is."""

    kind: Literal["lay_line"]
    run: str = Field(description="the line, by its id")
    made_of: Literal["hose", "hard_line"] | None = None
    dash: Dash | None = None
    points: list[LineBend] | None = Field(
        default=None,
        max_length=MOST_CORNERS,
        description=f"its way, both ends among it: {_FROM_RAIL}; an empty list takes it away",
    )
    length_mm: Typed | None = Field(
        default=None, le=LONGEST_LINE, description="a rough length; takes its way away"
    )
    slack_mm: Length | None = Field(default=None, ge=0, le=most(Hose, "slack_mm"))
    clips_mm: Typed | None = Field(default=None, le=most(Hose, "clips_mm"))
    wall_mm: Typed | None = Field(default=None, le=most(HardLine, "wall_mm"))
    sleeve: bool | None = None
    start_deg: Literal[0, 45, 90] | None = None
    end_deg: Literal[0, 45, 90] | None = None
    start_fittings: list[str] | None = Field(default=None, max_length=MOST_FITTINGS)
    end_fittings: list[str] | None = Field(default=None, max_length=MOST_FITTINGS)

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        run = circuit.run(self.run)
        said: list[str] = []
        if self.made_of is not None or self.dash is not None:
            said.append(self._make(run))
        line = run["line"]
        if line["kind"] not in ("hose", "hard_line"):
            raise refused("run", "is no hose and no hard line: say which it is made of")
        if self.points is not None:
            said.append(self._lay(build, run))
        if self.length_mm is not None:
            run["route"], line["length_mm"] = [], self.length_mm
            said.append(f"{self.said('length_mm')} long")
        said += self._figures(line)
        said += self._ends(run)
        run["assumed"] = False
        if not said:
            raise refused("kind", "changes nothing: say what is to be another")
        return circuit.done(", ".join([run["name"], *said]))

    def _make(self, run: Document) -> str:
        line = run["line"]
        kind = self.made_of or line["kind"]
        if kind not in ("hose", "hard_line"):
            raise refused("made_of", "must be said: this run is a passage in the block")
        dash = self.dash or line.get("dash")
        kept = {key: line[key] for key in _KEPT if key in line}
        run["line"] = {**kept, "kind": kind, "dash": dash}
        if self.dash is not None:
            run["line"]["bore_mm"] = None
        return f"{kind.replace('_', ' ')}{f', size {dash}' if dash else ''}"

    def _lay(self, build: Build, run: Document) -> str:
        points = self.points or []
        if not points:
            run["route"] = []
            return "no way of its own"
        if len(points) < 2:
            raise refused("points", "must be two at least: where it begins and where it ends")
        spots = in_engine(build, [each.at_mm for each in points])
        inner = range(1, len(points) - 1)
        run["route"] = [
            {"at_mm": spot, "radius_mm": points[at].radius_mm if at in inner else None}
            for at, spot in enumerate(spots)
        ]
        for at, (here, there) in enumerate(itertools.pairwise(spots)):
            if here == there:
                raise refused(f"points.{at + 1}.at_mm", "is where the point before it is")
        run["line"]["length_mm"] = None
        bends = len(points) - 2
        return f"laid, {bends or 'no'} bend{'' if bends == 1 else 's'}"

    def _figures(self, line: Document) -> list[str]:
        said = []
        if self.slack_mm is not None:
            if line["kind"] != "hose":
                raise refused("slack_mm", "is a hose's; a hard line has none")
            line["slack_mm"] = self.slack_mm
            said.append(f"{self.said('slack_mm')} of slack")
        if self.wall_mm is not None:
            if line["kind"] != "hard_line":
                raise refused("wall_mm", "is a hard line's")
            line["wall_mm"] = self.wall_mm
            said.append(f"wall {self.said('wall_mm')}")
        if self.clips_mm is not None:
            line["clips_mm"] = self.clips_mm
            said.append(f"a clip every {self.said('clips_mm')}")
        if self.sleeve is not None:
            line["sleeve"] = self.sleeve
            said.append("heat sleeve" if self.sleeve else "no heat sleeve")
        return said

    def _ends(self, run: Document) -> list[str]:
        said = []
        for which in ("start", "end"):
            turns: int | None = getattr(self, f"{which}_deg")
            if turns is not None:
                if run["line"]["kind"] != "hose":
                    raise refused(f"{which}_deg", "is a hose end's; a tube is bent")
                run[which]["hose_end_deg"] = turns
                said.append(f"hose end {turns}° at its {which}" if turns else f"straight {which}")
            keys: list[str] | None = getattr(self, f"{which}_fittings")
            if keys is not None:
                if chain_of([key for key in keys if not is_own(key)]) is None:
                    raise refused(f"{which}_fittings", "must be fittings of the shop, by their key")
                run[which]["fittings"] = keys
                said.append(f"fittings at its {which}")
        return said


class SetPort(Act):
    """Where a port is, which way it faces, what thread it shows."""

    kind: Literal["set_port"]
    component: str
    port: str
    at_mm: Spot | None = Field(default=None, description=_FROM_RAIL)
    faces: Faces | None = None
    thread: str | None = Field(default=None, max_length=40, description="as 'taper 1/2 female'")

    @override
    def done(self, build: Build) -> Done:
        circuit = Plumbing(build)
        part = circuit.component(self.component)
        known = build.circuit.component(self.component)
        assert known is not None
        if known.port_of(self.port) is None:
            words = ", ".join(each.key for each in known.PORTS)
            raise refused("port", f"must be a port of {known.name}: {words}")
        if self.thread is not None and self.thread and joint_of(self.thread) is None:
            raise refused("thread", JOINT_WANTED)
        ports: list[Document] = part["ports"]
        own = next((each for each in ports if each["port"] == self.port), None)
        if own is None:
            own = {"port": self.port, "thread": None, "at_mm": None, "faces": None}
            ports.append(own)
        said = []
        if self.at_mm is not None:
            fixed = known.place is not None and known.place.fixed_to == "car"
            spot = list(self.at_mm) if fixed else in_engine(build, [self.at_mm])[0]
            own["at_mm"] = spot
            x, y, z = self.at_mm
            said.append(f"at {x:g} ahead, {y:g} left, {z:g} up")
        if self.faces is not None:
            own["faces"] = self.faces
            said.append(f"faces {self.faces}")
        if self.thread is not None:
            own["thread"] = self.thread or None
            said.append(self.thread or "thread not known")
        if not said:
            raise refused("kind", "changes nothing: say what is to be another")
        port = known.port_of(self.port)
        assert port is not None
        return circuit.done(", ".join([f"{known.name}, {port.words}", *said]))
