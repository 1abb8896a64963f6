"""Answers that take a while to work out, kept for the next who asks for the same."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from bilge_core.document.reach import Answer
from bilge_core.tell.known_by import key_of
from builds.models import BuildState
from builds.selectors import plain_document
from django.core.cache import caches
from loads.models import Lap
from loads.selectors import known_by
from pydantic import BaseModel

Parts = Mapping[str, BaseModel]


def kept(
    answer: Answer,
    state: BuildState,
    lap: Lap | None,
    work_out: Callable[[], Parts],
    *more: bytes,
) -> dict[str, bytes]:
    """The parts of an answer on a state over a lap, each as JSON: kept ones, or worked out now.

    `more` is what else it was made from.
    """
    key = key_of(answer, plain_document(state), known_by(lap), *more)
    found: dict[str, bytes] | None = caches["forecasts"].get(key)
    if found is None:
        found = {name: part.model_dump_json().encode() for name, part in work_out().items()}
        caches["forecasts"].set(key, found)
    return found


def joined(parts: Mapping[str, bytes]) -> bytes:
    """Parts that are JSON as one object of them.

    >>> joined({"state": b"3", "rose": b"{}"})
    b'{"state":3,"rose":{}}'
    """
    return b"{" + b",".join(f'"{name}":'.encode() + part for name, part in parts.items()) + b"}"
