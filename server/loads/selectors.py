"""Reads of laps, always within a workshop."""

from __future__ import annotations

from accounts.models import Workshop
from config.errors import NotFound
from django.db.models import QuerySet

from loads.models import Lap


def laps_of(workshop: Workshop) -> QuerySet[Lap]:
    """Laps of a workshop, newest first, without their samples."""
    return Lap.objects.filter(workshop=workshop).defer("samples")


def lap_of(workshop: Workshop, lap_id: int) -> Lap:
    """One lap of a workshop.

    Raises
    ------
    NotFound
        If it is not there, or belongs to another workshop.
    """
    lap = Lap.objects.filter(workshop=workshop, pk=lap_id).first()
    if lap is None:
        raise NotFound("lap")
    return lap
