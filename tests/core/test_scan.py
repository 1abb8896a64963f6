"""A pan from a mesh: what was exported comes back, a rough scan comes near, bad files are named."""

from __future__ import annotations

import io
import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import trimesh
from bilge_core.acts.registry import read_act
from bilge_core.cli.scan import scan
from bilge_core.document.build import Build
from bilge_core.document.floors import SurfaceFloor
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.making.solids import body_round, pan_body, written
from bilge_core.moving.basin import RESOLUTIONS, domain_of_pan
from bilge_core.pan import Pan, assemble_pan, inside_faces, level_of_volume
from bilge_core.scan.mesh_file import MOST_BYTES, read_mesh
from bilge_core.scan.placed import guessed_up, placed, placed_by
from bilge_core.scan.surface import _on, _rail, zones_of_mesh
from bilge_core.tell.making import making_out
from bilge_core.tell.scanned import ScanAsked, ScannedOut, scanned_out
from scipy.spatial import Delaunay

from tests.conftest import DEMO

BUILDS = {name: read_build((DEMO / f"{name}.json").read_text())
          for name in ("curlew", "dunlin", "dunlin-shop", "sandpiper")}  # fmt: skip
UPS = np.array([[0.0, 0.0, 1.0], [0.0, 0.6, 0.8], [0.5, 0.0, 0.866], [-0.4, -0.5, 0.768]])


def exported(build: Build) -> bytes:
    return written([("inside", body_round(assemble_pan(build), 0.0))], "stl")


def rough(build: Build, size: float = 8e-3, noise: float = 0.1e-3) -> bytes:
    """As a scanner would have it: many triangles, each corner a little off."""
    body = body_round(assemble_pan(build), 0.0).subdivide_to_size(size)
    random = np.random.default_rng(7)
    places = body.vertices + random.normal(0.0, noise, body.vertices.shape)
    return written([("scan", trimesh.Trimesh(places, body.faces, process=False))], "stl")


def points_of(build: Build) -> list[tuple[float, float, float]]:
    """Three places of the rail in the engine's own frame [mm]: a scan that stands where it did."""
    return [(0.0, -50.0, 0.0), (0.0, 50.0, 0.0), (300.0, 0.0, 0.0)]


def come_back(build: Build, data: bytes) -> tuple[Build, ScannedOut]:
    told = scanned_out(data, "inside.stl", ScanAsked(points=points_of(build)))
    act = {"kind": "pan_from_scan", "zones": [z.model_dump(mode="json") for z in told.zones]}
    return read_act(act).done(build).build, told


def apart(one: Pan, other: Pan) -> float:
    """The most that levels of the same oil differ under four loads [m]."""
    ups = UPS / np.linalg.norm(UPS, axis=1)[:, None]
    volume = one.oil_volume
    return max(
        abs(level_of_volume(one.solid, up, volume) - level_of_volume(other.solid, up, volume))
        for up in ups
    )


