"""A log read while it is written: its headings once, then row by row."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidInput, Problem
from bilge_core.loads.channels import CHANNELS, ChannelName
from bilge_core.loads.importing import cell_value
from bilge_core.loads.sniff import open_log, split_line
from bilge_core.loads.table import to_si

HEAD_ROWS = 5
"""Rows under the headings that are waited for: they tell separator and decimal comma."""
_NEEDED: tuple[ChannelName, ...] = ("time", "speed", "engine_speed", "oil_pressure")
_WANTED: tuple[ChannelName, ...] = (*_NEEDED, "lap", "oil_temperature")


@dataclass(frozen=True)
class RowReader:
    """How rows are read.

    separator, decimal_comma : how their text is written
    places : of each channel, where in a row it stands and what one and nil of it are in SI
    """

    separator: str
    decimal_comma: bool
    places: dict[ChannelName, tuple[int, float, float]]

    def read(self, line: str) -> dict[ChannelName, float] | None:
        """A row's figures in SI; None for a row that cannot be read or that no car reaches.

        A channel that is blank is left out.
        """
        cells = split_line(line.strip(), self.separator)
        found: dict[ChannelName, float] = {}
        for name, (place, zero, one) in self.places.items():
            if place >= len(cells):
                return None
            try:
                value = zero + (one - zero) * cell_value(cells[place], self.decimal_comma)
            except ValueError:
                return None
            if math.isnan(value):
                continue
            if not CHANNELS[name].lowest <= value <= CHANNELS[name].highest:
                return None
            found[name] = value
        return found if "time" in found else None


def row_reader(head: str) -> RowReader:
    """How a log is read of which there are headings and a few rows.

    Parameters
    ----------
    head : str

    Returns
    -------
    RowReader

    Raises
    ------
    InvalidInput
        If it has not what a live view needs, with what is missing.

    Examples
    --------
    >>> head = "time [s];speed [km/h];engine speed [rpm];oil pressure [bar];lap\\n"
    >>> reader = row_reader(head + "".join(f"{t},0;36;3000;4,5;1\\n" for t in range(5)))
    >>> row = reader.read("1,5;36;3000;4,5;1")
    >>> round(row["speed"], 6), row["oil_pressure"], reader.read("what;is;this")
    (10.0, 450000.0, None)
    """
    file = open_log(head.encode())
    columns = file.proposal.columns
    for name in _NEEDED:
        if name not in columns or (CHANNELS[name].units and not columns[name].unit):
            words = f"have no {CHANNELS[name].label} with its unit"
            raise InvalidInput([Problem("headings", words)])
    places = {}
    for name in _WANTED:
        column = columns.get(name)
        if column is None or (CHANNELS[name].units and not column.unit):
            continue
        zero, one = to_si(np.array([0.0, 1.0]), name, column).tolist()
        places[name] = (file.headings.index(column.heading), zero, one)
    return RowReader(file.separator, file.decimal_comma, places)
