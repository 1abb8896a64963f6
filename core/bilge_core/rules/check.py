"""What a check says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

State = Literal["good", "caution", "bad"]
Fix = Literal["turn_gate", "carry_to_wall"]


@dataclass(frozen=True)
class Check:
    """One check: its state, a sentence, the document's field it is about, and a fix by name."""

    state: State
    words: str
    field: str
    fix: Fix | None = None
