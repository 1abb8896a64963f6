"""What is read from files and what is made: each limit from both of its sides.

All limits are ours but where the code says another source beside them.
"""

from __future__ import annotations

import io
import math
import zipfile
from typing import Any

import ezdxf
import numpy as np
import pytest
import trimesh
from bilge_core.cli import scan as command
from bilge_core.document.making import SAME_EDGE, is_same_edge
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import BilgeError, InvalidInput
from bilge_core.making import panels
from bilge_core.making.pickup_plate import PickupPlate
from bilge_core.making.solids import pan_body, written
from bilge_core.pan import assemble_pan
from bilge_core.scan import drawing_file, mesh_file
from bilge_core.scan.drawing_file import read_drawing
from bilge_core.scan.mesh_file import read_mesh

from tests.conftest import DEMO

CURLEW = read_build((DEMO / "curlew.json").read_text())
BOX = trimesh.creation.box((0.4, 0.24, 0.14))


def fault(of: Any) -> str | None:
    """The first refused field; None where it is taken."""
    try:
        of()
    except InvalidInput as error:
        return error.problems[0].field
    except BilgeError as error:
        return type(error).__name__
    return None


def stl(*size: float) -> bytes:
    return bytes(trimesh.creation.box(size).export(file_type="stl"))  # type: ignore[arg-type]


