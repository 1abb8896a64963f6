"""``bilge check``: what it prints and its exit status."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from bilge_core.cli.check import check

from tests.conftest import DEMO

LAP = str(DEMO / "saltmarsh.csv")


def test_runs_dry(capsys: pytest.CaptureFixture[str]) -> None:
    assert check([str(DEMO / "dunlin.json"), LAP]) == 1
    said = capsys.readouterr().out
    assert said.startswith("Dunlin: Not safe. The pickup runs dry 8 times a lap")
    assert ": 1.1 s in corner 2, left, at 1.29 g" in said
    assert "Settled oil" in said


def test_sound(capsys: pytest.CaptureFixture[str]) -> None:
    assert check([str(DEMO / "dunlin-deeper.json"), LAP]) == 0
    assert "Sound." in capsys.readouterr().out


@pytest.mark.parametrize(
    ("name", "status", "words"),
    [
        ("sandpiper", 1, "not safe. The drain of the turbo backs up"),
        ("sandpiper-mended", 0, "sound"),
    ],
)
def test_drains_are_weighed_in(
    capsys: pytest.CaptureFixture[str], name: str, status: int, words: str
) -> None:
    files = [str(DEMO / f"{name}.json"), str(DEMO / "saltmarsh-turbo.csv")]
    assert check(files) == status
    said = capsys.readouterr().out
    assert f"Drains, on settled oil: {words}" in said
    assert (": Not safe." in said) == (status == 1)
    assert check([*files, "--json"]) == status
    told = json.loads(capsys.readouterr().out)
    assert told["drains"]["state"] == ("bad" if status else "good")
    assert (told["verdict"]["state"] == "not_safe") == (status == 1)
    check([str(DEMO / "dunlin.json"), LAP, "--json"])
    assert json.loads(capsys.readouterr().out)["drains"] is None


def test_json_gives_all_of_it(capsys: pytest.CaptureFixture[str]) -> None:
    assert check([str(DEMO / "dunlin.json"), LAP, "--json"]) == 1
    told = json.loads(capsys.readouterr().out)
    assert told["verdict"]["state"] == "not_safe"
    lap = told["settled"]
    assert len(lap["dips"]) == 8
    assert lap["dips"][0]["hand"] == "left"
    assert lap["dry_s"] == pytest.approx(sum(dip["dry_s"] for dip in lap["dips"]), abs=0.01)
    assert len(told["rose"]["dry_from_g"]) == 72
    assert told["moving"] is None
    lists = [len(lap["samples"][name]) for name in ("time_s", "cover_mm", "gas_share")]
    assert len(set(lists)) == 1


def test_a_lap_without_signs_is_asked_for_them(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    plain = tmp_path / "lap.csv"
    text = (
        (DEMO / "saltmarsh.csv").read_text().replace("[g + left]", "[g]").replace("lateral g", "Q")
    )
    plain.write_text(text)
    build = str(DEMO / "dunlin.json")
    assert check([build, str(plain)]) == 2
    assert "no column is given for lateral g" in capsys.readouterr().err
    options = ["--column", "lateral=Q [g]", "--unit", "lateral=g", "--positive-lateral", "left"]
    assert check([build, str(plain), *options]) == 1
    capsys.readouterr()
    options[-1] = "right"
    assert check([build, str(plain), *options]) == 1
    assert "mostly right" in capsys.readouterr().out
    assert check([build, str(plain), "--column", "sideways=Q"]) == 2
    assert "'sideways' is no channel" in capsys.readouterr().err


@pytest.mark.parametrize("file", ["nowhere.json", "."])
def test_bad_files_exit_with_2(file: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert check([file, LAP]) == 2
    assert "cannot be read" in capsys.readouterr().err


def test_bad_build_names_the_field(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text((DEMO / "dunlin.json").read_text().replace('"gap_mm": 8.0', '"gap_mm": -4.0'))
    assert check([str(bad), LAP]) == 2
    assert "pickup.gap_mm: the mouth is 4.0 mm below the floor" in capsys.readouterr().err


def test_a_recording_is_judged_by_its_quickest_whole_lap(
    capsys: pytest.CaptureFixture[str],
) -> None:
    words = [str(DEMO / "dunlin.json"), str(DEMO / "saltmarsh-session.csv")]
    assert check(words) == 1
    said = capsys.readouterr().out
    assert "Lap 3 of 4 in the file, 81.40 s, the quickest whole one" in said
    assert check([*words, "--lap-number", "2"]) == 1
    assert "Lap 2 of 4 in the file, 82.85 s." in capsys.readouterr().out
    assert check([*words, "--lap-number", "9"]) == 2
    assert "laps 1 to 4" in capsys.readouterr().err


def test_bad_rows_and_a_missing_clock_are_the_users_to_settle(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    build, torn = str(DEMO / "dunlin.json"), tmp_path / "torn.csv"
    lines = (DEMO / "saltmarsh.csv").read_text().splitlines()
    lines[40] = "oops"
    torn.write_text("\n".join(lines))
    assert check([build, str(torn)]) == 2
    assert "line 41" in capsys.readouterr().err
    assert check([build, str(torn), "--leave-out-bad-rows"]) == 1
    capsys.readouterr()
    torn.write_text("\n".join(line.partition(",")[2] for line in lines if "," in line))
    assert check([build, str(torn)]) == 2
    assert "nothing tells the time" in capsys.readouterr().err
    assert check([build, str(torn), "--rate", "50"]) == 1


def test_a_file_that_is_not_there_is_said_with_the_systems_reason(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert check([str(tmp_path / "none.json"), LAP]) == 2
    assert "none.json: cannot be read: no such file or directory" in capsys.readouterr().err
