"""A closed mesh of a pan's inside read from a file: STL, 3MF or OBJ."""

from __future__ import annotations

import io
import zipfile
from typing import Literal

import numpy as np
import trimesh

from bilge_core.errors import InvalidInput, Problem

Unit = Literal["mm", "cm", "m", "in"]
METRES: dict[Unit, float] = {"mm": 1e-3, "cm": 1e-2, "m": 1.0, "in": 0.0254}
ENDINGS = ("stl", "3mf", "obj")
MOST_BYTES = 80_000_000
MOST_TRIANGLES = 1_500_000
MOST_UNPACKED = 400_000_000  # [bytes] of a 3MF, which is a ZIP
_SMALLEST, _LARGEST = 0.05, 2.0  # [m] of a pan's longest side
_LEAST_VOLUME = 1e-4  # [m3]


def refused(field: str, words: str) -> InvalidInput:
    """A refusal about one field."""
    return InvalidInput([Problem(field, words)])


THINNER = "thin the mesh out to half a million triangles"


def hold_size(size: int, most: int, instead: str, verb: str = "is") -> None:
    """That a file is not larger than it may be [bytes].

    Raises
    ------
    InvalidInput
        Naming both, and what to do.

    Examples
    --------
    >>> hold_size(5_000_000, 5_000_000, "leave the flange alone in it")
    >>> hold_size(9_000_000, 5_000_000, "leave the flange alone in it")
    Traceback (most recent call last):
    bilge_core.errors.InvalidInput: file: is 9.0 MB; at most 5: leave the flange alone in it
    """
    if size > most:
        raise refused("file", f"{verb} {size / 1e6:.1f} MB; at most {most / 1e6:.0f}: {instead}")


def read_mesh(data: bytes, name: str, unit: Unit) -> trimesh.Trimesh:
    """The one closed shell that a file holds, its normals outward [m].

    Parameters
    ----------
    data : bytes
    name : str
        Its ending says what it is.
    unit : mm, cm, m or in
        That its figures are in; a 3MF says so itself.

    Raises
    ------
    InvalidInput
        If it cannot be read, is too large, is open, is several shells, or no pan in that unit.

    Examples
    --------
    >>> box = trimesh.creation.box((400, 240, 140))
    >>> mesh = read_mesh(box.export(file_type="stl"), "inside.stl", "mm")
    >>> mesh.extents.round(3).tolist(), mesh.is_watertight
    ([0.4, 0.24, 0.14], True)
    """
    ending = name.lower().rpartition(".")[2]
    if ending not in ENDINGS:
        raise refused("file", f"must be one of {', '.join(ENDINGS)} (its name ends in {ending!r})")
    hold_size(len(data), MOST_BYTES, THINNER)
    if ending == "3mf":
        _hold_unpacked(data)
    mesh = _one_mesh(data, ending)
    if len(mesh.faces) > MOST_TRIANGLES:
        words = (
            f"has {len(mesh.faces):,} triangles; at most {MOST_TRIANGLES:,}: thin it out, half a "
            "millimetre is fine enough"
        )
        raise refused("file", words)
    scale = _scale_of(mesh, ending, unit)
    mesh = trimesh.Trimesh(mesh.vertices * scale, mesh.faces, process=False)
    _hold(mesh)
    if mesh.volume < 0.0:
        mesh.invert()
    return mesh


def _hold_unpacked(data: bytes) -> None:
    """That an archive does not unpack to more than a mesh can be, by what it says itself.

    Raises
    ------
    InvalidInput
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            size = sum(each.file_size for each in archive.infolist())
    except (zipfile.BadZipFile, ValueError, OSError):
        raise refused("file", "cannot be read as 3MF: write it again") from None
    hold_size(size, MOST_UNPACKED, THINNER, "unpacks to")


def _one_mesh(data: bytes, ending: str) -> trimesh.Trimesh:
    try:
        found = trimesh.load(io.BytesIO(data), file_type=ending, force="mesh", process=True)
    except MemoryError:
        raise
    except Exception:
        raise refused("file", f"cannot be read as {ending.upper()}: write it again") from None
    if not isinstance(found, trimesh.Trimesh) or len(found.faces) < 4:
        raise refused("file", "holds no solid: a closed mesh of the pan's inside is wanted")
    if not np.isfinite(found.vertices).all():
        raise refused("file", "holds places that are no numbers: write it again")
    found.merge_vertices()
    return found


def _scale_of(mesh: trimesh.Trimesh, ending: str, unit: Unit) -> float:
    told = mesh.units if ending == "3mf" else None
    names = {"millimeter": "mm", "centimeter": "cm", "meter": "m", "inch": "in",
             "millimeters": "mm", "inches": "in", "meters": "m"}  # fmt: skip
    return METRES[names.get(str(told), unit)]  # type: ignore[index]


def _hold(mesh: trimesh.Trimesh) -> None:
    """That it is one closed shell as large as a pan.

    Raises
    ------
    InvalidInput
    """
    longest = float(mesh.extents.max())
    if not _SMALLEST <= longest <= _LARGEST:
        words = (
            f"makes the pan {round(longest * 1e3, 1):,.10g} mm long; from {_SMALLEST * 1e3:.0f} to "
            f"{_LARGEST * 1e3:.0f} mm is wanted: choose the unit that it was drawn in"
        )
        raise refused("unit", words)
    if not mesh.is_watertight:
        open_edges = _open_edges(mesh)
        words = (
            f"is open: {open_edges} edges have no second face. Close its holes, the rail among "
            "them, and write it again"
        )
        raise refused("file", words)
    shells = int(mesh.body_count)
    if shells > 1:
        raise refused(
            "file", f"holds {shells} shells; one is wanted: the inside, without the metal"
        )
    if abs(float(mesh.volume)) < _LEAST_VOLUME:
        litres = abs(float(mesh.volume)) * 1e3
        raise refused("file", f"holds {litres:.2f} L: that is no pan, or its unit is another")


def _open_edges(mesh: trimesh.Trimesh) -> int:
    _, counts = np.unique(np.sort(mesh.edges, axis=1), axis=0, return_counts=True)
    return int((counts == 1).sum())
