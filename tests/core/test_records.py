"""Records beside the document, what gauge readings told, and a build as one file."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest
from bilge_core.acts.registry import figures_read, read_act
from bilge_core.cli.check import check
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import known_by
from bilge_core.document.export import Packed, packed, unpacked
from bilge_core.document.read import read_build
from bilge_core.document.records import AnyRecord, read_record, records_from, records_in
from bilge_core.document.sealed import MOST_FILES
from bilge_core.errors import InvalidInput
from bilge_core.tell.circuit import circuit_out
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO

Raw = dict[str, Any]
READING = {"engine_rpm": 3000, "pressure_bar": 3.0, "oil_temperature_c": 95}
DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def calibrated(*rows: Raw, build: Build = DUNLIN) -> Build:
    return read_act({"kind": "calibrate", "readings": list(rows)}).done(build).build


class TestCalibrating:
    def test_no_other_act_recalibrates(self) -> None:
        """Another pump, relief or oil: the figure stays as it was told, and says so."""
        before = DUNLIN.circuit.bearings
        assert before is not None and before.at_bar == 3.9
        relief = next(c.id for c in DUNLIN.circuit.components if c.kind == "relief")
        act = {"kind": "figures", "figures": [
            {"field": f"circuit.components.{relief}.opens_bar", "value": 6.5}]}  # fmt: skip
        after = read_act(act).done(DUNLIN).build
        assert after.circuit.bearings == before
        told = circuit_out(after).calibrated
        assert told is not None and told.changed_since
        again = calibrated(READING, build=after)
        told = circuit_out(again).calibrated
        assert told is not None and not told.changed_since

    def test_names_and_what_is_held_are_no_change_of_the_circuit(self) -> None:
        figures = [
            {"field": f"circuit.components.{part.id}.name", "value": f"our {part.name}"}
            for part in DUNLIN.circuit.components
        ]
        after = read_act({"kind": "figures", "figures": figures}).done(DUNLIN).build
        told = circuit_out(after).calibrated
        assert told is not None and not told.changed_since
        fitted = read_act({"kind": "move_filter"}).done(DUNLIN).build
        told = circuit_out(fitted).calibrated
        assert told is not None and told.changed_since

    def test_a_circuit_is_known_by_what_flows(self) -> None:
        circuit = DUNLIN.circuit.model_dump(mode="json")
        other = json.loads(json.dumps(circuit))
        other["runs"][1]["line"]["bore_mm"] = 21.0
        assert known_by(circuit) != known_by(other)

    @pytest.mark.parametrize(
        "row",
        [
            {**READING, "pressure_bar": 5.3},  # on the relief, which opens at 5.4
            {**READING, "oil_temperature_c": 60},
            {**READING, "pressure_bar": 0},
        ],
    )
    def test_readings_that_tell_nothing_are_refused(self, row: Raw) -> None:
        with pytest.raises(InvalidInput, match="say nothing of the engine"):
            calibrated(row)

    def test_without_a_relief_nothing_is_told(self) -> None:
        plain = read_build(
            Path("core/bilge_core/document/templates/inline-front-sump.json").read_text()
        )
        with pytest.raises(InvalidInput, match="not known where the relief opens"):
            calibrated(READING, build=plain)


class TestRecords:
    @pytest.mark.parametrize(
        ("raw", "field"),
        [
            ({"kind": "gauge", "engine_rpm": 3000}, "record.pressure_bar"),
            ({"kind": "poured", "engine": "level", "points": [{"poured_l": 0}]},
             "record.points.0.poured_l"),
            ({"kind": "inspection", "item": "Cracks", "found": "lost"}, "record.found"),
            ({"kind": "level", "level_mm": 60, "engine": "asleep"}, "record.engine"),
        ],
    )  # fmt: skip
    def test_what_is_wrong_is_named(self, raw: Raw, field: str) -> None:
        with pytest.raises(InvalidInput) as refused:
            read_record(raw)
        assert field in [each.field for each in refused.value.problems]

    def test_of_what_counts_the_last_pour(self) -> None:
        rows: list[AnyRecord] = [
            read_record({"kind": "poured", "engine": engine}) for engine in ("level", "in_car")
        ]
        rows.append(read_record({"kind": "level", "level_mm": 60, "engine": "cold"}))
        found = records_from(rows)
        assert found.dipped is not None and found.dipped.engine == "in_car"
        assert found.gauge_readings == found.inspection == ()

    def test_figures_as_typed_however_deep(self) -> None:
        raw = {"kind": "poured", "points": [{"poured_l": "1 qt", "level_mm": "1/2 in"}]}
        read = figures_read(raw, "metric", "record")["points"][0]
        assert read == {"poured_l": pytest.approx(0.946353), "level_mm": 12.7}
        with pytest.raises(InvalidInput) as refused:
            figures_read({"points": [{"level_mm": "deep"}, {"level_mm": "3 L"}]}, "us", "record")
        assert [each.field for each in refused.value.problems] == [
            "record.points.0.level_mm", "record.points.1.level_mm",
        ]  # fmt: skip
        with pytest.raises(InvalidInput, match="at most 40 letters"):
            figures_read({"level_mm": "1" * 41}, "us", "record")

    def test_what_an_old_document_had_in_it(self) -> None:
        old = {
            "version": 2,
            "pan": {
                "inspection": [{"item": "Cracks", "found": "watch"}],
                "dipped": {"engine": "level", "points": [{"poured_l": 1, "level_mm": 20}]},
            },
            "gauge_readings": [READING],
        }
        assert [each.kind for each in records_in(old)] == ["inspection", "poured", "gauge"]
        assert records_in({**old, "version": 3}) == []
        assert records_in({"version": 1}) == records_in(None) == []
        with pytest.raises(InvalidInput) as refused:
            records_in({**old, "gauge_readings": [{**READING, "pressure_bar": "high"}]})
        assert [each.field for each in refused.value.problems] == ["gauge_readings.0.pressure_bar"]


def spoiled(name: str, data: bytes | None, **more: bytes) -> bytes:
    """A good file with one entry replaced or left out, and others put in."""
    good = packed(Packed(b"{}", [], {"abcdefgh12": b"picture"}))
    kept = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(good)) as old, zipfile.ZipFile(kept, "w") as new:
        for entry in old.namelist():
            if entry != name:
                new.writestr(entry, old.read(entry))
            elif data is not None:
                new.writestr(entry, data)
        for entry, content in more.items():
            new.writestr(entry, content)
    return kept.getvalue()


class TestOneFile:
    def test_there_and_back(self) -> None:
        what = Packed(b'{"a": 1}', [{"record": 1}], {"abcdefgh12": b"picture"})
        assert unpacked(packed(what)) == what
        assert packed(what) == packed(what)

    def test_any_program_that_opens_a_zip_reads_it(self) -> None:
        with zipfile.ZipFile(io.BytesIO(packed(Packed(b"{}")))) as archive:
            assert archive.testzip() is None
            assert sorted(archive.namelist()) == ["document.json", "manifest.json", "records.json"]

    @pytest.mark.parametrize(
        ("data", "words"),
        [
            (spoiled("document.json", None), "has no document.json"),
            (spoiled("document.json", b"{ }"), "document.json: is missing or is not as it was"),
            (spoiled("photos/abcdefgh12.jpg", None), "is missing or is not as it was saved"),
            (spoiled("manifest.json", b"[]"), "must be of a build saved by Bilge"),
            (spoiled("manifest.json", b"{"), "is no readable JSON"),
            (spoiled("records.json", b"[]", **{"../evil.json": b""}), "no part of a build"),
            (b"PK\x03\x04 and then nothing", "damaged ZIP"),
        ],
    )
    def test_what_is_no_build_is_refused(self, data: bytes, words: str) -> None:
        with pytest.raises(InvalidInput, match=words):
            unpacked(data)

    def test_too_many_and_too_much(self, monkeypatch: pytest.MonkeyPatch) -> None:
        photos = {f"photo{at:06d}": b"x" for at in range(MOST_FILES - 3)}
        assert len(unpacked(packed(Packed(b"{}", [], photos))).photos) == MOST_FILES - 3
        with pytest.raises(InvalidInput, match=f"{MOST_FILES} are the most"):
            packed(Packed(b"{}", [], {**photos, "onemore123": b"x"}))
        many = packed(Packed(b"{}", [], photos))
        bomb = packed(Packed(b"{}", [], {"abcdefgh12": b"0" * 100_000}))
        monkeypatch.setattr("bilge_core.document.sealed.MOST_FILES", MOST_FILES - 1)
        with pytest.raises(InvalidInput, match=f"{MOST_FILES - 1} are the most"):
            unpacked(many)
        monkeypatch.setattr("bilge_core.document.sealed.LARGEST", 100_000)
        with pytest.raises(InvalidInput, match="larger than"):
            unpacked(bomb)
        monkeypatch.setattr("bilge_core.document.sealed.LARGEST_TEXT", 100)
        with pytest.raises(InvalidInput, match=r"document\.json: is larger"):
            packed(Packed(b" " * 101))

    @given(st.binary(max_size=300))
    def test_no_bytes_crash_it(self, data: bytes) -> None:
        for tried in (data, b"PK\x03\x04" + data):
            try:
                unpacked(tried)
            except InvalidInput as refused:
                assert refused.problems

    def test_bilge_check_reads_it(self, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
        bare = DEMO / "dunlin.json"
        file = tmp_path / "dunlin.zip"
        file.write_bytes(packed(Packed(bare.read_bytes())))
        lap = str(DEMO / "saltmarsh.csv")
        status = [check([str(path), lap]) for path in (bare, file)]
        first, second = capsys.readouterr().out.split("\n\n", 1)[0], status[1]
        assert status[0] == second and first
