"""Pressure: the circuit as it is joined, and what is guessed of it."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.forecast.alone import swings
from bilge_core.tell.alone import GuessesOut, guesses_out
from bilge_core.tell.circuit import CircuitOut, circuit_out
from builds.selectors import build_of, document_of
from django.http import HttpRequest
from loads.services import corners_of, log_of
from ninja import Router

router = Router()


@router.get("/{int:build_id}/circuit", response=CircuitOut, operation_id="get_circuit")
def get_circuit(request: HttpRequest, build_id: int) -> CircuitOut:
    """What each port is joined to, and whether the circuit checks out."""
    return circuit_out(document_of(build_of(signed_in(request).workshop, build_id)))


@router.get("/{int:build_id}/guesses", response=GuessesOut, operation_id="get_guesses")
def get_guesses(request: HttpRequest, build_id: int) -> GuessesOut:
    """What nobody measured of the circuit, and how far it moves the forecast over the lap.

    Without a lap there is nothing that it would move: the list is empty.
    """
    build = build_of(signed_in(request).workshop, build_id)
    if build.lap is None:
        return guesses_out(())
    log = log_of(build.lap)
    return guesses_out(swings(document_of(build), log, corners_of(build.lap, log)))
