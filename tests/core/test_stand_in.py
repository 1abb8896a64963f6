"""``bilge stand-in``: a session of a car that is not there, read back as any logger's file."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from bilge_core.cli.stand_in import stand_in
from bilge_core.loads.laps import find_laps
from bilge_core.loads.log import prepare
from bilge_core.loads.recording import read_recording
from bilge_core.loads.sniff import open_log

from tests.conftest import DEMO

BUILD = str(DEMO / "dunlin.json")


@pytest.fixture
def short(tmp_path: Path) -> Path:
    """Fourteen seconds of the demo's lap: under twelve is no lap of a recording."""
    path = tmp_path / "short.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:702]))
    return path


def test_its_session_reads_back_as_laps_with_a_pressure(short: Path, tmp_path: Path) -> None:
    out = tmp_path / "session.csv"
    words = [BUILD, str(short), "--laps", "2", "--rate", "20", "--oil-less-l", "0.2"]
    assert stand_in([*words, "--out", str(out)]) == 0
    file = open_log(out)
    found = read_recording(file, file.proposal)
    assert found.log.oil_pressure is not None
    assert 0.5e5 < float(np.median(found.log.oil_pressure)) < 7e5
    laps = find_laps(prepare(found.log), found.lap_starts)
    assert [lap.duration == pytest.approx(14.0, abs=0.2) for lap in laps] == [True, True]


def test_the_same_seed_is_the_same_session(short: Path, capsys: pytest.CaptureFixture[str]) -> None:
    told = []
    for seed in ("3", "3", "4"):
        assert stand_in([BUILD, str(short), "--laps", "1", "--rate", "10", "--seed", seed]) == 0
        told.append(capsys.readouterr().out)
    assert told[0] == told[1] != told[2]


@pytest.mark.parametrize(
    ("words", "names"),
    [
        (["--laps", "0"], "--laps: must be 1 to 60"),
        (["--laps", "61"], "--laps"),
        (["--rate", "0.5"], "--rate"),
        (["--rate", "101"], "--rate"),
        (["--lag", "2.1"], "--lag"),
        (["--leak-mm", "11"], "--leak-mm"),
        (["--oil-less-l", "9"], "under 6.2 L"),
    ],
)
def test_what_is_wrong_is_named(
    words: list[str], names: str, short: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert stand_in([BUILD, str(short), *words]) == 2
    assert names in capsys.readouterr().err


def test_a_file_that_is_not_there_is_named(capsys: pytest.CaptureFixture[str]) -> None:
    assert stand_in(["nowhere.json", "nowhere.csv"]) == 2
    assert "nowhere.json: No such file" in capsys.readouterr().err
