"""Taking a circuit apart and joining it again, on plain data: what every act on it is made of."""

from __future__ import annotations

import copy
from collections.abc import Callable, Iterable
from typing import Any

from bilge_core.acts.act import Done, build_with
from bilge_core.acts.names import free_name
from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.ids import Document
from bilge_core.errors import InvalidInput, Problem
from bilge_core.oil import GRADES, hot_volume_ratio
from bilge_core.quantities import si_from

OPEN: Document = {"kind": "open"}

_FIRST = 9_000_000
"""Numbers of ids made up here; the server gives real ones."""


def _names(rows: Iterable[Document]) -> set[str]:
    return {each["name"] for each in rows}


def refused(field: str, words: str) -> InvalidInput:
    """A refusal about one field of an act."""
    return InvalidInput([Problem(field, words)])


def hose(dash: int) -> Document:
    """A hose of a dash size, its length not known yet.

    Examples
    --------
    >>> hose(10)
    {'kind': 'hose', 'dash': 10}
    """
    return {"kind": "hose", "dash": dash}


class Plumbing:
    """A build's circuit being changed."""

    def __init__(self, build: Build) -> None:
        self._build = build
        self.document: Document = build.model_dump(mode="json")
        self._made = _FIRST

    @property
    def components(self) -> list[Document]:
        """All components, in the document's order."""
        parts: list[Document] = self.document["circuit"]["components"]
        return parts

    @property
    def runs(self) -> list[Document]:
        """All runs, in the document's order."""
        runs: list[Document] = self.document["circuit"]["runs"]
        return runs

    def of_kind(self, *kinds: str) -> list[Document]:
        """Components of some kinds, in the document's order."""
        return [each for each in self.components if each["kind"] in kinds]

    def only(self, kind: str) -> Document:
        """The first component of a kind.

        Raises
        ------
        InvalidInput
            If there is none.
        """
        found = self.of_kind(kind)
        if not found:
            raise refused("kind", f"needs a {kind.replace('_', ' ')} in the circuit; there is none")
        return found[0]

    def component(self, component_id: str, field: str = "component") -> Document:
        """The component of an id.

        Raises
        ------
        InvalidInput
            Naming the act's field, if there is none.
        """
        found = next((each for each in self.components if each["id"] == component_id), None)
        if found is None:
            raise refused(field, f"is no component of this circuit ({component_id[:20]!r})")
        return found

    def run(self, run_id: str, field: str = "run") -> Document:
        """The run of an id.

        Raises
        ------
        InvalidInput
            Naming the act's field, if there is none.
        """
        found = next((each for each in self.runs if each["id"] == run_id), None)
        if found is None:
            raise refused(field, "must be a line of this circuit, by its id")
        return found

    def run_into(self, component: Document, port: str) -> Document | None:
        """A run that ends at a port."""
        return next(iter(self._runs("end", component, port)), None)

    def run_from(self, component: Document, port: str) -> Document | None:
        """A run that starts at a port."""
        return next(iter(self._runs("start", component, port)), None)

    def runs_at(self, component: Document) -> list[Document]:
        """All runs that start or end at a component."""
        return [
            run
            for run in self.runs
            if component["id"] in (run["start"]["component"], run["end"]["component"])
        ]

    def upstream_of(self, run: Document) -> Document | None:
        """The run under pressure that what flows in a run came through before; None at a pump."""
        part = self.component(run["start"]["component"])
        kind, leaves = CLASSES[part["kind"]], run["start"]["port"]
        for port in kind.PORTS:
            before = self.run_into(part, port.key)
            ways = [each.key for each in kind.from_port(port.key)]
            if before is not None and before["service"] == "pressure" and leaves in ways:
                return before
        return None

    def feed_line(self) -> Document | None:
        """The last hose or hard line on the way from the pump to the gallery; None: all is cast."""
        gallery = self.only("gallery")
        here = self.run_into(gallery, "second_feed") or self.run_into(gallery, "feed")
        passed: list[Document] = []
        while here is not None and here not in passed:
            passed.append(here)
            if here["line"]["kind"] in ("hose", "hard_line"):
                return here
            here = self.upstream_of(here)
        return None

    def _runs(self, which: str, component: Document, port: str) -> list[Document]:
        there = {"component": component["id"], "port": port}
        return [run for run in self.runs if there.items() <= run[which].items()]

    def add(self, kind: str, name: str, after: Document | None = None, **fields: Any) -> Document:
        """A new component, behind another in the document's order."""
        self._made += 1
        part: Document = {
            "id": f"c{self._made}",
            "kind": kind,
            "name": free_name(_names(self.components), name),
            "plugged": [],
            **fields,
        }
        at = self.components.index(after) + 1 if after in self.components else len(self.components)
        self.components.insert(at, part)
        return part

    def join(
        self,
        name: str,
        service: str,
        start: tuple[Document, str],
        end: tuple[Document, str],
        line: Document,
    ) -> Document:
        """A new run from one port to another; what was plugged there is unplugged."""
        self._made += 1
        run: Document = {
            "id": f"r{self._made}",
            "name": free_name(_names(self.runs), name),
            "service": service,
            "start": _end(*start),
            "end": _end(*end),
            "line": copy.deepcopy(line),
        }
        self.runs.append(run)
        return run

    def insert(
        self, run: Document, into: tuple[Document, str], out_of: tuple[Document, str], name: str,
        line: Document,
    ) -> Document:  # fmt: skip
        """Put a component into a run: the run ends there, and a new one goes on from it.

        Where the line is cut is not known, so neither piece keeps its length or route.
        """
        end = run["end"]
        run["line"] = {key: value for key, value in run["line"].items() if key != "length_mm"}
        run["route"] = []
        run["end"] = _end(*into)
        whole = self.component(end["component"])
        rest = self.join(name, run["service"], out_of, (whole, end["port"]), line)
        rest["end"] = end
        return rest

    def plug(self, component: Document, *ports: str) -> None:
        """Plug ports that nothing is joined to."""
        component["plugged"] = [*component["plugged"], *ports]

    def drop_run(self, run: Document) -> None:
        """Take a run away; its ports are left open."""
        self.runs.remove(run)

    def drop(self, component: Document) -> None:
        """Take a component away with all its runs."""
        for run in self.runs_at(component):
            self.runs.remove(run)
        self.components.remove(component)

    def splice(self, component: Document, entry: str, leave: str) -> None:
        """Take a component out of a line: the run into it goes on to where the next one went."""
        before, after = self.run_into(component, entry), self.run_from(component, leave)
        assert before is not None and after is not None
        if before["line"]["kind"] == "open":
            before["line"] = after["line"]
            before["route"] = after.get("route", [])
            before["name"] = after["name"]
        before["end"] = after["end"]
        self.runs.remove(after)
        self.components.remove(component)

    def hold(self, component: Document, volume_l: float | None, fill_up: bool) -> None:
        """What a new component holds is away from the pan; filled up, the pan keeps its oil.

        What was away in all so far is told of the crankcase, so that the sum goes on being right.
        """
        if volume_l is None:
            return
        oil = self.document["oil"]
        if all(each.get("holds_l") is None for each in self.components):
            self.only("crankcase")["holds_l"] = oil["away_l"]
        component["holds_l"] = volume_l
        if fill_up:
            oil["volume_l"] = round(oil["volume_l"] + self._cold(volume_l), 3)
            if oil["mark_l"] is not None:
                oil["mark_l"] = round(oil["mark_l"] + self._cold(volume_l), 3)

    def _cold(self, volume_l: float) -> float:
        oil = self._build.oil
        temperature = si_from(oil.temperature_c, "temperature", "°C")
        return volume_l / hot_volume_ratio(GRADES[oil.grade], temperature)

    def done(self, words: str) -> Done:
        """The build with the circuit as it now is.

        Ports that a run is joined to are not plugged; a boss whose run has gone is blocked.

        Raises
        ------
        InvalidInput
            If it does not hold together.
        """
        joined = {(r[e]["component"], r[e]["port"]) for r in self.runs for e in ("start", "end")}
        drained = {run.end.port for run in self._build.circuit.runs}
        for boss in self.document["pan"]["bosses"]:
            if boss["id"] in drained - {port for _, port in joined}:
                boss["blocked"] = True  # the hole is there still
        for each in self.components:
            each["plugged"] = [key for key in each["plugged"] if (each["id"], key) not in joined]
        gauge = self.document["circuit"]["gauge"]
        if all(each["id"] != gauge for each in self.components):
            galleries = self.of_kind("gallery")
            self.document["circuit"]["gauge"] = galleries[0]["id"] if galleries else ""
        for each in self.components:
            if each.get("senses") and all(o["id"] != each["senses"] for o in self.components):
                each["senses"] = ""
        return Done(build_with(self._build, self.document), words)

    def done_with_oil(self, words: str, oil_l: Callable[[Build], float]) -> Done:
        """The same, with as much oil poured [L] as `oil_l` finds for it; the mark is there then."""
        made = self.done(words)
        document = made.build.model_dump(mode="json")
        poured = oil_l(made.build)
        document["oil"] |= {"volume_l": poured, "mark_l": poured}
        return Done(build_with(self._build, document), words)

    def has_port(self, component: Document, port: str) -> bool:
        """Whether a component's kind has a port of that key."""
        return CLASSES[component["kind"]].port_of(port) is not None


def _end(component: Document, port: str) -> Document:
    return {"component": component["id"], "port": port}
