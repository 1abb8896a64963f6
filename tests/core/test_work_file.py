"""What was done, as a saved build has it: how much of each there may be, and what it speaks of."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.document.work_file import WorkInFile
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

AT = "2026-11-30T09:00:00Z"
ENTRY: dict[str, Any] = {
    "client_id": "0" * 8 + "-" + "0" * 27, "by": "ada", "at": AT, "state": 1, "entry": {},
}  # fmt: skip
CARD: dict[str, Any] = {
    "number": 1, "said": {}, "begun_on": 1, "begun_by": "ada", "begun_at": AT,
}  # fmt: skip
TICK: dict[str, Any] = {"part": "hose_10", "state": "have", "count": 1, "by": "ada", "at": AT}
PART: dict[str, Any] = {"key": "own_x", "words": "x", "per": "piece", "cost": 1, "lead_days": 1}


@pytest.mark.parametrize(
    ("field", "row", "most"),
    [
        ("cards", CARD, 2000), ("fits", ENTRY, 5000), ("order", TICK, 1000),
        ("besides", {"part": "hose_10", "count": 1}, 100), ("parts", PART, 500),
    ],
)  # fmt: skip
def test_so_many_of_each_and_no_more(field: str, row: dict[str, Any], most: int) -> None:
    assert len(getattr(WorkInFile.model_validate({field: [row] * most}), field)) == most
    with pytest.raises(ValidationError, match=f"at most {most} items"):
        WorkInFile.model_validate({field: [row] * (most + 1)})


def test_so_many_entries_of_a_card() -> None:
    for many, fits in ((5000, True), (5001, False)):
        told = {"cards": [{**CARD, "entries": [ENTRY] * many}]}
        if fits:
            assert len(WorkInFile.model_validate(told).cards[0].entries) == many
        else:
            with pytest.raises(ValidationError, match="at most 5000 items"):
                WorkInFile.model_validate(told)


@given(
    shown=st.integers(1, 9), car_in=st.none() | st.integers(1, 9), begun=st.integers(1, 9),
    built=st.none() | st.integers(1, 9), entered=st.lists(st.integers(1, 9), max_size=4),
)  # fmt: skip
def test_every_state_that_it_speaks_of_is_named(
    shown: int, car_in: int | None, begun: int, built: int | None, entered: list[int]
) -> None:
    entries = [{**ENTRY, "state": number} for number in entered]
    card = {**CARD, "begun_on": begun, "built": built, "entries": entries}
    work = WorkInFile.model_validate({"shown": shown, "car_in": car_in, "cards": [card]})
    assert work.states == {shown, begun, *entered} | ({car_in, built} - {None})
    assert not work.is_empty


@pytest.mark.parametrize(
    "wrong",
    [
        {"at": "2026-11-30T09:00:00"}, {"by": "a" * 151}, {"client_id": "1"}, {"state": 0},
        {"state": 1_000_000}, {"more": 1},
    ],
    ids=str,
)  # fmt: skip
def test_an_entry_that_cannot_be_is_refused(wrong: dict[str, Any]) -> None:
    WorkInFile.model_validate({"fits": [ENTRY | {"by": "a" * 150, "state": 999_999}]})
    with pytest.raises(ValidationError, match=next(iter(wrong))):
        WorkInFile.model_validate({"fits": [ENTRY | wrong]})
