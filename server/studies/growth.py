"""How a study grows: its remedies made ready, the next rungs of the ladder, pairs, its end."""

from __future__ import annotations

from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import BilgeError
from bilge_core.options.candidate import Candidate, Prices
from bilge_core.options.ladder import Entry, Failed, Trial, next_trials, winner
from bilge_core.options.pairs import together
from bilge_core.options.prepared import Own, Prepared, prepare, prepared
from bilge_core.options.search import What, grid_of, search_trials
from bilge_core.options.trial import Outcome
from bilge_core.tell.remedies import CandidateKept, OutcomeKept, build_of, kept, read_kept
from django.db import transaction
from django.db.models import Max, Q
from django.db.models.functions import Now

from studies.basis import base_of, document_of, room_left
from studies.held import LONGEST
from studies.models import Study, StudyTrial

DEEPEST = 3
"""Remedies that are put together at the most."""


def candidates_of(study: Study) -> list[CandidateKept]:
    """The remedies of a study, made ready."""
    return [CandidateKept.model_validate(each) for each in study.candidates or []]


def entries_of(study: Study, prices: Prices) -> list[Entry]:
    """What the ladder must know of them."""
    found = (read_kept(each).entry(prices) for each in candidates_of(study))
    return [entry for entry in found if entry is not None]


def results_of(study: Study) -> dict[Trial, Outcome | Failed]:
    """What all trials that have ended gave, without their traces."""
    results: dict[Trial, Outcome | Failed] = {}
    for row in study.trials.filter(status__in=(StudyTrial.DONE, StudyTrial.FAILED)):
        trial = Trial(row.candidate, row.rung, row.lap, row.seed)  # type: ignore[arg-type]
        results[trial] = (
            Failed(row.reason)
            if row.outcome is None
            else OutcomeKept.model_validate({**row.outcome, "trace": None}).outcome()
        )
    return results


def _take_to_prepare(study: Study) -> bool:
    """Hold a study's preparation; False when somebody does."""
    free = Q(lease_until__isnull=True) | Q(lease_until__lt=Now())
    alive = Study.objects.filter(free, pk=study.pk, status__in=(Study.WAITING, Study.RUNNING))
    return bool(alive.update(lease_until=Now() + LONGEST, stirred_at=Now()))


def make_ready(study: Study) -> bool:
    """Work the remedies out, unless somebody is at it; whether it was done here."""
    if not _take_to_prepare(study):
        return False
    lap = study.over.select_related("lap").first()
    assert lap is not None
    base = document_of(study.state)
    own = [Own(each["title"], each["acts"]) for each in study.own]
    try:
        offered = (
            _grid(base, study)
            if study.search
            else prepare(base, base_of(study, lap.lap), study.off, own)
        )
    except BilgeError as error:
        Study.objects.filter(pk=study.pk).update(
            status=Study.FAILED, reason=str(error)[:300], ended_at=Now()
        )
        return False
    Study.objects.filter(pk=study.pk).update(
        candidates=[kept(each).model_dump(mode="json") for each in offered],
        status=Study.RUNNING, started_at=Now(), lease_until=None,
    )  # fmt: skip
    return True


def _grid(base: BuildDocument, study: Study) -> tuple[Prepared, ...]:
    """The places of a search, made ready as remedies are."""
    room = room_left(study.state)
    what: What = study.search  # type: ignore[assignment]
    return tuple(prepared(base, each.candidate, room) for each in grid_of(base, what))


def _add(study: Study, trials: tuple[Trial, ...]) -> int:
    """Put trials that are not there yet behind those that are; how many."""
    there = set(study.trials.values_list("candidate", "rung", "lap", "seed"))
    last = study.trials.aggregate(last=Max("place"))["last"] or 0
    fresh = [t for t in trials if (t.candidate, t.rung, t.lap, t.seed) not in there]
    StudyTrial.objects.bulk_create(
        [
            StudyTrial(
                study=study, candidate=t.candidate, rung=t.rung, lap=t.lap, seed=t.seed,
                place=last + at,
            )
            for at, t in enumerate(fresh, start=1)
        ],
        ignore_conflicts=True,
    )  # fmt: skip
    return len(fresh)


@transaction.atomic
def grow(study_id: int, prices: Prices) -> bool:
    """Put what is worth running next into the queue; whether the study has come to its end.

    Its row is held, so that two workers add the same trials once.
    """
    study = Study.objects.select_for_update().get(pk=study_id)
    if study.status != Study.RUNNING:
        return True
    # before what has ended is read: a trial that ends in between is looked at next time
    waits = study.trials.filter(status__in=(StudyTrial.WAITING, StudyTrial.RUNNING)).exists()
    entries = entries_of(study, prices)
    results = results_of(study)
    laps = study.over.count()
    wanted = (
        search_trials([each.key for each in entries], results)
        if study.search
        else next_trials(entries, results, laps)
    )
    if _add(study, wanted) or waits:
        return False
    deepens = not study.search and study.depth < DEEPEST
    if deepens and winner(entries, results, laps) is None:
        return False  # more is to be put together first: see `deepen`
    Study.objects.filter(pk=study_id).update(status=Study.FINISHED, ended_at=Now())
    return True


def deepen(study: Study, prices: Prices) -> bool:
    """Put remedies together where no single one holds, unless somebody is at it."""
    study.refresh_from_db()
    if study.search:
        return False
    entries, results = entries_of(study, prices), results_of(study)
    if study.depth >= DEEPEST or winner(entries, results, study.over.count()) is not None:
        return False
    if not _take_to_prepare(study):
        return False
    base, told = document_of(study.state), candidates_of(study)
    singles: list[Candidate] = [read_kept(each).candidate for each in told]
    built = {each.key: build_of(base, each) for each in told}
    applying = [
        Candidate(**{**each.__dict__, "build": built[each.key]})
        for each in singles
        if built[each.key] is not None
    ]
    room = room_left(study.state)
    known = {each.key for each in told}
    more = [
        kept(prepared(base, each, room)).model_dump(mode="json")
        for each in together(base, applying, results, study.depth + 1)
        if each.key not in known
    ]
    Study.objects.filter(pk=study.pk).update(
        candidates=[*(study.candidates or []), *more], depth=study.depth + 1, lease_until=None
    )
    return True
