"""What the core answers the tests of the core, kept short in ``told/answered``, a file for each.

A test says of an answer what matters to it; all else in it is compared with what it was: each word
and each figure of whatever a test itself asks a function of the core, a helper of the tests, or an
act. It says that nothing moved, not that it is right.
``python -m tests.core.kept_anew [PATHS]`` runs the tests and keeps anew what they were answered.
"""

from __future__ import annotations

import hashlib
import json
import re
import sys
from collections.abc import Callable
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import wraps
from pathlib import Path
from types import FunctionType, ModuleType
from typing import Any, get_args

import numpy as np
import shapely
import trimesh
from bilge_core.acts.registry import AnyAct
from bilge_core.moving.simulation import Simulation
from pydantic import BaseModel

KEPT = Path(__file__).parent / "told" / "answered"
LEFT = {
    "test_told",  # it keeps its own
    "test_reach",  # it asks of fields in the order of sets
    "test_house", "test_backup", "test_launch",  # they ask of the machine
    # they share runs of moving oil, whose last digits grow
    "test_moving", "test_moving_laps", "test_on_record", "test_windows", "test_coupled",
    "test_mouths", "test_fitting", "test_dips_met",
}  # fmt: skip
"""Files of tests whose answers are not kept."""
_NIL, _MOST = 1e-6, 1e290
"""Figures much under the first, in SI units, are the last digits of others; so are all beyond."""
_NEAR, _NEAR_EACH = 1e-4, 1e-7
"""By which the sums of figures' logarithms may differ, and for each of the figures."""
_DXF = "ENTITIES\n"
_FIGURE = re.compile(r"-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?")

Kept = dict[str, list[Any]]


class _Taken:
    """Words and figures of answers, each in its order."""

    def __init__(self) -> None:
        self.words = hashlib.sha256()
        self.figures: list[Any] = []

    def word(self, text: str) -> None:
        self.words.update(text.encode() + b"\0")

    def text(self, text: str) -> None:
        if _DXF in text:  # it has the time of day in it
            self.word("a drawing")
            return
        self.word(_FIGURE.sub("#", text))
        self.figures.append(np.array([float(each) for each in _FIGURE.findall(text)]))

    def bytes(self, data: bytes) -> None:
        try:
            self.text(data.decode())
        except UnicodeDecodeError:
            self.word("data")  # packed: as long as the packer makes it

    def mapping(self, items: dict[Any, Any]) -> None:
        for key, each in sorted(items.items(), key=lambda item: str(item[0])):
            self.word(str(key))
            self.take(each)

    def array(self, value: np.ndarray[Any, Any]) -> None:
        self.word(str(value.shape))
        if value.dtype.kind in "biuf":
            with np.errstate(invalid="ignore"):  # places that were never filled
                self.figures.append(value.astype(np.float64).ravel())
        else:
            self.word(str(value.tolist()))

    def take(self, value: Any) -> None:
        if isinstance(value, str):
            self.text(value)
        elif isinstance(value, bool | None | Enum):
            self.word(str(value))
        elif isinstance(value, int | float | np.number):
            self.figures.append(np.array([float(value)]))
        elif isinstance(value, bytes):
            self.bytes(value)
        elif isinstance(value, np.ndarray):
            self.array(value)
        elif isinstance(value, dict):
            self.mapping(value)
        elif isinstance(value, set | frozenset):
            self.word(str(sorted(map(str, value))))
        else:
            self._made(value)

    def _made(self, value: Any) -> None:
        self.word(type(value).__name__)
        if isinstance(value, list | tuple):
            for each in value:
                self.take(each)
        elif isinstance(value, BaseModel):
            self.take(value.model_dump())
        elif is_dataclass(value) and not isinstance(value, type):
            for each in fields(value):
                self.take(getattr(value, each.name))
        elif isinstance(value, shapely.Geometry):
            self.array(shapely.get_coordinates(value))
        elif isinstance(value, trimesh.Trimesh):
            self.take([len(value.vertices), len(value.faces), value.volume, value.bounds])

    def shortly(self) -> list[Any]:
        """A fingerprint of the words, how many figures, and two sums of their logarithms."""
        figures = np.concatenate([*self.figures, np.zeros(0)])
        sound = figures[np.isfinite(figures)]
        size = np.sign(sound) * np.log10(1.0 + np.minimum(np.abs(sound), _MOST) / _NIL)
        by_place = float(np.dot(size, np.linspace(1.0, 2.0, size.size)))
        sums = [round(float(size.sum()), 5), round(by_place, 5)]
        return [self.words.hexdigest()[:10], int(figures.size), *sums]


