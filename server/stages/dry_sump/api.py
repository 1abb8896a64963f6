"""Dry sump: sizes, tank, and which stage draws what, corner by corner."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest
from ninja import Router

from stages.dry_sump import answer
from stages.dry_sump.schemas import DrySumpStageOut

router = Router()


@router.get("/{int:build_id}", response=DrySumpStageOut, operation_id="get_dry_sump")
def get_dry_sump(request: HttpRequest, build_id: int) -> DrySumpStageOut:
    """A build's dry sump, or that it is wet."""
    return answer.dry_sump(signed_in(request).workshop, build_id)
