"""One step of a job, as data."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from bilge_core.errors import InvalidQuantity
from bilge_core.job.cautions import CAUTIONS
from bilge_core.job.operations import OPERATIONS
from bilge_core.job.torque import Torque
from bilge_core.rules.rule import COMMON

Phase = Literal[
    "before", "access", "off", "bench", "wash", "pickup", "fit", "close", "fill", "run"
]  # fmt: skip

PHASES: dict[Phase, str] = {
    "before": "Before anything",
    "access": "Drain and get access",
    "off": "Off, cleaned, looked over",
    "bench": "On the bench",
    "wash": "Wash out",
    "pickup": "Pickup",
    "fit": "In the car",
    "close": "Close",
    "fill": "Fill and prove",
    "run": "Run and look",
}
"""The parts of a job in their order, each with its words."""


@dataclass(frozen=True)
class Step:
    """A step of the library: what is done once, to one part or to the whole.

    key : what it is known by
    words : what is done; ``{part}`` is the name of the part that it is done to
    phase : the part of the job that it belongs to
    of : the operation whose hours it takes its own from
    hours : with hands, where that operation takes what `OPERATIONS` says [h]
    wait : that pass by themselves after it, likewise [h]
    after : what comes first wherever it is on the card: a step's key (``key.`` for the same part
        only), or ``@phase`` for all of a phase
    why : one sentence
    cautions : keys of `bilge_core.job.cautions`
    tools : what is in the hand
    torque : how tight, where the trade has a figure
    is_gate : nothing that needs it may be passed without it, but for a written reason
    makes : it changes the car or a part: to be undone if the plan drops it
    photo : a picture is wanted
    source : who says so
    """

    key: str
    words: str
    phase: Phase
    of: str
    hours: float
    wait: float = 0.0
    after: tuple[str, ...] = ()
    why: str = ""
    cautions: tuple[str, ...] = ()
    tools: str = ""
    torque: Torque | None = None
    is_gate: bool = False
    makes: bool = False
    photo: bool = False
    source: str = COMMON

    def __post_init__(self) -> None:
        if self.of not in OPERATIONS:
            raise InvalidQuantity(f"{self.key}.of", self.of, "an operation's key")
        missing = [key for key in self.cautions if key not in CAUTIONS]
        if missing:
            raise InvalidQuantity(f"{self.key}.cautions", missing, "keys of cautions")


@dataclass(frozen=True)
class CardStep:
    """A step as it stands on a card.

    id : the step's key, with the part's id behind a colon where it has one
    step : as the library has it
    part : id of the part; empty: the whole
    name : of that part
    words : what is done, the part named
    hours, wait : of this workshop [h]
    wait_days : until something that was sent away is back [d]
    needs : ids of the steps that come first
    bought : pairs of a part's key in the shop and how many
    """

    id: str
    step: Step
    part: str
    name: str
    words: str
    hours: float
    wait: float = 0.0
    wait_days: float = 0.0
    needs: tuple[str, ...] = ()
    bought: tuple[tuple[str, float], ...] = field(default=())


def step_id(key: str, part: str = "") -> str:
    """What a tick belongs to: operation and part.

    Examples
    --------
    >>> step_id("hang_gate", "g12"), step_id("drain")
    ('hang_gate:g12', 'drain')
    """
    return f"{key}:{part}" if part else key
