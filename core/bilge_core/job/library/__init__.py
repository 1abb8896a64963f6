"""The library of steps: what each operation of the trade consists of, and what comes first."""

from __future__ import annotations

from bilge_core.job.library.circuit import CIRCUIT
from bilge_core.job.library.opening import OPENING
from bilge_core.job.library.pan import PAN
from bilge_core.job.library.running import RUNNING
from bilge_core.job.step import Step

STEPS: dict[str, Step] = {each.key: each for each in (*OPENING, *PAN, *CIRCUIT, *RUNNING)}
"""Every step by its key."""

__all__ = ["STEPS"]
