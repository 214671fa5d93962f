"""The sampler of drafts, on pictures small enough to know by hand and against the settled picture."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.piece.files import check_piece
from caracol.core.pixels.drafts import FAR, Coded, coded_of, sample_draft
from caracol.core.pixels.pyramid import pyramid_of
from caracol.core.render import render
from caracol.core.render.quality import DRAFT, FULL
from tests.pictures import OnePhoto, detailed, halved, opaque, piece, psnr, smooth


def drawn(source: Coded, rule: Any, rows: int, cols: int, wrap: tuple[bool, bool] = (False, False)) -> Array:
    """Return a draft of `rows` × `cols` points."""
    out = np.full((rows, cols, 4), np.nan, np.float32)
    sample_draft(source, wrap, rule, *Frame(cols / rows).grid(rows, cols, halo=1), out)
    return out


def columns(cols: int = 16) -> Coded:
    """Return a square picture in which column n is n + 1 parts of `cols` light, its levels included."""
    values = (np.arange(cols) + 1) / cols
    return coded_of(pyramid_of(opaque(np.repeat(np.repeat(values[None, :, None], 3, axis=2), cols, axis=0).astype(np.float32))), cols)


def moved(by: float, seen: list[int] | None = None) -> Any:
    """Return a rule that reads `by` units further right, and counts the points it is asked for."""

    def rule(x: Array, y: Array) -> tuple[Array, Array]:
        if seen is not None:
            seen.append(x.size)
        return x + np.float32(by), y.copy()

    return rule


def test_points_lie_where_they_lie() -> None:
    """One pixel of a square of 16 is an eighth of a unit."""
    values = (np.arange(16) + 1) / 16
    same = drawn(columns(), moved(0), 16, 16)[5, :, 0]
    assert np.abs(same - values).max() < 1 / 255
    shifted = drawn(columns(), moved(1 / 8), 16, 16)[5, :, 0]
    assert np.abs(shifted[:-1] - values[1:]).max() < 1 / 255
    halfway = drawn(columns(), moved(1 / 16), 16, 16)[5, :, 0]
    assert np.abs(halfway[:-1] - (values[:-1] + values[1:]) / 2).max() < 1 / 255


def test_outside_it_is_mirrored_or_goes_on_round_the_back() -> None:
    values = (np.arange(16) + 1) / 16
    mirrored = drawn(columns(), moved(2 / 8), 16, 16)[3, :, 1]
    assert np.abs(mirrored[-2:] - values[[15, 14]]).max() < 1 / 255
    wrapped = drawn(columns(), moved(2 / 8), 16, 16, (True, False))[3, :, 1]
    assert np.abs(wrapped[-2:] - values[[0, 1]]).max() < 1 / 255


def test_a_smooth_rule_is_asked_for_few_points() -> None:
    seen: list[int] = []
    drawn(columns(), moved(0.1, seen), 64, 64)
    assert sum(seen) < 64 * 64 / 7


@pytest.mark.parametrize("at", [0.03, 0.11, -0.19])
def test_a_tear_stays_sharp(at: float) -> None:
    """Left of it the left edge is read, right of it the right one: no point lies between."""

    def rule(x: Array, y: Array) -> tuple[Array, Array]:
        return np.where(x < np.float32(at), np.float32(-0.9), np.float32(0.9)), y.copy()

    row = drawn(columns(), rule, 32, 32)[7, :, 0]
    expected = np.where(Frame(1.0).grid(32, 32)[0][7] < at, 1 / 16, 1)
    assert np.abs(row - expected).max() < 0.05


def test_what_lies_nowhere_is_transparent_to_the_pixel() -> None:
    def rule(x: Array, y: Array) -> tuple[Array, Array]:
        gone = np.hypot(x, y) > 0.6
        return np.where(gone, np.float32(1e9), x), np.where(gone, np.float32(1e9), y)

    x, y = Frame(1.0).grid(64, 64)
    alpha = drawn(columns(), rule, 64, 64)[..., 3]
    assert np.array_equal(alpha > 0.5, np.hypot(x, y) <= 0.6)
    assert np.float32(1e9) > FAR


@pytest.mark.parametrize(("rows", "cols"), [(1, 1), (3, 5), (17, 4), (64, 130)])
def test_any_size_is_filled(rows: int, cols: int) -> None:
    out = drawn(columns(), moved(0.01), rows, cols)
    assert np.isfinite(out).all()
    assert out[..., 3].min() == 1


def test_levels_begin_where_they_are_needed() -> None:
    pyramid = pyramid_of(opaque(np.ones((64, 128, 3), np.float32)))
    assert coded_of(pyramid, 32).levels[0].shape == (16, 32, 4)
    assert coded_of(pyramid, 33).levels[0].shape == (32, 64, 4)
    assert coded_of(pyramid, 4000).levels[0].shape == (64, 128, 4)
    assert coded_of(pyramid, 32).frame == pyramid.frame


def test_half_transparent_colours_are_premultiplied() -> None:
    glass = np.full((8, 8, 4), 0.5, np.float32)
    glass[..., :3] = 0.4
    out = drawn(coded_of(pyramid_of(glass), 8), moved(0), 8, 8)
    assert np.abs(out[..., 3] - 0.5).max() < 1 / 255
    assert np.abs(out[..., :3] - 0.4).max() < 1.5 / 255


BENDS: list[tuple[str, dict[str, Any]]] = [
    ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.2}),
    ("twirl", {}),
    ("wave", {}),
    ("lens", {}),
    ("droste", {}),
    ("kaleidoscope", {}),
    ("pinch", {"amount": 0.6}),
    ("place", {"scale": 0.4, "turn": 0.1, "edge": "empty"}),
    ("place", {"scale": 3, "turn": 0.03}),
]


@pytest.mark.parametrize(("kind", "settings"), BENDS, ids=[f"{kind} {n}" for n, (kind, _) in enumerate(BENDS)])
def test_a_draft_is_near_the_picture_that_follows_it(kind: str, settings: dict[str, Any]) -> None:
    photo = OnePhoto(detailed(900, 1800))
    bent = piece((kind, settings))
    full, draft = (render(bent, 384, photo, quality=quality) for quality in (FULL, DRAFT))
    assert psnr(draft, full) >= 34
    assert np.abs(draft[..., 3] - full[..., 3]).mean() < 0.01


def test_a_draft_reads_over_the_join_and_leaves_nothing_outside() -> None:
    """Cells that lie across the seam of a ring, or across an edge, are asked for point by point."""
    photo = OnePhoto(smooth(256, 512))
    ring = piece(("ring", {"inside": "bottom", "hole": 0.3, "edge": "empty", "reach": 0.8}))
    full, draft = (render(ring, 128, photo, quality=quality) for quality in (FULL, DRAFT))
    inside = full[..., 3] == 1
    assert np.abs(draft - full)[inside].max() < 0.09
    assert draft[full[..., 3] == 0].max() < 0.01


TORN = {"id": "s", "kind": "slices", "settings": {}}
BENT = {"id": "p", "source": {"kind": "photo", "photo": "p"}, "steps": [{"id": "t", "kind": "twirl", "settings": {}}]}


@pytest.mark.parametrize(
    "layers",
    [
        [{**BENT, "steps": [*BENT["steps"], TORN]}],
        [BENT, {"id": "all", "source": {"kind": "below"}, "steps": [TORN]}],
        [BENT, {"id": "group", "layers": [{**BENT, "id": "again", "opacity": 0.5}], "steps": [TORN]}],
    ],
    ids=["trail", "everything below", "group"],
)
def test_a_draft_has_the_bars_of_the_picture_that_follows(layers: list[dict[str, Any]]) -> None:
    """They lean to edges: found on the draft's own picture, some would lie elsewhere."""
    torn, photo = check_piece({"caracol": 3, "layers": layers}), OnePhoto(detailed(900, 1800))
    draft, settled = render(torn, 700, photo, quality=DRAFT), render(torn, 700, photo)
    assert psnr(draft, settled) > 34


def test_a_draft_on_a_smaller_raster_has_the_bristles_of_the_settled_one() -> None:
    brushed, photo = piece(("brushwork", {"lines": 540, "bristle": 1})), OnePhoto(smooth(540, 1080))
    draft, settled = render(brushed, 256, photo, quality=DRAFT), render(brushed, 512, photo)
    assert psnr(draft, halved(settled, draft.shape[:2])) > 34
