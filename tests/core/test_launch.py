"""The launcher's own decisions."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from launch import paths, system
from launch.tools import changed_packages


def lock(**packages: dict[str, Any]) -> bytes:
    return json.dumps({"packages": packages}).encode()


def test_a_lock_is_compared_package_by_package() -> None:
    one = {"version": "1.0", "integrity": "sha512-a"}
    assert changed_packages(lock(a=one), lock(a=one)) == []
    assert changed_packages(lock(a=one), lock(a={**one, "integrity": "sha512-b"})) == ["a"]
    assert changed_packages(lock(a=one), lock(a=one, b=one)) == ["b"]
    assert changed_packages(lock(a=one, b=one), lock(a=one)) == ["b"]
    builds_for_other_systems = {**one, "optional": True}
    assert changed_packages(lock(a=one), lock(a=one, b=builds_for_other_systems)) == []


def test_an_ordinary_user_is_told_what_is_missing(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(system.os, "geteuid", lambda: 1000)
    monkeypatch.setitem(system._NEEDED, "mariadb-server", lambda: False)
    monkeypatch.setitem(system._FOR_TESTS, "chromium", lambda: False)
    with pytest.raises(paths.Missing, match=r"install mariadb-server$"):
        system.install_packages(for_tests=False)
    with pytest.raises(paths.Missing, match=r"install mariadb-server chromium$"):
        system.install_packages(for_tests=True)


def test_a_fingerprint_sees_names_and_contents(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(paths, "ROOT", tmp_path)
    (tmp_path / "a").write_text("1")
    first = paths.digest(tmp_path)
    (tmp_path / "a").write_text("2")
    second = paths.digest(tmp_path)
    (tmp_path / "a").rename(tmp_path / "b")
    assert len({first, second, paths.digest(tmp_path)}) == 3