class TestThereAndBack:
    @pytest.mark.parametrize("name", BUILDS)
    def test_a_pan_written_as_a_mesh_comes_back_within_a_third_of_a_millimetre(
        self, name: str
    ) -> None:
        build = BUILDS[name]
        back, told = come_back(build, exported(build))
        pan, again = assemble_pan(build), assemble_pan(back)
        assert apart(pan, again) < 0.3e-3
        assert again.capacity_to_rail == pytest.approx(pan.capacity_to_rail, rel=2e-3)
        assert told.off_mm < 0.1 and told.pieces < 60

    @pytest.mark.parametrize("name", ["dunlin", "dunlin-shop", "sandpiper"])
    def test_a_rough_scan_of_many_triangles_comes_near(self, name: str) -> None:
        build = BUILDS[name]
        back, told = come_back(build, rough(build))
        assert told.triangles > 15_000 and told.pieces < 600
        assert apart(assemble_pan(build), assemble_pan(back)) < 0.5e-3
        assert told.rms_mm < 0.5
        assert told.kept_l == pytest.approx(told.volume_l, rel=0.01)

    def test_side_boxes_under_their_lids_are_zones_of_their_own(self) -> None:
        _, told = come_back(BUILDS["dunlin-shop"], exported(BUILDS["dunlin-shop"]))
        lids = [zone.ceiling_depth_mm for zone in told.zones]
        assert lids[0] is None and sorted(lids[1:]) == pytest.approx([70.0, 70.0], abs=0.1)

    def test_moving_oil_has_as_much_room(self) -> None:
        """Floors that are level but for the scanner's noise are faces of the grid."""
        build = BUILDS["dunlin-shop"]
        back, _ = come_back(build, rough(build))
        rooms = [domain_of_pan(assemble_pan(each), RESOLUTIONS["quick"]) for each in (build, back)]
        assert np.abs(np.subtract(rooms[1].shape, rooms[0].shape)).max() <= 1
        assert rooms[1].volume == pytest.approx(rooms[0].volume, rel=6e-3)

    def test_what_is_done_to_it_goes_on_working(self) -> None:
        """Lowered, a spacer under it, deeper, gates: on a surface as on zones."""
        back, _ = come_back(BUILDS["dunlin"], exported(BUILDS["dunlin"]))
        assert isinstance(back.pan.zones[0].floor, SurfaceFloor)
        before = assemble_pan(back).capacity_to_rail
        spaced = read_act({"kind": "spacer", "by_mm": 6}).done(back).build
        rail = assemble_pan(back).rail.area
        gained = assemble_pan(spaced).capacity_to_rail - before
        assert gained == pytest.approx(rail * 6e-3, rel=0.01)
        gated = read_act({"kind": "fit_gates", "gates": 3}).done(back).build
        assert gated.pan.plates
        deep = [zone.id for zone in back.pan.zones]
        assert read_act({"kind": "deepen", "by_mm": 10, "zones": deep}).done(back).build
        shell = pan_body(back, assemble_pan(back), 2.4e-3)
        assert shell.is_watertight
        assert read_build(back.model_dump_json()) == back

    def test_no_sheet_is_cut_to_a_rough_scan_but_it_is_weighed_and_printed(self) -> None:
        build = BUILDS["dunlin"]
        back, _ = come_back(build, rough(build))
        told = making_out(back, assemble_pan(back))
        assert told.fault is not None and "no sheet is cut" in told.fault and told.seams == []
        drawn = making_out(build, assemble_pan(build))
        assert told.weights[0].empty_kg == pytest.approx(drawn.weights[0].empty_kg, rel=0.02)
        assert pan_body(back, assemble_pan(back), 2.4e-3).is_watertight

    def test_the_mouth_goes_where_it_is_deepest_if_it_must(self) -> None:
        narrow = trimesh.creation.box((150, 120, 100)).export(file_type="stl")
        told = scanned_out(narrow, "box.stl", ScanAsked(up="+z"))
        act = {"kind": "pan_from_scan", "zones": [z.model_dump(mode="json") for z in told.zones]}
        document = BUILDS["dunlin"].model_dump(mode="json")
        document["oil"]["volume_l"] = 3.2
        done = read_act(act).done(build_from(document))
        assert "mouth moved" in done.words
        assert 0.0 < done.build.pickup.x_mm < 150.0


