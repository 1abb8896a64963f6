"""What the core raises when it is given something that it cannot work with."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


class BilgeError(Exception):
    """Anything the core refuses, with a sentence for the user."""


class InvalidQuantity(BilgeError):
    """A number that a formula cannot take.

    Examples
    --------
    >>> str(InvalidQuantity("bore", -1.0, "above 0 m"))
    'bore is -1.0; it must be above 0 m'
    """

    def __init__(self, name: str, value: object, requirement: str) -> None:
        self.name = name
        self.value = value
        self.requirement = requirement
        super().__init__(f"{name} is {value}; it must be {requirement}")


class ConvergenceError(BilgeError):
    """An iteration that did not arrive."""

    def __init__(self, what: str, iterations: int, residual: float) -> None:
        self.iterations = iterations
        self.residual = residual
        super().__init__(
            f"{what} did not converge in {iterations} iterations; residual {residual:.3g}"
        )


@dataclass(frozen=True)
class Problem:
    """One fault in what the user gave: which field, and what would be right.

    `field` is a dotted path such as ``pan.zones.1.outline_mm``, or a place in
    a file such as ``line 18, column speed [km/h]``.
    """

    field: str
    message: str

    def __str__(self) -> str:
        return f"{self.field}: {self.message}"


class InvalidInput(BilgeError):
    """A document or file with at least one fault; all of them are listed."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("; ".join(str(problem) for problem in self.problems))
