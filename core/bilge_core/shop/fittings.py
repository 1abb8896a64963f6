"""Fittings, hose and tube as they are bought: an invented starting set of generic parts.

Ends and sizes follow the trade's own series; heights, costs and lead times are invented.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from bilge_core.shop.threads import Joint, Sex, inches

Angle = Literal[0, 45, 90]


@dataclass(frozen=True)
class Fitting:
    """A part with an end at either side.

    key : what it is known by, in the shop too
    words : its name
    ends : what it screws onto, and what it shows then; either way round
    angle : by which it turns [°]
    height : from one joint to the other [m], invented
    spanner : across its flats
    cost : invented
    """

    key: str
    words: str
    ends: tuple[Joint, Joint]
    angle: Angle
    height: float
    spanner: str
    cost: float


_HEX = {
    3: "1/2 in", 4: "9/16 in", 5: "5/8 in", 6: "11/16 in", 8: "7/8 in", 10: "1 in", 12: "1 1/4 in",
    16: "1 1/2 in", 20: "2 in", 24: "2 1/4 in",
}  # fmt: skip
"""Across the flats of a flare nut of a dash size (from memory)."""
_TAPER_HEX = {
    "1/8": "7/16 in", "1/4": "9/16 in", "3/8": "11/16 in", "1/2": "7/8 in", "3/4": "1 1/16 in",
    "1": "1 3/8 in",
}  # fmt: skip
_METRIC_HEX = {
    "M10x1": "14 mm", "M12x1.5": "17 mm", "M14x1.5": "19 mm", "M16x1.5": "22 mm",
    "M18x1.5": "24 mm", "M22x1.5": "27 mm",
}  # fmt: skip
SIZES = (4, 6, 8, 10, 12, 16, 20)
"""Dash sizes that fittings are kept in."""
_TO_TAPER = {
    4: ("1/8", "1/4"), 6: ("1/4", "1/8", "3/8"), 8: ("3/8", "1/4", "1/2"), 10: ("1/2", "3/8"),
    12: ("3/4", "1/2"), 16: ("1", "3/4"), 20: ("1",),
}  # fmt: skip
_TO_METRIC = {
    4: ("M10x1", "M12x1.5"), 6: ("M12x1.5", "M14x1.5", "M16x1.5"), 8: ("M16x1.5", "M18x1.5"),
    10: ("M18x1.5", "M22x1.5"), 12: ("M22x1.5",),
}  # fmt: skip
_ANGLES: tuple[Angle, ...] = (0, 45, 90)


def spanner_of(dash: int) -> str:
    """Spanner of a hose end or a tube nut of a dash size.

    >>> spanner_of(10)
    '1 in'
    """
    return _HEX[dash]


def _end(thread: str, sex: Sex = "male") -> Joint:
    return Joint(thread, sex)


def _made(
    key: str, words: str, ends: tuple[Joint, Joint], height: float, spanner: str, cost: float,
    angle: Angle = 0,
) -> Fitting:  # fmt: skip
    """One, with its height in millimetres."""
    return Fitting(key.replace("/", "-"), words, ends, angle, height * 1e-3, spanner, cost)


def _flare_to_flare(dash: int, n: int) -> Iterator[Fitting]:
    """Unions, elbows, reducers and expanders."""
    flare, nut, tall = _end(f"flare {dash}"), _end(f"flare {dash}", "female"), 26.0 + dash
    yield _made(f"union_{dash}", f"union, size {dash}", (flare, flare), tall, _HEX[dash], 7 + 2 * n)
    yield _made(
        f"elbow_{dash}", f"swivel elbow 90°, size {dash}", (nut, flare), tall, _HEX[dash],
        15 + 4 * n, 90,
    )  # fmt: skip
    for other in SIZES[max(0, n - 2) : n]:
        small, small_nut = _end(f"flare {other}"), _end(f"flare {other}", "female")
        yield _made(
            f"reducer_{dash}_{other}", f"reducer, size {dash} to {other}", (nut, small), tall,
            _HEX[dash], 11 + 2 * n,
        )  # fmt: skip
        yield _made(
            f"expander_{other}_{dash}", f"expander, size {other} to {dash}", (small_nut, flare),
            tall, _HEX[dash], 12 + 2 * n,
        )  # fmt: skip


def _flare_to_port(dash: int, n: int) -> Iterator[Fitting]:
    """Adaptors from O-ring, taper and metric ports."""
    flare, tall = _end(f"flare {dash}"), 26.0 + dash
    for port in SIZES[max(0, n - 1) : n + 2]:
        yield _made(
            f"o_ring_{port}_{dash}", f"adaptor, O-ring size {port} to flare size {dash}",
            (_end(f"o_ring {port}"), flare), tall - 4, _HEX[max(dash, port)], 9 + 2 * n,
        )  # fmt: skip
    for size in _TO_TAPER[dash]:
        ends, said = (_end(f"taper {size}"), flare), f"taper {size} to flare size {dash}"
        key, hexagon = f"taper_{size}_{dash}", _wider(_HEX[dash], _TAPER_HEX[size])
        yield _made(key, f"adaptor, {said}", ends, tall, hexagon, 8 + 2 * n)
        yield _made(f"{key}_90", f"elbow 90°, {said}", ends, tall + 4, hexagon, 14 + 4 * n, 90)
    for size in _TO_METRIC.get(dash, ()):
        yield _made(
            f"metric_{size}_{dash}", f"adaptor, {size} to flare size {dash}",
            (_end(f"metric {size}"), flare), tall, _METRIC_HEX[size], 10 + 2 * n,
        )  # fmt: skip


def _flare_to_metal(dash: int, n: int) -> Iterator[Fitting]:
    """Banjos, bungs to weld in, a turbo's flanges."""
    flare = _end(f"flare {dash}")
    if dash <= 6:
        size = _TO_METRIC[dash][0]
        yield _made(
            f"banjo_{size}_{dash}", f"banjo and bolt {size}, flare size {dash}, washers",
            (_end(f"metric {size}"), flare), 16, _METRIC_HEX[size], 19, 90,
        )  # fmt: skip
        yield _made(
            f"feed_flange_{dash}", f"turbo feed flange with gasket, flare size {dash}",
            (_end("flange feed"), flare), 22, "bolts", 18,
        )  # fmt: skip
    yield _made(
        f"bung_{dash}", f"weld bung, flare size {dash}", (_end("weld"), flare), 18 + dash,
        _HEX[dash], 8 + 2 * n,
    )  # fmt: skip
    if dash in (8, 10, 12):
        yield _made(
            f"drain_flange_{dash}", f"turbo drain flange with gasket, flare size {dash}",
            (_end("flange drain"), flare), 34, "bolts", 22 + 2 * n,
        )  # fmt: skip


