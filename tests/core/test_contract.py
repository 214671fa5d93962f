"""What must hold for every kind in the catalogue, at its defaults and at each of its starting points."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest

from caracol.core.catalogue.describe import describe
from caracol.core.catalogue.missing import MISSING
from caracol.core.catalogue.registry import KINDS
from caracol.core.errors import PieceError
from caracol.core.geometry.frame import Frame
from caracol.core.io.formats import collect, to_integers
from caracol.core.kinds.kind import BendKind, HardKind, Kind, PaintKind, PictureKind, RasterKind
from caracol.core.piece.files import check_piece, dump_piece, piece_schema
from caracol.core.render import Context, Renderer, render
from caracol.core.render.grounds import PhotoGround
from caracol.core.render.quality import DRAFT
from tests.core.rules import grid, pulled, run_stage, worked
from tests.pictures import STROKES, OnePhoto, detailed, document, halved, piece, psnr, smooth

PHOTO = OnePhoto(detailed())
SMALL = detailed(128, 256)
SMALL.flags.writeable = False
# A smaller raster proves the same, and sooner.
RASTER = {"lines": 240}
MADE = {"touch-up": [("strokes", {"strokes": STROKES})]}
"""What is made on the picture by hand, of kinds that do nothing without it."""
CASES = [
    pytest.param(kind, settings | (RASTER if isinstance(kind, RasterKind | HardKind) else {}), id=f"{kind.key}-{name}")
    for kind in KINDS
    for name, settings in [("defaults", {}), *((s.name, dict(s.settings)) for s in kind.starts), *MADE.get(kind.key, [])]
]
# What does not depend on how a kind is set is seen at its defaults and one starting point.
FEW = [case for case in CASES if str(case.id).endswith("-defaults")] + [
    next(case for case in CASES if case.id == f"{kind.key}-{kind.starts[0].name}") for kind in KINDS if kind.starts
]
EACH = pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
# Stated bounds for 256 pixels against 1024 scaled down, on a photo with detail down to single pixels, in dB.
SAME_AT_EVERY_SIZE = 36.0
# Steps a few pixels wide at 256 (the comb), and corners shrunk more than twenty times in one direction (the barrel).
# Of detail down to single pixels, outlines between the raster's pixels are read a little otherwise from its pixels than enlarged.
# A photo taken for a map covers here and not there from pixel to pixel, and a pixel is covered whole or not at all.
SAME_WHERE_HARD = {"map": 23.0, "wave": 31.0, "lens": 32.0, "threshold": 27.0}


def reshaping(kind: Kind, settings: dict[str, Any]) -> bool:
    return kind.reshapes(kind.settings(**settings))


@pytest.mark.slow
@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_same_at_every_size(kind: Kind, settings: dict[str, Any]) -> None:
    trail = piece((kind.key, settings))
    small, large = render(trail, 256, PHOTO), render(trail, 1024, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > SAME_WHERE_HARD.get(kind.key, SAME_AT_EVERY_SIZE)


@pytest.mark.slow
@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.family == "break"], ids=lambda kind: kind.key)
def test_breaks_agree_at_512_and_2048(kind: Kind) -> None:
    """At their own rasters, as they come out of the finder."""
    trail = piece((kind.key, dict(kind.starts[0].settings)))
    small, large = render(trail, 512, PHOTO), render(trail, 2048, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > SAME_AT_EVERY_SIZE


MARKED = [case for case in CASES if case.values[0].way in ("raster", "hard") or case.values[0].decides]


@pytest.mark.slow
@pytest.mark.parametrize(("kind", "settings"), MARKED)
def test_a_draft_is_the_picture_that_follows(kind: Kind, settings: dict[str, Any]) -> None:
    """What is drawn, cut or told apart is so on one raster, whatever size is looked at."""
    trail = piece((kind.key, settings))
    draft, settled = render(trail, 256, PHOTO, quality=DRAFT), render(trail, 512, PHOTO)
    assert psnr(draft, halved(settled, draft.shape[:2])) > min(34.0, SAME_WHERE_HARD.get(kind.key, 34.0))


@pytest.mark.slow
@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_repeatable_and_streamed_alike(kind: Kind, settings: dict[str, Any]) -> None:
    trail = piece((kind.key, settings))
    first = render(trail, 200, PHOTO)
    assert first.tobytes() == render(trail, 200, PHOTO).tobytes()
    shape, strips = Renderer(trail, Context(PHOTO)).rows(200)
    whole = collect(first.shape[:2], [(0, first)])
    assert np.array_equal(collect(shape, strips), whole)
    top, end = shape[0] // 5, shape[0] // 5 + 17
    part = Renderer(trail, Context(PHOTO)).part(200, top, end)
    # Without the dither, which goes by a pixel's place in the whole.
    assert np.array_equal(to_integers(part), to_integers(first)[top:end])


@pytest.mark.slow
@pytest.mark.parametrize(("kind", "settings"), CASES)
def test_result_is_a_picture(kind: Kind, settings: dict[str, Any]) -> None:
    result = render(piece((kind.key, settings)), 128, PHOTO)
    assert np.isfinite(result).all()
    assert result.dtype == np.float32
    assert result.min() >= 0
    assert (result[..., :3] <= result[..., 3:] + 1e-5).all()


NEUTRAL = [kind for kind in KINDS if kind.neutral is not None]
# Steps on pictures compute with floats, and a blur of nothing still reads through the sampler: less than half a step of eight bits.
ALIKE = 2e-4


@pytest.mark.parametrize("kind", [kind for kind in NEUTRAL if isinstance(kind, BendKind)], ids=lambda kind: kind.key)
def test_a_neutral_rule_takes_every_point_from_itself(kind: BendKind) -> None:
    """The rule itself is asked, at every starting point made neutral: a render would leave the step out."""
    assert kind.neutral is not None
    for start in ({}, *(dict(one.settings) for one in kind.starts)):
        for frame in (Frame(2.0), Frame(0.75)):
            x, y = grid(frame)
            px, py = pulled(kind, start | dict(kind.neutral), frame, x, y, smooth())
            assert max(np.abs(px - x).max(), np.abs(py - y).max()) < 1e-6, start


@pytest.mark.parametrize("kind", [kind for kind in NEUTRAL if not isinstance(kind, BendKind)], ids=lambda kind: kind.key)
def test_a_neutral_step_gives_its_input_back(kind: Kind) -> None:
    assert kind.neutral is not None
    small = RASTER if isinstance(kind, RasterKind | HardKind) else {}
    for start in ({}, *(dict(one.settings) for one in kind.starts)):
        assert np.abs(worked(kind, start | dict(kind.neutral) | small, SMALL) - SMALL).max() < ALIKE, start


@pytest.mark.parametrize("kind", NEUTRAL, ids=lambda kind: kind.key)
def test_only_all_its_neutral_settings_make_a_kind_neutral(kind: Kind) -> None:
    """One of them alone must not let the step fall out."""
    assert kind.neutral is not None
    assert kind.is_neutral(kind.settings(**kind.neutral))
    for start in () if kind.by_hand else kind.starts:
        assert not kind.is_neutral(kind.settings(**start.settings)), start.name
    if len(kind.neutral) > 1:
        for name in kind.neutral:
            busy = {setting: getattr(kind.settings(**kind.starts[0].settings), setting) for setting in kind.neutral if setting != name}
            if any(value != kind.neutral[setting] for setting, value in busy.items()):
                assert not kind.is_neutral(kind.settings(**{**kind.starts[0].settings, name: kind.neutral[name]})), name


@pytest.mark.parametrize("sort", [BendKind, PaintKind, PictureKind, HardKind, RasterKind], ids=lambda sort: sort.__name__)
def test_at_strength_0_what_a_step_makes_is_not_seen(sort: type[Kind]) -> None:
    """Every kind is really run, as a stage of its own, and laid over its input at strength 0."""
    ground = PhotoGround(PHOTO, "p")
    before = PHOTO.pyramid("p").picture(128).tobytes()
    for kind in KINDS:
        start = dict(kind.starts[0].settings) | (RASTER if isinstance(kind, RasterKind | HardKind) else {}) if kind.starts else {}
        if type(kind) is not sort or reshaping(kind, start):
            continue
        for partly in ({"strength": 0}, {"where": {"shapes": []}}):
            if kind.cuts and "where" in partly:
                continue  # its where says what is left
            step = piece({"kind": kind.key, "settings": start, **partly}).layer.steps[0]
            assert run_stage(step, PHOTO, ground, 128).tobytes() == before, (kind.key, partly)


@pytest.mark.parametrize(
    "partly", [{"strength": 0}, {"where": {"shapes": []}}, {"channels": []}, {"on": False}], ids=lambda partly: next(iter(partly))
)
def test_idle_steps_are_left_out(partly: dict[str, Any]) -> None:
    before = render(piece(), 128, PHOTO).tobytes()
    for key in ("twirl", "ghosts", "rim", "crush"):
        assert render(piece({"kind": key, **partly}), 128, PHOTO).tobytes() == before, key


@pytest.mark.parametrize(
    "partly",
    [{"strength": 0.5}, {"where": {"shapes": []}}, {"channels": ["r"]}, {"blend": "screen"}],
    ids=lambda partly: next(iter(partly)),
)
def test_steps_that_reshape_refuse_to_act_partly(partly: dict[str, Any]) -> None:
    found = [kind.key for kind in KINDS if reshaping(kind, {})]
    assert {"level", "refit", "ring", "unring"} <= set(found)
    for key in found:
        with pytest.raises(PieceError, match="cannot act partly"):
            piece({"kind": key, **partly})


@pytest.mark.slow
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


@EACH
def test_inputs_are_not_written_into(kind: Kind) -> None:
    """Read-only inputs, and for bends results of their own."""
    small = RASTER if isinstance(kind, RasterKind | HardKind) else {}
    for start in ({}, *(dict(one.settings) for one in kind.starts[:1])):
        if isinstance(kind, BendKind):
            x, y = grid(Frame(2.0))
            px, py = pulled(kind, start, Frame(2.0), x, y, smooth())
            assert px.shape == x.shape
            assert not np.shares_memory(px, x)
            assert not np.shares_memory(py, y)
        else:
            assert worked(kind, start | small, SMALL).shape == SMALL.shape


@EACH
def test_values_out_of_range_are_refused_by_path(kind: Kind) -> None:
    for setting in describe(kind)["settings"]:
        for bound, by in ((setting["minimum"], -1), (setting["maximum"], 1)):
            if bound is None:
                continue
            with pytest.raises(PieceError, match=rf"layers\[0\]\.steps\[0\]\.settings\.{setting['name']}: got"):
                piece((kind.key, {setting["name"]: bound + by}))


@EACH
def test_absurd_values_are_refused(kind: Kind) -> None:
    for value in (float("nan"), float("inf"), "much", None, [], {}, 1e300):
        for setting in describe(kind)["settings"]:
            if value is None and setting["nullable"]:
                continue
            if (setting["type"], str(value)) in (
                ("string", "much"),
                ("photo", "much"),
                ("knobs", "{}"),
                ("bars", "[]"),
                ("keys", "[]"),
                ("pulls", "[]"),
                ("strokes", "[]"),
            ):
                continue  # a formula may consist of one name, and have no knobs; a photo may be called anything; lists may be empty
            with pytest.raises(PieceError, match=setting["name"]):
                piece((kind.key, {setting["name"]: value}))


@EACH
def test_saved_and_loaded_alike(kind: Kind) -> None:
    for start in ({}, *(dict(one.settings) for one in kind.starts)):
        first = check_piece(document((kind.key, start)))
        assert check_piece(json.loads(json.dumps(dump_piece(first)))) == first


@EACH
def test_catalogue_says_everything(kind: Kind) -> None:
    described = describe(kind)
    json.dumps(described)
    assert described["label"]
    assert described["purpose"].endswith(".")
    for setting in described["settings"]:
        assert setting["label"]
        assert setting["widget"]
        assert (setting["unit"] is None) == (setting["widget"] != "number")
        assert len(setting["help"]) > 10
        if setting["type"] in ("number", "integer"):
            assert setting["minimum"] < setting["maximum"]
            assert setting["step"] > 0


def test_schema_knows_every_kind() -> None:
    assert {k.key for k in KINDS} == set(
        json.loads(json.dumps(piece_schema()))["$defs"]["Layer"]["properties"]["steps"]["items"]["discriminator"]["mapping"]
    )


IDLE = [
    pytest.param(kind, setting, rule, id=f"{kind.key}-{setting['name']}")
    for kind in KINDS
    for setting in describe(kind)["settings"]
    for rule in (kind.settings.model_fields[setting["name"]].json_schema_extra or {}).get("idle", ())  # type: ignore[union-attr]
]


@pytest.mark.parametrize(("kind", "setting", "rule"), IDLE)
def test_settings_said_to_have_no_effect_have_none(kind: Kind, setting: dict[str, Any], rule: dict[str, Any]) -> None:
    where = {name: values[0] for name, values in rule["when"].items()} | (RASTER if isinstance(kind, RasterKind | HardKind) else {})
    yes_or_no = [True, False] if isinstance(setting["default"], bool) else None
    values = setting["choices"] or yes_or_no or [setting["minimum"], setting["maximum"]]
    first, *others = (render(piece((kind.key, {**where, setting["name"]: value})), 96, PHOTO) for value in values)
    assert all(other.tobytes() == first.tobytes() for other in others)


@EACH
def test_is_found_by_what_people_call_it(kind: Kind) -> None:
    """Five other words at least, none twice, none that its label has already."""
    for words in (kind.words, *(start.words for start in kind.starts)):
        assert len(set(words)) == len(words)
        assert all(word == word.lower() and word not in kind.label.lower().split() for word in words)
    assert len(kind.words) >= 5


def test_nothing_is_missed_that_is_there() -> None:
    labels = {kind.label for kind in KINDS}
    assert all(missing.label not in labels and set(missing.near) <= {kind.key for kind in KINDS} for missing in MISSING)
