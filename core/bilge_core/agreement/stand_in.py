"""A car that is not there: sessions as its logger would write them, of a truth that is known."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.forecast.on_record import Record, meets
from bilge_core.loads.log import Log
from bilge_core.network import network_of
from bilge_core.network.conditions import bearings_let
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import rpm_of_speed

_UNLIKE = 0.004
"""Share by which a lap is quicker or slower than the one that it is made of (ours)."""
_NOISE = 0.04e5  # [Pa] of a sensor, one standard deviation (ours)


@dataclass(frozen=True)
class Truth:
    """What is so of the car that the forecast does not know.

    shown : how its sensor is read
    leak : bore of a hole at the pickup's joint that would let in as much air [m]
    noise : of the sensor, one standard deviation [Pa]
    bearings : what they let through, of what is thought
    sealing : how far the pump slips on gas, as `GUESSES` has it; None: as is guessed
    """

    shown: Shown
    leak: float = 0.0
    noise: float = _NOISE
    bearings: float = 1.0
    sealing: float | None = None


def leaking(build: Build, bore: float) -> Build:
    """The same build with a leaking joint at its pump's inlet.

    Parameters
    ----------
    build : Build
    bore : float
        Of a hole that would let in as much air [m].

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = leaking(read_build(Path("demo/dunlin.json").read_text()), 2e-3)
    >>> {run.end.leak_mm for run in build.circuit.runs if run.end.leak_mm}
    {2.0}
    """
    pump = build.circuit.pump.id
    runs = [
        run.model_copy(update={"end": run.end.model_copy(update={"leak_mm": bore * 1e3})})
        if run.end.component == pump
        else run
        for run in build.circuit.runs
    ]
    return build.model_copy(update={"circuit": build.circuit.model_copy(update={"runs": runs})})


def with_less_oil(build: Build, litres: float) -> Build:
    """The same build with so much less oil in it [L].

    Raises
    ------
    InvalidQuantity
        If none is left.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> round(build.oil.volume_l - with_less_oil(build, 0.3).oil.volume_l, 6)
    0.3
    """
    left = build.oil.volume_l - litres
    if left <= 0.0:
        raise InvalidQuantity("oil-less-l", litres, f"under {build.oil.volume_l:g} L")
    return build.model_copy(update={"oil": build.oil.model_copy(update={"volume_l": left})})


def _driven(log: Log, quicker: float) -> Log:
    """The same lap driven quicker by a share: sooner over, loads up with its square."""
    times = 1.0 + quicker
    return replace(
        log,
        time=log.time / times,
        speed=log.speed * times,
        forward=log.forward * times**2,
        leftward=log.leftward * times**2,
    )


def stand_in_laps(
    build: Build, log: Log, record: Record, truth: Truth, count: int, seed: int,
    unlike: float = _UNLIKE,
) -> tuple[Log, ...]:  # fmt: skip
    """Laps of a session of a car that is not there, each with its oil's pressure.

    Parameters
    ----------
    build : Build
        As it truly is, but for what `truth` says.
    log : Log
        A prepared lap that all are like.
    record : Record
        What its mouth drew over that lap.
    truth : Truth
    count : int
    seed : int
    unlike : float
        Share by which one is quicker or slower than it, one standard deviation.

    Returns
    -------
    tuple of Log
        At the steps of `log`.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 3.0, 0.02), *np.zeros((3, 150)), np.full(150, 500.0))
    >>> record = Record(log.time, np.zeros(150))
    >>> laps = stand_in_laps(build, log, record, Truth(Shown(0.05, 50.0)), 2, 1)
    >>> len(laps), laps[0].oil_pressure.shape == laps[0].time.shape
    (2, True)
    """
    rng = np.random.default_rng(seed)
    true = leaking(build, truth.leak) if truth.leak else build
    if truth.bearings != 1.0:
        true = bearings_let(true, truth.bearings)
    network = network_of(true, {} if truth.sealing is None else {"sealing_oil": truth.sealing})
    laps = []
    for _ in range(count):
        quicker = float(rng.normal(0.0, unlike))
        raw = _driven(log, quicker)
        met = meets(build, raw, Record(record.time / (1.0 + quicker), record.gas_share))
        gallery = met.run(network).pressure[:, network.gallery]
        even = np.arange(0.0, raw.time[-1] - raw.time[0], log.step)
        laps.append(_as_logged(raw, even, met.time, gallery, truth, rng))
    return tuple(laps)


def _as_logged(
    raw: Log, even: Array, time: Array, gallery: Array, truth: Truth, rng: np.random.Generator
) -> Log:
    """A lap with what its sensor shows, at even times."""
    at = raw.time - raw.time[0]

    def there(channel: Array) -> Array:
        return np.asarray(np.interp(even, at, channel))

    seen = np.interp(even, time, shown_by(truth.shown, time, gallery))
    return Log(
        even, there(raw.speed), there(raw.forward), there(raw.leftward), there(raw.engine_speed),
        oil_pressure=seen + rng.normal(0.0, truth.noise, len(even)),
    )  # fmt: skip


HEADINGS = (
    "time [s],speed [km/h],lateral g [g + left],longitudinal g [g + forward],"
    "engine speed [rpm],oil pressure [bar],lap"
)


def as_csv(laps: Sequence[Log]) -> str:
    """Laps on end as a logger would write them: delimited text, a row a sample.

    Parameters
    ----------
    laps : sequence of Log
        Each with its oil's pressure, at steps of one length.

    Returns
    -------
    str

    Examples
    --------
    >>> lap = Log(np.arange(2.0), *np.ones((4, 2)), oil_pressure=np.full(2, 5e5))
    >>> print(as_csv([lap, lap]).splitlines()[-1])
    3.00,3.6,0.102,0.102,10,5.00,2
    """
    lines = [HEADINGS]
    clock = 0.0
    for number, lap in enumerate(laps, start=1):
        assert lap.oil_pressure is not None
        columns = (
            clock + lap.time, lap.speed * 3.6, lap.leftward / STANDARD_GRAVITY,
            lap.forward / STANDARD_GRAVITY, rpm_of_speed(lap.engine_speed),
            lap.oil_pressure / 1e5,
        )  # fmt: skip
        lines += [
            f"{t:.2f},{v:.1f},{side:.3f},{fore:.3f},{rpm:.0f},{bar:.2f},{number}"
            for t, v, side, fore, rpm, bar in zip(*columns, strict=True)
        ]
        clock += float(lap.time[-1]) + lap.step
    return "\n".join([*lines, ""])
