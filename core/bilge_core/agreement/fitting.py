"""What a car's dips say of the figures that nobody measured: a bounded fit with its uncertainty."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import OptimizeResult, least_squares

from bilge_core.agreement.asked import Asked, asked_of
from bilge_core.agreement.response import LEVELS, Response
from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.document.build import Build
from bilge_core.document.learned import SURE
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.on_record import Record, meets
from bilge_core.loads.log import Log
from bilge_core.network import network_of
from bilge_core.network.conditions import at_temperature, bearings_let
from bilge_core.physics.arrays import Array
from bilge_core.rules.track_book import LEANS, TELLS, TOLD_APART

_STEP = 0.01
"""[s] of the network while it is fitted, twice a run's own: for speed (ours)."""
_RATE = 20.0  # [1/s] of readings that are compared
BEGIN_AT = (0.0, 0.2e-3, 0.4e-3)
"""[m3] of oil up top at which a fit is begun."""
_FEW, _MANY = 8, 20  # evaluations of a fit that is tried, and of one that is kept
_NORMAL = 1.4826  # from the middle one of sizes to a standard deviation
_LEAST = 0.02e5  # [Pa] that no sensor is better than (ours)
_SOFT = 2.0  # of residuals' own size, from which they weigh less (ours)


@dataclass(frozen=True)
class Told:
    """What a fit says of one figure.

    asked : Asked
    value : fitted
    give : to each side, 19 chances in 20 within it; a share where its logarithm was fitted
    tells : whether the laps told more than was guessed
    by_lap : share that each lap brings of what is known of it
    """

    asked: Asked
    value: float
    give: float
    tells: bool
    by_lap: tuple[float, ...]


@dataclass(frozen=True)
class Fit:
    """What some laps say of all of them.

    told : in the order of `ASKED`
    between : how far pressures between the levels are off, by leaving each level out in turn, root
        mean square [Pa]
    tied : pairs of keys that cannot be told apart
    leans : number of the lap that brings most of what is known of the oil up top; None: none does
    left : what is left between measured and fitted, root mean square [Pa]
    before : the same before the fit [Pa]
    """

    told: tuple[Told, ...]
    between: float
    tied: tuple[tuple[str, str], ...]
    leans: int | None
    left: float
    before: float

    def of(self, key: str) -> Told:
        """What it says of one."""
        return next(each for each in self.told if each.asked.key == key)


class _Model:
    """Pressures of some laps as the sensor would show them."""

    def __init__(self, build: Build, laps: Sequence[Log], responses: Sequence[Response]) -> None:
        self.build = at_temperature(build, build.oil.temperature_c)
        self.asked = asked_of(build)
        self.laps, self.responses = laps, responses
        self.met = [
            meets(self.build, lap, response.at(0.0), _STEP)
            for lap, response in zip(laps, responses, strict=True)
        ]
        self.at = [
            np.arange(0.0, float(lap.time[-1] - lap.time[0]), 1.0 / _RATE) for lap in laps
        ]  # fmt: skip

    def measured(self) -> Array:
        """Of all laps, one after the other [Pa]."""
        rows = []
        for lap, at in zip(self.laps, self.at, strict=True):
            assert lap.oil_pressure is not None
            rows.append(np.interp(at, lap.time - lap.time[0], lap.oil_pressure))
        return np.concatenate(rows)

    def shown(self, x: Array, records: Sequence[Record] | None = None) -> Array:
        """Of all laps, one after the other [Pa]; `x` as it is fitted.

        `records` are what the mouth drew, where it is not by the trend.
        """
        held, bearings, sealing, lag, gauge = (
            each.taken(float(value)) for each, value in zip(self.asked, x, strict=True)
        )
        network = network_of(bearings_let(self.build, bearings), {"sealing_oil": sealing})
        drawn = [each.at(held) for each in self.responses] if records is None else records
        rows = []
        for met, record, at in zip(self.met, drawn, self.at, strict=True):
            gas = np.interp(met.time - met.step, record.time - record.time[0], record.gas_share)
            gallery = replace(met, gas=gas).run(network).pressure[:, network.gallery]
            seen = shown_by(Shown(lag, 1.0 / met.step), met.time, gallery)
            rows.append(gauge * np.interp(at, met.time, seen))
        return np.concatenate(rows)


