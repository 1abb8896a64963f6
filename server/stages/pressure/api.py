"""Pressure: the circuit as it is joined."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.tell.circuit import CircuitOut, circuit_out
from builds.selectors import build_of, document_of
from django.http import HttpRequest
from ninja import Router

router = Router()


@router.get("/{int:build_id}/circuit", response=CircuitOut, operation_id="get_circuit")
def get_circuit(request: HttpRequest, build_id: int) -> CircuitOut:
    """What each port is joined to, and whether the circuit checks out."""
    return circuit_out(document_of(build_of(signed_in(request).workshop, build_id)))
