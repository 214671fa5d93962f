"""Looks and the catalogue."""

from __future__ import annotations

import json
import time
from dataclasses import asdict
from urllib.parse import quote

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from ...core.formulas.language import CONSTANTS, FUNCTIONS, VARIABLES
from ...core.piece.describe import describe_everything
from ...core.piece.files import check_piece, dump_piece
from ...core.piece.starts import STARTS, Steps, companions_of
from ...core.piece.variants import roll
from ...core.pixels.blending import MODES
from ...core.steps.mend.touch_up import StrokeSource
from ..looks import (
    QUEUE,
    Part,
    Wanted,
    blend_sheet,
    clipped_veil,
    doubles,
    heal_source,
    kept_outlines,
    look,
    never,
    palette,
    read_piece,
    shelve_stage,
    soft_veil,
    stretches_veil,
    told,
    veil,
    wordings,
)
from ..looks import bars as drawn_bars
from ..models import Photo
from .catalogue import CatalogueOut
from .schemas.common import FAULTS, ErrorOut
from .schemas.looks import (
    BarOut,
    BarsIn,
    BarsOut,
    BlendsIn,
    DoubleOut,
    DoublesOut,
    KeptOut,
    LookIn,
    PaletteIn,
    PaletteOut,
    RollIn,
    RollOut,
    ShelveIn,
    SoftIn,
    StageIn,
    StepIn,
    StrokeIn,
    ToldOut,
    VariantOut,
    VeiledIn,
    VeilIn,
    WordingOut,
    WordingsOut,
    WordsIn,
)
from .schemas.photos import PhotoOut, StageReadingOut
from .serving import png, served

router = Router(tags=["looks"])
CATALOGUE = CatalogueOut.model_validate(
    {
        **describe_everything(),
        "formula": {"functions": list(FUNCTIONS), "constants": list(CONSTANTS), "variables": list(VARIABLES)},
        "blends": list(MODES),
        "upload_bytes": settings.UPLOAD_LIMIT,
        "starts": [{"key": s.key, "label": s.label, "purpose": s.purpose, "joins": s.joins} for s in STARTS],
    }
)


@router.get("/catalogue", response={200: CatalogueOut, **FAULTS}, operation_id="get_catalogue")
def catalogue(request: HttpRequest) -> CatalogueOut:
    """Return every kind of step with its settings, and the starting points of pieces."""
    return CATALOGUE


@router.post("/readings", response={200: StageReadingOut, **FAULTS}, operation_id="read_stage")
def read_stage(request: HttpRequest, payload: StageIn) -> dict[str, object]:
    """Read the picture of a piece as it is after some of its steps."""
    with served(request) as stop:
        reading = read_piece(check_piece(payload.document), payload.upto, payload.layer, stop)
    steps = [{"inside": one.inside, "before": _brought(one.before), "after": _brought(one.after)} for one in companions_of(reading)]
    return reading.as_data() | {"companions": steps}


def _brought(steps: Steps) -> list[dict[str, object]]:
    return [{"kind": kind, "settings": settings} for kind, settings in steps]


