"""Recordings as loggers write them: sniffed, clocked, and what is done with bad rows."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from bilge_core.errors import InvalidInput
from bilge_core.loads.importing import column_steps, read_columns
from bilge_core.loads.laps import find_laps
from bilge_core.loads.log import prepare
from bilge_core.loads.reading import Column, Reading, check_reading, clock_of
from bilge_core.loads.recording import Recording, read_log, read_recording
from bilge_core.loads.sniff import as_file_says, open_log

from tests.conftest import DEMO

NAMES = ("time [s]", "speed [m/s]", "lateral g [g + left]", "longitudinal g [g + forward]", "rpm")


def table(rows: list[list[str]], names: tuple[str, ...] = NAMES, separator: str = ",") -> bytes:
    return "\n".join(separator.join(row) for row in [list(names), *rows]).encode() + b"\n"


def steady(count: int = 60, step: float = 0.1) -> list[list[str]]:
    return [[f"{i * step:.2f}", "30", "0.5", "-0.1", "6000"] for i in range(count)]


def recording(data: bytes, **change: object) -> Recording:
    file = open_log(data)
    return read_recording(file, file.proposal.model_copy(update=change))


@pytest.mark.parametrize("separator", [",", ";", "\t", "|"])
@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_separators_and_encodings(separator: str, encoding: str) -> None:
    text = table(steady(), (*NAMES[:4], "Motordrehzahl °")).decode().replace(",", separator)
    file = open_log(text.encode(encoding))
    assert file.separator == separator
    assert file.headings[4] == "Motordrehzahl °"
    rpm = Column(heading="Motordrehzahl °", unit="rpm")
    columns = {**file.proposal.columns, "engine_speed": rpm}
    assert len(read_log(file, Reading(columns=columns)).time) == 60


def test_spaces_line_up_columns() -> None:
    rows = "\n".join(f"  {i / 10:6.2f}   30.0  0.5   -0.1   6000" for i in range(40))
    file = open_log(f"time   speed  ay   ax  rpm\n{rows}\n".encode())
    assert (file.separator, set(file.proposal.columns)) == (
        " ",
        {"time", "speed", "lateral", "longitudinal", "engine_speed"},
    )
    assert read_columns(file, ["rpm", "ay"]).values["ay"].tolist() == [0.5] * 40


def test_the_units_row_gives_the_units() -> None:
    names = ("Time", "Speed", "Lat g (+ left)", "Long g (+ forward)", "RPM")
    file = open_log(table([["s", "mph", "m/s2", "g", "rpm"], *steady()], names))
    units = {name: column.unit for name, column in file.proposal.columns.items()}
    assert units == {
        "time": "s", "speed": "mph", "lateral": "m/s2", "longitudinal": "g", "engine_speed": "rpm",
    }  # fmt: skip
    log = read_log(file, file.proposal)
    assert log.speed[0] == pytest.approx(30 * 0.44704)  # a mile is 1609.344 m by definition
    assert log.leftward[0] == pytest.approx(0.5)


def test_columns_without_known_names_are_offered_by_hand() -> None:
    foreign = open_log(table(steady(), ("ch1", "ch2", "quux", "blip", "ch5")))
    assert foreign.proposal.columns == {}
    assert (foreign.header_line, foreign.headings[2]) == (1, "quux")
    bare = open_log("\n".join(",".join(row) for row in steady()).encode())
    assert (bare.header_line, bare.headings[:2]) == (0, ("column 1", "column 2"))
    assert len(read_columns(bare, ["column 3"]).lines) == 60


@pytest.mark.parametrize("units", ["s,km/h,g,g,rpm", "[s],[km/h],[g],[g],[rpm]", "s,km/h,,,rpm"])
def test_units_under_names_that_are_not_known_are_no_headings(units: str) -> None:
    """However many channels they would be names of: "s" is seconds here, and no distance."""
    rows = [",".join(row) for row in steady()]
    named = "\n".join(["# a logger's own words", "ch1,ch2,quux,blip,ch5", units, *rows])
    found = open_log(named.encode())
    assert (found.header_line, found.units_line) == (2, 3)
    assert found.headings == ("ch1", "ch2", "quux", "blip", "ch5")
    assert found.proposal.columns == {}
    alone = open_log("\n".join([units, *rows]).encode())  # nothing above that could name them
    assert alone.header_line == 1


@pytest.mark.parametrize(
    ("heading", "under", "unit", "positive"),
    [
        ("Side", "m/s2", "m/s2", None),
        ("Side", "bar", "", None),  # of another kind
        ("Side", "", "", None),
        ("Side [m/s2]", "g", "g", None),  # the row is of units alone; of this name nothing is known
        ("lat g [m/s2 + right]", "g", "m/s2", "right"),
        ("Side (+left)", "g", "g", "left"),
    ],
)
def test_a_column_named_by_hand_is_in_the_unit_and_sign_that_the_file_says(
    heading: str, under: str, unit: str, positive: str | None
) -> None:
    rows = [f"{i / 10};100;0,1;0;6000" for i in range(20)]
    lines = [f"Time;Speed;{heading};long g;rpm", f"s;mph;{under};g;rpm", *rows]
    file = open_log("\n".join(lines).encode())
    named = Reading(columns={"lateral": Column(heading=heading, unit="")})
    told = as_file_says(file, named).columns["lateral"]
    assert (told.unit, told.positive) == (unit, positive)
    # what is said stays
    said = Reading(columns={"lateral": Column(heading=heading, unit="ft/s2", positive="right")})
    assert as_file_says(file, said) == said


def test_extras_that_would_need_asking_are_not_proposed() -> None:
    names = (*NAMES, "yaw rate", "vertical", "latitude", "lap")
    file = open_log(table([[*row, "0", "1", "12", "1"] for row in steady()], names))
    assert set(file.proposal.columns) >= {"lap"}
    assert not {"yaw_rate", "vertical", "latitude"} & set(file.proposal.columns)
    check_reading(file.proposal)


def test_time_from_distance_and_speed_is_that_of_even_acceleration() -> None:
    """v² = v₀² + 2as and t = (v - v₀)/a, textbook."""
    start, gain = 10.0, 4.0
    driven = np.arange(0.0, 400.0, 0.5)
    speed = np.sqrt(start**2 + 2 * gain * driven)
    rows = [
        [f"{s:.3f}", f"{v:.6f}", "0", "0.4", "6000"] for s, v in zip(driven, speed, strict=True)
    ]
    found = recording(table(rows, ("distance [m]", *NAMES[1:])))
    assert found.log.time == pytest.approx((speed - start) / gain, abs=2e-4)
    assert "Time is made from distance and speed." in found.remarks


def test_time_from_a_rate_in_the_preamble() -> None:
    rows = [row[1:] for row in steady()]
    data = b"Logger,x\nSample rate,25 Hz\n\n" + table(rows, NAMES[1:])
    file = open_log(data)
    assert (file.proposal.sample_rate_hz, clock_of(file.proposal)) == (25.0, "rate")
    assert read_log(file, file.proposal).duration == pytest.approx(59 / 25)


def test_nothing_tells_the_time() -> None:
    with pytest.raises(InvalidInput, match="nothing tells the time"):
        recording(table([row[1:] for row in steady()], NAMES[1:]))


def test_a_lap_clock_that_restarts_is_strung_together() -> None:
    found = recording(table([*steady(200), *steady(204), *steady(50)]))
    assert found.bad_rows == 0
    assert found.lap_starts == pytest.approx((20.0, 40.4))
    spans = find_laps(prepare(found.log), found.lap_starts)
    assert [lap.duration for lap in spans] == pytest.approx([20.0, 20.4, 4.9], abs=0.02)
    assert [lap.whole for lap in spans] == [True, True, False]


def test_lap_numbers_are_believed() -> None:
    rows = [[*row, str(1 + i // 200)] for i, row in enumerate(steady(600))]
    found = recording(table(rows, (*NAMES, "lap")))
    assert found.lap_starts == pytest.approx((20.0, 40.0))


def test_blank_cells_are_drawn_straight_and_told() -> None:
    rows = steady()
    for i, row in enumerate(rows):
        row[4] = f"{4000 + 10 * i}" if i % 5 == 0 else ("" if i % 2 else "NaN")
    found = recording(table(rows))
    assert found.bad_rows == 0
    rpm = found.log.engine_speed[:56] * 30 / math.pi
    assert rpm == pytest.approx(4000 + 10 * np.arange(56))
    assert any("Engine speed is blank in 80 % of the rows" in words for words in found.remarks)


@pytest.mark.parametrize(
    ("spoil", "field", "words"),
    [
        (lambda r: r.__setitem__(9, ["0.90", "fast", "0", "0", "1"]), "line 11, column sp", "fast"),
        (lambda r: r.__setitem__(9, ["0.90", "30"]), "line 11, column lateral", "2 cells only"),
        (lambda r: r.__setitem__(9, ["0.80", "30", "0", "0", "1"]), "line 11", "stands still"),
        (lambda r: r.__setitem__(9, ["0.90", "30", "9", "0", "1"]), "line 11, column l", "unit g?"),
        (lambda r: r.insert(9, list(NAMES)), "line 11, column time", "'time [s]' is not"),
    ],
)  # fmt: skip
def test_a_bad_row_is_counted_shown_and_left_out_only_on_consent(
    spoil: Callable[[list[list[str]]], None], field: str, words: str
) -> None:
    rows = steady()
    spoil(rows)
    file = open_log(table(rows))
    found = read_recording(file, file.proposal)
    assert found.bad_rows == 1
    assert found.faults[0].field.startswith(field)
    assert words in found.faults[0].message
    with pytest.raises(InvalidInput, match="line 11"):
        read_log(file, file.proposal)
    left = read_log(file, file.proposal, leave_out_bad_rows=True)
    assert len(left.time) == len(rows) - 1
    assert np.all(np.diff(left.time) > 0)


def test_many_odd_figures_are_a_wrong_unit_not_glitches() -> None:
    rows = [[*row[:2], "9.0", *row[3:]] for row in steady()]
    with pytest.raises(InvalidInput, match="is the column's unit g"):
        recording(table(rows))


def test_half_the_rows_unreadable_is_refused() -> None:
    rows = [row if i % 3 == 0 else [*row[:4], "x"] for i, row in enumerate(steady(90))]
    with pytest.raises(InvalidInput, match="over half"):
        recording(table(rows))


def test_a_gap_is_told() -> None:
    rows = [row for i, row in enumerate(steady(100)) if not 40 <= i < 70]
    assert any("3.1 s are missing at 3.9 s" in words for words in recording(table(rows)).remarks)


@pytest.mark.parametrize(("missing", "told"), [(49, False), (51, True), (70, True)])
def test_a_gap_of_more_than_a_second_is_one(missing: int, told: bool) -> None:
    """Of a log of fifty samples a second: steps of 0.98 and 1.02 s are on either side."""
    rows = [row for i, row in enumerate(steady(200, 0.02)) if not 40 <= i < 39 + missing]
    assert any("missing" in words for words in recording(table(rows)).remarks) == told


def test_a_cell_too_long_to_be_one_is_refused_by_its_line() -> None:
    rows = [",".join(row) for row in steady(60)]
    rows[40] = '"' + "1" * 140_000 + '",' + rows[40]
    text = "\n".join([table([]).decode().strip(), *rows])
    with pytest.raises(InvalidInput, match=r"line 42: cannot be read as delimited text"):
        recording(text.encode())


def test_years_of_log_are_refused() -> None:
    rows = [[f"{i * 1000}", *row[1:]] for i, row in enumerate(steady())]
    with pytest.raises(InvalidInput, match=r"lasts 16\.4 h; 3 h is the most"):
        recording(table(rows))  # 59 steps of 1000 s


@pytest.mark.parametrize(
    ("cell", "felt", "words"),
    [("1", 1, "reads +1 g"), ("-1", 1, "turned round"), ("0", 1, "added")],
)
def test_vertical_g_whichever_way_it_is_counted(cell: str, felt: float, words: str) -> None:
    found = recording(table([[*row, cell] for row in steady()], (*NAMES, "vertical g [g]")))
    assert found.log.upward is not None
    assert found.log.upward == pytest.approx(np.full(60, felt * 9.80665))
    assert any(words in remark for remark in found.remarks)


def test_gps_places_are_metres_on_a_sphere() -> None:
    """One degree of latitude on a sphere of 6371.0088 km is 111.195 km (from memory)."""
    names = (*NAMES, "latitude", "longitude")
    rows = [[*row, f"{60 + i / 60000:.7f}", f"{i / 60000:.7f}"] for i, row in enumerate(steady())]
    place = recording(table(rows, names)).log.place
    assert place is not None
    north = 111_195.08 * 59 / 60000
    assert place[-1, 1] == pytest.approx(north, rel=1e-4)
    assert place[-1, 0] == pytest.approx(north / 2, rel=1e-3)  # cos 60°


def test_progress_is_told_and_reading_can_be_dropped(tmp_path: Path) -> None:
    path = tmp_path / "long.csv"
    path.write_bytes(table(steady(90_000, 0.01)))
    file = open_log(path)
    told = list(column_steps(file, [NAMES[1]]))
    assert told == sorted(told)
    assert told[-1] == 1.0
    assert len(told) >= 4
    dropped = column_steps(file, [NAMES[1]])
    next(dropped)
    dropped.close()
    path.unlink()


def test_the_demo_session_is_three_laps_with_gps_and_without() -> None:
    file = open_log(DEMO / "saltmarsh-session.csv")
    assert (file.separator, file.decimal_comma, file.units_line) == (";", True, 6)
    found = read_recording(file, file.proposal)
    log = prepare(found.log)
    by_place = find_laps(log)
    columns = {k: c for k, c in file.proposal.columns.items() if "itude" not in k}
    blind = prepare(read_log(file, Reading(columns=columns)))
    by_bends = find_laps(blind)
    assert [lap.whole for lap in by_place] == [False, True, True, False]
    for one, other in zip(by_place, by_bends, strict=True):
        assert one.start == pytest.approx(other.start, abs=0.15)


def test_the_demo_session_is_what_its_generator_writes() -> None:
    from demo.session import session_csv

    kept = (DEMO / "saltmarsh-session.csv").read_text(encoding="utf-8").splitlines()
    made = session_csv().splitlines()
    assert kept[:6] == made[:6]
    numbers = [
        np.array([line.replace(",", ".").split(";") for line in text[6:]], float)
        for text in (kept, made)
    ]
    assert np.abs(numbers[0] - numbers[1]).max() <= 1.0


def test_a_distance_that_goes_back_is_refused_by_its_line() -> None:
    """From the 40th row on it goes back: over a fifth of the rows are wrong."""
    names = ("distance [m]", *NAMES[1:])
    rows = [[f"{3 * (i if i < 40 else 80 - i)}", *row[1:]] for i, row in enumerate(steady(60))]
    with pytest.raises(InvalidInput, match=r"line 43: distance does not rise: 117 m"):
        recording(table(rows, names))
