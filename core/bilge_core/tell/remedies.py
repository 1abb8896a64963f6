"""Remedies and what their trials gave, as they are kept with a study."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.forecast.lying import Lying
from bilge_core.job.difference import Work
from bilge_core.options.candidate import Candidate, Room, candidate
from bilge_core.options.prepared import Prepared
from bilge_core.options.trace import Trace
from bilge_core.options.trial import Outcome
from bilge_core.tell.numbers import mm


class CandidateKept(BaseModel):
    """A remedy made ready, as it is kept with a study."""

    key: str
    title: str
    group: str
    acts: list[dict[str, Any]]
    note: str
    words: str
    reason: str
    told: bool
    parts_of: list[str]
    same_pan: bool
    has_plates: bool
    worse: str
    more_oil_l: float
    parts: list[tuple[str, float]] | None
    operations: list[tuple[str, int]] | None
    ground_mm: float | None
    ground_spare_mm: float | None
    crank_mm: float | None
    tight: list[str]


def mm_if_known(metres: float | None) -> float | None:
    """Millimetres, or nothing where nothing is known.

    Examples
    --------
    >>> mm_if_known(0.0123), mm_if_known(None)
    (12.3, None)
    """
    return None if metres is None else mm(metres)


def kept(one: Prepared) -> CandidateKept:
    """A remedy made ready, to be kept."""
    each, work, room = one.candidate, one.work, one.room
    return CandidateKept(
        key=each.key, title=each.title, group=each.group, acts=[dict(act) for act in each.acts],
        note=each.note, words=each.words, reason=each.reason, told=each.told,
        parts_of=list(each.parts), same_pan=one.same_pan, has_plates=one.has_plates,
        worse=one.worse, more_oil_l=round(one.more_oil * 1e3, 3),
        parts=None if work is None else list(work.parts),
        operations=None if work is None else list(work.operations),
        ground_mm=None if room is None else mm_if_known(room.ground),
        ground_spare_mm=None if room is None else mm_if_known(room.ground_spare),
        crank_mm=None if room is None else mm_if_known(room.crank),
        tight=[] if room is None else list(room.tight),
    )  # fmt: skip


def read_kept(told: CandidateKept) -> Prepared:
    """The same read back, its build not worked out: see `build_of`."""
    one = Candidate(
        told.key, told.title, told.group, tuple(told.acts), told.note,  # type: ignore[arg-type]
        None, told.words, told.reason, told.told, tuple(told.parts_of),
    )  # fmt: skip
    if told.parts is None or told.operations is None:
        return Prepared(one, None, 0.0, None, "", False, False)
    si = [None if mm is None else mm * 1e-3 for mm in (told.ground_mm, told.ground_spare_mm)]
    crank = None if told.crank_mm is None else told.crank_mm * 1e-3
    return Prepared(
        one, Work(tuple(told.parts), tuple(told.operations)), told.more_oil_l * 1e-3,
        Room(si[0], si[1], crank, tuple(told.tight)), told.worse, told.same_pan, told.has_plates,
    )  # fmt: skip


def build_of(base: Build, told: CandidateKept) -> Build | None:
    """The build with a kept remedy; None where it does not apply."""
    return candidate(base, told.key, told.title, "own", told.acts).build


class LyingKept(BaseModel):
    """Where oil lay, as it is kept."""

    seconds: float
    volume: float
    near: float
    ahead: float
    left: float


class TraceKept(BaseModel):
    """A remedy over a lap, as it is kept."""

    time: tuple[float, ...]
    pressure: tuple[float, ...]
    gas: tuple[float, ...]


class OutcomeKept(BaseModel):
    """What a trial gave, as it is kept."""

    dry: float
    under: float | None
    share: float | None
    lowest: float | None
    dips: int
    mouth_dips: int
    windows: int | None
    pan: float
    base_dry: float
    ramp: float = 0.0
    lies: LyingKept | None = None
    trace: TraceKept | None = None

    @classmethod
    def of(cls, outcome: Outcome) -> OutcomeKept:
        """Of an outcome."""
        return cls.model_validate(asdict(outcome))

    def outcome(self) -> Outcome:
        """Read back."""
        lies = None if self.lies is None else Lying(**self.lies.model_dump())
        trace = None if self.trace is None else Trace(**self.trace.model_dump())
        plain = self.model_dump(exclude={"lies", "trace"})
        return Outcome(**plain, lies=lies, trace=trace)
