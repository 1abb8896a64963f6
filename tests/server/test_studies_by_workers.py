"""Studies carried out by any number of workers; a grid searched."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from accounts.models import User
from bilge_core.options.trial import Outcome
from builds.models import Build
from builds.selectors import document_of
from config.errors import NotFound
from django.db.models.functions import Now
from runs import long_jobs
from runs.models import Run
from runs.services import cancel_run
from shop.selectors import prices_of
from studies import services, trying
from studies.growth import grow, make_ready, results_of
from studies.held import claim
from studies.models import Study, StudyTrial
from studies.selectors import latest_of, search_of, search_out, study_out
from studies.tasks import work_on

from tests.server.runs_made import NO_WORKER
from tests.server.studies_made import asked, run_the_base


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


class TestWorkers:
    def test_a_trial_is_held_by_one_and_taken_over_when_its_worker_is_gone(
        self, user: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        grow(study.pk, prices_of(user.workshop))
        one, other = claim(study.pk), claim(study.pk)
        assert one is not None and other is not None and one.trial_id != other.trial_id
        assert one.beat()
        StudyTrial.objects.filter(pk=one.trial_id).update(lease_until=Now() - timedelta(seconds=1))
        again = claim(study.pk)
        assert again is not None and again.trial_id == one.trial_id
        assert not one.beat() and not one.finish(None, "too late", 1.0)
        assert again.beat()

    def test_only_one_makes_the_remedies_ready(self, user: User, plain_build: Build) -> None:
        study = asked(user, plain_build)
        Study.objects.filter(pk=study.pk).update(lease_until=Now() + timedelta(seconds=30))
        assert not make_ready(study)
        Study.objects.filter(pk=study.pk).update(lease_until=Now() - timedelta(seconds=1))
        assert make_ready(study)

    def test_a_run_that_somebody_waits_for_goes_first(
        self, user: User, plain_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        """Between two windows: what they gave is kept, and the study is queued again."""
        study = asked(user, plain_build)
        run_the_base(plain_build)
        queued: list[int] = []
        monkeypatch.setattr(type(work_on), "enqueue", lambda _, key: queued.append(key))
        waits = iter([False] * 5 + [True] * 200)
        for asks in (trying, long_jobs):
            monkeypatch.setattr(asks, "somebody_waits", lambda: next(waits))
        work_on.call(study.pk)
        assert queued == [study.pk]
        assert not study.trials.filter(status=StudyTrial.RUNNING).exists()

    def test_a_cancelled_study_stops_at_once_and_keeps_what_was_tried(
        self, user: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        study.refresh_from_db()
        grow(study.pk, prices_of(user.workshop))
        held = claim(study.pk)
        assert held is not None
        trying.carry_out_trial(study, held)
        other = claim(study.pk)
        assert other is not None
        services.cancel_study(user.workshop, plain_build.pk)
        assert not other.beat()
        study.refresh_from_db()
        assert study.status == Study.CANCELLED and len(results_of(study)) == 1
        work_on.call(study.pk)  # nothing more is done
        assert len(results_of(study)) == 1

    def test_one_whose_workers_are_gone_is_put_into_the_queue_again(
        self, user: User, plain_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        study = asked(user, plain_build)
        queued: list[int] = []
        monkeypatch.setattr(type(work_on), "enqueue", lambda _, key: queued.append(key))
        assert services.wake() == 0
        Study.objects.filter(pk=study.pk).update(stirred_at=Now() - timedelta(minutes=2))
        assert services.wake() == 1 and set(queued) == {study.pk}
        assert services.wake() == 0

    def test_a_study_whose_own_run_is_cancelled_says_so(
        self, user: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        for run in Run.objects.filter(build=plain_build):
            cancel_run(user.workshop, run.pk)
        work_on.call(study.pk)
        study.refresh_from_db()
        assert study.status == Study.FAILED
        assert study.reason.endswith("did not come to its end. Cancelled.")
        told = study_out(study)  # what was had in settled oil stands
        assert told.options is not None and told.progress.trials_done > 0

    def test_trials_wait_for_the_builds_own_run(self, user: User, plain_build: Build) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        grow(study.pk, prices_of(user.workshop))
        study.trials.update(rung="worst")
        held = claim(study.pk)
        assert held is not None
        assert trying.needs_base(StudyTrial.objects.get(pk=held.trial_id))


class TestSearch:
    def test_a_grid_is_tried_from_two_starts_and_its_best_applied(
        self, user: User, plain_build: Build, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        """Its physics is that of windows; here each place gives what its height says."""
        study = services.ask_for_search(user, plain_build.pk, "level_plate")
        run_the_base(plain_build)

        def gives(_: Study, row: StudyTrial, *__: object) -> Outcome:
            height = float(row.candidate.split("_")[1])
            return Outcome(abs(height - 86.0) / 10.0, 0.1, 0.5, 2e5, 1, 1, 2, 4e-3, 6.0, 0.1)

        monkeypatch.setattr(trying, "_tried", gives)
        work_on.call(study.pk)
        study.refresh_from_db()
        assert study.status == Study.FINISHED and study.trials.count() == 40
        told = search_out(study)
        assert told.is_current and len(told.places) == 20
        alike = [each for each in told.places if each.alike]
        assert {each.up_mm for each in alike} == {86.0} and len(alike) == 4
        assert told.best is not None and told.best.startswith("plate_86_")
        build = services.apply_remedy(user, plain_build.pk, 1, told.best)
        assert [each.name for each in document_of(build).pan.plates] == ["level plate"]

    def test_it_stands_beside_the_study_and_is_cancelled_by_itself(
        self, user: User, stranger: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        search = services.ask_for_search(user, plain_build.pk, "pickup")
        assert services.ask_for_search(user, plain_build.pk, "pickup").pk == search.pk
        assert latest_of(user.workshop, plain_build.pk) == study
        services.cancel_study(user.workshop, plain_build.pk, "pickup")
        for each in (study, search):
            each.refresh_from_db()
        assert (study.status, search.status) == (Study.WAITING, Study.CANCELLED)
        with pytest.raises(NotFound):
            services.ask_for_search(stranger, plain_build.pk, "pickup")
        with pytest.raises(NotFound):
            search_of(stranger.workshop, plain_build.pk, "pickup")
