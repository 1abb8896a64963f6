"""Loads without a logger: so many g, in that direction, for so many seconds."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal, get_args

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY

Kind = Literal["corner", "braking", "launch", "chicane", "drift", "skid_pad", "hill"]
Hand = Literal["left", "right"]

KINDS: tuple[Kind, ...] = get_args(Kind)

_RATE = 50.0
_BEFORE = 2.0  # [s] without load first, and as long afterwards
_LONGEST = 1200.0  # [s] of all in a row (ours: longer than any lap)
_DRIFT_DRIVE = 0.25  # [g] forward while sliding on the throttle (invented)


@dataclass(frozen=True)
class Manoeuvre:
    """What the driver does.

    kind : see `KINDS`
    hand : of the first turn; no matter when braking, launching or climbing
    level : load at its height [g]
    ramp : time to reach it, and to let it go [s]
    hold : time at it [s]; of each part in a chicane or drift
    engine_speed : [rad/s]
    """

    kind: Kind
    hand: Hand
    level: float
    ramp: float
    hold: float
    engine_speed: float


def _stations(manoeuvre: Manoeuvre) -> list[tuple[float, float]]:
    """Side and fore load [g] one after another, each ramped to and held."""
    g = manoeuvre.level
    side = g if manoeuvre.hand == "left" else -g
    stations: dict[Kind, list[tuple[float, float]]] = {
        "corner": [(side, 0.0)],
        "braking": [(0.0, -g)],
        "launch": [(0.0, g)],
        "chicane": [(side, 0.0), (-side, 0.0), (side, 0.0)],
        "drift": [(side, _DRIFT_DRIVE), (-side, _DRIFT_DRIVE)] * 2,
        "skid_pad": [(side, 0.0)],
        "hill": [(0.0, g)],
    }
    return stations[manoeuvre.kind]


def _check(manoeuvre: Manoeuvre) -> None:
    for name, value, most in (
        ("level", manoeuvre.level, 4.0),
        ("ramp", manoeuvre.ramp, 30.0),
        ("hold", manoeuvre.hold, 600.0),
        ("engine speed", manoeuvre.engine_speed, 2200.0),
    ):
        if not (math.isfinite(value) and 0.0 < value <= most):
            raise InvalidQuantity(name, value, f"above 0, at most {most:g}")


def manoeuvre_log(*manoeuvres: Manoeuvre) -> Log:
    """Manoeuvres in a row as a log: two seconds at rest, half-cosine ramps, two seconds at rest.

    Parameters
    ----------
    *manoeuvres : Manoeuvre
        One after another with no rest between: braking goes over into the turn.

    Returns
    -------
    Log
        50 samples a second, signs of ISO 8855. Speed is an even 25 m/s: it decides nothing.

    Raises
    ------
    InvalidQuantity
        If there is none, a figure is not finite, a time is not positive, a load is outside 0 to
        4 g, or all of it lasts over 20 minutes.

    Examples
    --------
    >>> log = manoeuvre_log(Manoeuvre("corner", "right", 1.2, 0.5, 4.0, 600.0))
    >>> log.duration, round(float(log.leftward.min()) / 9.80665, 3)
    (9.0, -1.2)
    >>> turn = Manoeuvre("corner", "left", 1.2, 0.5, 4.0, 600.0)
    >>> manoeuvre_log(Manoeuvre("braking", "left", 1.0, 0.2, 2.0, 600.0), turn).duration
    11.2
    """
    for manoeuvre in manoeuvres:
        _check(manoeuvre)
    if not manoeuvres:
        raise InvalidQuantity("manoeuvres", 0, "at least one")
    # time, side and fore load, engine speed; each ramped to and held
    rows = [(0.0, 0.0, 0.0, manoeuvres[0].engine_speed)]
    rows.append((_BEFORE, *rows[0][1:]))

    def go_to(side: float, fore: float, ramp: float, hold: float, speed: float) -> None:
        reached = rows[-1][0] + ramp
        rows.extend([(reached, side, fore, speed), (reached + hold, side, fore, speed)])

    for each in manoeuvres:
        for station in _stations(each):
            go_to(*station, each.ramp, each.hold, each.engine_speed)
    last = manoeuvres[-1]
    go_to(0.0, 0.0, last.ramp, _BEFORE, last.engine_speed)
    if rows[-1][0] > _LONGEST:
        raise InvalidQuantity("manoeuvres", f"{rows[-1][0]:.0f} s", f"at most {_LONGEST:.0f} s")
    table = np.array(rows)
    even = np.arange(round(table[-1, 0] * _RATE) + 1) / _RATE
    side, fore, speed = (_eased(even, table[:, 0], table[:, k]) for k in (1, 2, 3))
    return Log(
        even,
        np.full_like(even, 25.0),
        STANDARD_GRAVITY * fore,
        STANDARD_GRAVITY * side,
        speed,
    )


def _eased(even: Array, times: Array, values: Array) -> Array:
    """Between stations along half a cosine."""
    after = np.clip(np.searchsorted(times, even, side="right"), 1, len(times) - 1)
    share = np.clip((even - times[after - 1]) / (times[after] - times[after - 1]), 0.0, 1.0)
    eased = 0.5 - 0.5 * np.cos(math.pi * share)
    return np.asarray(values[after - 1] + eased * (values[after] - values[after - 1]))


def with_grip(log: Log, factor: float) -> Log:
    """A logged lap on better tyres, or worse ones.

    The same line at the new limit: side g and braking grow by the factor, speed and engine speed
    by its root, and the lap is that much shorter. Gaining speed is left as it was: that is the
    engine's doing, not the tyres'.

    Parameters
    ----------
    log : Log
    factor : float
        Grip over grip when logged, 0.3 to 3.

    Returns
    -------
    Log
        At its own number of samples.

    Raises
    ------
    InvalidQuantity
        If the factor is outside that.

    Notes
    -----
    A lap is not all at the limit: straights would not shorten so. It is the load in the corners
    that this is for, and engine speed is kept below the log's own highest.

    Examples
    --------
    >>> lap = manoeuvre_log(Manoeuvre("corner", "left", 1.0, 0.5, 4.0, 600.0))
    >>> better = with_grip(lap, 1.44)
    >>> round(float(better.leftward.max()) / 9.80665, 2), round(better.duration, 2)
    (1.44, 7.5)
    """
    if not (math.isfinite(factor) and 0.3 <= factor <= 3.0):
        raise InvalidQuantity("factor", factor, "0.3 to 3")
    root = math.sqrt(factor)
    fastest = float(log.engine_speed.max())
    return replace(
        log,
        time=log.time / root,
        speed=log.speed * root,
        forward=np.where(log.forward < 0.0, log.forward * factor, log.forward),
        leftward=log.leftward * factor,
        engine_speed=np.minimum(log.engine_speed * root, fastest),
    )
