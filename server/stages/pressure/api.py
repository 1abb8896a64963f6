"""Pressure: the circuit as it is joined and over the lap, a bottle tried on it, what is guessed."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.tell.alone import GuessesOut
from bilge_core.tell.bottle import BottleMapOut, TrialOut
from bilge_core.tell.circuit import CircuitOut, circuit_out
from bilge_core.tell.supply import CoolingOut, SupplyOut
from builds.selectors import build_of, document_of
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from stages.pressure import answer
from stages.pressure.schemas import CoolingIn, MapIn, PressureStageOut, SupplyIn, TrialIn

router = Router()


@router.get("/{int:build_id}", response=PressureStageOut, operation_id="get_pressure")
def get_pressure(request: HttpRequest, build_id: int) -> HttpResponse:
    """The circuit over the lap: pressures, flows, gas and oil, part by part; its bottle."""
    made = answer.pressure(signed_in(request).workshop, build_id)
    return HttpResponse(made, content_type="application/json")


@router.post("/{int:build_id}/bottle", response=TrialOut, operation_id="try_bottle")
def try_bottle(request: HttpRequest, build_id: int, payload: TrialIn) -> TrialOut:
    """An accumulator set otherwise, or fitted, over the lap; nothing is kept."""
    return answer.trial(signed_in(request).workshop, build_id, payload.act)


@router.get("/{int:build_id}/bottle/map", response=BottleMapOut, operation_id="get_bottle_map")
def get_bottle_map(request: HttpRequest, build_id: int, wanted: Query[MapIn]) -> BottleMapOut:
    """The lowest gallery pressure over size and pre-charge."""
    return answer.mapped(signed_in(request).workshop, build_id, wanted)


@router.post("/{int:build_id}/supply", response=SupplyOut, operation_id="ask_supply")
def ask_supply(request: HttpRequest, build_id: int, payload: SupplyIn) -> SupplyOut:
    """The circuit hot and cold, what its valve is set to for a wanted gallery, its start."""
    return answer.supply(signed_in(request).workshop, build_id, payload.asked)


@router.post("/{int:build_id}/cooling", response=CoolingOut, operation_id="ask_cooling")
def ask_cooling(request: HttpRequest, build_id: int, payload: CoolingIn) -> CoolingOut:
    """The oil's temperature over a stint and at rest, cooler by cooler."""
    return answer.cooling(signed_in(request).workshop, build_id, payload.asked)


@router.get("/{int:build_id}/circuit", response=CircuitOut, operation_id="get_circuit")
def get_circuit(request: HttpRequest, build_id: int) -> CircuitOut:
    """What each port is joined to, and whether the circuit checks out."""
    return circuit_out(document_of(build_of(signed_in(request).workshop, build_id)))


@router.get("/{int:build_id}/guesses", response=GuessesOut, operation_id="get_guesses")
def get_guesses(request: HttpRequest, build_id: int) -> GuessesOut:
    """What nobody measured of the circuit, and how far it moves the forecast over the lap.

    Without a lap there is nothing that it would move: the list is empty.
    """
    return answer.guesses(signed_in(request).workshop, build_id)
