"""``./bilge test``: every check, pytest last."""

from __future__ import annotations

import os
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from launch.database import PrivateMariaDB
from launch.paths import PYTHON, ROOT, STATE, VENV, WARM_UP, WEB, environment
from launch.processes import only_one_test
from launch.system import install_packages
from launch.tools import build_web, install_python_packages, install_web_packages, web_environment

MOST_PROCESSES = 4
"""A browser and a database are behind each."""


@dataclass(frozen=True)
class Check:
    """A check: its name, the command, where and with which environment it runs."""

    name: str
    command: list[str]
    folder: Path
    env: dict[str, str]


def _static_checks(env: dict[str, str], long: bool) -> list[Check]:
    """Those that take long come first."""
    binaries = VENV / "bin"
    manage = [str(PYTHON), str(ROOT / "server" / "manage.py")]
    web = web_environment()
    deprecated = Check("deprecated", ["npm", "run", "-s", "lint:deprecated"], WEB, web)
    return [
        *([deprecated] if long else []),
        Check("eslint, prettier", ["npm", "run", "-s", "lint"], WEB, web),
        Check("vitest", ["npm", "run", "-s", "test"], WEB, web),
        Check("mypy", [str(binaries / "mypy")], ROOT, env),
        Check("loops compiled", [str(PYTHON), "-c", WARM_UP], ROOT, env),
        Check("tsc", ["npm", "run", "-s", "check:types"], WEB, web),
        Check("migrations", [*manage, "makemigrations", "--check", "--dry-run"], ROOT, env),
        Check("api description", [*manage, "api_description", "--check"], ROOT, env),
        Check("api types", ["npm", "run", "-s", "types:check"], WEB, web),
        Check("import rules", [str(binaries / "lint-imports")], ROOT, env),
        Check("ruff", [str(binaries / "ruff"), "check", "."], ROOT, env),
        Check("ruff format", [str(binaries / "ruff"), "format", "--check", "."], ROOT, env),
    ]


def _passes(check: Check) -> bool:
    begun = time.monotonic()
    done = subprocess.run(
        check.command, cwd=check.folder, env=check.env, stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip
    word = "ok" if done.returncode == 0 else "FAILED"
    said = f"bilge test: {check.name}: {word} ({time.monotonic() - begun:.1f} s)"
    print(said if done.returncode == 0 else f"{said}\n{done.stdout[-12000:]}", flush=True)
    return done.returncode == 0


def _failed(checks: list[Check]) -> list[str]:
    """The names of checks that fail: one for each core at a time, those that take long first."""
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        passed = list(pool.map(_passes, checks))
    return [check.name for check, good in zip(checks, passed, strict=True) if not good]


def _beside_each_other() -> list[str]:
    """Words for pytest: one process for each core, the next test to whoever is free."""
    cores = os.cpu_count() or 1
    return ["-n", str(min(cores, MOST_PROCESSES)), "--dist", "worksteal"] if cores > 1 else []


def _whole_suite(long: bool) -> list[str]:
    """Benchmarks want the machine for themselves."""
    return [*([] if long else _beside_each_other()), "tests", "core"]


def test(long: bool, pytest_words: list[str]) -> int:
    """Run every check; returns the exit status. Words after ``--`` go to pytest, alone."""
    with only_one_test():
        return _test(long, pytest_words)


def _test(long: bool, pytest_words: list[str]) -> int:
    install_packages(for_tests=True)
    install_python_packages()
    install_web_packages()
    build_web()
    database = PrivateMariaDB(STATE / "test-database")
    try:
        database.start()
        env = environment(**database.environment(), BILGE_SECRET_KEY="only-for-tests" * 4)
        failed = [] if pytest_words else _failed(_static_checks(env, long))
        words = [*(["--long"] if long else []), *(pytest_words or _whole_suite(long))]
        if failed:
            print(f"bilge test: FAILED before pytest: {', '.join(failed)}", flush=True)
        done = subprocess.run([str(PYTHON), "-m", "pytest", *words], cwd=ROOT, env=env)
        return 1 if failed else done.returncode
    finally:
        database.stop()
