"""The one command. Standard library only: it runs before anything is installed."""

from __future__ import annotations

import argparse
import errno
import os
import shutil
import sys
from collections.abc import Callable
from pathlib import Path

from launch import backup, checks, serve
from launch.address import DEFAULT_PORT, Asked
from launch.paths import HOME, PYTHON, Missing, environment
from launch.tools import compile_python, install_python_packages


def _in_core(words: list[str]) -> int:
    install_python_packages()
    compile_python()
    command = [str(PYTHON), "-m", "bilge_core.cli", *words]
    sys.stdout.flush()
    os.execve(command[0], command, environment())


def _start_words(start: argparse.ArgumentParser) -> None:
    start.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"default {DEFAULT_PORT}")
    start.add_argument("--host", help="listen on this address instead of 127.0.0.1")
    start.add_argument(
        "--lan", action="store_true",
        help="serve the shop's network: all addresses, with a certificate made here",
    )  # fmt: skip
    start.add_argument("--cert", type=Path, metavar="FILE", help="your own certificate, PEM")
    start.add_argument("--key", type=Path, metavar="FILE", help="its private key, PEM")
    start.add_argument("--demo", action="store_true", help="the demo account on a network too")


def _asked(options: argparse.Namespace) -> Asked:
    return Asked(options.port, options.host, options.lan, options.cert, options.key, options.demo)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bilge", description="When, where and for how long the pickup runs dry."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    _start_words(commands.add_parser("start", help="install what is missing and serve"))
    commands.add_parser("stop", help="end a running start")
    account = commands.add_parser("account", help="make a sign-in")
    account.add_argument("username")
    account.add_argument(
        "workshop", help="its workshop, such as 'Reed Lane Garage'; joined when it is there"
    )
    kept = commands.add_parser("backup", help="write all data into one file, while people work")
    kept.add_argument("file", type=Path, metavar="FILE", help="or a folder, named by the time then")
    kept.add_argument("--with-secrets", action="store_true", help="the signing key too")
    kept.add_argument("--keep", type=int, metavar="N", help="of a folder, the newest N only")
    restore = commands.add_parser("restore", help="make the data those of a backup")
    restore.add_argument("file", type=Path, metavar="FILE")
    commands.add_parser("work", help="carry out runs for a Bilge elsewhere (BILGE_DB_*)")
    test = commands.add_parser("test", help="run every check")
    test.add_argument(
        "--long", action="store_true", help="add the long property runs and benchmarks"
    )
    test.add_argument(
        "pytest_words", nargs="*", metavar="-- PYTEST ARGUMENTS", help="run only pytest, with these"
    )
    commands.add_parser(
        "check", help="judge a build over a lap: BUILD.json LAP.csv [--json]", add_help=False
    )
    commands.add_parser(
        "stand-in", help="write a session of a car that is not there: BUILD.json LAP.csv",
        add_help=False,
    )  # fmt: skip
    commands.add_parser(
        "play", help="send a log at real speed, as a logger would: LOG.csv --key KEY",
        add_help=False,
    )  # fmt: skip
    commands.add_parser(
        "scan", help="read a closed mesh of a pan's inside as zones: INSIDE.stl", add_help=False
    )
    return parser


def main(words: list[str]) -> int:
    """Do what the words say; returns the exit status."""
    if words[:1] == ["check"]:  # its own options are read by the core
        return _in_core(words[1:])
    if words[:1] in (["stand-in"], ["play"], ["scan"]):
        return _in_core(words)
    options = _parser().parse_args(words)
    todo: dict[str, Callable[[], int]] = {
        "start": lambda: serve.start(_asked(options)),
        "stop": serve.stop,
        "account": lambda: serve.open_account(options.username, options.workshop),
        "backup": lambda: backup.backup(options.file, options.with_secrets, options.keep),
        "restore": lambda: backup.restore(options.file),
        "work": serve.work,
        "test": lambda: checks.test(options.long, options.pytest_words),
    }
    return todo[options.command]()


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except Missing as missing:
        print(f"bilge: {missing}", file=sys.stderr)
        sys.exit(2)
    except OSError as error:
        if error.errno not in (errno.ENOSPC, errno.EDQUOT):
            raise
        free = shutil.disk_usage(HOME if HOME.exists() else HOME.parent).free
        print(f"bilge: no room left on the disk: {free / 1e6:.0f} MB free", file=sys.stderr)
        sys.exit(2)
    except KeyboardInterrupt:
        sys.exit(130)
