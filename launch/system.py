"""Debian packages: what is missing, and installing it where this user may."""

from __future__ import annotations

import os
import shutil
import subprocess
import sysconfig
from collections.abc import Callable
from importlib.util import find_spec
from pathlib import Path

from launch.paths import Missing


def _command(*names: str) -> Callable[[], bool]:
    return lambda: any(
        shutil.which(name, path=f"{os.environ.get('PATH', '')}:/usr/sbin") for name in names
    )


def _python_headers() -> bool:
    return (Path(sysconfig.get_path("include")) / "Python.h").exists()


_NEEDED: dict[str, Callable[[], bool]] = {
    "mariadb-server": _command("mariadbd"),
    "libmariadb-dev": _command("mariadb_config"),
    "gcc": _command("gcc"),
    "pkg-config": _command("pkg-config"),
    "python3-dev": _python_headers,
    "python3-venv": lambda: find_spec("ensurepip") is not None,
}
_FOR_TESTS: dict[str, Callable[[], bool]] = {
    "chromium": _command("chromium"),
    "chromium-driver": _command("chromedriver"),
}


def install_packages(for_tests: bool) -> None:
    """Install the Debian packages that are missing, or say which they are.

    Raises
    ------
    Missing
        If packages are missing and this user may not install them, or apt fails.
    """
    needed = {**_NEEDED, **(_FOR_TESTS if for_tests else {})}
    missing = [package for package, is_there in needed.items() if not is_there()]
    if not missing:
        return
    words = " ".join(missing)
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        raise Missing(f"these Debian packages are missing; as root: apt-get install {words}")
    print(f"bilge: installing {words}", flush=True)
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for step in (["update", "-qq"], ["install", "-y", "-qq", "--no-install-recommends", *missing]):
        done = subprocess.run(
            ["apt-get", *step],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            env=quiet,
        )
        if done.returncode:
            raise Missing(f"apt-get {step[0]} failed:\n{done.stdout[-2000:]}")
    still = [package for package in missing if not needed[package]()]
    if still:
        raise Missing(f"installed but still not found: {' '.join(still)}")
