"""What a check says, with the rule behind it and the act that mends it."""

from __future__ import annotations

from pydantic import BaseModel

from bilge_core.acts.mend import Mend, mend_of
from bilge_core.document.build import Build
from bilge_core.rules import Check, State


class CheckOut(BaseModel):
    """One check of a build."""

    state: State
    words: str
    field: str
    mend: Mend | None
    """The act that mends it."""
    wanted: str
    """By which rule, in words."""
    source: str


def check_out(build: Build, check: Check) -> CheckOut:
    """A check of a build as everybody reads it."""
    return CheckOut(
        state=check.state,
        words=check.words,
        field=check.field,
        mend=mend_of(build, check),
        wanted=check.rule.words,
        source=check.rule.source,
    )
