"""The rows of a recording's columns, taken into SI, odd ones taken out."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS, ChannelName
from bilge_core.loads.importing import MOST_SHOWN, Columns
from bilge_core.loads.reading import Column
from bilge_core.physics.arrays import Array
from bilge_core.quantities import si_from

_WRONG_UNIT = 0.02  # share of rows outside the plausible that is no longer a glitch


class Table:
    """Rows of columns, from which odd rows are taken out one reason after another."""

    def __init__(self, columns: Columns) -> None:
        self.values = columns.values
        self.lines = columns.lines
        self.bad = columns.bad_rows
        self.faults = list(columns.faults)
        self.remarks: list[str] = []

    def drop(self, odd: NDArray[np.bool_], say: Callable[[int], Problem]) -> None:
        """Take the odd rows out, and say so of the first of them."""
        if not odd.any():
            return
        room = max(0, MOST_SHOWN - len(self.faults))
        self.faults += [say(int(row)) for row in np.flatnonzero(odd)[:room]]
        self.bad += int(odd.sum())
        kept = ~odd
        self.values = {heading: column[kept] for heading, column in self.values.items()}
        self.lines = self.lines[kept]


def to_si(values: Array, name: ChannelName, column: Column) -> Array:
    """A channel's figures in SI, with the sign that the car's frame has."""
    kind, unit = CHANNELS[name].kind, column.unit
    zero, one = si_from(0.0, kind, unit), si_from(1.0, kind, unit)
    sign = -1.0 if column.positive in ("right", "braking") else 1.0
    if name in POSITIVE_WORDS:
        return sign * (zero + (one - zero) * values)
    return zero + (one - zero) * values


def from_si(value: float, kind: str, unit: str) -> float:
    """A figure in a unit, from SI."""
    zero, one = si_from(0.0, kind, unit), si_from(1.0, kind, unit)
    return (value - zero) / (one - zero)


def drop_out_of_range(table: Table, name: ChannelName, column: Column) -> None:
    """Leave out single figures that no car reaches; refuse when there are many."""
    channel = CHANNELS[name]
    values = to_si(table.values[column.heading], name, column)
    odd = (values < channel.lowest) | (values > channel.highest)
    low, high = sorted(
        from_si(limit, channel.kind, column.unit) for limit in (channel.lowest, channel.highest)
    )

    def say(row: int) -> Problem:
        return Problem(
            f"line {table.lines[row]}, column {column.heading}",
            f"{table.values[column.heading][row]:.4g} {column.unit} is outside "
            f"{low:.3g} to {high:.3g} {column.unit}; is the column's unit {column.unit}?",
        )

    if odd.sum() > max(2, _WRONG_UNIT * len(odd)):
        worst = np.abs(np.where(odd, values, 0.0)).argmax()
        raise InvalidInput([say(int(worst))])
    table.drop(odd, say)


def filled(table: Table, name: ChannelName, column: Column, clock: Array) -> Array:
    """A channel with its blanks drawn straight between neighbours."""
    values = to_si(table.values[column.heading], name, column)
    blank = np.isnan(values)
    share = float(blank.mean()) if len(blank) else 0.0
    if share == 0.0:
        return values
    if (~blank).sum() < 2:
        raise InvalidInput(
            [Problem(f"channels.{name}", f"the column {column.heading!r} is blank; choose another")]
        )
    if share > 0.001:
        table.remarks.append(
            f"{CHANNELS[name].label.capitalize()} is blank in {100 * share:.0f} % of the rows; "
            "it is drawn straight between the others."
        )
    return np.asarray(np.interp(clock, clock[~blank], values[~blank]))
