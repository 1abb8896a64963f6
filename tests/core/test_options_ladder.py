"""The ladder and the choice: what is run next, what holds, what is too close to call."""

from __future__ import annotations

import numpy as np
import pytest
from bilge_core.loads.log import Log
from bilge_core.options.candidate import Prices, room_of
from bilge_core.options.choice import choose, standing
from bilge_core.options.ladder import (
    BASE,
    MAY_HOLD,
    STOPS_AT,
    Entry,
    Failed,
    Trial,
    holds,
    is_out,
    is_proved,
    next_trials,
    winner,
)
from bilge_core.options.prepared import prepare
from bilge_core.options.trial import BaseLap, Outcome
from bilge_core.rules.gallery import PRESSURE_DIP
from bilge_core.tell.options import options_out
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_plates_fitted import DUNLIN

Results = dict[Trial, Outcome | Failed]
LOG = Log(np.array([0.0, 1.0]), *np.zeros((4, 2)))
BASE_LAP = BaseLap(DUNLIN, LOG, (), *np.zeros((3, 2)), 12.0, 4.7, 0.36)


def entry(key: str, effort: float, **more: bool) -> Entry:
    given_ = {"same_pan": False, "has_plates": True, "may_win": True, **more}
    return Entry(key, effort, **given_)


def gave(under: float, dry: float = 1.0, share: float = 0.7, windows: int | None = None) -> Outcome:
    return Outcome(dry, under, share, share * 5e5, int(under > 0), 2, windows, 4e-3, 2.0)


def settled(*keys: str, dry: float = 1.0) -> Results:
    told = Outcome(dry, None, None, None, 0, 2, None, 4e-3, 2.0)
    return {Trial(key, "settled"): told for key in (BASE, *keys)}


