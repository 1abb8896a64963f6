"""States that the car may be in before a card is begun."""

from __future__ import annotations

from bilge_core.acts.registry import TELL_ALONE
from builds.models import Build, BuildState
from builds.selectors import FROM_TEMPLATE, tells_the_pan

from stages.job_card.schemas import StateToChooseOut

_MOST_CHOICES = 12


def states_to_choose(build: Build) -> list[StateToChooseOut]:
    """The last state before anything was planned, named ones, and the rest."""
    rows = list(build.states.filter(aside=False).select_related("revision").order_by("number"))
    planned = _first_planned(rows)
    likely = rows[planned - 1 : planned] if planned else []
    named = [row for row in rows if row.number == 1 or hasattr(row, "revision")]
    chosen = list(dict.fromkeys([*likely, *named, *reversed(rows)]))[:_MOST_CHOICES]
    return [
        StateToChooseOut(
            state=row.number, made_at=row.made_at,
            words=row.revision.name if hasattr(row, "revision") else row.change,
            before=rows[planned].change if row in likely else "",
        )
        for row in chosen
    ]  # fmt: skip


def _first_planned(rows: list[BuildState]) -> int:
    """Which state was the first that an act made which builds something; nil where none was.

    Where a template's sump is put elsewhere before anybody told the pan, that tells the pan.
    """
    is_told = bool(rows) and rows[0].change != FROM_TEMPLATE
    for at, row in enumerate(rows):
        if not at or row.act is None:
            continue
        kind = row.act["kind"]
        if kind not in TELL_ALONE and (is_told or kind != "sump_preset"):
            return at
        is_told = is_told or tells_the_pan(row.act)
    return 0
