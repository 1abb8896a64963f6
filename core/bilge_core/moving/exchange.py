"""What the pan and the engine above it give each other, step by step.

The moving oil knows nothing of an engine: it asks how much is drawn, says how much oil and gas that
was, and is told how much comes back. `DelayLine` is the plainest engine: everything comes back
after a time. A network of heads, galleries and drains takes its place through the same three calls.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Callable
from typing import Protocol

from bilge_core.errors import InvalidQuantity


class Engine(Protocol):
    """What stands between the mouth and the drain-back."""

    def demand(self, time: float) -> float:
        """Volume flow [m3/s] that the pump draws at the mouth, oil and gas."""
        ...

    def take(self, time: float, oil: float, gas: float) -> None:
        """Oil and gas [m3] that came up the pickup in the step that ended at a time [s]."""
        ...

    def give(self, time: float) -> float:
        """Oil [m3] that has come back by a time [s] and was not yet asked for."""
        ...

    @property
    def held(self) -> float:
        """Oil [m3] between mouth and drain-back."""
        ...


class DelayLine:
    """All oil comes back a fixed time after it was drawn.

    Parameters
    ----------
    flow : callable
        From time [s] to volume flow at the mouth [m3/s].
    delay : float
        [s]
    filled : bool
        Begin with the line full, as if the pump had long run at its first flow.

    Raises
    ------
    InvalidQuantity
        If the delay is negative or not finite.

    Examples
    --------
    >>> line = DelayLine(lambda time: 0.5e-3, delay=2.0, filled=False)
    >>> line.take(0.0, oil=1e-5, gas=0.0)
    >>> line.give(1.9), line.give(2.0)
    (0.0, 1e-05)
    """

    _BEGUN_IN = 50  # parts of the line that stands full at the beginning

    def __init__(self, flow: Callable[[float], float], delay: float, filled: bool = True) -> None:
        if not (math.isfinite(delay) and delay >= 0.0):
            raise InvalidQuantity("delay of the returned oil", delay, "finite, not negative")
        self._flow = flow
        self._delay = delay
        self._line: deque[tuple[float, float]] = deque()
        if filled and delay > 0.0:
            part = flow(0.0) * delay / self._BEGUN_IN
            self._line.extend(
                ((n + 1) * delay / self._BEGUN_IN, part) for n in range(self._BEGUN_IN)
            )
        self._held = math.fsum(volume for _, volume in self._line)

    def demand(self, time: float) -> float:
        """Volume flow at the mouth [m3/s]."""
        return self._flow(time)

    def take(self, time: float, oil: float, gas: float) -> None:
        """Oil joins the line; gas is gone."""
        del gas
        if oil > 0.0:
            self._line.append((time + self._delay, oil))
            self._held += oil

    def give(self, time: float) -> float:
        """What has come through by then [m3]."""
        due = 0.0
        while self._line and self._line[0][0] <= time + 1e-9:
            due += self._line.popleft()[1]
        self._held = math.fsum(volume for _, volume in self._line) if due else self._held
        return due

    @property
    def held(self) -> float:
        """What is on its way [m3]."""
        return self._held