class TestWhatIsRunNext:
    def test_everything_in_settled_oil_first_the_least_effort_foremost(self) -> None:
        found = next_trials([entry("dear", 90.0), entry("cheap", 10.0)], {})
        assert [each.candidate for each in found] == [BASE, "cheap", "dear"]
        assert {each.rung for each in found} == {"settled"}

    def test_settled_oil_throws_out_only_what_has_no_plates_and_is_no_better(self) -> None:
        plain, plates = entry("plain", 1.0, has_plates=False), entry("plates", 2.0)
        worse = {**settled(), Trial("plain", "settled"): gave(0, 1.0 + MAY_HOLD + 0.01),
                 Trial("plates", "settled"): gave(0, 9.0)}  # fmt: skip
        assert is_out(plain, worse) and not is_out(plates, worse)
        assert [t.candidate for t in next_trials([plain, plates], worse)] == ["plates"]
        alike = {**settled(), Trial("plain", "settled"): gave(0, 1.0 + MAY_HOLD)}
        assert not is_out(plain, alike)

    @pytest.mark.parametrize(("under", "goes_on"), [(STOPS_AT, True), (STOPS_AT + 0.01, False)])
    def test_a_remedy_stops_on_the_worst_windows(self, under: float, goes_on: bool) -> None:
        results = {**settled("a"), Trial("a", "worst"): gave(under, windows=2)}
        found = next_trials([entry("a", 1.0)], results)
        assert found == ((Trial("a", "windows"),) if goes_on else ())

    def test_what_the_pan_hardly_feels_is_run_on_the_record_never_in_windows(self) -> None:
        one = entry("bottle", 1.0, same_pan=True)
        assert next_trials([one], settled("bottle")) == (Trial("bottle", "record"),)
        known = {**settled("bottle"), Trial("bottle", "record"): gave(0.4)}
        assert next_trials([one], known) == ()
        felt = {**settled("bottle"), Trial("bottle", "record"): Failed("the pan would feel it")}
        assert next_trials([one], felt) == (Trial("bottle", "worst"),)

    def test_two_of_least_effort_run_whole_laps_from_three_starts(self) -> None:
        entries = [entry(key, effort) for key, effort in (("c", 3.0), ("a", 1.0), ("b", 2.0))]
        results = {**settled("a", "b", "c")}
        for key in "abc":
            results |= {Trial(key, "worst"): gave(0.0), Trial(key, "windows"): gave(MAY_HOLD)}
        found = next_trials(entries, results)
        assert found == tuple(Trial(key, "lap", 0, seed) for key in "ab" for seed in range(3))
        lost = {**results, Trial("a", "lap", 0, 0): gave(0.2)}
        keys = {each.candidate for each in next_trials(entries, lost)}
        assert keys == {"b", "c"}  # what failed once is not run again

    def test_one_without_room_never_wins_and_is_shown_all_the_same(self) -> None:
        one = entry("deep", 1.0, may_win=False)
        results = {**settled("deep"), Trial("deep", "worst"): gave(0.0)}
        assert next_trials([one], results) == (Trial("deep", "windows"),)
        assert next_trials([one], results | {Trial("deep", "windows"): gave(0.0)}) == ()

    def test_a_winner_is_proved_and_then_there_is_nothing_left(self) -> None:
        one = entry("a", 1.0)
        results = {**settled("a"), Trial("a", "worst"): gave(0), Trial("a", "windows"): gave(0)}
        results |= {Trial("a", "lap", 0, seed): gave(0.0) for seed in range(3)}
        proof = next_trials([one], results, laps=2)
        assert proof == (
            Trial("a", "lap", 1), Trial("a", "lap", 0, 3), Trial("a", "lap", 0, 4),
            Trial("a", "grip"), Trial("a", "less_oil"), Trial("a", "hot"),
        )  # fmt: skip
        whole = results | dict.fromkeys(proof, gave(0.0))
        assert next_trials([one], whole, laps=2) == () and is_proved("a", whole, 2)
        assert not is_proved("a", results, 2)

    @settings(max_examples=40, deadline=None)
    @given(st.data())
    def test_any_outcomes_come_to_an_end_each_run_once(self, data: st.DataObject) -> None:
        flags = st.booleans()
        entries = [
            Entry(f"c{n}", float(n), data.draw(flags), data.draw(flags), data.draw(flags))
            for n in range(data.draw(st.integers(0, 5)))
        ]
        results: Results = {}
        outcomes = st.one_of(
            st.builds(gave, st.sampled_from([0.0, 0.05, 0.2, 1.0]), st.floats(0, 9)),
            st.just(Failed("no")),
        )
        for _ in range(200):
            wanted = next_trials(entries, results, laps=2)
            if not wanted:
                break
            assert not set(wanted) & set(results)
            results[wanted[0]] = data.draw(outcomes)
        assert next_trials(entries, results, laps=2) == ()
        best = winner(entries, results, 2)
        if best is not None:
            assert all(not each.under for trial, each in results.items()
                       if trial.candidate == best and trial.rung == "lap"
                       and isinstance(each, Outcome))  # fmt: skip


class TestHolding:
    def test_every_start_and_every_lap_counts(self) -> None:
        three = {Trial("a", "lap", 0, seed): gave(0.0) for seed in range(3)}
        assert holds("a", three) is True
        assert holds("a", dict(list(three.items())[:2])) is None
        assert holds("a", three | {Trial("a", "lap", 0, 4): gave(0.01)}) is False
        assert holds("a", three | {Trial("a", "lap", 1): gave(0.3)}, laps=2) is False

    def test_mouth_dips_that_the_gallery_does_not_feel_do_not_count_against_it(self) -> None:
        results: Results = {Trial("a", "lap", 0, s): gave(0.0, dry=5.6) for s in range(3)}
        told = standing(entry("a", 1.0), results, BASE_LAP)
        assert told.state == "holds" and told.mouth_dips == 2
        assert told.words.endswith("the mouth is dry for 5.6 s a lap.")


