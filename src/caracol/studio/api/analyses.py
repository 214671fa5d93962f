"""Analyses: what is found out about a document besides its picture."""

from __future__ import annotations

from dataclasses import asdict

from django.http import HttpRequest
from ninja import Router

from ...core.piece.files import check_piece
from ...core.piece.starts import Steps, companions_of
from ...core.steps.mend.touch_up import StrokeSource
from ..analyses import bars, heal_source, keep_area_outlines, palette, repeats, stage_identities, stage_reading, step_analysis, text_boxes
from .schemas.analyses import (
    BarOut,
    BarsIn,
    BarsOut,
    DocumentIn,
    IdentitiesOut,
    KeepAreasOut,
    PaletteOut,
    RepeatOut,
    RepeatsOut,
    StageIn,
    StepAnalysisOut,
    StepIn,
    StrokeIn,
    TextBoxesOut,
    TextBoxOut,
)
from .schemas.common import FAULTS
from .schemas.photos import StageReadingOut
from .serving import served

router = Router(tags=["analyses"])


@router.post("/readings", response={200: StageReadingOut, **FAULTS}, operation_id="analyse_reading")
def analyse_reading(request: HttpRequest, payload: StageIn) -> dict[str, object]:
    """Read the picture after some steps as a photo is read: horizon, sky, ends, uses; and which steps a ring put there would bring."""
    with served(request) as stop:
        reading = stage_reading(check_piece(payload.document), payload.upto, payload.layer, stop)
    steps = [{"inside": one.inside, "before": _described(one.before), "after": _described(one.after)} for one in companions_of(reading)]
    return reading.as_data() | {"companions": steps}


def _described(steps: Steps) -> list[dict[str, object]]:
    return [{"kind": kind, "settings": settings} for kind, settings in steps]


@router.post("/steps", response={200: StepAnalysisOut, **FAULTS}, operation_id="analyse_step")
def analyse_step(request: HttpRequest, payload: StepIn) -> StepAnalysisOut:
    """Return what a step found out about its input, such as how visible a seam is, its histogram, or the colour of a rim."""
    with served(request) as stop:
        return StepAnalysisOut(found=step_analysis(check_piece(payload.document), payload.layer, payload.step, stop))


@router.post("/bars", response={200: BarsOut, **FAULTS}, operation_id="analyse_bars")
def analyse_bars(request: HttpRequest, payload: BarsIn) -> BarsOut:
    """Return the bars of a slices step: as they are, or random from another seed around the locked ones."""
    with served(request) as stop:
        found = bars(check_piece(payload.document), payload.layer, payload.step, payload.again, stop)
    return BarsOut(bars=[BarOut(**bar.model_dump()) for bar in found])


@router.post("/repeats", response={200: RepeatsOut, **FAULTS}, operation_id="analyse_repeats")
def analyse_repeats(request: HttpRequest, payload: StepIn) -> RepeatsOut:
    """Return places that the strokes of a touch-up made visibly alike, the most visible first."""
    with served(request) as stop:
        found = repeats(check_piece(payload.document), payload.layer, payload.step, stop)
    return RepeatsOut(repeats=[RepeatOut(**asdict(one)) for one in found])


@router.post("/heal-sources", response={200: StrokeSource, **FAULTS}, operation_id="analyse_heal_source")
def analyse_heal_source(request: HttpRequest, payload: StrokeIn) -> StrokeSource:
    """Return where a healing stroke should take its texture from: nearby, on the same surface, without an edge."""
    with served(request) as stop:
        return heal_source(check_piece(payload.document), payload.layer, payload.step, payload.stroke, stop)


@router.post("/palettes", response={200: PaletteOut, **FAULTS}, operation_id="analyse_palette")
def analyse_palette(request: HttpRequest, payload: DocumentIn) -> PaletteOut:
    """Return the main colours of the whole piece."""
    with served(request) as stop:
        return PaletteOut(colours=palette(check_piece(payload.document), stop))


@router.post("/keep-areas", response={200: KeepAreasOut, **FAULTS}, operation_id="analyse_keep_areas")
def analyse_keep_areas(request: HttpRequest, payload: StageIn) -> KeepAreasOut:
    """Return the outlines of a layer's keep areas where they are after some steps."""
    piece = check_piece(payload.document)
    with served(request) as stop:
        return KeepAreasOut(lines=keep_area_outlines(piece, payload.layer or piece.layer.id, payload.upto, stop))


@router.post("/text-boxes", response={200: TextBoxesOut, **FAULTS}, operation_id="analyse_text_boxes")
def analyse_text_boxes(request: HttpRequest, payload: DocumentIn) -> TextBoxesOut:
    """Return where the texts of a document are, whether they run past the frame, and which size would fit."""
    with served(request) as stop:
        return TextBoxesOut(texts=[TextBoxOut(**asdict(one)) for one in text_boxes(check_piece(payload.document), stop)])


@router.post("/identities", response={200: IdentitiesOut, **FAULTS}, operation_id="analyse_identities")
def analyse_identities(request: HttpRequest, payload: DocumentIn) -> dict[str, object]:
    """Return a digest for every stage of a document: pictures and answers about it may be kept as long as it stays the same."""
    found = stage_identities(check_piece(payload.document))
    return asdict(found)