class TestPlaced:
    def test_up_is_the_lids_way_whichever_way_it_was_drawn(self) -> None:
        body = body_round(assemble_pan(BUILDS["dunlin"]), 0.0)
        turn = trimesh.transformations.rotation_matrix(np.pi / 2, [1, 0, 0])
        body.apply_transform(turn)
        assert guessed_up(body) == pytest.approx([0.0, -1.0, 0.0], abs=1e-6)
        stands = placed(body, "guess", "+x")
        assert stands.bounds[:, 2] == pytest.approx([-0.138, 0.0], abs=2e-4)

    def test_a_rough_scan_is_stood_up_by_its_lid(self) -> None:
        """None of its triangles are in one plane: what faces an end, and lies there, counts."""
        body = body_round(assemble_pan(BUILDS["dunlin"]), 0.0)
        vertices, faces = trimesh.remesh.subdivide_to_size(body.vertices, body.faces, 0.03)
        rough = np.random.default_rng(4).normal(0.0, 3e-4, vertices.shape)
        scan = trimesh.Trimesh(vertices + rough, faces)
        assert guessed_up(scan).tolist() == [0.0, 0.0, 1.0]
        stands = placed(scan, "guess", "+x")
        assert stands.bounds[:, 2] == pytest.approx([-0.138, 0.0], abs=2e-3)

    def test_what_has_no_flat_piece_is_refused(self) -> None:
        ball = trimesh.creation.icosphere(subdivisions=4, radius=0.2)
        with pytest.raises(InvalidInput, match="no piece of the mesh is flat"):
            guessed_up(ball)

    def test_three_places_of_the_rail_set_it_as_it_stood(self) -> None:
        body = body_round(assemble_pan(BUILDS["dunlin"]), 0.0)
        away = trimesh.transformations.rotation_matrix(0.7, [0.3, 0.9, 0.2])
        away[:3, 3] = [0.4, -1.0, 2.0]
        moved = body.copy()
        moved.apply_transform(away)
        spots = np.array([[0, -0.05, 0], [0, 0.05, 0], [0.3, 0, 0]])
        points = trimesh.transformations.transform_points(spots, away)
        assert placed_by(moved, points).bounds == pytest.approx(body.bounds, abs=1e-6)

    @pytest.mark.parametrize(
        "points", [[(0, 0, 0), (0, 1, 0), (0, 2, 0)], [(0, 0.05, 0), (0, -0.05, 0), (0.3, 0, 0)],
                   [(0, 0, 0), (0, 0, 0), (1, 0, 0)]],
    )  # fmt: skip
    def test_places_that_are_no_rail_are_refused(self, points: list[Any]) -> None:
        body = body_round(assemble_pan(BUILDS["curlew"]), 0.0)
        with pytest.raises(InvalidInput) as refused:
            placed_by(body, points)
        assert refused.value.problems[0].field == "points"

    def test_the_nose_is_never_up(self) -> None:
        body = body_round(assemble_pan(BUILDS["curlew"]), 0.0)
        with pytest.raises(InvalidInput, match="another way than up"):
            placed(body, "+z", "-z")


def stl(mesh: trimesh.Trimesh) -> bytes:
    return bytes(mesh.export(file_type="stl"))  # type: ignore[arg-type]


BOX = trimesh.creation.box((400, 240, 140))


def opened() -> bytes:
    return stl(trimesh.Trimesh(BOX.vertices, BOX.faces[:-1], process=False))


def two() -> bytes:
    other = BOX.copy()
    other.apply_translation([900, 0, 0])
    return stl(trimesh.util.concatenate([BOX, other]))


def roofed() -> bytes:
    """A shelf that hangs over the sump from a wall: floor over floor."""
    hollow = trimesh.creation.box((200, 300, 40))
    hollow.apply_translation([120, 0, 0])
    return stl(trimesh.boolean.difference([BOX, hollow], engine="manifold"))