def _piped() -> Iterator[Fitting]:
    """Nipples and bushes of taper thread, and hose barbs."""
    for n, size in enumerate(_TAPER_HEX):
        male, hexagon = _end(f"taper {size}"), _TAPER_HEX[size]
        yield _made(f"nipple_{size}", f"nipple, taper {size}", (male, male), 30 + 4 * n, hexagon,
                    5 + n)  # fmt: skip
        for small in tuple(_TAPER_HEX)[max(0, n - 2) : n]:
            yield _made(
                f"bush_{size}_{small}", f"reducing bush, taper {size} to {small}",
                (male, _end(f"taper {small}", "female")), 10 + 2 * n, hexagon, 4 + n,
            )  # fmt: skip
    for dash, size in ((8, "3/8"), (10, "1/2"), (12, "3/4")):
        yield _made(
            f"barb_{size}_{dash}", f"hose barb, taper {size}, size {dash}",
            (_end(f"taper {size}"), _end(f"barb {dash}")), 40, _TAPER_HEX[size], 7,
        )  # fmt: skip


def _wider(one: str, other: str) -> str:
    """The wider of two spanners [in]."""
    return max(one, other, key=lambda each: inches(each.removesuffix(" in")))


def _all() -> Iterator[Fitting]:
    for n, dash in enumerate(SIZES):
        for some in (_flare_to_flare, _flare_to_port, _flare_to_metal):
            yield from some(dash, n)
    yield from _piped()


FITTINGS: dict[str, Fitting] = {each.key: each for each in _all()}
"""All fittings by their keys."""

_CUT_OFF = {0: 1.0, 45: 1.45, 90: 1.75}
"""From the middle of the joint to where the hose begins, in lengths of a straight end (invented:
measure the end that came)."""


def cut_off(dash: int, angle: Angle) -> float:
    """What a hose end of a size takes of a run's length [m]: less hose is cut by that much.

    Examples
    --------
    >>> round(cut_off(10, 0) * 1e3, 1), round(cut_off(10, 90) * 1e3, 1)
    (38.0, 66.5)
    """
    return (18.0 + 2.0 * dash) * 1e-3 * _CUT_OFF[angle]


def hose_key(dash: int) -> str:
    """Hose by the metre."""
    return f"hose_{dash}"


def hose_end_key(dash: int, angle: Angle) -> str:
    """A hose end by size and angle."""
    return f"hose_end_{dash}_{angle}"


def tube_key(dash: int) -> str:
    """Tube by the metre."""
    return f"tube_{dash}"


def loose_rows() -> Iterator[tuple[str, str, str, float, int, float]]:
    """What is bought by the metre or by the handful, as `bilge_core.shop.parts` has its rows."""
    for n, dash in enumerate((3, *SIZES, 24)):
        yield hose_key(dash), f"hose, size {dash}", "metre", 14.0 + 3.0 * n, 2, 0.15 + 0.04 * n
        yield tube_key(dash), f"tube, size {dash}", "metre", 6.0 + 2.0 * n, 2, 0.1 + 0.06 * n
        yield f"tube_nut_{dash}", f"tube nut and sleeve, size {dash}", "pair", 3.0 + n, 2, 0.05
        for angle in _ANGLES:
            name = "straight" if angle == 0 else f"{angle}°"
            cost = (13.0 if angle == 0 else 24.0) + 2.5 * n
            yield hose_end_key(dash, angle), f"hose end {name}, size {dash}", "piece", cost, 2, 0.08
        yield f"clip_{dash}", f"lined clip, size {dash}", "piece", 1.6 + 0.2 * n, 1, 0.02
    yield "heat_sleeve", "heat sleeve", "metre", 18.0, 2, 0.1
    yield "grommet", "grommet for a wall", "piece", 3.0, 2, 0.02
    yield "bulkhead", "bulkhead fitting", "piece", 19.0, 4, 0.1
    yield "port_plug", "plug for a port", "piece", 4.0, 2, 0.02
    yield "spiral_clip", "hose clip", "piece", 1.5, 1, 0.02
    yield "water_hose", "water hose", "metre", 11.0, 2, 0.3
    yield "breather_hose", "breather hose", "metre", 9.0, 2, 0.2


def fitting_rows() -> Iterator[tuple[str, str, str, float, int, float]]:
    """Fittings as `bilge_core.shop.parts` has its rows."""
    for each in FITTINGS.values():
        slow = each.key.startswith(("metric", "drain_flange", "feed_flange", "banjo", "o_ring"))
        yield each.key, each.words, "piece", each.cost, 6 if slow else 3, 0.06
