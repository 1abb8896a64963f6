"""Names for what an act puts in."""

from __future__ import annotations

from collections.abc import Collection


def free_name(taken: Collection[str], name: str) -> str:
    """The name itself, or with the first number that makes it another.

    Examples
    --------
    >>> free_name({"F", "F 2"}, "F"), free_name({"F"}, "B")
    ('F 3', 'B')
    """
    if name not in taken:
        return name
    return next(n for i in range(2, 200) if (n := f"{name} {i}") not in taken)
