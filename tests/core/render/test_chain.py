"""Neighbouring bends are one sampling; edges; stages."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.errors import Superseded
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import BendKind
from caracol.core.kinds.settings import Settings
from caracol.core.piece.model import Step
from caracol.core.render import render
from caracol.core.render.cache import Cache
from caracol.core.render.chain import Chain, Link
from caracol.core.render.stages import stages_of
from tests.pictures import OnePhoto, detailed, opaque, piece, psnr, smooth

PHOTO = OnePhoto(detailed())


def turns(*angles: float) -> list[tuple[str, dict[str, Any]]]:
    return [("turn", {"angle": angle}) for angle in angles]


def test_five_turns_that_add_up_to_nothing_give_the_photo_back() -> None:
    result = render(piece(*turns(0.1, 0.2, -0.15, -0.05, -0.1)), 1024, PHOTO)
    assert psnr(result, detailed()) > 60


def test_five_separate_samplings_would_not() -> None:
    """The same turns kept apart by a tone that does next to nothing: what fusing saves."""
    apart = [step for turn in turns(0.1, 0.2, -0.15, -0.05, -0.1) for step in (turn, ("tone", {"brightness": 1e-4}))]
    assert psnr(render(piece(*apart), 1024, PHOTO), detailed()) < 45


def test_ring_and_unring_undo_each_other_inside_the_reach() -> None:
    for spread in ("even", "shape", "depth"):
        for inside in ("bottom", "top"):
            same = {"spread": spread, "inside": inside}
            result = render(piece(("ring", same), ("unring", {**same, "ratio": 2})), 1024, PHOTO)
            assert psnr(result, detailed()) > 55, (spread, inside)


def test_neighbouring_bends_fuse_and_a_partial_one_does_not() -> None:
    fused = stages_of(piece(("crop", {"left": 0.1}), ("turn", {"angle": 0.1}), ("ring", {}), ("tone", {"gamma": 2})).layer, Frame(2))
    assert [len(stage.steps) for stage in fused] == [3, 1]
    kept = stages_of(
        piece(("turn", {"angle": 0.1}), {"kind": "turn", "settings": {"angle": 0.1}, "strength": 0.5}, ("ring", {})).layer, Frame(2)
    )
    assert [len(stage.steps) for stage in kept] == [1, 1, 1]


def test_idle_steps_do_not_part_a_chain() -> None:
    trail = piece(("crop", {"left": 0.1}), ("tone", {}), {"kind": "rim", "on": False}, ("ring", {}))
    assert [len(stage.steps) for stage in stages_of(trail.layer, Frame(2))] == [2]


def test_edges_of_a_turned_picture() -> None:
    """A white picture turned by an eighth: empty leaves the corners clear, stretch and beyond do not."""
    white = OnePhoto(opaque(np.ones((64, 64, 3), np.float32)))
    empty = render(piece(("turn", {"angle": 0.125, "edge": "empty"})), 64, white)
    assert empty[0, 0].max() == 0
    assert empty[32, 32].min() == 1
    assert 0 < empty[..., 3].mean() < 1
    for edge in ("stretch", "mirror", "tile", "beyond"):
        assert render(piece(("turn", {"angle": 0.125, "edge": edge})), 64, white).min() > 0.999


@pytest.mark.parametrize(
    "step", [("turn", {"angle": 0.125}), ("lens", {"amount": 0.8}), ("wave", {"height": 0.3}), ("place", {"scale": 0.3, "edge": "beyond"})]
)
def test_beyond_a_bare_photo_lies_its_mirror_image(step: tuple[str, dict[str, Any]]) -> None:
    kind, settings = step
    photo = OnePhoto(smooth())
    beyond, mirror = (render(piece((kind, {**settings, "edge": edge})), 512, photo) for edge in ("beyond", "mirror"))
    assert psnr(beyond, mirror) > 40


def test_a_turned_ring_has_sky_in_its_corners() -> None:
    """Beyond: what lies outside the ring's frame comes from the ring's own rule, not from a mirror."""
    ring = ("ring", {"spread": "even", "reach": 2})
    turned = render(piece(ring, ("turn", {"angle": 0.125})), 256, PHOTO)
    direct = render(piece(("ring", {"spread": "even", "reach": 2, "seam": 0.625})), 256, PHOTO)
    assert psnr(turned, direct) > 50


def test_work_stops_when_it_is_overtaken() -> None:
    asked = []

    def stop() -> bool:
        asked.append(1)
        return len(asked) > 2

    with pytest.raises(Superseded, match="newer request"):
        render(piece(("ring", {})), 1024, PHOTO, stop=stop)
    assert len(asked) < 16


def _zoomed_chain(inner: float, outer: float, share: float) -> Chain:
    """A bend that shows the middle `share` of its width with footprints of `inner` units a unit, and the rest with `outer`."""

    def pull(x: Array, y: Array, before: Frame, after: Frame, s: Settings) -> tuple[Array, Array]:
        part = np.where(np.abs(x) < share, np.float32(inner), np.float32(outer))
        return x * part, y * part

    frame = Frame(1.0)
    kind = BendKind(key="@zoom", label="Zoom", family="bend", purpose="For this test.", settings=Settings, pull=pull)
    return Chain((Link(kind, Step.model_construct(id="z", kind="@zoom", settings=Settings()), frame, frame),))


def test_the_densest_quarter_of_footprints_says_how_large_the_input_must_be() -> None:
    """A part smaller than a quarter is not catered for; a larger one is; what lies still needs the size of the output."""
    assert _zoomed_chain(1, 1, 0.5).longer_needed(200) == pytest.approx(200, rel=1e-3)
    assert _zoomed_chain(0.25, 1, 0.4).longer_needed(200) == pytest.approx(800, rel=1e-2)
    assert _zoomed_chain(0.25, 1, 0.1).longer_needed(200) == pytest.approx(200, rel=1e-2)
    assert _zoomed_chain(4, 1, 0.4).longer_needed(200) == pytest.approx(200, rel=1e-2)
    assert _zoomed_chain(4, 4, 0.4).longer_needed(200) == pytest.approx(50, rel=1e-2)


def test_changing_the_last_step_finds_the_others_in_the_cache() -> None:
    cache, first = Cache(1 << 28), piece(("ring", {}), ("tone", {"gamma": 2}))
    render(first, 256, PHOTO, cache=cache)
    size = cache.size
    render(piece(("ring", {}), ("tone", {"gamma": 1.5})), 256, PHOTO, cache=cache)
    assert cache.size == size + 256 * 256 * 16


def test_cache_keeps_to_its_limit() -> None:
    cache = Cache(3 * 256 * 256 * 16)
    for seam in np.linspace(0, 0.9, 10):
        render(piece(("ring", {"seam": float(seam)})), 256, PHOTO, cache=cache)
    assert cache.size <= cache.limit
