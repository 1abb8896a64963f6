"""The moving oil on record: how full each cell is, frame by frame, in a few megabytes a lap.

The file is a ZIP archive of NumPy arrays (``numpy.load`` opens it), so that anything can read it:

=====================  ==========================================================================
``about.json.npy``     text: format, version, frames a second, how many, names of the gates, and
                       of each mouth its name, centre and half sizes [m] and whether it is round
``faces_x`` …          faces of the cells along each axis [m]
``cells``              which cells of the grid (flat, x slowest) can hold oil
``room``               volume of each of them [m3]
``part_00000`` …       filling, 0 to 200 for empty to full; rows are frames, of one second each;
                       a row but a part's first is the difference to the row before, modulo 256
``gates_00000`` …      for each frame and gate: share that stands open, 0 to 255
``time``               of each frame since the start [s]
=====================  ==========================================================================
"""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Sequence
from dataclasses import asdict, dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidInput, Problem
from bilge_core.moving.domain import Domain
from bilge_core.moving.inlet import Inlet

FORMAT = "bilge-oil-frames"
VERSION = 2
"""1 did not say where the mouths are; it is read still."""
FULL = 200  # steps of filling from empty to full: a byte, and half as much again
RATE = 25.0
"""Frames [1/s]."""
_A_PART = int(RATE)  # frames: a second, which the page unpacks at a time
_LEVEL = 6  # of compression: zlib's own usual one


@dataclass(frozen=True)
class MouthPlace:
    """Where a mouth draws: its name, and the space's centre and half sizes, shape (3,) [m]."""

    name: str
    centre: tuple[float, ...]
    half: tuple[float, ...]
    is_round: bool

    @classmethod
    def of(cls, name: str, inlet: Inlet) -> MouthPlace:
        """Of an inlet."""
        centre, half = (tuple(each.round(5).tolist()) for each in (inlet.centre, inlet.half))
        return cls(name, centre, half, inlet.is_round)


@dataclass(frozen=True)
class Frames:
    """A record read back.

    faces : along each axis [m]
    cells : which can hold oil, flat
    time : of each frame [s]
    filling : shape (frames, cells), 0 to 1
    gates : shape (frames, gates), share open
    gate_names : tuple of str
    mouths : tuple of MouthPlace
    """

    faces: tuple[NDArray[np.float64], ...]
    cells: NDArray[np.int32]
    time: NDArray[np.float64]
    filling: NDArray[np.float32]
    gates: NDArray[np.float32]
    gate_names: tuple[str, ...]
    mouths: tuple[MouthPlace, ...]


def _array_bytes(array: NDArray[np.generic]) -> bytes:
    buffer = io.BytesIO()
    np.lib.format.write_array(buffer, np.ascontiguousarray(array), allow_pickle=False)
    return buffer.getvalue()


