"""What every check of the rules says over figures from far too little to far too much."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
from collections.abc import Callable, Iterator
from typing import Any

import bilge_core.rules
from bilge_core.errors import BilgeError
from bilge_core.rules.rule import Check

_FIGURES = (-0.0123, 0.0, 0.0021, 0.0345, 0.567, 3.45, 88.8, 2.5e4)
_VALUES: dict[str, tuple[Any, ...]] = {
    "float": _FIGURES,
    "float | None": (*_FIGURES, None),
    "int": (0, 1, 2, 5),
    "int | None": (0, 1, 2, 5, None),
    "bool": (False, True),
    "Sequence[str]": (("one", "other"),),
}


def _checks() -> Iterator[tuple[str, Callable[..., Check | None]]]:
    for module in pkgutil.iter_modules(bilge_core.rules.__path__):
        rules = importlib.import_module(f"bilge_core.rules.{module.name}")
        for name, found in sorted(vars(rules).items()):
            if name.startswith("check_") and found.__module__ == rules.__name__:
                yield f"{module.name}.{name}", found


def _tried(check: Callable[..., Check | None]) -> Iterator[list[Any]]:
    """Each figure through all its values, the others kept low, in the middle or high."""
    given = inspect.signature(check).parameters.values()
    values = [_VALUES.get(str(each.annotation), (f"the {each.name}",)) for each in given]
    for share in (0.0, 0.4, 0.99):
        base = [each[int(share * len(each))] for each in values]
        for at, each in enumerate(values):
            for value in each:
                yield [*base[:at], value, *base[at + 1 :]]


def _said(check: Callable[..., Check | None], tried: list[Any]) -> str:
    try:
        found = check(*tried)
    except BilgeError as error:
        return f"refused: {error}"
    except (ArithmeticError, LookupError, ValueError):
        return "is never asked that"  # a bore of nil, a kind that there is not
    return "nothing" if found is None else f"{found.state}: {found.words}"


def of_checks() -> dict[str, list[str]]:
    """Of each check all that it says, in the order in which it is first said."""
    return {
        name: list(dict.fromkeys(_said(check, tried) for tried in _tried(check)))
        for name, check in _checks()
    }
