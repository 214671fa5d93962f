"""The catalogue: what a piece can be made of."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from ninja import Router

from ...core.formulas.language import CONSTANTS, FUNCTIONS, VARIABLES
from ...core.piece.describe import describe_everything
from ...core.piece.starts import STARTS
from ...core.pixels.blending import MODES
from .schemas.catalogue import CatalogueOut
from .schemas.common import FAULTS

router = Router(tags=["catalogue"])
CATALOGUE = CatalogueOut.model_validate(
    {
        **describe_everything(),
        "formula": {"functions": list(FUNCTIONS), "constants": list(CONSTANTS), "variables": list(VARIABLES)},
        "blends": list(MODES),
        "upload_bytes": settings.UPLOAD_LIMIT,
        "starts": [{"key": s.key, "label": s.label, "purpose": s.purpose, "joins": s.joins} for s in STARTS],
    }
)


@router.get("", response={200: CatalogueOut, **FAULTS}, operation_id="get_catalogue")
def get_catalogue(request: HttpRequest) -> CatalogueOut:
    """Return every kind of step, source and shape with its settings, the starts of pieces, and what limits there are."""
    return CATALOGUE
