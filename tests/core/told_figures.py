"""The figures that the core rests on: each that stands by a name of its own in a module."""

from __future__ import annotations

import ast
import hashlib
import importlib
import json
import pkgutil
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from enum import Enum
from pathlib import Path
from typing import Any

import bilge_core
import numpy as np

_LONG = 90
"""Letters of a figure, or of a table of them, that are kept as they are."""


def _plainly(value: Any) -> Any:
    """Tables and records as plain data; what holds no figures is None."""
    made: Any = None
    if isinstance(value, Enum):
        made = value.name
    elif isinstance(value, np.ndarray):
        made = _plainly(value.tolist())
    elif isinstance(value, dict):
        made = {str(_plainly(key)): _plainly(each) for key, each in value.items()}
    elif isinstance(value, set | frozenset):
        made = sorted(str(_plainly(each)) for each in value)
    elif isinstance(value, tuple | list):
        made = [_plainly(each) for each in value]
    elif is_dataclass(value) and not isinstance(value, type):
        made = {each.name: _plainly(getattr(value, each.name)) for each in fields(value)}
    elif isinstance(value, float):
        made = float(f"{value:.12g}")
    elif isinstance(value, bool | int | str):
        made = value
    return made


def _has_figures(value: Any) -> bool:
    if isinstance(value, dict):
        return any(map(_has_figures, value.values()))
    if isinstance(value, list):
        return any(map(_has_figures, value))
    return isinstance(value, bool | int | float)


def _names(tree: ast.Module) -> Iterator[str]:
    """What a module gives a value to at its outermost level."""
    for node in tree.body:
        if isinstance(node, ast.Assign | ast.AnnAssign) and node.value is not None:
            places = node.targets if isinstance(node, ast.Assign) else [node.target]
            for place in places:
                yield from (each.id for each in ast.walk(place) if isinstance(each, ast.Name))


def _of_module(name: str) -> dict[str, Any]:
    module = importlib.import_module(name)
    tree = ast.parse(Path(str(module.__file__)).read_text())
    values = {each: _plainly(getattr(module, each)) for each in _names(tree)}
    return {each: _kept(value) for each, value in values.items() if _has_figures(value)}


def _kept(value: Any) -> Any:
    """A long table by its beginning and a fingerprint of all of it."""
    text = json.dumps(value, ensure_ascii=False)
    if len(text) <= _LONG:
        return value
    return f"{text[:_LONG]} {hashlib.sha256(text.encode()).hexdigest()[:12]}"


def of_figures() -> dict[str, Any]:
    """Every figure and table of figures of the core, by its module and name."""
    prefix = f"{bilge_core.__name__}."
    found = {
        each.name.removeprefix(prefix): _of_module(each.name)
        for each in pkgutil.walk_packages(bilge_core.__path__, prefix)
        if not each.name.startswith(f"{prefix}cli")
    }
    return {name: figures for name, figures in found.items() if figures}