class TestStanding:
    def test_a_stopped_trial_is_an_estimate_and_says_so(self) -> None:
        results: Results = {**settled("a"), Trial("a", "worst"): gave(0.8, dry=1.0, windows=2)}
        told = standing(entry("a", 1.0), results, BASE_LAP)
        assert told.state == "does_not" and told.is_estimate
        assert told.dry == pytest.approx(6.0)  # half of what the same windows had as it is
        assert "in the 2 worst windows" in told.words and "about 6.0 s" in told.words

    def test_of_several_laps_the_worst_is_told(self) -> None:
        results: Results = {
            Trial("a", "lap", 0, seed): gave(0.0, share=share)
            for seed, share in enumerate((0.9, 0.65, 0.8))
        }
        assert standing(entry("a", 1.0), results, BASE_LAP).share == 0.65

    def test_settled_oil_never_says_that_it_holds(self) -> None:
        told = standing(entry("a", 1.0), settled("a", dry=0.0), BASE_LAP)
        assert told.state == "first_look" and told.under is None

    def test_one_that_could_not_be_run_says_why(self) -> None:
        results: Results = {**settled(), Trial("a", "settled"): Failed("too little oil")}
        told = standing(entry("a", 1.0), results, BASE_LAP)
        assert (told.state, told.words) == ("failed", "too little oil")
        assert standing(entry("a", 1.0), {}, BASE_LAP).state == "waiting"


def laps(key: str, *unders: float, share: float = 0.7) -> Results:
    return {
        Trial(key, "lap", 0, seed): gave(under, share=share) for seed, under in enumerate(unders)
    }


class TestChoice:
    ENTRIES = (entry("a", 1.0), entry("b", 2.0))
    TITLES = {"a": "A plate", "b": "Gates"}  # noqa: RUF012 - read only

    def test_the_least_effort_that_holds_is_named_with_its_figures(self) -> None:
        made = choose(self.ENTRIES, self.TITLES, laps("a", 0.9, 0.8, 0.9) | laps("b", 0, 0, 0))
        assert (made.key, made.is_close, made.is_provisional) == ("b", False, True)
        assert made.words == (
            "Gates is the least that holds: in 3 starts out of 3 the gallery keeps at least 70% "
            "of its usual pressure; the mouth still runs dry for 1.0 s a lap."
        )
        assert made.margin == pytest.approx(0.7 - PRESSURE_DIP.least)

    @pytest.mark.parametrize(("share", "close"), [(0.629, True), (0.631, False)])
    def test_one_that_holds_by_a_hair_is_a_close_call(self, share: float, close: bool) -> None:
        made = choose(self.ENTRIES, self.TITLES, laps("b", 0, 0, 0, share=share))
        assert made.is_close is close and ("close call" in made.words) is close

    def test_a_lesser_one_that_fails_now_and_then_is_a_close_call(self) -> None:
        results = laps("a", 0.0, 0.2, 0.0) | laps("b", 0, 0, 0)
        made = choose(self.ENTRIES, self.TITLES, results)
        assert made.key == "b" and made.is_close and "a plate takes less" in made.words
        surely = choose(self.ENTRIES, self.TITLES, laps("a", 0.2, 0.2, 0.2) | laps("b", 0, 0, 0))
        assert not surely.is_close

    def test_none_is_an_answer(self) -> None:
        assert choose(self.ENTRIES, self.TITLES, laps("a", 1, 1, 1), 1, True).words == (
            "No remedy of the list holds."
        )
        assert choose(self.ENTRIES, self.TITLES, {}).words == "None is known to hold yet."

    def test_what_would_change_it_is_said(self) -> None:
        results = laps("b", 0, 0, 0, 0, 0) | {Trial("b", "hot"): gave(0.3)}
        results |= {Trial("b", "grip"): gave(0.0), Trial("b", "less_oil"): gave(0.0)}
        made = choose(self.ENTRIES, self.TITLES, results)
        assert made.words.endswith("It does not hold with oil 15 °C hotter.")
        assert not made.is_provisional
        assert [each.keeps for each in made.proofs] == [True, True, True, False]


def test_a_proof_names_the_other_laps() -> None:
    offered = [one for one in prepare(DUNLIN, None) if one.candidate.key == "oil_1"]
    results = laps("oil_1", 0, 0, 0) | {Trial("oil_1", "lap", 1): gave(0.0)}
    told = options_out(
        offered, results, BASE_LAP, room_of(DUNLIN), Prices.generic(), ["dry lap", "rain lap"]
    )
    assert told.choice.key == "oil_1"
    words = [each.words for each in told.choice.proofs]
    assert words == ["3 of 3 starts, 5 wanted", "over rain lap"]
    assert told.rows[0].letter == "A" and told.rows[0].standing.state == "holds"