class FrameWriter:
    """Gathers frames of one run; part by part, so that those before can be read while it runs.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan.solid import Prism
    >>> from bilge_core.moving.domain import build_domain
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 15)))
    >>> domain = build_domain([box], [], lines)
    >>> writer = FrameWriter(domain)
    >>> writer.add(0.0, np.full(domain.cells, 0.5, dtype=np.float32), np.zeros(0, dtype=bool))
    >>> frames = read_frames(writer.finish())
    >>> frames.filling.shape, float(frames.filling[0, 0])
    ((1, 840), 0.5)
    """

    def __init__(self, domain: Domain, mouths: Sequence[MouthPlace] = ()) -> None:
        self._domain = domain
        self._mouths = tuple(mouths)
        self._gates = sorted(set(domain.gates.opening.tolist()))
        self._buffer = io.BytesIO()
        self._file = zipfile.ZipFile(self._buffer, "w", zipfile.ZIP_DEFLATED, compresslevel=_LEVEL)
        self._times: list[float] = []
        self._rows: list[NDArray[np.uint8]] = []
        self._states: list[NDArray[np.uint8]] = []
        self._parts = 0
        nx, ny, nz = domain.shape
        i, j, k = np.unravel_index(domain.fluid, (nx + 2, ny + 2, nz + 2))
        self._put("cells", (((i - 1) * ny + j - 1) * nz + k - 1).astype(np.int32))
        self._put("room", domain.room[domain.fluid])
        for name, line in zip("xyz", domain.lines, strict=True):
            self._put(f"faces_{name}", line)

    def _put(self, name: str, array: NDArray[np.generic]) -> None:
        self._file.writestr(f"{name}.npy", _array_bytes(array))

    def add(self, time: float, filling: NDArray[np.float32], gates: NDArray[np.bool_]) -> None:
        """One frame: filling padded and flat, state of each gate face."""
        self._times.append(time)
        full = np.clip(filling[self._domain.fluid] * FULL + 0.5, 0, FULL)
        self._rows.append(full.astype(np.uint8))
        states = []
        for opening in self._gates:
            faces = self._domain.gates.opening == opening
            area = self._domain.gates.area[faces]
            states.append(float((gates[faces] * area).sum() / area.sum()) * 255.0 + 0.5)
        self._states.append(np.array(states).astype(np.uint8))
        if len(self._rows) == _A_PART:
            self._close_part()

    def _close_part(self) -> None:
        if not self._rows:
            return
        rows = np.stack(self._rows)
        coded = rows.copy()
        coded[1:] -= rows[:-1]
        self._put(f"part_{self._parts:05d}", coded)
        self._put(f"gates_{self._parts:05d}", np.stack(self._states))
        self._parts += 1
        self._rows, self._states = [], []

    def finish(self) -> bytes:
        """The whole record."""
        self._close_part()
        self._put("time", np.array(self._times))
        about = {
            "format": FORMAT,
            "version": VERSION,
            "rate_hz": RATE,
            "frames": len(self._times),
            "gates": [
                f"{self._domain.openings[g].plate}, {self._domain.openings[g].name}"
                for g in self._gates
            ],
            "mouths": [asdict(mouth) for mouth in self._mouths],
        }
        self._put("about.json", np.frombuffer(json.dumps(about).encode(), dtype=np.uint8))
        self._file.close()
        return self._buffer.getvalue()


def read_frames(record: bytes) -> Frames:
    """Read a record.

    Parameters
    ----------
    record : bytes
        As `FrameWriter.finish` gave it.

    Returns
    -------
    Frames

    Raises
    ------
    InvalidInput
        If it is no such record.
    """
    try:
        if not zipfile.is_zipfile(io.BytesIO(record)):
            raise ValueError("not a ZIP archive")
        with np.load(io.BytesIO(record), allow_pickle=False) as arrays:
            about = json.loads(arrays["about.json"].tobytes())
            names = sorted(name for name in arrays.files if name.startswith("part_"))
            parts = [np.cumsum(arrays[name], axis=0, dtype=np.uint8) for name in names]
            states = [arrays[name.replace("part", "gates")] for name in names]
            faces = tuple(arrays[f"faces_{axis}"] for axis in "xyz")
            cells, time = arrays["cells"], arrays["time"]
    except (ValueError, KeyError, OSError, zipfile.BadZipFile) as error:
        raise InvalidInput([Problem("frames", f"is no record of moving oil ({error})")]) from None
    if about.get("format") != FORMAT:
        raise InvalidInput([Problem("frames", f"is {about.get('format')!r}, not {FORMAT}")])
    whole = np.concatenate(parts) if parts else np.zeros((0, len(cells)), dtype=np.uint8)
    gates = np.concatenate(states) if states else np.zeros((0, len(about["gates"])))
    return Frames(
        faces,
        cells,
        time,
        whole.astype(np.float32) / np.float32(FULL),
        gates.astype(np.float32) / np.float32(255.0),
        tuple(about["gates"]),
        tuple(
            MouthPlace(each["name"], tuple(each["centre"]), tuple(each["half"]), each["is_round"])
            for each in about.get("mouths", [])
        ),
    )
