"""Measurement files (MDF 4): the same lap as from text, by the same way."""

from __future__ import annotations

import gc
import io
import math
import sys
from pathlib import Path

import numpy as np
import pytest
from asammdf import MDF, Signal
from bilge_core.cli.check import check
from bilge_core.errors import InvalidInput
from bilge_core.loads.guesses import complete
from bilge_core.loads.importing import read_columns
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.mdf import MARK, is_mdf, write_as_text
from bilge_core.loads.recording import recording_from, wanted_headings
from bilge_core.loads.sniff import open_log
from bilge_core.physics.gravity import STANDARD_GRAVITY

from tests.conftest import DEMO


def measured(log: Log, folder: Path) -> Path:
    """The lap as such a file, written by an independent library: speed slower than the rest."""
    time = log.time - log.time[0]
    rows = [
        ("VehSpd", 3.6 * log.speed, "km/h", 5),
        ("LatAcc", log.leftward / STANDARD_GRAVITY, "g", 1),
        ("LongAcc", log.forward / STANDARD_GRAVITY, "g", 1),
        ("EngineSpeed", log.engine_speed * 30 / math.pi, "rpm", 1),
    ]
    file = folder / "lap.mf4"
    with MDF(version="4.10") as made:
        for name, values, unit, every in rows:
            made.append(Signal(values[::every], timestamps=time[::every], name=name, unit=unit))
        made.save(file, overwrite=True)
    return file


def test_a_lap_from_a_measurement_file_is_the_lap(saltmarsh: Log, tmp_path: Path) -> None:
    source = measured(saltmarsh, tmp_path)
    assert is_mdf(source) and is_mdf(source.read_bytes())
    for given in (source, source.read_bytes()):
        text = io.BytesIO()
        write_as_text(given, text)
        file = open_log(text.getvalue())
        columns = read_columns(file, wanted_headings(file.proposal))
        reading, guesses = complete(columns, file.proposal)
        log = prepare(recording_from(columns, reading).log)
        assert log.duration == pytest.approx(saltmarsh.duration, abs=0.1)
        assert log.speed.max() == pytest.approx(saltmarsh.speed.max(), rel=0.01)
        assert np.corrcoef(
            np.interp(saltmarsh.time, log.time, log.leftward), saltmarsh.leftward
        )[0, 1] > 0.999  # fmt: skip
        # units stand in the file, signs do not
        assert {guess.field for guess in guesses} == {
            "channels.longitudinal.positive", "channels.lateral.positive",
        }  # fmt: skip


def test_bilge_check_takes_one(
    saltmarsh: Log, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    source = measured(saltmarsh, tmp_path)
    assert check([str(DEMO / "dunlin.json"), str(source)]) == 1
    told = capsys.readouterr().out
    assert "Guessed: longitudinal g counts forward as positive: speed rises" in told
    assert "worst for 1.1 s in corner 2, left" in told


@pytest.mark.parametrize("cut", [8, 64, 500, 20_000])
def test_a_damaged_one_is_refused_in_words(saltmarsh: Log, tmp_path: Path, cut: int) -> None:
    data = measured(saltmarsh, tmp_path).read_bytes()[:cut]
    with pytest.raises(InvalidInput, match="file"):
        write_as_text(data, io.BytesIO())


def test_what_a_damaged_one_leaves_half_made_is_gone_at_once(
    saltmarsh: Log, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # it fails once more as it goes, and must not do so under whoever comes next
    damaged = measured(saltmarsh, tmp_path).read_bytes()[:3000]
    failed: list[str] = []
    monkeypatch.setattr(sys, "unraisablehook", lambda said: failed.append(str(said.exc_value)))
    gc.collect()
    gc.disable()
    failed.clear()
    try:
        with pytest.raises(InvalidInput):
            write_as_text(damaged, io.BytesIO())
        at_once = len(failed)
        gc.collect()
    finally:
        gc.enable()
    assert len(failed) == at_once


def test_one_without_channels(tmp_path: Path) -> None:
    with MDF(version="4.10") as made:
        made.save(tmp_path / "none.mf4", overwrite=True)
    with pytest.raises(InvalidInput, match="no channel"):
        write_as_text(tmp_path / "none.mf4", io.BytesIO())


def test_only_the_whole_mark_makes_a_measurement_file(tmp_path: Path) -> None:
    """As ASAM MDF 4 begins (from memory); a table of text may begin with some of its letters."""
    others = (MARK[:-1] + b"x", b"MD,time\n", b"")
    for begins, is_one in ((MARK, True), *((other, False) for other in others)):
        kept = tmp_path / "file"
        kept.write_bytes(begins + b" and more")
        assert is_mdf(kept) == is_mdf(begins + b" and more") == is_one


def test_figures_are_written_to_seven_digits(saltmarsh: Log, tmp_path: Path) -> None:
    text = io.BytesIO()
    write_as_text(measured(saltmarsh, tmp_path), text)
    columns = read_columns(open_log(text.getvalue()), ["LatAcc [g]"])
    found, wanted = columns.values["LatAcc [g]"], saltmarsh.leftward / STANDARD_GRAVITY
    assert found[: len(wanted)] == pytest.approx(wanted[: len(found)], rel=1e-6, abs=1e-9)
