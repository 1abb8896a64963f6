"""``./bilge test``: every check, pytest last."""

from __future__ import annotations

import subprocess
import time
from dataclasses import dataclass
from pathlib import Path

from launch.database import PrivateMariaDB
from launch.paths import PYTHON, ROOT, STATE, VENV, WEB, environment
from launch.system import install_packages
from launch.tools import build_web, install_python_packages, install_web_packages, web_environment


@dataclass(frozen=True)
class Check:
    """A check: its name, the command, where and with which environment it runs."""

    name: str
    command: list[str]
    folder: Path
    env: dict[str, str]


def _static_checks(env: dict[str, str]) -> list[Check]:
    binaries = VENV / "bin"
    web_env = web_environment()
    manage = [str(PYTHON), str(ROOT / "server" / "manage.py")]
    return [
        Check("ruff", [str(binaries / "ruff"), "check", "."], ROOT, env),
        Check("ruff format", [str(binaries / "ruff"), "format", "--check", "."], ROOT, env),
        Check("mypy", [str(binaries / "mypy")], ROOT, env),
        Check("import rules", [str(binaries / "lint-imports")], ROOT, env),
        Check("migrations", [*manage, "makemigrations", "--check", "--dry-run"], ROOT, env),
        Check("api description", [*manage, "api_description", "--check"], ROOT, env),
        Check("api types", ["npm", "run", "-s", "types:check"], WEB, web_env),
        Check("tsc", ["npm", "run", "-s", "check:types"], WEB, web_env),
        Check("eslint, prettier", ["npm", "run", "-s", "lint"], WEB, web_env),
        Check("vitest", ["npm", "run", "-s", "test"], WEB, web_env),
    ]


def _passes(check: Check) -> bool:
    begun = time.monotonic()
    done = subprocess.run(
        check.command, cwd=check.folder, env=check.env, stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip
    word = "ok" if done.returncode == 0 else "FAILED"
    print(f"bilge test: {check.name}: {word} ({time.monotonic() - begun:.1f} s)", flush=True)
    if done.returncode:
        print(done.stdout[-12000:], flush=True)
    return done.returncode == 0


def test(long: bool, pytest_words: list[str]) -> int:
    """Run every check; returns the exit status. Words after ``--`` go to pytest, alone."""
    install_packages(for_tests=True)
    install_python_packages()
    install_web_packages()
    build_web()
    database = PrivateMariaDB(STATE / "test-database")
    try:
        database.start()
        env = environment(**database.environment(), BILGE_SECRET_KEY="only-for-tests" * 4)
        failed = [] if pytest_words else [c.name for c in _static_checks(env) if not _passes(c)]
        words = [*(["--long"] if long else []), *(pytest_words or ["tests", "core"])]
        if failed:
            print(f"bilge test: FAILED before pytest: {', '.join(failed)}", flush=True)
        done = subprocess.run([str(PYTHON), "-m", "pytest", *words], cwd=ROOT, env=env)
        return 1 if failed else done.returncode
    finally:
        database.stop()