class Answers:
    """What one test was answered, by the name of what it asked."""

    def __init__(self, test: Callable[..., Any]) -> None:
        self._file, self._name = test.__code__.co_filename, test.__code__.co_qualname
        self._taken: dict[str, _Taken] = {}
        self.has_moved = False

    def note(self, asked: str, answer: Any, depth: int) -> None:
        """Take an answer that is given to the test itself, not to what it calls."""
        code = sys._getframe(depth + 1).f_code
        name = code.co_qualname
        is_own = name == self._name or name.startswith(f"{self._name}.<locals>")
        if is_own and code.co_filename == self._file:
            self._taken.setdefault(asked, _Taken()).take(answer)

    def shortly(self) -> Kept:
        """Nothing where oil moved: its last digits grow."""
        if self.has_moved:
            return {}
        return {name: taken.shortly() for name, taken in self._taken.items()}


class _Listening:
    """The test that is under way, if its answers are kept."""

    to: Answers | None = None


def listen(answers: Answers | None) -> None:
    _Listening.to = answers


def _heard(function: Callable[..., Any], name: str) -> Callable[..., Any]:
    @wraps(function)
    def answering(*given: Any, **named: Any) -> Any:
        answer = function(*given, **named)
        if _Listening.to is not None:
            _Listening.to.note(name, answer, 1)
        return answer

    answering.__dict__["is_heard"] = True
    return answering


def _moving(advance: Callable[..., None]) -> Callable[..., None]:
    @wraps(advance)
    def advancing(*given: Any, **named: Any) -> None:
        if _Listening.to is not None:
            _Listening.to.has_moved = True
        advance(*given, **named)

    advancing.__dict__["is_heard"] = True
    return advancing


def hear(module: ModuleType) -> None:
    """From now on a test module's own functions, and those of the core in it, are listened to."""
    for name, found in list(vars(module).items()):
        is_ours = type(found) is FunctionType and found.__module__.startswith(("bilge_", "tests."))
        if is_ours and not name.startswith("test_") and "is_heard" not in found.__dict__:
            setattr(module, name, _heard(found, name))
    for act in get_args(get_args(AnyAct)[0]):
        if "is_heard" not in act.done.__dict__:
            act.done = _heard(act.done, act.__name__)
    if "is_heard" not in Simulation.advance.__dict__:
        Simulation.advance = _moving(Simulation.advance)  # type: ignore[method-assign]


def kept(file: str) -> dict[str, Kept]:
    """What the tests of a file were answered, by the test."""
    path = KEPT / f"{file}.json"
    found: dict[str, Kept] = json.loads(path.read_text()) if path.exists() else {}
    return found


def differs(was: Kept, now: Kept) -> list[str]:
    """Names of what is answered otherwise.

    Examples
    --------
    >>> differs({"dose": ["a1", 1, 6.0, 6.0]}, {"dose": ["a1", 1, 6.00002, 6.00002]})
    []
    >>> differs({"dose": ["a1", 1, 6.0, 6.0]}, {"dose": ["a1", 1, 6.1, 6.1]})
    ['dose']
    """
    return [name for name in {**was, **now} if not _is_near(was.get(name), now.get(name))]


def _is_near(was: list[Any] | None, now: list[Any] | None) -> bool:
    if was is None or now is None or was[:2] != now[:2]:
        return False
    near = _NEAR + _NEAR_EACH * was[1]
    return all(abs(a - b) <= near for a, b in zip(was[2:], now[2:], strict=True))
