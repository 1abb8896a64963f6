"""Studies of remedies: asked for, carried out by any number of workers, cancelled, applied."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from accounts.models import User
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.options.ladder import Trial
from builds.models import Build
from builds.schemas import ActIn, DocumentIn
from builds.selectors import build_of, document_of
from builds.services import act as edit
from builds.services import replace_document
from builds.states import add_build, checked_document
from config.errors import Conflict, NotFound
from django.db.models.functions import Now
from shop.schemas import HoursIn, PriceIn
from shop.selectors import prices_of
from shop.services import set_hours, set_price
from stages.options import answer
from studies import growth, services, trying
from studies.growth import grow, make_ready, results_of
from studies.held import claim, keep
from studies.models import KnownOutcome, Study, StudyTrial
from studies.schemas import StudyIn
from studies.selectors import latest_of, study_out
from studies.tasks import work_on
from studies.tidying import tidy_studies

from tests.conftest import DEMO
from tests.remembered import remember_runs
from tests.server.conftest import figures
from tests.server.runs_made import NO_WORKER
from tests.server.studies_made import KEPT, asked, run_the_base, wanted, worked


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER


@pytest.fixture(autouse=True)
def runs_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """These tests are of what is done with runs; that two runs are alike is tested with runs."""
    remember_runs(monkeypatch)


def test_a_study_comes_to_its_end_with_a_table(user: User, plain_build: Build) -> None:
    study = worked(user, plain_build)
    assert study.status == Study.FINISHED and study.ended_at is not None
    told = study_out(study)
    assert told.is_current and told.progress.ready and told.progress.base_reached == 1.0
    assert told.progress.trials_done == told.progress.trials_known > 4
    options = told.options
    assert options is not None
    rows = {row.key: row for row in options.rows if row.applies}
    assert set(rows) >= set(KEPT)
    assert rows["outside_return"].standing.rung in ("record", "lap")
    assert rows["oil_1"].needs is not None and rows["oil_1"].needs.cost == 16.0
    assert options.base.dry_s is not None and options.base.lowest_bar is not None
    # effort decides the letters; nothing is ranked that was not run
    efforts = [row.letter for row in options.rows if row.applies]
    assert efforts == sorted(efforts)


def test_a_remedy_is_laid_over_the_lap_before_it_is_applied(
    user: User, stranger: User, plain_build: Build
) -> None:
    study = asked(user, plain_build)
    make_ready(study)
    with pytest.raises(InvalidInput, match="own run is not done"):
        answer.laid_over(user.workshop, plain_build.pk, "oil_1")
    run_the_base(plain_build)
    with pytest.raises(InvalidInput, match="nothing of it was run"):
        answer.laid_over(user.workshop, plain_build.pk, "oil_1")
    work_on.call(study.pk)
    told = answer.laid_over(user.workshop, plain_build.pk, "oil_1")
    assert told.rung_words.startswith("moving oil") and 5.0 < told.duration_s < 7.0
    for trace in (told.own, told.remedy):
        assert len(trace.time_s) == len(trace.bar) == len(trace.gas) > 5
        assert told.own.time_s[0] <= trace.time_s[0] < trace.time_s[-1] <= told.own.time_s[-1]
    study.refresh_from_db()
    options = study_out(study).options
    assert options is not None
    rows = {row.key: row for row in options.rows}
    if options.base.dry_s:
        assert "L in the pan" in options.base.lies and "L in the pan" in rows["oil_1"].standing.lies
    with pytest.raises(NotFound):
        answer.laid_over(stranger.workshop, plain_build.pk, "oil_1")


def test_a_trial_that_ends_while_a_study_grows_is_not_overlooked(
    user: User, plain_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What it gave was not read yet: to end then would leave out what follows from it."""
    study = worked(user, plain_build)
    assert study.status == Study.FINISHED
    last = study.trials.order_by("-place").first()
    assert last is not None
    ended = last.status
    Study.objects.filter(pk=study.pk).update(status=Study.RUNNING, ended_at=None)
    study.trials.filter(pk=last.pk).update(status=StudyTrial.RUNNING)
    read = growth.results_of

    def then_it_ends(of: Study) -> Any:
        found = read(of)
        study.trials.filter(pk=last.pk).update(status=ended)
        return found

    prices = prices_of(user.workshop)
    with monkeypatch.context() as between:
        between.setattr(growth, "results_of", then_it_ends)
        assert not growth.grow(study.pk, prices)
    study.refresh_from_db()
    assert study.status == Study.RUNNING
    assert growth.grow(study.pk, prices)


