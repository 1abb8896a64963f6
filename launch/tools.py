"""Python packages, Node and the web's packages, and the built web."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
import venv
from pathlib import Path

from launch.paths import PYTHON, ROOT, STATE, VENV, WEB, Missing, digest, is_done, mark_done

_OLDEST_NODE = (20, 19)


def run(what: str, command: list[str | Path], **options: object) -> None:
    """Run a step; on failure raise `Missing` with the end of what it printed."""
    done = subprocess.run(
        [str(word) for word in command],
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        stdin=subprocess.DEVNULL,
        text=True,
        **options,  # type: ignore[call-overload]
    )
    if done.returncode:
        raise Missing(f"{what} failed:\n{done.stdout[-3000:]}")


def _uv() -> Path:
    lock = ROOT / "launch" / "uv.lock"
    folder = STATE / "uv"
    if not is_done("uv", digest(lock)):
        shutil.rmtree(folder, ignore_errors=True)
        venv.create(folder, with_pip=True)
        pip: list[str | Path] = [folder / "bin" / "python", "-m", "pip", "install", "-q"]
        run("installing uv", [*pip, "--require-hashes", "-r", lock])
        mark_done("uv", digest(lock))
    return folder / "bin" / "uv"


def install_python_packages() -> None:
    """Make the project's virtual environment equal to requirements.lock, hashes checked."""
    lock = ROOT / "requirements.lock"
    if PYTHON.exists() and is_done("python", digest(lock)):
        return
    print("bilge: installing Python packages", flush=True)
    uv = _uv()
    if not PYTHON.exists():
        run("making a virtual environment", [uv, "venv", "-q", "--python", sys.executable, VENV])
    sync: list[str | Path] = [uv, "pip", "sync", "-q", "--compile-bytecode", "--require-hashes"]
    run("installing Python packages", [*sync, "--python", PYTHON, lock])
    mark_done("python", digest(lock))


def compile_python() -> None:
    """Write Python's compiled files of our own code, once for each state of it.

    Whoever may not write beside the code later need not compile it at every call.
    """
    fingerprint = digest(ROOT / "core", ROOT / "server")
    if not is_done("bytecode", fingerprint):
        compileall: list[str | Path] = [PYTHON, "-m", "compileall", "-q"]
        run("compiling our own Python", [*compileall, ROOT / "core", ROOT / "server"])
        mark_done("bytecode", fingerprint)


def _version(node: str) -> tuple[int, ...]:
    said = subprocess.run([node, "--version"], capture_output=True, text=True).stdout
    return tuple(int(part) for part in re.findall(r"\d+", said)[:2])


def node_path() -> str:
    """A PATH on which node and npm are found: the machine's when new enough, else PyPI's wheel."""
    path = os.environ.get("PATH", "")
    own = shutil.which("node")
    if own and shutil.which("npm") and _version(own) >= _OLDEST_NODE:
        return path
    folder, lock = STATE / "node", ROOT / "launch" / "node.lock"
    if not is_done("node", digest(lock)):
        print("bilge: installing Node", flush=True)
        uv = _uv()
        run(
            "making a folder for Node",
            [uv, "venv", "-q", "--clear", "--python", sys.executable, folder],
        )
        run(
            "installing Node",
            [
                uv,
                "pip",
                "sync",
                "-q",
                "--require-hashes",
                "--python",
                folder / "bin" / "python",
                lock,
            ],
        )
        mark_done("node", digest(lock))
    return f"{folder / 'bin'}{os.pathsep}{path}"


def web_environment() -> dict[str, str]:
    """The environment in which the web's tools run."""
    return {**os.environ, "PATH": node_path(), "CI": "true", "npm_config_update_notifier": "false"}


def changed_packages(committed: bytes, after: bytes) -> list[str]:
    """Packages that an install resolved otherwise than the lock file says.

    Optional packages may come and go: they are builds for other systems, which a registry may
    or may not hold.
    """

    def entries(lock: bytes) -> dict[str, tuple[object, object]]:
        packages: dict[str, dict[str, object]] = json.loads(lock)["packages"]
        return {
            name: (each.get("version"), each.get("integrity"))
            for name, each in packages.items()
            if not each.get("optional")
        }

    before, now = entries(committed), entries(after)
    return sorted(name for name in {*before, *now} if before.get(name) != now.get(name))


def install_web_packages() -> None:
    """Install the web's packages as its lock file says."""
    fingerprint = digest(WEB / "package.json", WEB / "package-lock.json")
    if (WEB / "node_modules").is_dir() and is_done("web-packages", fingerprint):
        return
    print("bilge: installing web packages", flush=True)
    lock = WEB / "package-lock.json"
    committed = lock.read_bytes()
    run(
        "npm install", ["npm", "install", "--no-audit", "--no-fund"], cwd=WEB, env=web_environment()
    )
    changed = changed_packages(committed, lock.read_bytes())
    lock.write_bytes(committed)
    if changed:
        raise Missing(
            "npm install changed web/package-lock.json, so it does not fit package.json: "
            + ", ".join(changed[:8])
        )
    mark_done("web-packages", fingerprint)


def build_web() -> None:
    """Build the web into web/dist when its sources changed."""
    sources = [WEB / "src", WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json"]
    fingerprint = digest(*sources)
    if (WEB / "dist" / "index.html.gz").exists() and is_done("web", fingerprint):
        return
    install_web_packages()
    print("bilge: building the web", flush=True)
    run("building the web", ["npm", "run", "-s", "build"], cwd=WEB, env=web_environment())
    compress: list[str | Path] = [PYTHON, "-m", "whitenoise.compress", "-q", WEB / "dist"]
    run("compressing the web", compress)
    mark_done("web", fingerprint)