class TestBadFiles:
    @pytest.mark.parametrize(
        ("data", "name", "asked", "field", "words"),
        [
            (opened(), "a.stl", {}, "file", "is open: 3 edges"),
            (two(), "a.stl", {}, "file", "2 shells"),
            (stl(BOX), "a.step", {}, "file", "one of stl, 3mf, obj"),
            (b"solid nothing\nendsolid", "a.stl", {}, "file", "holds no solid|cannot be read"),
            (b"\x00" * 300, "a.stl", {}, "file", "holds no solid|cannot be read"),
            (b"not a mesh", "a.obj", {}, "file", "holds no solid|cannot be read"),
            (stl(BOX), "a.stl", {"unit": "m"}, "unit", "choose the unit"),
            (stl(trimesh.creation.box((400, 240, 0.001))), "a.stl", {}, "file", "holds 0.00 L"),
            (b"x" * (MOST_BYTES + 1), "a.stl", {}, "file", "80: thin"),
            (roofed(), "a.stl", {"up": "+z"}, "file", "under a roof|floor over floor"),
            (stl(trimesh.creation.icosphere(3, 200)), "a.stl", {"up": "+z"}, "file", "roof|open"),
        ],
    )  # fmt: skip
    def test_each_says_what_is_wrong(
        self, data: bytes, name: str, asked: dict[str, Any], field: str, words: str
    ) -> None:
        with pytest.raises(InvalidInput, match=words) as refused:
            scanned_out(data, name, ScanAsked(**asked))
        assert refused.value.problems[0].field == field

    def test_one_turned_inside_out_is_turned_back(self) -> None:
        mesh = trimesh.Trimesh(BOX.vertices, BOX.faces[:, ::-1], process=False)
        assert read_mesh(stl(mesh), "a.stl", "mm").volume > 0.0

    def test_a_solid_has_four_triangles_at_the_least(self) -> None:
        corners = np.array([[0.0, 0, 0], [400, 0, 0], [0, 300, 0], [0, 0, 200]])
        faces = np.array([[0, 2, 1], [0, 1, 3], [1, 2, 3], [2, 0, 3]])
        least = stl(trimesh.Trimesh(corners, faces, process=False))
        assert read_mesh(least, "a.stl", "mm").volume == pytest.approx(4e-3)
        with pytest.raises(InvalidInput, match="holds no solid"):
            read_mesh(stl(trimesh.Trimesh(corners, faces[:3], process=False)), "a.stl", "mm")

    def test_a_3mf_says_its_own_unit(self) -> None:
        scene = trimesh.Scene(trimesh.creation.box((4, 2.4, 1.4)))
        scene.units = "millimeter"
        data = written([("box", trimesh.creation.box((0.4, 0.24, 0.14)))], "3mf")
        assert read_mesh(data, "a.3mf", "in").extents == pytest.approx([0.4, 0.24, 0.14])
        buffer = io.StringIO(BOX.export(file_type="obj"))
        assert read_mesh(buffer.read().encode(), "a.obj", "mm").extents[0] == pytest.approx(0.4)


class TestSurfaces:
    def test_a_triangle_of_places_that_are_not_there_is_refused(self) -> None:
        document = BUILDS["curlew"].model_dump(mode="json")
        floor = {"kind": "surface", "places_mm": [[0, 0, 50], [400, 0, 50], [0, 190, 50]],
                 "triangles": [[0, 1, 3]]}  # fmt: skip
        document["pan"]["zones"][0]["floor"] = floor
        with pytest.raises(InvalidInput, match="three of its 3 places"):
            build_from(document)
        floor["triangles"] = [[0, 1, 2]]
        with pytest.raises(InvalidInput, match="reaches beyond its surface"):
            build_from(document)

    def sloped(self) -> tuple[Any, Any]:
        """A document and its zone: 50 mm deep behind, 80 in front, parted along its diagonal."""
        document = BUILDS["curlew"].model_dump(mode="json")
        (zone,) = document["pan"]["zones"]
        (x, y), (far, wide) = np.min(zone["outline_mm"], axis=0), np.max(zone["outline_mm"], axis=0)
        places = [[x, y, 50], [far, y, 80], [far, wide, 80], [x, wide, 50]]
        triangles = [[0, 1, 2], [0, 2, 3]]
        zone["floor"] = {"kind": "surface", "places_mm": places, "triangles": triangles}
        zone["draft_deg"] = 0
        return document, zone

    @pytest.mark.parametrize(("lid", "is_refused"), [(49.8, False), (50.0, True), (60.0, True)])
    def test_a_lid_is_over_its_shallowest_place(self, lid: float, is_refused: bool) -> None:
        document, zone = self.sloped()
        zone["ceiling_depth_mm"] = lid
        with pytest.raises(InvalidInput) as refused:  # no zone is open to the rail
            assemble_pan(build_from(document))
        assert ("which is 50 mm below the rail at its" in str(refused.value)) == is_refused

    def test_its_walls_reach_down_to_where_it_is(self) -> None:
        """By hand: 50 mm deep behind, 80 in front; a floor parted along its diagonal."""
        document, zone = self.sloped()
        (x, y), (far, wide) = np.min(zone["outline_mm"], axis=0), np.max(zone["outline_mm"], axis=0)
        walls = [f for f in inside_faces(assemble_pan(build_from(document))) if f.kind == "wall"]
        area = sum(
            0.5 * float(np.linalg.norm(np.cross(c, np.roll(c, -1, axis=0)).sum(axis=0)))
            for c in (face.corners for face in walls)
        )
        long, across = (far - x) * 1e-3, (wide - y) * 1e-3
        assert area == pytest.approx(across * (0.05 + 0.08) + 2.0 * long * 0.065, rel=1e-4)

    def test_its_walls_have_no_draft_of_their_own(self) -> None:
        back, _ = come_back(BUILDS["curlew"], exported(BUILDS["curlew"]))
        document = back.model_dump(mode="json")
        document["pan"]["zones"][0]["draft_deg"] = 5
        with pytest.raises(InvalidInput, match="its draft is nil"):
            build_from(document)

    def test_a_ball_of_a_floor_is_followed(self) -> None:
        """Closed form: a spherical bowl of radius R cut h deep holds pi h^2 (3 R - h) / 3."""
        ball = trimesh.creation.icosphere(5, 0.2)
        box = trimesh.creation.box((1.0, 1.0, 0.4))
        box.apply_translation([0.0, 0.0, -0.1 - 0.2])
        bowl = trimesh.boolean.intersection([ball, box], engine="manifold")
        found = zones_of_mesh(placed(bowl, "+z", "+x"))
        deep = 0.1
        wanted = np.pi * deep**2 * (0.6 - deep) / 3.0
        assert bowl.volume == pytest.approx(wanted, rel=3e-3)  # flat faces on a ball
        assert found.kept == pytest.approx(wanted, rel=0.02)
        assert found.rms < 1.5e-3  # of a bowl 100 mm deep