def test_asked_again_it_is_the_same_and_known_figures_are_not_run_twice(
    user: User, plain_build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = worked(user, plain_build)
    assert asked(user, plain_build).pk == first.pk
    outcomes = KnownOutcome.objects.count()
    assert outcomes > 4
    monkeypatch.setattr(trying, "_tried", lambda *_: pytest.fail("was known"))
    other = services.ask_for_study(user, plain_build.pk, wanted(plain_build, off=wanted(
        plain_build).off[1:]))  # fmt: skip
    assert other.pk != first.pk
    make_ready(other)
    other.refresh_from_db()
    grow(other.pk, prices_of(user.workshop))
    held = claim(other.pk)
    assert held is not None
    trying.carry_out_trial(other, held)  # settled, as it is: known
    assert (
        results_of(other)[Trial("base", "settled")] == results_of(first)[Trial("base", "settled")]
    )


def test_a_build_without_a_lap_is_told_so(user: User) -> None:
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    build = add_build(user, document, "from a file", None)
    with pytest.raises(InvalidInput, match="has no lap"):
        asked(user, build)


def test_anothers_study_is_not_there(user: User, stranger: User, plain_build: Build) -> None:
    asked(user, plain_build)
    with pytest.raises(NotFound):
        latest_of(stranger.workshop, plain_build.pk)
    with pytest.raises(NotFound):
        services.cancel_study(stranger.workshop, plain_build.pk)
    with pytest.raises(NotFound):
        services.apply_remedy(stranger, plain_build.pk, 1, "oil_1")


def test_an_edit_begins_a_new_one_and_ends_the_older(user: User, plain_build: Build) -> None:
    first = asked(user, plain_build)
    second = services.ask_for_study(user, plain_build.pk, StudyIn(off=["oil_1"]))
    first.refresh_from_db()
    assert (first.status, first.reason) == (Study.CANCELLED, "A newer one took its place.")
    assert second.status == Study.WAITING


class TestApplied:
    def test_a_remedy_is_one_edit_with_a_name_and_is_undone_at_once(
        self, user: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        before = document_of(plain_build)
        build = services.apply_remedy(user, plain_build.pk, 1, "oil_1")
        after = document_of(build)
        assert after.oil.volume_l == pytest.approx(before.oil.volume_l + 1.0)
        revision = build.revisions.get()
        assert revision.name == "1 L over the mark" and revision.state_id == build.current_id
        assert build.current is not None and build.current.parent is not None
        assert build_from(build.current.parent.document) == before

    def test_what_does_not_apply_is_refused_and_what_is_unknown_not_found(
        self, user: User, plain_build: Build
    ) -> None:
        study = services.ask_for_study(user, plain_build.pk, StudyIn(off=[]))
        make_ready(study)
        with pytest.raises(InvalidInput, match="no room"):
            services.apply_remedy(user, plain_build.pk, 1, "box_left")
        with pytest.raises(NotFound):
            services.apply_remedy(user, plain_build.pk, 1, "wings")
        with pytest.raises(NotFound):
            services.apply_remedy(user, plain_build.pk, 99, "oil_1")
        assert build_of(user.workshop, plain_build.pk).states.count() == 1

    def test_one_that_comes_too_late_is_kept_beside_the_newest_state(
        self, user: User, plain_build: Build
    ) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        edit(user, plain_build.pk, ActIn.model_validate(figures("oil.volume_l", "6.5 L")))
        with pytest.raises(Conflict) as late:
            services.apply_remedy(user, plain_build.pk, 1, "oil_1")
        aside = plain_build.states.get(number=late.value.kept_state)
        assert aside.aside and aside.document["oil"]["volume_l"] == pytest.approx(7.2)
        assert not plain_build.revisions.exists()

    def test_applied_twice_it_is_done_once(self, user: User, plain_build: Build) -> None:
        study = asked(user, plain_build)
        make_ready(study)
        first = services.apply_remedy(user, plain_build.pk, 1, "oil_1")
        again = services.apply_remedy(user, plain_build.pk, 1, "oil_1")
        assert again.current_id == first.current_id and again.states.count() == 2


def test_a_remedy_of_the_builders_own_is_run_beside_the_others(
    user: User, plain_build: Build
) -> None:
    acts = [{"kind": "refill", "to_l": "9 qt"}]
    own = {"title": "Nine quarts", "system": "us", "acts": acts}
    study = worked(user, plain_build, own=[own])
    options = study_out(study).options
    assert options is not None
    (row,) = [row for row in options.rows if row.key == "own_1"]
    assert row.title == "Nine quarts" and row.standing.rung is not None
    assert row.words == "filled to 9 qt"


def test_a_workshops_own_prices_change_the_table_and_no_one_elses(
    user: User, stranger: User, plain_build: Build
) -> None:
    study = asked(user, plain_build)
    make_ready(study)
    study.refresh_from_db()

    def cost() -> float:
        options = study_out(study).options
        assert options is not None
        (row,) = [row for row in options.rows if row.key == "oil_1"]
        assert row.needs is not None
        return row.needs.cost

    assert cost() == 16.0
    set_price(stranger.workshop, "oil", PriceIn(cost=99, lead_days=0))
    assert cost() == 16.0
    set_price(user.workshop, "oil", PriceIn(cost=11.5, lead_days=0))
    assert cost() == 11.5
    set_price(user.workshop, "oil", PriceIn(cost=None, lead_days=None))
    assert cost() == 16.0
    set_hours(user.workshop, "top_up", HoursIn(hours=1.0))
    assert prices_of(user.workshop).hours_of("top_up") == 1.0
    set_hours(user.workshop, "top_up", HoursIn(hours=None))
    assert prices_of(user.workshop).hours == {}
    with pytest.raises(NotFound):
        set_price(user.workshop, "wings", PriceIn(cost=1, lead_days=1))
    with pytest.raises(NotFound):
        set_hours(user.workshop, "fly", HoursIn(hours=1))
    with pytest.raises(InvalidInput, match="lead time"):
        set_price(user.workshop, "oil", PriceIn(cost=1, lead_days=None))


class TestOnPaper:
    def test_a_study_is_one_page_with_what_was_tried(self, user: User, plain_build: Build) -> None:
        study = services.ask_for_study(user, plain_build.pk, StudyIn(off=[]))
        with pytest.raises(NotFound):
            answer.page(user.workshop, plain_build.pk)  # its remedies are not worked out yet
        make_ready(study)
        made = answer.page(user.workshop, plain_build.pk)
        assert made.startswith(b"%PDF-") and b"/Count 1 " in made

    def test_markup_in_a_name_is_printed_as_it_is(self, user: User, plain_build: Build) -> None:
        own = {"title": "<b>Mine</b> & <para>", "acts": [{"kind": "refill", "to_l": 7}]}
        study = services.ask_for_study(user, plain_build.pk, wanted(plain_build, own=[own]))
        make_ready(study)
        assert answer.page(user.workshop, plain_build.pk).startswith(b"%PDF-")

    def test_anothers_is_not_there(self, stranger: User, plain_build: Build) -> None:
        with pytest.raises(NotFound):
            answer.page(stranger.workshop, plain_build.pk)
        with pytest.raises(NotFound):
            answer.overfill(stranger.workshop, plain_build.pk)


def test_more_oil_is_planned_over_the_builds_lap(user: User, plain_build: Build) -> None:
    told = answer.overfill(user.workshop, plain_build.pk)
    assert told.steps[0].total_l == pytest.approx(6.45) and told.steps[0].stop == ""
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    bare = add_build(user, document, "from a file", None)
    with pytest.raises(InvalidInput, match="has no lap"):
        answer.overfill(user.workshop, bare.pk)


def test_what_is_old_is_cleared_away_but_for_a_builds_newest(
    user: User, plain_build: Build
) -> None:
    first = asked(user, plain_build)
    second = services.ask_for_study(user, plain_build.pk, StudyIn(off=["oil_1"]))
    services.cancel_study(user.workshop, plain_build.pk)
    keep(user.workshop_id, "k" * 64, None, "too little oil")
    assert tidy_studies() == 0 and KnownOutcome.objects.count() == 1
    long_ago = Now() - timedelta(days=61)
    Study.objects.update(asked_at=long_ago)
    KnownOutcome.objects.update(made_at=long_ago)
    assert tidy_studies() == 1
    assert list(Study.objects.values_list("pk", flat=True)) == [second.pk] != [first.pk]
    assert KnownOutcome.objects.count() == 0


def test_after_an_edit_that_the_oil_cannot_feel_it_is_of_before_and_tried_again_at_once(
    user: User, plain_build: Build
) -> None:
    """Room and the class decide too; else nothing could be applied and nothing begun."""
    first = worked(user, plain_build)
    assert study_out(first).is_current
    replace_document(user, plain_build.pk, DocumentIn.model_validate({
        "base_state": 1, "change": "renamed",
        "document": {**document_of(plain_build).model_dump(mode="json"), "name": "Dunlin B"},
    }))  # fmt: skip
    first = latest_of(user.workshop, plain_build.pk) or first
    assert not study_out(first).is_current
    again = worked(user, plain_build)
    assert again.pk != first.pk and study_out(again).is_current
    assert sum(row.cpu_s for row in again.trials.all()) == 0.0
