"""Measurement files of the ASAM's MDF kind (version 4), turned into a table of text.

A converter ahead of everything else: what is read, guessed, shown and kept is the same as for
delimited text.
"""

from __future__ import annotations

import gc
import io
import re
from pathlib import Path
from typing import BinaryIO

import numpy as np

from bilge_core.errors import InvalidInput, Problem

MARK = b"MDF     "
"""How such a file begins (ASAM MDF 4.1, 4.10.1 identification block; from memory)."""

HIGHEST_RATE = 100.0
"""[1/s] at which channels are laid beside each other: see `bilge_core.loads.log`."""

_MOST_CHANNELS = 400


def is_mdf(source: bytes | Path) -> bool:
    """Whether a file is of this kind, by its first bytes.

    Examples
    --------
    >>> is_mdf(b"time,speed\\n0,1\\n")
    False
    """
    if isinstance(source, bytes):
        return source.startswith(MARK)
    with source.open("rb") as stream:
        return stream.read(len(MARK)) == MARK


def write_as_text(source: bytes | Path, target: BinaryIO) -> None:
    """Write all channels of numbers as one table: time in s, a column a channel, unit in brackets.

    Raises
    ------
    InvalidInput
        If the file is damaged, or holds no channels of numbers over time.
    """
    from asammdf import MDF  # noqa: PLC0415 - pandas and all, for these files alone

    fault = None
    try:
        opened = MDF(io.BytesIO(source) if isinstance(source, bytes) else source)
        with opened as file:
            step = _step(file)
            table = file.to_dataframe(
                raster=step, time_from_zero=True, ignore_value2text_conversions=True
            ).select_dtypes("number")
            units = {name: _unit(file, name) for name in table.columns}
    except InvalidInput:
        raise
    except Exception as error:  # the reader's own errors are of many kinds
        said = re.sub(r"'?<[^>]* object at 0x[0-9a-f]+>'?", "it", str(error))
        fault = f"is a measurement file that cannot be read: {said[:120] or 'damaged'}"
    if fault is not None:
        # what the reader left half made fails once more as it goes: here, not in the midst of
        # something else (an error under Python's own parser breaks that)
        gc.collect()
        raise InvalidInput([Problem("file", fault)])
    if len(table) < 2 or not 1 <= len(table.columns) <= _MOST_CHANNELS:
        raise InvalidInput(
            [Problem("file", "holds no channels of numbers over time; export speed, g and rpm")]
        )
    table.columns = [
        f"{name.split(chr(92))[0]} [{units[name]}]" if units[name] else name.split(chr(92))[0]
        for name in table.columns
    ]
    table.index.name = "time [s]"
    text = io.TextIOWrapper(target, encoding="utf-8", newline="", write_through=True)
    table.to_csv(text, float_format="%.7g")
    text.detach()


def _step(file: object) -> float:
    """The usual time between samples of the quickest channels, not under 10 ms [s]."""
    steps = []
    for group in range(len(file.groups)):  # type: ignore[attr-defined]
        time = file.get_master(group)  # type: ignore[attr-defined]
        if len(time) > 1:
            steps.append(float(np.median(np.diff(time))))
    usable = [each for each in steps if each > 0.0]
    if not usable:
        raise InvalidInput([Problem("file", "holds no channel with a time of its own")])
    return max(min(usable), 1.0 / HIGHEST_RATE)


def _unit(file: object, name: str) -> str:
    try:
        return str(file.get_channel_unit(name) or "")  # type: ignore[attr-defined]
    except Exception:  # a name in several groups: its unit is guessed like any other
        return ""
