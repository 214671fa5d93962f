"""Variants of a document, to choose from."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from ...core.piece.files import check_piece, dump_piece
from ...core.piece.variants import roll
from .schemas.common import FAULTS
from .schemas.variants import VariantOut, VariantsIn, VariantsOut

router = Router(tags=["variants"])


@router.post("", response={200: VariantsOut, **FAULTS}, operation_id="roll_variants")
def roll_variants(request: HttpRequest, payload: VariantsIn) -> VariantsOut:
    """Return variants of a document with other random numbers, other settings, or both; and what differs in each, in words."""
    steps = None if payload.steps is None else frozenset(payload.steps)
    made = roll(check_piece(payload.document), payload.seed, spread=payload.spread, vary=payload.vary, steps=steps, count=payload.count)
    return VariantsOut(variants=[VariantOut(document=dump_piece(variant.piece), changes=list(variant.changes)) for variant in made])
