"""What each stage's screen asks: a folder a stage, found by itself.

A folder with an `api` that has a `router` answers under ``/stages/<its name>``.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator

from ninja import Router


def stage_routers() -> Iterator[tuple[str, Router]]:
    """Every stage's key and router, in the order of the keys."""
    for folder in sorted(pkgutil.iter_modules(__path__), key=lambda found: found.name):
        if folder.ispkg:
            api = importlib.import_module(f"{__name__}.{folder.name}.api")
            yield folder.name.replace("_", "-"), api.router