def _correlated(left: Sequence[Array]) -> float:
    """How many readings in a row say one thing: what is left is alike from one to the next."""
    sums = np.zeros(1)
    for row in left:
        size = 2 ** int(np.ceil(np.log2(2 * len(row))))
        power = np.abs(np.fft.rfft(row - row.mean(), size)) ** 2
        found = np.fft.irfft(power)[: len(row)]
        sums = found if len(sums) == 1 else sums[: len(found)] + found[: len(sums)]
    share = sums / sums[0]
    ends = np.flatnonzero(share < 0.05)
    until = int(ends[0]) if len(ends) else len(share)
    return float(1.0 + 2.0 * share[1:until].sum())


def fit(
    build: Build, laps: Sequence[Log], responses: Sequence[Response],
    watch: Callable[[], None] | None = None,
) -> Fit:  # fmt: skip
    """Fit the figures that nobody measured to measured gallery pressure.

    Parameters
    ----------
    build : Build
        As it was driven.
    laps : sequence of Log
        Prepared, each with its oil's pressure.
    responses : sequence of Response
        What its mouth draws over each of them.
    watch : callable, optional
        Is called as often as figures are tried; what it raises ends the fit.

    Returns
    -------
    Fit

    Raises
    ------
    InvalidQuantity
        If there is no lap, or one has no pressure.

    Notes
    -----
    Bounded least squares (scipy) with what was guessed as one more reading of each figure, and
    readings that lie far off weighing less. Its uncertainty counts readings in a row that say the
    same thing as one.
    """
    if not laps or any(lap.oil_pressure is None for lap in laps):
        raise InvalidQuantity("laps", "without oil pressure", "logged with their oil pressure")
    model = _Model(build, laps, responses)
    measured = model.measured()
    start = np.array([each.put(each.before) for each in model.asked])
    bounds = np.array([[each.put(b) for b in (each.low, each.high)] for each in model.asked]).T
    spread = np.array([each.spread for each in model.asked])
    first = model.shown(start) - measured
    steps = 0.05 * spread

    def fitted(begin: Array, left: Array, tries: int) -> OptimizeResult:
        size = max(float(np.median(np.abs(left))) * _NORMAL, _LEAST)

        def misses(x: Array) -> Array:
            if watch is not None:
                watch()
            return np.concatenate([_soft((model.shown(x) - measured) / size), (x - start) / spread])

        return least_squares(
            misses, begin, bounds=(bounds[0], bounds[1]), x_scale=spread,
            jac=lambda x: _slopes(misses, x, steps, bounds), xtol=1e-5, ftol=1e-5, max_nfev=tries,
        )  # fmt: skip

    # begun at several amounts of oil up top: what is left over it has more than one hollow
    begun = []
    for held in BEGIN_AT:
        begin = start.copy()
        begin[0] = held
        begun.append(fitted(begin, first, _FEW))
    best = min(begun, key=lambda each: float(each.cost))
    last = fitted(best.x, model.shown(best.x) - measured, _MANY)
    found = fitted(last.x, model.shown(last.x) - measured, _MANY)
    return _told(model, measured, start, spread, found.x, steps, bounds, first)


def _soft(left: Array) -> Array:
    """Residuals, those far off weighing less: as Huber has it (Annals of Mathematical Statistics
    35, 1964)."""
    size = np.abs(left)
    far = np.sqrt(2.0 * _SOFT * np.maximum(size, _SOFT) - _SOFT**2)
    return np.where(size <= _SOFT, left, np.sign(left) * far)


def _slopes(of: Callable[[Array], Array], x: Array, steps: Array, bounds: Array) -> Array:
    """How each figure moves what is left, by a step to the side where there is room."""
    here = of(x)
    columns = []
    for at, step in enumerate(steps.tolist()):
        way = step if x[at] + step <= bounds[1][at] else -step
        there = x.copy()
        there[at] += way
        columns.append((of(there) - here) / way)
    return np.array(columns).T


