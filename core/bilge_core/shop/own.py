"""Parts that a workshop adds to the catalogue: its own fittings, and whatever else it buys."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import get_args

from bilge_core.errors import InvalidInput, Problem
from bilge_core.shop.fittings import Angle, Fitting
from bilge_core.shop.parts import ShopPart
from bilge_core.shop.threads import JOINT_WANTED, NO_FITTING, THREADS, Joint, joint_of

_KEY = re.compile(r"own_[a-z0-9][a-z0-9_]{0,29}")
MOST_COST = 1e6
MOST_DAYS = 730
MOST_WEIGHT = 500.0  # [kg]
MOST_HEIGHT = 300.0  # [mm] of a fitting, from joint to joint
PER = ("piece", "metre", "litre", "set", "pair")
"""What one of a part may be."""


@dataclass(frozen=True)
class OwnPart:
    """A part of a workshop's own.

    part : as it is bought
    fitting : with an end at either side; None: it is none that a line is screwed together with
    """

    part: ShopPart
    fitting: Fitting | None


def is_own(key: str) -> bool:
    """Whether a key is one of a workshop's own parts.

    Examples
    --------
    >>> is_own("own_m18_10"), is_own("own_"), is_own("union_10")
    (True, False, False)
    """
    return _KEY.fullmatch(key) is not None


def own_joint(words: str, field: str) -> Joint:
    """An end of an own fitting.

    Raises
    ------
    InvalidInput
        If it is no thread that is known here, or one that is no end of a fitting.

    Examples
    --------
    >>> own_joint("metric M18x1.5 male", "end_1").words
    'M18x1.5, male'
    """
    joint = joint_of(words)
    if joint is None or THREADS[joint.thread].family in NO_FITTING:
        raise InvalidInput([Problem(field, f"{JOINT_WANTED} (it is {words[:40]!r})")])
    return joint


def _within(value: float, most: float) -> bool:
    return math.isfinite(value) and 0.0 <= value <= most


def _faults(part: ShopPart) -> list[Problem]:
    found = []
    if not is_own(part.key):
        found.append(Problem("key", "must be own_ and small letters, figures or _, as own_m18_10"))
    if not 2 <= len(part.words) <= 80:
        found.append(Problem("words", "must be 2 to 80 letters"))
    if part.per not in PER:
        found.append(Problem("per", f"must be one of {', '.join(PER)}"))
    for field, value, most in (
        ("cost", part.cost, MOST_COST),
        ("lead_days", part.lead_days, MOST_DAYS),
        ("weight_kg", part.weight, MOST_WEIGHT),
    ):
        if not _within(value, most):
            found.append(Problem(field, f"must be from 0 to {most:,.0f}"))
    return found


def own_part(
    part: ShopPart, ends: tuple[str, str] = ("", ""), angle: float = 0,
    height_mm: float = 0.0, spanner: str = "",
) -> OwnPart:  # fmt: skip
    """A part of a workshop's own, looked over.

    Parameters
    ----------
    part : ShopPart
        Its key begins with ``own_``.
    ends : tuple of str
        Threads as ``'taper 1/2 male'``; both empty: no fitting.
    angle : float
        By which it turns [°]: 0, 45 or 90.
    height_mm : float
        From joint to joint.
    spanner : str

    Raises
    ------
    InvalidInput
        Naming every field at fault.

    Examples
    --------
    >>> bought = ShopPart("own_m18_10", "adaptor, M18 to 10", "piece", 14.0, 3, 0.06)
    >>> own = own_part(bought, ("metric M18x1.5 male", "flare 10 male"), height_mm=32)
    >>> own.fitting.ends[1].words
    '37° flare size 10, male'
    >>> own_part(ShopPart("own_lube", "assembly lube", "piece", 9.0, 1, 0.1)).fitting is None
    True
    """
    faults = _faults(part)
    joints = []
    if any(ends):
        for field, words in zip(("end_1", "end_2"), ends, strict=True):
            try:
                joints.append(own_joint(words, field))
            except InvalidInput as fault:
                faults += fault.problems
        if angle not in get_args(Angle):
            faults.append(Problem("angle_deg", "must be 0, 45 or 90"))
        if not 0.0 < height_mm <= MOST_HEIGHT:
            faults.append(Problem("height_mm", f"must be over 0, at most {MOST_HEIGHT:.0f}"))
        if len(spanner) > 20:
            faults.append(Problem("spanner", "must be at most 20 letters"))
    if faults:
        raise InvalidInput(faults)
    if not joints:
        return OwnPart(part, None)
    first, second = joints
    return OwnPart(
        part,
        Fitting(
            part.key, part.words, (first, second), int(angle),  # type: ignore[arg-type]
            height_mm * 1e-3, spanner, part.cost,
        ),
    )  # fmt: skip