class TestMesh:
    @pytest.mark.parametrize(
        ("long", "wanted"), [(0.049, "unit"), (0.051, None), (1.999, None), (2.001, "unit")]
    )
    def test_as_long_as_a_pan(self, long: float, wanted: str | None) -> None:
        data = stl(long, 0.049, 0.049)
        assert fault(lambda: read_mesh(data, "a.stl", "m")) == wanted

    @pytest.mark.parametrize(("deep", "wanted"), [(0.0099, "file"), (0.0101, None)])
    def test_it_holds_a_tenth_of_a_litre(self, deep: float, wanted: str | None) -> None:
        assert fault(lambda: read_mesh(stl(0.1, 0.1, deep), "a.stl", "m")) == wanted

    @pytest.mark.parametrize(("most", "wanted"), [(11, "file"), (12, None)])
    def test_triangles(
        self, most: int, wanted: str | None, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(mesh_file, "MOST_TRIANGLES", most)
        assert fault(lambda: read_mesh(stl(0.4, 0.24, 0.14), "a.stl", "m")) == wanted

    @pytest.mark.parametrize(("less", "wanted"), [(1, "file"), (0, None)])
    def test_bytes(self, less: int, wanted: str | None, monkeypatch: pytest.MonkeyPatch) -> None:
        data = stl(0.4, 0.24, 0.14)
        monkeypatch.setattr(mesh_file, "MOST_BYTES", len(data) - less)
        assert fault(lambda: read_mesh(data, "a.stl", "m")) == wanted

    @pytest.mark.parametrize(("less", "wanted"), [(1, "file"), (0, None)])
    def test_what_an_archive_unpacks_to(
        self, less: int, wanted: str | None, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        data = written([("box", BOX)], "3mf")
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            size = sum(each.file_size for each in archive.infolist())
        monkeypatch.setattr(mesh_file, "MOST_UNPACKED", size - less)
        assert fault(lambda: read_mesh(data, "a.3mf", "mm")) == wanted

    def test_an_archive_of_naught_is_refused_before_it_is_unpacked(self) -> None:
        out = io.BytesIO()
        with (
            zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive,
            archive.open("3D/3dmodel.model", "w") as part,
        ):
            for _ in range(mesh_file.MOST_UNPACKED // 10_000_000 + 1):
                part.write(bytes(10_000_000))
        assert len(out.getvalue()) < 1_000_000
        with pytest.raises(InvalidInput, match="unpacks to"):
            read_mesh(out.getvalue(), "a.3mf", "mm")

    def test_memory_that_is_not_there_is_said(
        self, tmp_path: Any, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
    ) -> None:
        def full(*_: Any) -> None:
            raise MemoryError

        path = tmp_path / "inside.stl"
        path.write_bytes(stl(400, 240, 140))
        monkeypatch.setattr(command, "scanned_out", full)
        assert command.scan([str(path)]) == 2
        assert "more memory than there is: thin" in capsys.readouterr().err


def sheet(long: float, hole: float = 7.0, lines: int = 0) -> bytes:
    """A drawing of a rectangle, a round hole in it, and lines that belong to nothing [mm]."""
    document = ezdxf.new()
    document.units = 4
    space = document.modelspace()
    corners = [(0, 0), (long, 0), (long, 40), (0, 40)]
    space.add_lwpolyline(corners, close=True)
    space.add_circle((20, 20), 0.5 * hole)
    for at in range(lines):
        space.add_line((at, 1), (at, 2))
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


class TestDrawing:
    @pytest.mark.parametrize(
        ("long", "wanted"), [(49.9, "unit"), (50.1, None), (2999, None), (3001, "unit")]
    )
    def test_as_long_as_a_flange(self, long: float, wanted: str | None) -> None:
        assert fault(lambda: read_drawing(sheet(long))) == wanted

    @pytest.mark.parametrize(("wide", "holes"), [(59.8, 1), (60.2, 0)])
    def test_a_round_ring_is_a_bolts_hole_up_to_60_mm(self, wide: float, holes: int) -> None:
        assert len(read_drawing(sheet(300, wide)).holes) == holes

    @pytest.mark.parametrize(("lines", "wanted"), [(8, None), (9, "file")])
    def test_things_in_it(
        self, lines: int, wanted: str | None, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(drawing_file, "MOST_ENTITIES", 10)
        assert fault(lambda: read_drawing(sheet(300, lines=lines))) == wanted

    @pytest.mark.parametrize(("less", "wanted"), [(1, "file"), (0, None)])
    def test_bytes(self, less: int, wanted: str | None, monkeypatch: pytest.MonkeyPatch) -> None:
        data = sheet(300)
        monkeypatch.setattr(drawing_file, "MOST_BYTES", len(data) - less)
        assert fault(lambda: read_drawing(data)) == wanted

    def test_blocks_in_blocks_and_endless_curves_end(self) -> None:
        document = ezdxf.new()
        document.units = 4
        names = [f"b{depth}" for depth in range(12)]
        for inner, outer in zip([None, *names], names, strict=False):
            block = document.blocks.new(outer)
            for at in range(4):
                if inner is None:
                    block.add_line((0, 0), (at + 1, 1))
                else:
                    block.add_blockref(inner, (at, 0))
        document.modelspace().add_blockref(names[-1], (0, 0))  # 4 to the 12th lines
        out = io.StringIO()
        document.write(out)
        with pytest.raises(InvalidInput, match="more than 20,000 things"):
            read_drawing(out.getvalue().encode())
        with pytest.raises(InvalidInput, match="curves that are too long"):
            read_drawing(sheet(300, 1e12))


class TestMade:
    def test_an_edge_is_the_one_that_was_bent_within_15_mm(self) -> None:
        assert is_same_edge((0, 0, -60), (0, SAME_EDGE, -60))
        assert not is_same_edge((0, 0, -60), (0, SAME_EDGE + 0.01, -60))

    @pytest.mark.parametrize(
        ("wall", "wanted"),
        [(0.39e-3, "InvalidQuantity"), (0.4e-3, None), (20e-3, None),
         (20.1e-3, "InvalidQuantity")],
    )  # fmt: skip
    def test_a_wall(self, wall: float, wanted: str | None) -> None:
        pan = assemble_pan(CURLEW)
        assert fault(lambda: pan_body(CURLEW, pan, wall)) == wanted

    @pytest.mark.parametrize(
        ("figures", "wanted"),
        [
            # groove outside 23 + 2 x 2.65 = 28.3, hole 6.6, two lands of 2
            ({"between": 38.91e-3}, None), ({"between": 38.89e-3}, "between_mm"),
            # groove 1.32 deep over a land of 2
            ({"thickness": 3.33e-3}, None), ({"thickness": 3.31e-3}, "thickness_mm"),
            ({"tube": 60.0}, None), ({"tube": 60.1}, "tube_deg"),
            ({"tube": 0.0}, None), ({"tube": -0.1}, "tube_deg"),
        ],
    )  # fmt: skip
    def test_a_pickups_plate(self, figures: dict[str, float], wanted: str | None) -> None:
        whole = {"bore": 19e-3, "between": 46e-3, "hole": 6.6e-3, "thickness": 10e-3, **figures}
        assert fault(lambda: PickupPlate(**whole)) == wanted

    @pytest.mark.parametrize(("most", "cut"), [(15, False), (16, True)])
    def test_pieces_of_a_scan_that_are_panels(
        self, most: int, cut: bool, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        document = CURLEW.model_dump(mode="json")
        document["pan"]["zones"][0]["floor"] = fan(document, 16)
        pan = assemble_pan(build_from(document))
        assert panels.pieces_of_scan(pan) == 16
        monkeypatch.setattr(panels, "MOST_PIECES", most)
        assert bool(panels.panels_of(pan)) == cut

    @pytest.mark.parametrize(("bare", "taken"), [(0.9, True), (1.1, False)])
    def test_a_surface_lies_under_all_but_a_hundredth(self, bare: float, taken: bool) -> None:
        document = CURLEW.model_dump(mode="json")
        zone = document["pan"]["zones"][0]
        (left, low), (right, high) = np.min(zone["outline_mm"], 0), np.max(zone["outline_mm"], 0)
        zone["outline_mm"] = [[left, low], [right, low], [right, high], [left, high]]
        end = right - bare / 100.0 * (right - left) - 0.01
        zone["floor"] = {
            "kind": "surface", "triangles": [[0, 1, 2], [0, 2, 3]],
            "places_mm": [[left, low, 90], [end, low, 90], [end, high, 90], [left, high, 90]],
        }  # fmt: skip
        assert (fault(lambda: build_from(document)) is None) == taken


def fan(document: Any, count: int) -> dict[str, Any]:
    """A cone of so many triangles round a pan's middle, no two in one plane."""
    outline = np.array(document["pan"]["zones"][0]["outline_mm"])
    middle = outline.mean(axis=0)
    reach = 2.0 * float(np.ptp(outline, axis=0).max())
    ring = [
        [*(middle + reach * np.array([math.cos(a), math.sin(a)])), 60.0 + 2.0 * (at % 2)]
        for at, a in enumerate(np.arange(count) * 2.0 * math.pi / count)
    ]
    rows = [[0, 1 + at, 1 + (at + 1) % count] for at in range(count)]
    return {"kind": "surface", "places_mm": [[*middle, 90.0], *ring], "triangles": rows}
