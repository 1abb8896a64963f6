"""A session's laps held against the forecast that was there: what the book keeps of it."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields

import numpy as np

from bilge_core.agreement.as_usual import AsUsual, as_usual
from bilge_core.agreement.dips_met import Frozen, LapMet, hold_lap
from bilge_core.agreement.resembles import Resembles, resembles
from bilge_core.agreement.sensor_shown import GAUGE_LAG, Shown, readings_a_second
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log, at_times
from bilge_core.physics.arrays import Array

TRACE_RATE = 50.0
"""Samples a second of a forecast that is kept with a session: at twenty a short dip is lost."""


@dataclass(frozen=True)
class Named:
    """A logged lap and what it is called."""

    name: str
    log: Log


@dataclass(frozen=True)
class LeftOut:
    """A lap that nothing is told by, and why."""

    name: str
    why: str


@dataclass(frozen=True)
class Judged:
    """A session's laps held against a forecast.

    names : of the laps held
    laps : LapMet each
    left_out : laps that nothing is told by
    shown : how the sensor is read: its lag as said, its rate as found
    usual : by the session's own laps
    looks : what too little pressure resembles; None where nobody knows what the gallery should have
    """

    names: tuple[str, ...]
    laps: tuple[LapMet, ...]
    left_out: tuple[LeftOut, ...]
    shown: Shown
    usual: AsUsual
    looks: Resembles | None


def judge(
    laps: Sequence[Named], frozen: Frozen | None, lag: float = GAUGE_LAG,
    should: AsUsual | None = None,
) -> Judged:  # fmt: skip
    """Hold a session's laps against a forecast.

    Parameters
    ----------
    laps : sequence of Named
        Prepared.
    frozen : Frozen or None
        What they are judged by; None: measured dips alone.
    lag : float
        Of the sensor [s].
    should : AsUsual, optional
        What the gallery should have: by earlier sound laps of the car; else by the forecast.

    Returns
    -------
    Judged

    Raises
    ------
    InvalidQuantity
        If no lap has its oil's pressure, or none is of the forecast's circuit.

    Examples
    --------
    >>> time = np.arange(0.0, 20.0, 0.05)
    >>> log = Log(time, np.full(400, 30.0), np.zeros(400), np.sin(time), np.full(400, 500.0),
    ...           oil_pressure=np.full(400, 5e5))
    >>> found = judge([Named("Lap 1", log)], None)
    >>> found.names, found.laps[0].met, found.shown.rate
    (('Lap 1',), (), 20.0)
    """
    left_out, held = [], []
    for each in laps:
        if each.log.oil_pressure is None:
            left_out.append(LeftOut(each.name, "has no oil pressure"))
        else:
            held.append(each)
    if not held:
        raise InvalidQuantity("laps", "without oil pressure", "logged with their oil pressure")
    usual = as_usual([each.log for each in held])
    rates = [readings_a_second(each.log.time, _pressure(each.log)) for each in held]
    shown = Shown(lag, min(rates))
    met = [(each, hold_lap(each.log, usual, shown, frozen)) for each in held]
    of_it = [(each, lap) for each, lap in met if lap.laid is None or lap.laid.is_same]
    left_out += [
        LeftOut(each.name, "is of another circuit than the forecast")
        for each, lap in met
        if lap.laid is not None and not lap.laid.is_same
    ]
    if not of_it:
        raise InvalidQuantity("laps", "of another circuit", "of the circuit that was forecast")
    if should is None and frozen is not None:
        should = AsUsual(frozen.speed, np.maximum.accumulate(frozen.steady))
    looks = None if should is None else resembles([lap.log for _, lap in of_it], should, shown)
    return Judged(
        tuple(each.name for each, _ in of_it), tuple(lap for _, lap in of_it), tuple(left_out),
        shown, usual, looks,
    )  # fmt: skip


def _pressure(log: Log) -> Array:
    assert log.oil_pressure is not None
    return log.oil_pressure


def frozen_at(
    log: Log, corners: tuple[Corner, ...], time: Array, pressure: Array, usual: Array,
    steady: AsUsual,
) -> Frozen:  # fmt: skip
    """A forecast as it is kept with a session, fifty samples a second.

    Parameters
    ----------
    log : Log
        Of the lap that it was made on.
    corners : tuple of Corner
    time, pressure, usual : ndarray, shapes (n,)
        [s], [Pa], [Pa]
    steady : AsUsual
        What the gallery has at a speed, mouth covered.

    Examples
    --------
    >>> log = Log(np.arange(0.0, 2.0, 0.01), *np.zeros((4, 200)))
    >>> flat = AsUsual(np.array([500.0]), np.array([5e5]))
    >>> len(frozen_at(log, (), log.time, log.time, log.time, flat).time)
    100
    """
    even = np.arange(0.0, float(min(time[-1], log.time[-1])) + 1e-9, 1.0 / TRACE_RATE)
    return Frozen(
        at_times(log, even), corners, even, np.interp(even, time, pressure),
        np.interp(even, time, usual), steady.speed, steady.pressure,
    )  # fmt: skip


_MOST_ROWS = 400_000
_LARGEST = 256 * 1024 * 1024
"""Of what is kept with a session, unpacked [bytes]: sixty laps of three minutes take 70 MB."""
_EVEN = 0.01  # of a step, by which steps may differ that count as one
_LOG = tuple(each.name for each in fields(Log))
_FROZEN = ("time", "pressure", "usual", "speed", "steady")


def _log_arrays(prefix: str, log: Log) -> dict[str, Array]:
    return {
        f"{prefix}{name}": channel if name == "time" else channel.astype(np.float32)
        for name in _LOG
        if (channel := getattr(log, name)) is not None
    }


def _log_of(prefix: str, rows: Mapping[str, Array]) -> Log:
    held = {
        name: rows[prefix + name].astype(np.float64) for name in _LOG if prefix + name in rows
    }  # fmt: skip
    log = Log(**held)
    _whole(log.time, *(held[name] for name in held if name not in ("time", "place")))
    if log.place is not None and log.place.shape != (len(log.time), 2):
        raise ValueError("a lap's places are not one at every time")
    return log


def _whole(time: Array, *channels: Array) -> None:
    """Refuses what is no lap: samples that are no numbers, not one at every time, time not even."""
    if time.ndim != 1 or not 2 <= len(time) <= _MOST_ROWS:
        raise ValueError("a lap has no samples, or too many")
    steps = np.diff(time)
    if not np.all(steps > 0.0) or np.ptp(steps) > _EVEN * float(steps.mean()):
        raise ValueError("a lap's time does not rise evenly")
    for each in channels:
        if each.shape != time.shape or not np.all(np.isfinite(each)):
            raise ValueError("a channel is not one number at every time")


def _table(speed: Array, steady: Array) -> None:
    """Refuses what is no table of pressures over speeds."""
    if speed.ndim != 1 or speed.shape != steady.shape or len(speed) < 1:
        raise ValueError("pressures are not one at every speed")
    if not (np.all(np.isfinite(speed)) and np.all(np.diff(speed) > 0.0) and np.all(steady > 0.0)):
        raise ValueError("speeds do not rise, or a pressure is not above nil")


def kept_of(frozen: Frozen | None, laps: Sequence[Named]) -> bytes:
    """Laps, and the forecast that they are judged by, as bytes that stand by themselves.

    Parameters
    ----------
    frozen : Frozen or None
    laps : sequence of Named

    Returns
    -------
    bytes
        A compressed archive of arrays.
    """
    rows: dict[str, Array] = {}
    for number, each in enumerate(laps):
        rows |= _log_arrays(f"lap{number}_", each.log)
    if frozen is not None:
        rows |= _log_arrays("on_", frozen.log)
        rows |= {f"forecast_{name}": getattr(frozen, name) for name in _FROZEN}
        rows["corners"] = np.array(
            [(each.number, each.hand == "left", each.start, each.end, each.peak_g)
             for each in frozen.corners]
        ).reshape(-1, 5)  # fmt: skip
        rows["corner_names"] = np.array([each.name or "" for each in frozen.corners], dtype="U80")
    rows["names"] = np.array([each.name for each in laps], dtype="U120")
    buffer = io.BytesIO()
    np.savez_compressed(buffer, **rows)  # type: ignore[arg-type]
    return buffer.getvalue()


def read_kept_laps(data: bytes) -> tuple[Frozen | None, tuple[Named, ...]]:
    """What `kept_of` made.

    Raises
    ------
    InvalidQuantity
        If the bytes are not what it made.

    Examples
    --------
    >>> log = Log(np.arange(0.0, 1.0, 0.1), *np.ones((4, 10)), oil_pressure=np.ones(10))
    >>> frozen, laps = read_kept_laps(kept_of(None, [Named("Lap 1", log)]))
    >>> frozen, laps[0].name, laps[0].log.step
    (None, 'Lap 1', 0.1)
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if sum(each.file_size for each in archive.infolist()) > _LARGEST:
                raise ValueError("larger than it may be")
        with np.load(io.BytesIO(data), allow_pickle=False) as stored:
            rows = {name: stored[name] for name in stored.files}
        names = [str(each) for each in rows["names"]]
        laps = tuple(Named(name, _log_of(f"lap{at}_", rows)) for at, name in enumerate(names))
        if "forecast_time" not in rows:
            return None, laps
        corners = tuple(
            Corner(int(number), "left" if left else "right", start, end, peak, str(name) or None)
            for (number, left, start, end, peak), name in zip(
                rows["corners"].tolist(), rows["corner_names"], strict=True
            )
        )
        told = {name: rows[f"forecast_{name}"] for name in _FROZEN}
        _whole(told["time"], told["pressure"], told["usual"])
        _table(told["speed"], told["steady"])
        return Frozen(_log_of("on_", rows), corners, **told), laps
    except (ValueError, TypeError, KeyError, OSError, EOFError, zipfile.BadZipFile) as error:
        raise InvalidQuantity("kept laps", "not readable", "as they were kept") from error
