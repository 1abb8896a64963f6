"""A scanned pan, read in a process of its own: large ones want more memory than a worker has."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import tempfile
from pathlib import Path

import bilge_core
from accounts.models import Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.scan.mesh_file import MOST_BYTES, THINNER, hold_size
from bilge_core.tell.scanned import ScanAsked, ScannedOut
from builds.selectors import build_of
from ninja.files import UploadedFile

_MEMORY = 4.0  # [GB] of address space (ours: half a million triangles take under two)
_SECONDS = 60  # of a processor (ours: half a million triangles take five)
_PATIENCE = 300.0  # [s] (ours: what a machine takes for those that has as much else to do)
_TOO_LONG = f"takes longer than {_SECONDS} s to read: thin the mesh out"
_CORE = Path(bilge_core.__file__).resolve().parent.parent


def scanned(workshop: Workshop, build_id: int, file: UploadedFile, asked: ScanAsked) -> ScannedOut:
    """A mesh as zones for a build's pan; nothing of the build is changed, nothing is kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    build_of(workshop, build_id)
    hold_size(file.size or 0, MOST_BYTES, THINNER)
    with tempfile.NamedTemporaryFile(suffix=".mesh") as kept:
        for chunk in file.chunks(1 << 20):
            kept.write(chunk)
        kept.flush()
        return _read(kept.name, file.name or "", asked)


def _read(path: str, name: str, asked: ScanAsked) -> ScannedOut:
    words = [
        sys.executable, "-m", "bilge_core.cli", "scan", path, f"--name={name}", "--json",
        f"--memory={_MEMORY}", f"--seconds={_SECONDS}",
        f"--unit={asked.unit}", f"--up={asked.up}", f"--nose={asked.nose}",
        *(f"--point={x},{y},{z}" for x, y, z in asked.points),
    ]  # fmt: skip
    kept = {name: told for name, told in os.environ.items() if not name.startswith("BILGE_")}
    env = {**kept, "PYTHONPATH": str(_CORE)}  # what reads a stranger's file knows no secret
    try:
        done = subprocess.run(
            words, env=env, stdin=subprocess.DEVNULL, capture_output=True, timeout=_PATIENCE,
            check=False,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise InvalidInput([Problem("file", _TOO_LONG)]) from None
    if done.returncode == -signal.SIGXCPU:
        raise InvalidInput([Problem("file", _TOO_LONG)])
    if done.returncode == 0:
        return ScannedOut.model_validate_json(done.stdout)
    try:
        problems = [Problem(*each) for each in json.loads(done.stdout)]
    except (ValueError, TypeError):
        said = "could not be read, for a reason of ours: write it again as STL, thinned out"
        problems = [Problem("file", said)]
    raise InvalidInput(problems)
