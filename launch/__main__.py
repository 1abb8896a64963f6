"""The one command. Standard library only: it runs before anything is installed."""

from __future__ import annotations

import argparse
import os
import sys

from launch import checks, serve
from launch.paths import PYTHON, Missing, environment
from launch.tools import install_python_packages


def _check(words: list[str]) -> int:
    install_python_packages()
    command = [str(PYTHON), "-m", "bilge_core.cli", *words]
    sys.stdout.flush()
    os.execve(command[0], command, environment())


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bilge", description="When, where and for how long the pickup runs dry."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    start = commands.add_parser("start", help="install what is missing and serve on 127.0.0.1")
    start.add_argument("--port", type=int, help=f"default {serve.DEFAULT_PORT}")
    commands.add_parser("stop", help="end a running start")
    account = commands.add_parser("account", help="make a sign-in in a running Bilge")
    account.add_argument("username")
    account.add_argument("workshop", help="its workshop, such as 'Reed Lane Garage'")
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
    return parser


def main(words: list[str]) -> int:
    """Do what the words say; returns the exit status."""
    if words[:1] == ["check"]:  # its own options are read by the core
        return _check(words[1:])
    options = _parser().parse_args(words)
    if options.command == "start":
        return serve.start(options.port)
    if options.command == "stop":
        return serve.stop()
    if options.command == "account":
        return serve.open_account(options.username, options.workshop)
    return checks.test(options.long, options.pytest_words)


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except Missing as missing:
        print(f"bilge: {missing}", file=sys.stderr)
        sys.exit(2)
    except KeyboardInterrupt:
        sys.exit(130)
