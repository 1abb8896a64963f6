"""What a rule is, and what a check by it says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

State = Literal["good", "caution", "bad"]
Fix = Literal[
    "turn_gate", "carry_to_wall", "open_gasket", "widen_drain", "restrict_feed", "widen_breather",
    "larger_stage", "own_stage",
]  # fmt: skip

COMMON = "common practice, no published source"


@dataclass(frozen=True)
class Rule:
    """One limit of the trade, or of ours.

    key : by which web and API know it
    words : what is wanted
    source : who says so
    low, high : the limits, each still within it; None where there is none on that side
    unit : of the limits, SI; empty where there is nothing to measure
    fix : the act that mends what breaks it
    """

    key: str
    words: str
    source: str
    low: float | None = None
    high: float | None = None
    unit: str = ""
    fix: Fix | None = None

    @property
    def least(self) -> float:
        """The lower limit, of a rule that has one."""
        assert self.low is not None
        return self.low

    @property
    def most(self) -> float:
        """The upper limit, of a rule that has one."""
        assert self.high is not None
        return self.high

    def holds(self, value: float) -> bool:
        """Whether a value is within the limits, both counted.

        Examples
        --------
        >>> quick = Rule("tube_speed", "at most 3 m/s", "ours", high=3.0, unit="m/s")
        >>> quick.holds(3.0), quick.holds(3.1)
        (True, False)
        """
        above = self.low is None or value >= self.low
        return above and (self.high is None or value <= self.high)


@dataclass(frozen=True)
class Check:
    """What a rule says of one place: state, a sentence, and the document's field it is about."""

    state: State
    words: str
    field: str
    rule: Rule

    @property
    def fix(self) -> Fix | None:
        """The act that mends it, where there is something to mend."""
        return self.rule.fix if self.state != "good" else None