@router.post("/blends", operation_id="make_blends", response={200: None, **FAULTS})
def make_blends(request: HttpRequest, payload: BlendsIn) -> HttpResponse:
    """Return a JPEG with the piece in every blend mode of one layer or step, below each other in the catalogue's order."""
    with served(request) as stop:
        data, shape = blend_sheet(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    response = HttpResponse(data, content_type="image/jpeg")
    response["X-Look-Size"] = f"{shape[1]}x{shape[0]}"
    response["Cache-Control"] = "no-store"
    return response


@router.post("/veils", operation_id="make_veil", response={200: None, **FAULTS})
def make_veil(request: HttpRequest, payload: VeilIn) -> HttpResponse:
    """Return the where of a layer, group or step as a transparent PNG: a tint, or its edge."""
    with served(request) as stop:
        data = veil(check_piece(payload.document), payload.layer, payload.step, payload.size, payload.edge, stop)
    return png(data)


@router.post("/bars", response={200: BarsOut, **FAULTS}, operation_id="draw_bars")
def bars(request: HttpRequest, payload: BarsIn) -> BarsOut:
    """Return the bars of a slices step, as they lie, or drawn again."""
    with served(request) as stop:
        found = drawn_bars(check_piece(payload.document), payload.layer, payload.step, payload.again, stop)
    return BarsOut(bars=[BarOut(**bar.model_dump()) for bar in found])


@router.post("/told", response={200: ToldOut, **FAULTS}, operation_id="tell_step")
def tell(request: HttpRequest, payload: StepIn) -> ToldOut:
    """Return what a step found out about its input: how visible a seam is and was, the colour of a rim."""
    with served(request) as stop:
        return ToldOut(told=told(check_piece(payload.document), payload.layer, payload.step, stop))


@router.post("/doubles", response={200: DoublesOut, **FAULTS}, operation_id="find_doubles")
def show_doubles(request: HttpRequest, payload: StepIn) -> DoublesOut:
    """Return where the strokes of a touch-up betray themselves: their texture stands in the picture twice."""
    with served(request) as stop:
        found = doubles(check_piece(payload.document), payload.layer, payload.step, stop)
    return DoublesOut(doubles=[DoubleOut(**asdict(double)) for double in found])


@router.post("/heal-sources", response={200: StrokeSource, **FAULTS}, operation_id="find_heal_source")
def show_heal_source(request: HttpRequest, payload: StrokeIn) -> StrokeSource:
    """Return where a stroke that heals takes its texture from by itself: near it, of the same surface, and without an edge."""
    with served(request) as stop:
        return heal_source(check_piece(payload.document), payload.layer, payload.step, payload.stroke, stop)


@router.post("/stretches", operation_id="show_stretches", response={200: None, **FAULTS})
def stretches(request: HttpRequest, payload: VeiledIn) -> HttpResponse:
    """Return what a step acts on as a tinted, transparent PNG: the stretches that a pixel sort orders."""
    with served(request) as stop:
        data = stretches_veil(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    return png(data)


@router.post("/clipped", operation_id="show_clipped", response={200: None, **FAULTS})
def clipped(request: HttpRequest, payload: VeiledIn) -> HttpResponse:
    """Return where a step loses dark (blue) and light (red) tones as a transparent PNG."""
    with served(request) as stop:
        data = clipped_veil(check_piece(payload.document), payload.layer, payload.step, payload.size, stop)
    return png(data)


@router.post("/soft", operation_id="show_soft", response={200: None, **FAULTS})
def soft(request: HttpRequest, payload: SoftIn) -> HttpResponse:
    """Return where a delivery would be softer than it could be as a transparent PNG, to be laid over the finished piece."""
    with served(request) as stop:
        data = soft_veil(check_piece(payload.document), payload.size, stop)
    return png(data)


@router.post("/palettes", response={200: PaletteOut, **FAULTS}, operation_id="find_palette")
def find_palette(request: HttpRequest, payload: PaletteIn) -> PaletteOut:
    """Return the colours that a finished piece consists of."""
    with served(request) as stop:
        return PaletteOut(colours=palette(check_piece(payload.document), stop))


@router.post("/kept", response={200: KeptOut, **FAULTS}, operation_id="outline_kept")
def kept(request: HttpRequest, payload: StageIn) -> KeptOut:
    """Return the outlines of a layer's keep areas as they lie at a stage."""
    piece = check_piece(payload.document)
    with served(request) as stop:
        return KeptOut(lines=kept_outlines(piece, payload.layer or piece.layer.id, payload.upto, stop))


@router.post("/words", response={200: WordingsOut, **FAULTS}, operation_id="find_words")
def find_words(request: HttpRequest, payload: WordsIn) -> WordingsOut:
    """Return where the words of a document lie, and whether all of them are seen."""
    with served(request) as stop:
        return WordingsOut(words=[WordingOut(**asdict(one)) for one in wordings(check_piece(payload.document), stop)])


@router.post("/rolls", response={200: RollOut, **FAULTS}, operation_id="roll_variants")
def rolls(request: HttpRequest, payload: RollIn) -> RollOut:
    """Return variants of a document."""
    steps = None if payload.steps is None else frozenset(payload.steps)
    made = roll(check_piece(payload.document), payload.seed, spread=payload.spread, vary=payload.vary, steps=steps, count=payload.count)
    return RollOut(variants=[VariantOut(document=dump_piece(variant.piece), changes=list(variant.changes)) for variant in made])


@router.post("/shelved", response={201: PhotoOut, 507: ErrorOut, **FAULTS}, operation_id="shelve_stage")
def shelve(request: HttpRequest, payload: ShelveIn) -> Status[Photo]:
    """Put a stage of a piece on the Shelf as a picture of its own, with its transparency."""
    with served(request) as stop:
        return Status(201, shelve_stage(check_piece(payload.document), payload.upto, payload.layer, payload.name, payload.size, stop))


@router.post("/looks", operation_id="make_look", response={200: None, 409: ErrorOut, **FAULTS})
def make_look(request: HttpRequest, payload: LookIn) -> HttpResponse:
    """Return a look of a document as JPEG, or PNG where it is transparent.

    409 `overtaken` says that a newer request of the same bench came first. `X-Look-Size` is its width and height, `X-Look-Part` which of
    its pixels the file shows: left, top, right, bottom; `X-Look-Frames` has the ratios of the piece and of each layer before it is placed;
    `X-Look-Missing` names photos that are gone.
    """
    begun = time.perf_counter()
    overtaken = QUEUE.enter(payload.bench, payload.turn) if payload.bench else never
    with served(request, overtaken, hand=payload.draft and bool(payload.bench)) as stop:
        part = Part(**payload.part.dict()) if payload.part else None
        made = look(check_piece(payload.document), Wanted(payload.size, payload.upto, payload.layer, payload.draft, part), stop)
    response = HttpResponse(made.data, content_type=made.kind)
    response["X-Look-Size"] = f"{made.cols}x{made.rows}"
    response["X-Look-Part"] = ",".join(map(str, made.box))
    response["X-Look-Frames"] = quote(json.dumps({"ratio": made.ratio, "layers": made.ratios}))
    if made.missing:
        response["X-Look-Missing"] = quote("\n".join(made.missing))
    response["Server-Timing"] = f"look;dur={1000 * (time.perf_counter() - begun):.1f}"
    response["Cache-Control"] = "no-store"
    return response
