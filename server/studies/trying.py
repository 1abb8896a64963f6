"""What a worker does with one trial of a study."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.reach import Answer
from bilge_core.errors import BilgeError
from bilge_core.options import VERSION
from bilge_core.options.ladder import BASE
from bilge_core.options.trial import (
    BaseLap,
    InTheWindows,
    Outcome,
    Rung,
    lap_outcome,
    of_windows,
    record_outcome,
    settled_outcome,
)
from bilge_core.tell.known_by import key_of
from bilge_core.tell.remedies import CandidateKept, OutcomeKept, build_of
from loads.models import Lap
from loads.selectors import known_by
from runs.selectors import somebody_waits

from studies.basis import bare_lap, base_key, base_of, document_of
from studies.held import HeldTrial, keep, known
from studies.models import Study, StudyTrial

_ON_BASE = ("record", "worst", "windows")
_BEAT_EVERY = 0.4  # [s]
_OTHER_PAN = "the pan would feel it"


class NoLongerOursError(Exception):
    """Cancelled, or held by another worker."""


class SomebodyWaitsError(Exception):
    """A run that somebody waits for goes first."""


@dataclass(frozen=True)
class _Asked:
    key: str
    make: Callable[[], BuildDocument | None] = field(compare=False)


@lru_cache(maxsize=48)
def _built(asked: _Asked) -> BuildDocument | None:
    return asked.make()


def _document(study: Study, key: str) -> BuildDocument | None:
    """The build with a remedy, worked out once a worker."""
    base = document_of(study.state)
    if key == BASE:
        return base
    plain = next((each for each in study.candidates or [] if each["key"] == key), None)
    if plain is None:
        return None
    told = CandidateKept.model_validate(plain)
    acts = json.dumps(told.acts, sort_keys=True)
    return _built(_Asked(f"{study.state_id} {acts}", lambda: build_of(base, told)))


def _known_by(study: Study, row: StudyTrial, lap: Lap, document: BuildDocument) -> str:
    """All that goes into a trial."""
    answer: Answer = "settled" if row.rung == "settled" else "moving"
    felt = key_of(answer, document.model_dump(mode="json"), known_by(lap))
    on = base_key(study, lap) if row.rung in _ON_BASE else ""
    return hashlib.sha256(f"{VERSION} {felt} {row.rung} {row.seed} {on}".encode()).hexdigest()


class _Life:
    """Shows life while a trial goes on, and ends it when it is no longer this worker's."""

    def __init__(self, held: HeldTrial) -> None:
        self._held = held
        self._last = time.monotonic()

    def __call__(self, _: object = None) -> None:
        now = time.monotonic()
        if now - self._last < _BEAT_EVERY:
            return
        self._last = now
        if not self._held.beat():
            raise NoLongerOursError


def _in_windows(
    row: StudyTrial, held: HeldTrial, document: BuildDocument, base: BaseLap
) -> Outcome:
    """Windows one by one, those that are known not again; another's run goes in between."""
    runs = InTheWindows(document, base, row.seed)
    numbers = runs.worst if row.rung == "worst" else tuple(range(len(runs.windows)))
    found = {
        int(number): OutcomeKept.model_validate(told).outcome()
        for number, told in row.windows.items()
    }
    if row.rung == "windows":
        first = StudyTrial.objects.filter(
            study_id=row.study_id, candidate=row.candidate, rung="worst", lap=row.lap,
            status=StudyTrial.DONE,
        ).first()  # fmt: skip
        for number, told in (first.windows if first else {}).items():
            found.setdefault(int(number), OutcomeKept.model_validate(told).outcome())
    for number in numbers:
        if number in found:
            continue
        found[number] = runs.run(number)
        told = {str(at): OutcomeKept.of(each).model_dump(mode="json") for at, each in found.items()}
        if not held.beat(told):
            raise NoLongerOursError
        if somebody_waits():
            raise SomebodyWaitsError
    return of_windows({number: found[number] for number in numbers}, len(runs.windows))


def _tried(
    study: Study, row: StudyTrial, held: HeldTrial, document: BuildDocument, lap: Lap
) -> Outcome | str:
    """What a trial gives, or why it cannot be run."""
    base = base_of(study, lap) if row.lap == 0 else None
    if row.rung == "settled":
        return settled_outcome(document, base or bare_lap(study, lap))
    if row.rung in _ON_BASE:
        assert base is not None
        if row.rung == "record":
            return record_outcome(document, base) or _OTHER_PAN
        return _in_windows(row, held, document, base)
    rung: Rung = row.rung  # type: ignore[assignment]
    return lap_outcome(document, base or bare_lap(study, lap), rung, row.seed, _Life(held))


def needs_base(row: StudyTrial) -> bool:
    """Whether a trial wants the build's own run over the lap first."""
    return row.rung != "settled"


def carry_out_trial(study: Study, held: HeldTrial) -> None:
    """Run a trial that is held, or take what is known of it.

    Raises
    ------
    NoLongerOursError, SomebodyWaitsError
        It was put back then, with what its windows gave.
    """
    row = StudyTrial.objects.get(pk=held.trial_id)
    lap = study.over.select_related("lap").get(place=row.lap).lap
    document = _document(study, row.candidate)
    if document is None:
        held.finish(None, "does not apply to the build", 0.0)
        return
    key = _known_by(study, row, lap, document)
    there = known(study.workshop_id, key)
    if there is not None:
        told = None if there.outcome is None else OutcomeKept.model_validate(there.outcome)
        held.finish(told, there.reason, 0.0)
        return
    begun = time.process_time()
    try:
        found = _tried(study, row, held, document, lap)
    except SomebodyWaitsError:
        held.put_back()
        raise
    except (BilgeError, ValueError) as error:
        found = str(error)
    spent = time.process_time() - begun
    outcome = None if isinstance(found, str) else OutcomeKept.of(found)
    reason = found if isinstance(found, str) else ""
    keep(study.workshop_id, key, outcome, reason)
    held.finish(outcome, reason, spent)
