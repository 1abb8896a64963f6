"""What Fit asks, worked out."""

from __future__ import annotations

from accounts.models import User, Workshop
from bilge_core.agreement.fit_entries import Accepted, AnyOffered, Found, RoundClosed, Wanted
from bilge_core.agreement.offered import Offered, all_places, offered_of, open_places
from bilge_core.agreement.places import places_of
from bilge_core.tell.fit import fit_out
from builds.models import Build
from builds.selectors import build_of, document_of
from django.db import transaction
from records import fits
from records.clocks import believed

from stages.fit.schemas import FitRefusedOut, FitStageOut, OfferedIn


def _told(build: Build, refused: list[FitRefusedOut]) -> FitStageOut:
    assert build.current is not None
    offered = offered_of(fits.entries_of(build))
    return FitStageOut(
        state=build.current.number,
        fit=fit_out(document_of(build), offered, fits.same_gaps(build)),
        refused=refused,
    )


def fit(workshop: Workshop, build_id: int) -> FitStageOut:
    """A build's test fit.

    Raises
    ------
    NotFound, InvalidInput
    """
    return _told(build_of(workshop, build_id), [])


def _why_not(build: Build, entry: AnyOffered, offered: Offered) -> str | None:
    """Why an entry is not kept; None where it is."""
    if isinstance(entry, Found | Accepted | Wanted | RoundClosed) and not offered.rounds:
        return "comes before any round: begin one first"
    if isinstance(entry, RoundClosed):
        places = all_places(places_of(document_of(build)), offered)
        left = open_places(places, offered)
        if left:
            more = f" and {len(left) - 1} more" if len(left) > 1 else ""
            return f"is kept open by {left[0].name}{more}: sound, or accepted with a word why"
    return None


@transaction.atomic
def entered(user: User, build_id: int, rows: list[OfferedIn]) -> FitStageOut:
    """Keep what was entered, in its order, each once; what is not let is told.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(user.workshop, build_id, lock=True)
    refused = []
    for each in rows:
        if fits.is_kept(build, each.client_id):
            continue
        why = _why_not(build, each.entry, offered_of(fits.entries_of(build)))
        if why:
            refused.append(FitRefusedOut(client_id=each.client_id, why=why))
            continue
        at = believed(each.at, build.made_at)
        fits.keep(user, build, each.entry, each.client_id, at)
    return _told(build, refused)