def test_by_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "inside.stl"
    path.write_bytes(exported(BUILDS["curlew"]))
    assert scan([str(path), "--nose=+x"]) == 0
    assert "4.66 L to the rail" in capsys.readouterr().out
    assert scan([str(path), "--nose=+x", "--json"]) == 0
    assert len(json.loads(capsys.readouterr().out)["zones"]) == 1
    assert scan([str(path), "--unit=m", "--json"]) == 2
    assert json.loads(capsys.readouterr().out)[0][0] == "unit"
    assert scan([str(path), "--point=1,2"]) == 2
    assert "three" in capsys.readouterr().err
    assert scan([str(tmp_path / "none.stl")]) == 2


def test_a_surface_of_triangles_is_a_plane_where_its_corners_are_and_nothing_outside() -> None:
    corners = np.array([[0.0, 0.0], [1.0, 0.0], [0.0, 1.0], [1.0, 1.0], [0.4, 0.6]])
    mesh = Delaunay(corners)
    within = corners[mesh.simplices].mean(axis=1)  # one place in each triangle
    where = np.vstack([within, [[1.2, 0.5], [0.5, -0.1]]])
    found = _on(mesh, 2.0 * corners[:, 0] - 3.0 * corners[:, 1] + 1.0, where)
    plane = 2.0 * within[:, 0] - 3.0 * within[:, 1] + 1.0
    assert found[: len(within)] == pytest.approx(plane)
    assert np.isnan(found[len(within) :]).all()


def test_a_rail_may_have_three_corners() -> None:
    """A pan that runs down to a point: its cut under the rail is three straight lines."""
    corners = [[0.0, 0.0, 0.0], [0.3, 0.0, 0.0], [0.0, 0.2, 0.0], [0.05, 0.05, -0.1]]
    faces = [[0, 1, 2], [0, 3, 1], [1, 3, 2], [2, 3, 0]]
    mesh = trimesh.Trimesh(vertices=corners, faces=faces)
    assert mesh.is_watertight
    assert _rail(mesh).area == pytest.approx(0.03, rel=0.05)
