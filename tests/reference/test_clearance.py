"""Gaps to keep-outs against trimesh's own distance between meshes, on the demo's pan."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.keep_outs import BoxKeepOut, CylinderKeepOut
from bilge_core.document.read import build_from
from bilge_core.pan import assemble_pan, inside_faces
from bilge_core.physics.axes import engine_to_car

FINE = 0.012
"""[m] between points of the wall that trimesh measures from."""


def wall_mesh(build: Build) -> trimesh.Trimesh:
    """The pan's wall below the rail as a surface of many small triangles, car's axes."""
    vertices, faces = [], []
    for face in inside_faces(assemble_pan(build)):
        if face.kind == "skirt":
            continue
        base = len(vertices)
        vertices += list(face.corners @ engine_to_car(build.car).T)
        faces += [(base, base + i, base + i + 1) for i in range(1, len(face.corners) - 1)]
    mesh = trimesh.Trimesh(np.array(vertices), np.array(faces), process=False)
    return mesh.subdivide_to_size(FINE)


def body(keep_out: BoxKeepOut | CylinderKeepOut) -> trimesh.Trimesh:
    low, high = np.array(keep_out.from_mm) * 1e-3, np.array(keep_out.to_mm) * 1e-3
    if isinstance(keep_out, BoxKeepOut):
        return trimesh.creation.box(bounds=[low, high])
    return trimesh.creation.cylinder(
        radius=keep_out.diameter_mm * 0.5e-3, segment=[low, high], sections=64
    )


@pytest.mark.parametrize("lean", [0.0, 12.0, -30.0])
def test_gaps_against_trimesh(dunlin: Build, lean: float) -> None:
    """Trimesh measures from a fine grid of points on the wall to the body."""
    raw = dunlin.model_dump(mode="json")
    raw["car"]["lean_right_deg"] = lean
    raw["pan"]["sheet_mm"] = None
    build = build_from(raw)
    wall = wall_mesh(build)
    found = {each.name: each.gap for each in clearances(build, assemble_pan(build))}
    for keep_out in build.car.keep_outs:
        assert isinstance(keep_out, BoxKeepOut | CylinderKeepOut)
        _, distances, _ = trimesh.proximity.closest_point(body(keep_out), wall.vertices)
        coarse = float(distances.min())
        gap = found[keep_out.name]
        assert gap <= coarse + 1e-4
        if gap < 0.0:  # they are in each other: the wall crosses the body
            assert coarse < FINE
            continue
        # the nearest place lies at most FINE from a point of the grid, along the wall
        assert gap >= np.sqrt(max(coarse**2 - FINE**2, 0.0)) - 1e-4
