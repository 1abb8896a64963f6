"""``bilge play LOG.csv --key KEY``: a log sent to Bilge at real speed, as a logger would."""

from __future__ import annotations

import argparse
import socket
import sys
import time
from collections.abc import Iterator
from pathlib import Path

from bilge_core.errors import BilgeError, InvalidInput, Problem
from bilge_core.loads.row_by_row import HEAD_ROWS, RowReader, row_reader
from bilge_core.loads.sniff import open_log, split_line

DEFAULT_PORT = 8792
_COMES_BY = 3.0
"""[s] of the log's end that are sent first, as of the lap before: a car that comes by the line."""
_WAITS = 10.0  # [s] to be connected, and to be told what is wrong


def _options() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bilge play", description="Send a log to Bilge at real speed, as a logger would."
    )
    parser.add_argument("log", type=Path, help="delimited text with time and oil pressure")
    parser.add_argument("--key", required=True, help="of the car, as the pit wall shows it")
    parser.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"default {DEFAULT_PORT}")
    parser.add_argument("--times", type=float, default=1.0, help="so many times real speed")
    parser.add_argument("--seconds", type=float, help="end after so much of the log")
    return parser


def rows_to_send(text: str) -> Iterator[tuple[float, str]]:
    """A log's lines in the order sent, each with its time since the first [s].

    Parameters
    ----------
    text : str
        The log.

    Yields
    ------
    tuple of float and str

    Raises
    ------
    InvalidInput
        If it has not what a live view needs.

    Notes
    -----
    Its last seconds go first, on the clock and with the lap before the first: as of a car that
    comes by the line. A log without lap numbers goes as it is.

    Examples
    --------
    >>> head = "time [s],speed [km/h],engine speed [rpm],oil pressure [bar],lap"
    >>> rows = [f"{t}.0,36,3000,4.5,7" for t in range(12)]
    >>> sent = list(rows_to_send("\\n".join([head, *rows])))
    >>> sent[0], sent[1]
    ((0.0, 'time [s],speed [km/h],engine speed [rpm],oil pressure [bar],lap'), \
(0.0, '-4,36,3000,4.5,6'))
    >>> len(sent), sent[-1][0]
    (17, 15.0)
    """
    file = open_log(text.encode())
    lines = text.splitlines()
    begins = max(file.header_line, file.units_line or 0)
    head = lines[max(file.header_line - 1, 0) : begins]
    rows = [line for line in lines[begins:] if line.strip()]
    reader = row_reader("\n".join([*head, *rows[:HEAD_ROWS]]))
    read = [(told["time"], row) for row in rows if (told := reader.read(row)) is not None]
    if not read:
        raise InvalidInput([Problem("log", "has no row that can be sent")])
    first, last = read[0][0], read[-1][0]
    for line in head:
        yield 0.0, line
    sent = list(read)
    if "lap" in reader.places:
        step = read[1][0] - first if len(read) > 1 else 1.0
        back = last + step - first
        numbers = reader.read(read[0][1])
        before = round(numbers["lap"] if numbers and "lap" in numbers else 1.0) - 1
        comes_by = [
            (at - back, _with(row, reader, at - back, before))
            for at, row in read
            if at > last - _COMES_BY - 1e-9
        ]
        sent = comes_by + sent
    start = sent[0][0]
    for at, row in sent:
        yield at - start, row


def _with(row: str, reader: RowReader, at: float, lap: int) -> str:
    """A row with another time and lap."""
    cells = split_line(row, reader.separator)
    place, zero, one = reader.places["time"]
    told = f"{(at - zero) / (one - zero):g}"
    cells[place] = told.replace(".", ",") if reader.decimal_comma else told
    cells[reader.places["lap"][0]] = str(lap)
    return reader.separator.join(cells)


def _refused(link: socket.socket) -> str:
    """What Bilge says where it does not take it; nothing: it takes it."""
    link.setblocking(False)
    try:
        return link.recv(1000).decode("utf-8", "replace").strip()
    except BlockingIOError:
        return ""
    finally:
        link.setblocking(True)


def send(text: str, key: str, port: int, times: float = 1.0, seconds: float | None = None) -> str:
    """Send a log; what Bilge said where it did not take it.

    Raises
    ------
    OSError
        If nobody listens, or the line breaks.
    InvalidInput
        If the log has not what a live view needs.
    """
    with socket.create_connection(("127.0.0.1", port), _WAITS) as link:
        link.sendall(f"key {key}\n".encode())
        begun = time.monotonic()
        for at, line in rows_to_send(text):
            if seconds is not None and at > seconds:
                break
            wait = begun + at / times - time.monotonic()
            if wait > 0.0:
                time.sleep(wait)
            if said := _refused(link):
                return said
            try:
                link.sendall(f"{line}\n".encode())
            except (BrokenPipeError, ConnectionResetError):
                if said := _refused(link):  # between the look and the line
                    return said
                raise
        link.shutdown(socket.SHUT_WR)
        link.settimeout(_WAITS)
        return link.recv(1000).decode("utf-8", "replace").strip()


def play(words: list[str]) -> int:
    """Run the command.

    Returns
    -------
    int
        0 when all was sent, 2 when something given was wrong or Bilge did not take it.
    """
    options = _options().parse_args(words)
    try:
        if not 0.1 <= options.times <= 100.0:
            raise InvalidInput([Problem("--times", "must be 0.1 to 100")])
        text = options.log.read_text(encoding="utf-8-sig")
        said = send(text, options.key, options.port, options.times, options.seconds)
    except OSError as error:
        where = error.filename or f"port {options.port} of this machine"
        print(f"bilge play: {where}: {error.strerror or error}", file=sys.stderr)
        return 2
    except (BilgeError, UnicodeDecodeError) as error:
        print(f"bilge play: {error}", file=sys.stderr)
        return 2
    if said:
        print(f"bilge play: {said}", file=sys.stderr)
        return 2
    return 0
