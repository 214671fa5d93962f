"""What must hold for every kind in the catalogue, at its defaults and at each of its starting points."""

from __future__ import annotations

import json
from typing import Any, cast

import numpy as np
import pytest

from caracol.core.catalogue import KINDS, describe
from caracol.core.errors import PieceError
from caracol.core.formats import collect
from caracol.core.frame import Frame
from caracol.core.kinds import BendKind, Kind, PaintKind, PictureKind, RasterKind, Rows
from caracol.core.painting import Brush
from caracol.core.piece import check_piece, dump_piece, piece_schema
from caracol.core.pyramid import pyramid_of
from caracol.core.raster import Raster
from caracol.core.render import Context, Renderer, render
from caracol.core.sampling import FULL
from tests.pictures import OnePhoto, detailed, document, halved, piece, psnr, smooth

PHOTO = OnePhoto(detailed())
# A smaller raster proves the same, and sooner.
RASTER = {"lines": 240}
CASES = [
    pytest.param(kind, settings | (RASTER if isinstance(kind, RasterKind) else {}), id=f"{kind.key}-{name}")
    for kind in KINDS
    for name, settings in [("defaults", {}), *((s.name, dict(s.settings)) for s in kind.starts)]
]
# What does not depend on how a kind is set is seen at its defaults and one starting point.
FEW = [case for case in CASES if str(case.id).endswith("-defaults")] + [
    next(case for case in CASES if case.id == f"{kind.key}-{kind.starts[0].name}") for kind in KINDS if kind.starts
]
EACH = pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
# Stated bounds for 256 pixels against 1024 scaled down, on a photo with detail down to single pixels, in dB.
SAME_AT_EVERY_SIZE = 36.0
# Steps a few pixels wide at 256 (the comb), and corners shrunk more than twenty times in one direction (the barrel).
SAME_WHERE_HARD = {"wave": 31.0, "lens": 32.0}


def reshaping(kind: Kind, settings: dict[str, Any]) -> bool:
    return kind.reshapes(kind.settings(**settings))


