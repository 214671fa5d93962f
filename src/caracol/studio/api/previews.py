"""Previews: pictures of a document, and pictures to lay over them."""

from __future__ import annotations

import json
import time
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from ninja import Router

from ...core.piece.files import check_piece
from ..previews import Part, PreviewRequest, area_overlay, blend_sheet, clipping_overlay, preview, softness_overlay, sorted_overlay
from ..rendering import NEWEST, never
from .described import binary
from .schemas.common import FAULTS, ErrorOut
from .schemas.previews import AreaOverlayIn, BlendSheetIn, PreviewIn, SoftnessOverlayIn, StepOverlayIn
from .serving import png, served

router = Router(tags=["previews"])
OVERLAY = binary("A transparent PNG of `size` pixels on its longer side, to lay over the preview.", "image/png")
SIZES = {
    "X-Preview-Size": "Width and height of the whole picture in pixels, such as 1024x512.",
    "X-Preview-Part": "Which of its pixels the file shows: left, top, right, bottom.",
    "X-Preview-Frames": "JSON, percent-encoded: the ratio of the piece (`ratio`), and of each layer before it is placed (`layers`).",
    "X-Preview-Missing": "Percent-encoded lines: what of the piece is not there, such as a deleted photo.",
}


@router.post(
    "",
    operation_id="render_preview",
    response={200: None, 409: ErrorOut, **FAULTS},
    openapi_extra=binary("The picture: JPEG, or PNG where it is transparent.", "image/jpeg", "image/png", headers=SIZES),
)
def render_preview(request: HttpRequest, payload: PreviewIn) -> HttpResponse:
    """Render a preview of a document: the whole piece, or one layer after some of its steps; all of it, or a part.

    409 `superseded` says that a newer request of the same `bench` came first.
    """
    begun = time.perf_counter()
    superseded = NEWEST.enter(payload.bench, payload.turn) if payload.bench else never
    with served(request, superseded, hand=payload.draft and bool(payload.bench)) as stop:
        part = Part(**payload.part.dict()) if payload.part else None
        made = preview(check_piece(payload.document), PreviewRequest(payload.size, payload.upto, payload.layer, payload.draft, part), stop)
    response = HttpResponse(made.data, content_type=made.kind)
    response["X-Preview-Size"] = f"{made.cols}x{made.rows}"
    response["X-Preview-Part"] = ",".join(map(str, made.box))
    response["X-Preview-Frames"] = quote(json.dumps({"ratio": made.ratio, "layers": made.ratios}))
    if made.missing:
        response["X-Preview-Missing"] = quote("\n".join(made.missing))
    response["Server-Timing"] = f"preview;dur={1000 * (time.perf_counter() - begun):.1f}"
    response["Cache-Control"] = "no-store"
    return response


@router.post(
    "/blend-modes",
    operation_id="render_blend_modes",
    response={200: None, **FAULTS},
    openapi_extra=binary(
        "One JPEG: the modes below each other.", "image/jpeg", headers={"X-Preview-Size": "Width and height of one of them."}
    ),
)
def render_blend_modes(request: HttpRequest, payload: BlendSheetIn) -> HttpResponse:
    """Render the piece in every blend mode of one layer or step, below each other in the order of the catalogue."""
    with served(request) as stop:
        data, shape = blend_sheet(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    response = HttpResponse(data, content_type="image/jpeg")
    response["X-Preview-Size"] = f"{shape[1]}x{shape[0]}"
    response["Cache-Control"] = "no-store"
    return response


@router.post("/area", operation_id="render_area", response={200: None, **FAULTS}, openapi_extra=OVERLAY)
def render_area(request: HttpRequest, payload: AreaOverlayIn) -> HttpResponse:
    """Show the area of a layer, group or step: as a tint, or as a line along its edge."""
    with served(request) as stop:
        data = area_overlay(check_piece(payload.document), payload.layer, payload.step, payload.size, payload.edge, stop)
    return png(data)


@router.post("/sorted", operation_id="render_sorted", response={200: None, **FAULTS}, openapi_extra=OVERLAY)
def render_sorted(request: HttpRequest, payload: StepOverlayIn) -> HttpResponse:
    """Show the stretches of pixels that a pixel sort sorts."""
    with served(request) as stop:
        data = sorted_overlay(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    return png(data)


@router.post("/clipping", operation_id="render_clipping", response={200: None, **FAULTS}, openapi_extra=OVERLAY)
def render_clipping(request: HttpRequest, payload: StepOverlayIn) -> HttpResponse:
    """Show where a step clips dark tones (blue) and light tones (red)."""
    with served(request) as stop:
        data = clipping_overlay(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    return png(data)


@router.post(
    "/softness",
    operation_id="render_softness",
    response={200: None, **FAULTS},
    openapi_extra=binary("A small transparent PNG, to lay over the whole piece.", "image/png"),
)
def render_softness(request: HttpRequest, payload: SoftnessOverlayIn) -> HttpResponse:
    """Show where an export of `size` pixels would be softer than its pixels allow."""
    with served(request) as stop:
        data = softness_overlay(check_piece(payload.document), payload.size, stop)
    return png(data)
