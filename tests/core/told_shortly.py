"""An answer put shortly: heads of lists as they are, of the rest what any change moves."""

from __future__ import annotations

import hashlib
import json
from typing import Any

import numpy as np

_WHOLE = 3
"""Items of a list that are kept as they are."""
_ROUNDED = 3
"""Decimals up to which a figure is taken to be told so many, and not as it came out."""
NEAR = 1e-4
"""By which figures may differ, of the greatest beside them."""


def _figure(value: float) -> float:
    return float(f"{value:.6g}")


def _taken_apart(value: Any) -> tuple[list[float], list[Any]]:
    """All numbers of plain data, and all that is none, each in its order."""
    if isinstance(value, int | float) and not isinstance(value, bool):
        return [float(value)], []
    if isinstance(value, dict):
        value = [part for pair in sorted(value.items()) for part in pair]
    if not isinstance(value, list):
        return [], [value]
    numbers: list[float] = []
    others: list[Any] = [len(value)]
    for each in value:
        more, besides = _taken_apart(each)
        numbers += more
        others += besides
    return numbers, others


def _summed(value: list[Any]) -> dict[str, Any]:
    numbers, others = _taken_apart(value)
    told: dict[str, Any] = {"more": len(value)}
    if any(not isinstance(each, int) or isinstance(each, bool) for each in others):
        print_of = hashlib.sha256(json.dumps(others).encode()).hexdigest()
        told["words"] = print_of[:12]
    if numbers:
        all_of = np.asarray(numbers)
        weighted = float(np.dot(all_of, np.linspace(1.0, 2.0, all_of.size)) / all_of.size)
        figures = (all_of.mean(), all_of.std(), all_of.min(), all_of.max(), weighted)
        told["figures"] = [_figure(float(each)) for each in figures]
    return told


def rounded(value: Any) -> Any:
    """The same with six digits of each figure: the last ones are the machine's."""
    if isinstance(value, dict):
        return {key: rounded(each) for key, each in value.items()}
    if isinstance(value, list):
        return [rounded(each) for each in value]
    return _figure(value) if isinstance(value, float) else value


def shortly(value: Any) -> Any:
    """Plain data, short enough to be kept beside a test.

    Of a long list the first three stand as they are; of the rest how many, a fingerprint of its
    words, and of its numbers mean, deviation, least, most and their mean weighted by place.

    Examples
    --------
    >>> shortly([0.1234567, 2, "a", 4.0, 4.0])
    [0.123457, 2, 'a', {'more': 2, 'figures': [4.0, 0.0, 4.0, 4.0, 6.0]}]
    """
    if isinstance(value, dict):
        return {key: shortly(each) for key, each in value.items()}
    if isinstance(value, list):
        rest = [_summed(value[_WHOLE:])] if len(value) > _WHOLE else []
        return [*(shortly(each) for each in value[:_WHOLE]), *rest]
    return _figure(value) if isinstance(value, float) else value


def _decimals(value: Any, where: str, found: dict[str, int]) -> dict[str, int]:
    """The most decimals of the figures at each place, of all items of a list alike."""
    if isinstance(value, dict):
        for key, each in value.items():
            if key != "figures":  # means and the like have as many as they have
                _decimals(each, f"{where}.{key}", found)
    elif isinstance(value, list):
        for each in value:
            _decimals(each, f"{where}[]", found)
    elif isinstance(value, float):
        after = format(_figure(value), ".9f").rstrip("0").partition(".")[2]
        found[where] = max(found.get(where, 0), len(after))
    return found


def differs(was: Any, now: Any) -> list[str]:
    """Where two answers differ, and how: in words and figures, or in the digits that are told.

    Examples
    --------
    >>> differs({"a": [900.1]}, {"a": [900.12]})
    ['.a[]: has 2 decimals, 1 before']
    """
    before, after = _decimals(was, "", {}), _decimals(now, "", {})
    return _differs(was, now, "") or [
        f"{place}: has {after[place]} decimals, {many} before"
        for place, many in before.items()
        if many <= _ROUNDED and after.get(place, 0) > many
    ]


def _differs(was: Any, now: Any, where: str) -> list[str]:
    """Where two answers differ, and how.

    Examples
    --------
    >>> _differs({"a": [1.0, 2.0]}, {"a": [1.0, 2.1]}, "")
    ['a: [1.0, 2.0] is now [1.0, 2.1]']
    >>> _differs({"a": [100.0, 0.0]}, {"a": [100.0, 0.001]}, "")
    []
    """
    if isinstance(was, dict) and isinstance(now, dict):
        keys = [*was, *(key for key in now if key not in was)]
        inside = f"{where}." if where else ""
        return [
            row
            for key in keys
            for row in (
                _differs(was[key], now[key], f"{inside}{key}")
                if key in was and key in now
                else [f"{inside}{key}: {'is new' if key in now else 'is gone'}"]
            )
        ]
    if isinstance(was, list) and isinstance(now, list):
        if _are_near(was, now):
            return []
        if len(was) == len(now) and not all(map(_is_number, was)):
            pairs = zip(was, now, strict=True)
            return [
                row for at, pair in enumerate(pairs) for row in _differs(*pair, f"{where}[{at}]")
            ]
    elif was == now or _are_near([was], [now]):
        return []
    return [f"{where}: {was} is now {now}"]


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


def _are_near(was: list[Any], now: list[Any]) -> bool:
    if len(was) != len(now) or not all(map(_is_number, [*was, *now])):
        return was == now
    most = max((abs(each) for each in was), default=0.0)
    return all(abs(a - b) <= NEAR * most + 1e-9 for a, b in zip(was, now, strict=True))
