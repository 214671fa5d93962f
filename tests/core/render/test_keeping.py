"""Keep areas: what moves less there, and where they lie after bends."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.catalogue.registry import KINDS
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import RasterKind
from caracol.core.piece.files import check_piece
from caracol.core.piece.keep import KeepArea, keep_mask
from caracol.core.pixels.masks import outline_of
from caracol.core.render import Context, Renderer, render
from caracol.core.render.analyses import keep_mask_of
from tests.core.steps.test_break import shift_of
from tests.pictures import OnePhoto, detailed, document

PHOTO = OnePhoto(detailed(400, 800))
LEFT = {"shapes": [{"kind": "rectangle", "x": -1, "y": 0, "rx": 1, "ry": 2}], "feather": 0}


def with_keep(*steps: tuple[str, dict[str, Any]], weight: float = 0.5, where: dict[str, Any] | None = None) -> Any:
    data = document(*steps)
    data["layers"][0]["source"]["keep"] = [{"weight": weight, "where": where or LEFT}]
    return check_piece(data)


def test_a_half_kept_area_halves_the_shift() -> None:
    before = render(check_piece(document()), 800, PHOTO)
    after = render(with_keep(("channel-split", {"red_x": 0.2})), 800, PHOTO)
    inside, outside = (slice(None), slice(60, 340), 0), (slice(None), slice(480, 740), 0)
    assert shift_of(after[inside], before[inside]) == 20  # two hundred pixels are a unit
    assert shift_of(after[outside], before[outside]) == 40


def test_bars_and_waves_move_half_as_far_there() -> None:
    before = render(check_piece(document()), 800, PHOTO)
    bar = {"top": 0.25, "height": 0.5, "shift": 0.05}
    after = render(with_keep(("slices", {"bars": [bar]})), 800, PHOTO)
    rows = slice(120, 280)
    assert shift_of(after[rows, 100:340, 1], before[rows, 100:340, 1]) == 20
    assert shift_of(after[rows, 480:740, 1], before[rows, 480:740, 1]) == 40
    wave = ("wave", {"heading": 0.25, "length": 2, "height": 0.2, "form": "stepped"})
    waved = render(with_keep(wave), 800, PHOTO)
    rows = slice(210, 390)
    far, near = (abs(shift_of(waved[rows, part, 1], before[rows, part, 1])) for part in (slice(480, 740), slice(80, 340)))
    assert far == 40
    assert near == 20


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.respects_keep], ids=lambda kind: kind.key)
def test_wholly_kept_nothing_moves(kind: Any) -> None:
    everywhere = {"shapes": [], "invert": True}
    small = {"lines": 200} if isinstance(kind, RasterKind) else {}
    start = dict(kind.starts[0].settings) | small
    before = render(check_piece(document()), 400, PHOTO)
    after = render(with_keep((kind.key, start), weight=1, where=everywhere), 400, PHOTO)
    free = render(check_piece(document((kind.key, start))), 400, PHOTO)
    still, moved = np.abs(after[..., :3] - before[..., :3]).mean(), np.abs(free[..., :3] - before[..., :3]).mean()
    if kind.key == "ghosts":  # its copies stay, tinted
        assert np.abs(after[..., :3].mean(axis=2) - before[..., :3].mean(axis=2)).mean() < moved
    else:
        assert still < 0.01 < moved


def test_areas_are_pulled_through_crops_and_bends() -> None:
    spot = {"shapes": [{"kind": "ellipse", "x": -1, "y": 0, "rx": 0.2, "ry": 0.2}], "feather": 0}
    piece = with_keep(("crop", {"left": 0, "right": 0.5, "top": 0, "bottom": 1}), ("turn", {"quarters": 1}), weight=1, where=spot)
    context = Context(PHOTO)
    for upto, middle in ((0, (-1, 0)), (1, (0, 0)), (2, (0, 0))):
        mask, frame = keep_mask_of(piece, context, "land", upto)
        assert mask is not None
        (line,) = outline_of(mask, frame)
        assert np.allclose(np.mean(line, axis=0), middle, atol=0.04)
    ring = with_keep(("ring", {"inside": "bottom"}), weight=1, where=spot)
    mask, frame = keep_mask_of(ring, context, "land", None)
    assert mask is not None
    # A quarter of the way round from the seam at the foot, half way out: to the left.
    (line,) = outline_of(mask, frame)
    assert np.allclose(np.mean(line, axis=0), (-0.5, 0), atol=0.06)


def test_only_steps_that_heed_them_are_computed_again() -> None:
    plain, kept = (
        Renderer(one, Context(PHOTO), upto=1).digest
        for one in (check_piece(document(("ring", {}), ("slices", {}))), with_keep(("ring", {}), ("slices", {})))
    )
    assert plain == kept
    plain, kept = (
        Renderer(one, Context(PHOTO), upto=2).digest
        for one in (check_piece(document(("ring", {}), ("slices", {}))), with_keep(("ring", {}), ("slices", {})))
    )
    assert plain != kept


def test_a_weight_out_of_range_is_refused_by_path() -> None:
    with pytest.raises(Exception, match=r"layers\[0\]\.source\.keep\[0\]\.weight"):
        with_keep(weight=2)


def test_of_overlapping_areas_the_stronger_counts() -> None:
    """Not both together, which would keep more than either asks for."""
    frame = Frame(1.0)
    areas = tuple(KeepArea.model_validate({"weight": weight, "where": {"shapes": [], "invert": True}}) for weight in (0.3, 0.5))
    assert keep_mask(areas, frame, None).max() == pytest.approx(0.5)
    assert keep_mask(areas[::-1], frame, None).min() == pytest.approx(0.5)
