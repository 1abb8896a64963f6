"""Where things lie. Everything that the commands make is in one folder that git ignores."""

from __future__ import annotations

import hashlib
import os
import shutil
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
STATE = ROOT / ".bilge"
"""What can be made again: tools, packages, compiled loops, the database of the tests."""
HOME = Path(os.environ.get("BILGE_HOME") or STATE).absolute()
"""What cannot: database, uploads, secrets, backups. May lie outside the checkout."""
VENV = STATE / "venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
WARM_UP = "from bilge_core.warm import warm_up, warm_up_moving; warm_up(); warm_up_moving()"
"""Compiles every loop of the core, whose code is then kept."""


class Missing(Exception):
    """Something that the user must put right; the message says what and how."""


def digest(*paths: Path) -> str:
    """A fingerprint of files and of all files in folders, by name and contents."""
    total = hashlib.sha256()
    for path in paths:
        files = (
            sorted(p for p in path.rglob("*") if p.is_file() and "__pycache__" not in p.parts)
            if path.is_dir()
            else [path]
        )
        for file in files:
            total.update(str(file.relative_to(ROOT)).encode())
            total.update(file.read_bytes())
    return total.hexdigest()


def is_done(name: str, fingerprint: str) -> bool:
    """Whether a step was done with this very input."""
    stamp = STATE / "stamps" / name
    return stamp.exists() and stamp.read_text() == fingerprint


def mark_done(name: str, fingerprint: str) -> None:
    """Remember that a step was done with this input."""
    stamp = STATE / "stamps" / name
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.write_text(fingerprint)


def compiled_code() -> Path:
    """Where compiled loops are kept, one folder for each state of the core.

    Numba looks only at the file that a loop stands in, not at what that file imports.
    """
    return STATE / "numba" / digest(ROOT / "core")[:16]


def clear_compiled_code() -> None:
    """Drop the compiled loops of states of the core that are gone."""
    now = compiled_code()
    for folder in now.parent.iterdir() if now.parent.exists() else ():
        if folder != now:
            shutil.rmtree(folder, ignore_errors=True)


def environment(**extra: str) -> dict[str, str]:
    """The environment for the project's own Python."""
    return {
        **os.environ,
        "PYTHONPATH": os.pathsep.join(str(ROOT / part) for part in ("core", "server", ".")),
        "NUMBA_CACHE_DIR": str(compiled_code()),
        "DJANGO_SETTINGS_MODULE": "config.settings",
        "BILGE_HOME": str(HOME),
        "BILGE_UPLOADS": os.environ.get("BILGE_UPLOADS") or str(HOME / "uploads"),
        **extra,
    }