@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_same_at_every_size(kind: Kind, settings: dict[str, Any]) -> None:
    trail = piece((kind.key, settings))
    small, large = render(trail, 256, PHOTO), render(trail, 1024, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > SAME_WHERE_HARD.get(kind.key, SAME_AT_EVERY_SIZE)


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.family == "break"], ids=lambda kind: kind.key)
def test_breaks_agree_at_512_and_2048(kind: Kind) -> None:
    """At their own rasters, as they come out of the finder."""
    trail = piece((kind.key, dict(kind.starts[0].settings)))
    small, large = render(trail, 512, PHOTO), render(trail, 2048, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > SAME_AT_EVERY_SIZE


@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_repeatable_and_streamed_alike(kind: Kind, settings: dict[str, Any]) -> None:
    trail = piece((kind.key, settings))
    first = render(trail, 200, PHOTO)
    assert first.tobytes() == render(trail, 200, PHOTO).tobytes()
    shape, strips = Renderer(trail, Context(PHOTO)).rows(200)
    assert np.array_equal(collect(shape, strips), collect(first.shape[:2], [(0, first)]))


@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_result_is_a_picture(kind: Kind, settings: dict[str, Any]) -> None:
    result = render(piece((kind.key, settings)), 128, PHOTO)
    assert np.isfinite(result).all()
    assert result.dtype == np.float32
    assert result.min() >= 0
    assert (result[..., :3] <= result[..., 3:] + 1e-5).all()


@EACH
def test_neutral_gives_its_input_back(kind: Kind) -> None:
    if kind.neutral is None:
        pytest.skip(f"{kind.key} declares no neutral setting")
    assert render(piece((kind.key, dict(kind.neutral))), 256, PHOTO).tobytes() == render(piece(), 256, PHOTO).tobytes()


@pytest.mark.parametrize(("kind", "settings"), FEW)
@pytest.mark.parametrize(
    "partly", [{"strength": 0}, {"where": {"shapes": []}}, {"channels": []}, {"on": False}], ids=["strength", "where", "channels", "off"]
)
def test_nothing_done_is_exact(kind: Kind, settings: dict[str, Any], partly: dict[str, Any]) -> None:
    if kind.cuts and ("where" in partly or "channels" in partly):
        pytest.skip("its where says what is left, and it takes no channels")
    if reshaping(kind, settings) and "on" not in partly:
        with pytest.raises(PieceError, match="cannot act partly"):
            piece({"kind": kind.key, "settings": settings, **partly})
        return
    assert render(piece({"kind": kind.key, "settings": settings, **partly}), 128, PHOTO).tobytes() == render(piece(), 128, PHOTO).tobytes()


@pytest.mark.parametrize(("kind", "settings"), FEW)
def test_half_strength_lies_half_way(kind: Kind, settings: dict[str, Any]) -> None:
    if reshaping(kind, settings):
        pytest.skip("it changes the frame")
    before, full = render(piece(), 128, PHOTO), render(piece((kind.key, settings)), 128, PHOTO)
    half = render(piece({"kind": kind.key, "settings": settings, "strength": 0.5}), 128, PHOTO)
    assert np.allclose(half, (before + full) / 2, atol=2e-3)


@pytest.mark.parametrize(("kind", "settings"), FEW)
def test_outside_its_where_nothing_changes(kind: Kind, settings: dict[str, Any]) -> None:
    if reshaping(kind, settings) or kind.cuts:
        pytest.skip("it changes the frame, or cuts what lies outside")
    where = {"shapes": [{"kind": "rectangle", "x": -1, "y": 0, "rx": 0.5, "ry": 0.5}]}
    part = render(piece({"kind": kind.key, "settings": settings, "where": where}), 256, PHOTO)
    before = render(piece(), 256, PHOTO)
    assert part[:, 128:].tobytes() == before[:, 128:].tobytes()


@pytest.mark.parametrize(("kind", "settings"), FEW)
def test_inputs_are_not_written_into(kind: Kind, settings: dict[str, Any]) -> None:
    chosen = kind.settings(**settings)
    values = {name: getattr(chosen, name) for name in type(chosen).model_fields}
    if isinstance(kind, BendKind):
        before = Frame(2.0)
        after = kind.frame_after(before, chosen)
        x, y = after.grid(16, 16)
        x.flags.writeable = y.flags.writeable = False
        if kind.guide is not None:
            values["guide"] = kind.guide(smooth())
        px, py = kind.pull(x, y, before, after, **values)
        assert px.shape == x.shape
        assert not np.shares_memory(px, x)
        assert not np.shares_memory(py, y)
        return
    picture = smooth().copy()
    picture.flags.writeable = False
    measured = kind.measure(picture, **values) if kind.measure else {}
    place = Rows(Frame(2.0), *picture.shape[:2])
    if isinstance(kind, PaintKind):
        kind.paint(Brush(pyramid_of(picture), place, FULL, measured), picture, **values)
        return
    if isinstance(kind, RasterKind):
        kind.work(picture, Raster(place), **values)
        return
    worked = cast(PictureKind, kind)
    worked.apply(picture, place, measured, **values)


@EACH
def test_values_out_of_range_are_refused_by_path(kind: Kind) -> None:
    for setting in describe(kind)["settings"]:
        for bound, by in ((setting["minimum"], -1), (setting["maximum"], 1)):
            if bound is None:
                continue
            with pytest.raises(PieceError, match=rf"layers\[0\]\.steps\[0\]\.settings\.{setting['name']}: got"):
                piece((kind.key, {setting["name"]: bound + by}))


@EACH
@pytest.mark.parametrize("value", [float("nan"), float("inf"), "much", None, [], {}, 1e300])
def test_absurd_values_are_refused(kind: Kind, value: object) -> None:
    for setting in describe(kind)["settings"]:
        if value is None and setting["nullable"]:
            continue
        if (setting["type"], str(value)) in (("string", "much"), ("photo", "much"), ("knobs", "{}"), ("bars", "[]"), ("keys", "[]")):
            continue  # a formula may consist of one name, and have no knobs; a photo may be called anything; lists may be empty
        with pytest.raises(PieceError, match=setting["name"]):
            piece((kind.key, {setting["name"]: value}))


@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_saved_and_loaded_alike(kind: Kind, settings: dict[str, Any]) -> None:
    first = check_piece(document((kind.key, settings)))
    text = json.dumps(dump_piece(first))
    assert check_piece(json.loads(text)) == first


@EACH
def test_catalogue_says_everything(kind: Kind) -> None:
    described = describe(kind)
    json.dumps(described)
    assert described["label"]
    assert described["purpose"].endswith(".")
    for setting in described["settings"]:
        assert setting["label"]
        assert setting["unit"]
        assert len(setting["help"]) > 10
        if setting["type"] in ("number", "integer"):
            assert setting["minimum"] < setting["maximum"]
            assert setting["step"] > 0


def test_schema_knows_every_kind() -> None:
    assert {k.key for k in KINDS} == set(
        json.loads(json.dumps(piece_schema()))["$defs"]["Layer"]["properties"]["steps"]["items"]["discriminator"]["mapping"]
    )