def _left_out(model: _Model, x: Array, weighed: Array, covariance: Array) -> tuple[Array, float]:
    """What the trend over the levels, and where a run starts, are worth.

    Each level's run in turn is held against the trend of the others: how that moves the figures is
    how far another run, the car's own, may lie off it.

    Returns
    -------
    covariance of the figures, shape (k, k), and the pressures' root mean square [Pa]
    """
    moved, off = [], []
    full = model.responses
    for level in range(1, len(LEVELS) - 1):  # the ends would be reached for, not lie between
        there = x.copy()
        there[0] = LEVELS[level]
        true = model.shown(there, [each.run(level) for each in full])
        seen = model.shown(there, [each.without(level).at(LEVELS[level]) for each in full])
        apart = seen - true
        moved.append(covariance @ (weighed.T @ apart))
        off.append(float(np.mean(apart**2)))
    rows = np.array(moved)
    return rows.T @ rows / len(rows), float(np.sqrt(np.mean(off)))


def tied_in(covariance: Array, keys: Sequence[str]) -> tuple[tuple[str, str], ...]:
    """Pairs of figures that cannot be told apart.

    Parameters
    ----------
    covariance : ndarray, shape (k, k)
    keys : sequence of str

    Examples
    --------
    >>> tied_in(np.array([[1.0, 1.9], [1.9, 4.0]]), ["held_more", "lag"])
    (('held_more', 'lag'),)
    """
    sizes = np.sqrt(np.diag(covariance))
    across = np.abs(covariance / np.outer(sizes, sizes))
    return tuple(
        (keys[a], keys[b])
        for a in range(len(keys))
        for b in range(a + 1, len(keys))
        if not TOLD_APART.holds(float(across[a, b]))
    )


def leans_on(shares: Sequence[float]) -> int | None:
    """Number of the lap that brings most of what is known; None: none does.

    Examples
    --------
    >>> leans_on([0.1, 0.9]), leans_on([0.4, 0.6])
    (1, None)
    """
    most = int(np.argmax(shares))
    return None if LEANS.holds(shares[most]) else most


def is_told(give: float, spread: float) -> bool:
    """Whether laps told of a figure: what is left uncertain against the guess's own.

    Examples
    --------
    >>> is_told(0.1, 0.15), is_told(0.29, 0.15)
    (True, False)
    """
    return TELLS.holds(give / (SURE * spread))


def _told(
    model: _Model, measured: Array, start: Array, spread: Array, x: Array, steps: Array,
    bounds: Array, first: Array,
) -> Fit:  # fmt: skip
    left = model.shown(x) - measured
    slopes = _slopes(model.shown, x, steps, bounds)
    ends = np.cumsum([len(at) for at in model.at])[:-1]
    rows = np.split(left, ends)
    alike = _correlated(rows)
    count = len(left) / alike  # readings that say something of their own
    variance = float(left @ left) / len(left) * count / max(count - len(x), 1.0)
    known = slopes.T @ slopes / (variance * alike)
    covariance = np.asarray(np.linalg.inv(known + np.diag(1.0 / spread**2)), dtype=np.float64)
    moved, off = _left_out(model, x, slopes / (variance * alike), covariance)
    # what cannot be told apart is of the readings; how runs scatter moves all figures at once
    tied = tied_in(covariance, [each.key for each in model.asked])
    covariance = covariance + moved
    give = SURE * np.sqrt(np.diag(covariance))
    brings = np.array([(part**2).sum(axis=0) for part in np.split(slopes, ends)])
    shares = brings / np.maximum(brings.sum(axis=0), 1e-12)
    told = tuple(
        Told(
            each, each.taken(float(value)), float(by), is_told(float(by), each.spread),
            tuple(row.tolist()),
        )
        for each, value, by, row in zip(model.asked, x, give, shares.T, strict=True)
    )  # fmt: skip
    return Fit(
        told, off, tied,
        leans_on(shares[:, 0].tolist()),
        float(np.sqrt(np.mean(left**2))), float(np.sqrt(np.mean(first**2))),
    )  # fmt: skip
