"""What a log says in words, so that a wrong unit or sign shows itself."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.loads.corners import Corner, find_corners
from bilge_core.loads.line import heading
from bilge_core.loads.log import Log
from bilge_core.physics.gravity import STANDARD_GRAVITY

_LIKELY_G = 3.5


@dataclass(frozen=True)
class LogFacts:
    """Figures of a prepared log, sentences that state them, and doubts about units or signs.

    duration [s], rate [1/s], highest_speed [m/s], left_g, right_g, braking_g,
    forward_g (highest, smoothed) [g], net_turn [rad] (positive to the left).
    """

    duration: float
    rate: float
    highest_speed: float
    left_g: float
    right_g: float
    braking_g: float
    forward_g: float
    net_turn: float
    corners: tuple[Corner, ...]
    sentences: tuple[str, ...]
    doubts: tuple[str, ...]


def _speed_agreement(log: Log) -> float:
    """Slope of speed's own rate against the logged forward acceleration: 1 when both agree."""
    rate = np.gradient(log.speed, log.time)
    spread = float(np.dot(log.forward, log.forward))
    return float(np.dot(rate, log.forward)) / spread if spread > 0.0 else math.nan


def _doubts(log: Log, peak_g: float, agreement: float) -> list[str]:
    doubts = []
    if peak_g > _LIKELY_G:
        doubts.append(
            f"{peak_g:.1f} g is more than nearly any car reaches: are the columns in m/s2, not g?"
        )
    elif peak_g < 0.2:
        doubts.append(
            f"the highest load is {peak_g:.2f} g: are the columns in g, not m/s2, "
            "and is the car moving?"
        )
    if agreement < -0.3:
        doubts.append(
            "speed rises while longitudinal g says braking: turn the longitudinal sign round"
        )
    elif not math.isnan(agreement) and not 0.5 < agreement < 2.0:
        doubts.append(
            "longitudinal g and the change of speed do not agree: check the units of speed and g"
        )
    return doubts


_FAST = 75.0  # [m/s] that a car with little grip does not reach on a track (270 km/h, ours)
_LITTLE_GRIP = 1.0  # [g]
_CLOSES = math.radians(60.0)


def _odd_together(top: float, side_g: float, turn: float, log: Log) -> list[str]:
    """What does not add up: a top speed and a grip of different cars, a lap that does not close."""
    odd = []
    if top > _FAST and side_g < _LITTLE_GRIP:
        odd.append(
            f"{top * 3.6:.0f} km/h with no more than {side_g:.2f} g in corners: are the units of "
            "speed and side g right?"
        )
    ends_as_it_begins = abs(log.speed[-1] - log.speed[0]) < 0.1 * top and log.duration > 20.0
    rounds = turn / (2.0 * math.pi)
    off = abs(rounds - round(rounds)) * 2.0 * math.pi
    if ends_as_it_begins and abs(turn) > math.radians(180.0) and off > _CLOSES:
        odd.append(
            f"the lap does not close: it turns by {abs(math.degrees(turn)):.0f}°, and a round is "
            "360°: are the units of speed and side g right, and is it a whole lap?"
        )
    return odd


def _corners_said(lefts: int, rights: int) -> str:
    if lefts and rights:
        return f"{lefts} left and {rights} right-hand corners"
    count, hand = (lefts, "left") if lefts else (rights, "right")
    if count == 0:
        return "no corner"
    return f"one {hand}-hand corner" if count == 1 else f"{count} {hand}-hand corners"


def _turn_sentence(what: str, turn: float, corners: tuple[Corner, ...], knows: bool) -> str:
    lefts = sum(corner.hand == "left" for corner in corners)
    rights = len(corners) - lefts
    hand = "left" if turn > 0.0 else "right"
    degrees = abs(math.degrees(turn))
    split = _corners_said(lefts, rights)
    if not knows:
        return f"{what} has {split}."
    if degrees < 60.0 and bool(lefts) == bool(rights):
        return f"{what} turns as much left as right ({split})."
    mostly = "mostly " if lefts and rights else ""
    return f"{what} turns {mostly}{hand}: {degrees:.0f}° in all, {split}."


def log_facts(log: Log, what: str = "This lap") -> LogFacts:
    """State a prepared log in figures and words.

    Parameters
    ----------
    log : Log
        See `prepare`.
    what : str
        What the sentences call it.

    Returns
    -------
    LogFacts

    Examples
    --------
    >>> time = np.arange(0, 20, 0.1)
    >>> held, still, side = np.full(200, 30.0), np.zeros(200), np.full(200, -9.8)
    >>> log_facts(Log(time, held + 1e-3 * time, still, side, 20.0 * held)).sentences[0]
    'This lap turns right: 372° in all, one right-hand corner.'

    A load that was said in words has an even speed, which says nothing:

    >>> log_facts(Log(time, held, still, side, 20.0 * held)).sentences[0]
    'This lap has one right-hand corner.'
    """
    corners = find_corners(log)
    left, right, forward, braking = (
        max(0.0, float(most)) / STANDARD_GRAVITY
        for most in (
            log.leftward.max(), -log.leftward.min(), log.forward.max(), -log.forward.min(),
        )
    )  # fmt: skip
    turn = float(heading(log)[-1])
    top = float(log.speed.max())
    knows = bool(np.ptp(log.speed) > 0.0)  # no car's speed is even to the last digit
    sentences = (
        _turn_sentence(what, turn, corners, knows),
        f"It brakes at up to {braking:.2f} g, gains speed at up to {forward:.2f} g, "
        f"corners at up to {left:.2f} g left and {right:.2f} g right.",
        f"It lasts {log.duration:.1f} s"
        + (f" and reaches {top * 3.6:.0f} km/h." if knows else "."),
    )
    agreement = _speed_agreement(log) if knows else math.nan
    doubts = _doubts(log, max(left, right, forward, braking), agreement)
    if knows:
        doubts += _odd_together(top, max(left, right), turn, log)
    rate = 1.0 / log.step
    return LogFacts(
        log.duration, rate, top, left, right, braking, forward, turn, corners,
        sentences, tuple(doubts),
    )  # fmt: skip
