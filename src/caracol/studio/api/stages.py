"""What identifies the stages of a piece."""

from __future__ import annotations

from dataclasses import asdict

from django.http import HttpRequest
from ninja import Router

from ...core.piece.files import check_piece
from ..looks import stages
from .schemas.common import FAULTS
from .schemas.stages import StagesIn, StagesOut

router = Router(tags=["looks"])


@router.post("/stages", response={200: StagesOut, **FAULTS}, operation_id="identify_stages")
def identify(request: HttpRequest, payload: StagesIn) -> dict[str, object]:
    """Identify every stage of a document: what pictures and answers about it are kept by."""
    return asdict(stages(check_piece(payload.document)))
