"""Looks and the catalogue."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Router

from ...core.catalogue import describe_all
from ...core.piece import check_piece
from ...core.starts import RUNS, STARTS
from ..looks import QUEUE, look
from .schemas import FAULTS, CatalogueOut, ErrorOut, LookIn

router = Router(tags=["looks"])
CATALOGUE = CatalogueOut.model_validate(
    {
        "kinds": describe_all(),
        "starts": [{"key": s.key, "label": s.label, "purpose": s.purpose} for s in STARTS],
        "runs": [{"name": r.name, "purpose": r.purpose, "steps": [{"kind": k, "settings": s} for k, s in r.steps]} for r in RUNS],
    }
)


@router.get("/catalogue", response={200: CatalogueOut, **FAULTS}, operation_id="get_catalogue")
def catalogue(request: HttpRequest) -> CatalogueOut:
    """Return every kind of step with its settings, and the starting points of pieces."""
    return CATALOGUE


@router.post("/looks", operation_id="make_look", response={200: None, 409: ErrorOut, **FAULTS})
def make_look(request: HttpRequest, payload: LookIn) -> HttpResponse:
    """Return a look of a document as JPEG, or PNG where it is transparent.

    409 `overtaken` says that a newer request of the same bench came first.
    """
    stop = QUEUE.enter(payload.bench, payload.turn) if payload.bench else lambda: False
    data, kind, shape = look(check_piece(payload.document), payload.size, payload.upto, payload.draft, stop)
    response = HttpResponse(data, content_type=kind)
    response["X-Look-Size"] = f"{shape[1]}x{shape[0]}"
    response["Cache-Control"] = "no-store"
    return response
