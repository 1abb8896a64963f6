"""Answers on builds that are asked for again and again, worked out once for all that they feel."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from functools import lru_cache, wraps
from typing import Concatenate, ParamSpec, TypeVar

from bilge_core.document.build import Build

P = ParamSpec("P")
T = TypeVar("T")


def all_but_its_name(build: Build) -> str:
    """What is felt by an answer that feels everything but what a build is called and its notes.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> all_but_its_name(build) == all_but_its_name(build.model_copy(update={"name": "Heron"}))
    True
    """
    return build.model_dump_json(exclude={"name", "notes"})


@dataclass(frozen=True)
class _Asked:
    felt: str
    more: tuple[Hashable, ...]
    named: tuple[tuple[str, Hashable], ...]
    build: Build = field(compare=False)


def remembered(
    felt: Callable[[Build], str], most: int
) -> Callable[[Callable[Concatenate[Build, P], T]], Callable[Concatenate[Build, P], T]]:
    """Keep the last answers of a function of a build.

    Parameters
    ----------
    felt : callable
        All that the function feels of a build, as text: two builds with the same text have the
        same answer.
    most : int
        How many answers are kept; those that were not asked for longest go first.

    Returns
    -------
    callable
        For a function of a build and of whatever else can be a key. What it raises is not kept,
        and what it gives is everybody's: nobody may change it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> @remembered(lambda build: build.model_dump_json(include={"oil"}), most=2)
    ... def poured(build: Build, times: int) -> float:
    ...     print("worked out")
    ...     return times * build.oil.volume_l
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> poured(build, 2) == poured(build.model_copy(update={"name": "Heron"}), 2)
    worked out
    True
    >>> poured(build, 1) < poured(build, 2)
    worked out
    True
    """

    def keeping(work_out: Callable[Concatenate[Build, P], T]) -> Callable[Concatenate[Build, P], T]:
        @lru_cache(maxsize=most)
        def kept(asked: _Asked) -> T:
            return work_out(asked.build, *asked.more, **dict(asked.named))  # type: ignore[arg-type]

        @wraps(work_out)
        def found(build: Build, /, *more: P.args, **named: P.kwargs) -> T:
            return kept(_Asked(felt(build), more, tuple(sorted(named.items())), build))

        return found

    return keeping
