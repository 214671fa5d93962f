"""Layers: put together by the text's formula, placed, grouped, taken as ground by others."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.errors import MissingPhoto, PieceError
from caracol.core.io.formats import collect
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.piece.variants import roll
from caracol.core.pixels.pyramid import Pyramid
from caracol.core.render import Context, Renderer, render
from caracol.core.render.cache import Cache
from caracol.core.render.quality import DRAFT, FULL
from tests.pictures import OnePhoto, detailed, halved, psnr

PHOTO = OnePhoto(detailed(200, 400))
DUSK = {"kind": "fill", "form": "plain", "first": "#204060", "ratio": 2}
STAR = {"kind": "shape", "form": "ellipse", "width": 0.5, "height": 0.5, "colour": "#ff8000", "ratio": 2}


def layer(name: str, source: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"id": name, "source": source, **more}


def photo(name: str = "land", **more: Any) -> dict[str, Any]:
    return layer(name, {"kind": "photo", "photo": "p.png"}, **more)


def made(*layers: dict[str, Any], **frame: Any) -> Piece:
    return check_piece({"caracol": 1, "layers": list(layers), "frame": frame})


def look(*layers: dict[str, Any], size: int = 80, **frame: Any) -> Array:
    return render(made(*layers, **frame), size, PHOTO)


def test_source_over_with_opacity() -> None:
    result = look(layer("a", DUSK), layer("b", STAR, opacity=0.5))
    below, colour = np.float32([0x20, 0x40, 0x60, 255]) / 255, np.float32([1, 128 / 255, 0, 1])
    assert np.allclose(result[20, 40], (below + colour) / 2, atol=2e-3)
    assert np.allclose(result[2, 2], below, atol=2e-3)


def test_where_of_a_layer_is_on_the_piece() -> None:
    half = {"shapes": [{"kind": "rectangle", "x": -1, "y": 0, "rx": 1, "ry": 2}]}
    result = look(layer("a", DUSK), photo("b", where=half))
    assert np.array_equal(result[:, 41:], look(layer("a", DUSK))[:, 41:])
    assert np.allclose(result[:, :39], look(layer("a", DUSK), photo("b"))[:, :39], atol=1e-6)


def test_hidden_idle_and_empty_layers_change_nothing() -> None:
    alone = look(photo())
    for change in ({"visible": False}, {"opacity": 0}, {"where": {"shapes": []}}):
        assert look(photo(), layer("b", STAR, **change)).tobytes() == alone.tobytes()


def test_the_lowest_layer_gives_the_frame_unless_a_ratio_is_set() -> None:
    ring = {"id": "r", "kind": "ring", "settings": {}}
    assert look(photo(steps=[ring]), layer("b", STAR)).shape == (80, 80, 4)
    assert look(photo(), ratio=0.5).shape == (80, 40, 4)
    assert look(layer("s", STAR), photo("b"), ratio=1)[..., 3].min() == 1  # the photo covers


def test_cover_contain_and_tile() -> None:
    wide = {"kind": "photo", "photo": "p.png"}
    contained = look(layer("a", DUSK), layer("b", {**wide, "fit": "contain"}), size=80, ratio=1)
    assert np.allclose(contained[:18, :, :3], np.float32([0x20, 0x40, 0x60]) / 255, atol=2e-3)
    assert psnr(contained[20:60], look(photo(), size=80)) > 30
    tiled = look(layer("a", DUSK), layer("b", {**wide, "fit": "tile", "cell": 0.25}), size=160, ratio=2)
    copy = tiled[30:50, 60:100]  # one copy lies in the middle
    assert psnr(copy, tiled[10:30, 100:140]) > 45
    assert psnr(copy[2:-2, 2:-2], look(photo(), size=40)[2:-2, 2:-2]) > 30


def test_place_moves_scales_turns_and_flips() -> None:
    place = {"x": 0.5, "y": -0.25, "scale": 0.5}
    placed = look(layer("a", DUSK), photo("b", place=place), size=160)
    small = look(photo(), size=80)
    # Half as large, its middle a quarter of the height right of the middle and an eighth above.
    assert psnr(placed[11:49, 61:139], small[1:39, 1:79]) > 30
    assert np.allclose(placed[60, 10, :3], np.float32([0x20, 0x40, 0x60]) / 255, atol=2e-3)
    flipped = look(layer("a", DUSK), photo("b", place={"flip": True}), size=160)
    assert psnr(flipped, look(photo(), size=160)[:, ::-1]) > 42
    turned = look(layer("a", DUSK), photo("b", place={"turn": 0.5}), size=160)
    assert psnr(turned, look(photo(), size=160)[::-1, ::-1]) > 42


def test_place_fuses_with_the_bends_before_it() -> None:
    turn = {"id": "t", "kind": "turn", "settings": {"angle": 0.1}}
    piece = made(layer("a", DUSK), photo("b", steps=[turn], place={"turn": -0.1}))
    laid = Renderer(piece, Context(PHOTO)).result.laid[1]  # type: ignore[union-attr]
    assert [len(stage.steps) for stage in laid.entry.stages] == [2]  # type: ignore[attr-defined]
    assert psnr(render(piece, 160, PHOTO)[20:60, 60:100], look(photo(), size=160)[20:60, 60:100]) > 35


def test_below_is_live_and_everything_so_far() -> None:
    turned = [{"id": "t", "kind": "turn", "settings": {"flip_x": True}}]
    for colour in ("#204060", "#a04020"):
        below = [layer("a", {**DUSK, "first": colour}), layer("b", {**STAR, "x": -1})]
        result = look(*below, layer("c", {"kind": "below"}, steps=turned))
        assert psnr(result, look(*below)[:, ::-1]) > 34


def test_a_group_is_put_together_by_itself() -> None:
    inner = [layer("b", {**STAR, "x": -0.5}), layer("c", {**STAR, "colour": "#00a0ff", "x": 0.5})]
    grouped = look(layer("a", DUSK), {"id": "g", "layers": inner, "opacity": 0.5})
    apart = look(layer("a", DUSK), *({**one, "opacity": 0.5} for one in inner))
    assert np.allclose(grouped[20, 25], apart[20, 25], atol=2e-3)
    plain = look(layer("a", DUSK), {"id": "g", "layers": inner})
    assert plain.tobytes() == look(layer("a", DUSK), *inner).tobytes()
    overlap = look(layer("a", DUSK), {"id": "g", "layers": [layer("b", STAR), layer("c", {**STAR, "colour": "#00a0ff"})], "opacity": 0.5})
    assert np.allclose(overlap[20, 40, :3], (np.float32([0x20, 0x40, 0x60]) + np.float32([0, 0xA0, 0xFF])) / 510, atol=3e-3)


def test_same_at_every_size_and_streamed_alike() -> None:
    ripple = {"id": "r", "kind": "ripple", "settings": {}, "strength": 0.5, "where": {"shapes": [{"kind": "radial"}], "feather": 0.1}}
    piece = made(
        photo(steps=[{"id": "x", "kind": "twirl", "settings": {}}]),
        layer("b", {"kind": "pattern", "form": "rings"}, blend="soft-light", opacity=0.7, place={"turn": 0.1, "scale": 1.4}),
        {"id": "g", "blend": "screen", "layers": [layer("c", {"kind": "below"}, steps=[ripple], opacity=0.6), layer("d", STAR)]},
    )
    small, large = render(piece, 200, PHOTO), render(piece, 800, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > 33
    shape, strips = Renderer(piece, Context(PHOTO)).rows(200)
    assert np.array_equal(collect(shape, strips), collect(small.shape[:2], [(0, small)]))
    assert render(piece, 200, PHOTO).tobytes() == small.tobytes()


def test_an_upper_change_leaves_the_lower_layers_alone() -> None:
    asked: list[str] = []

    class Watched(Cache):
        def get(self, key: str, make: Any) -> Any:
            def told() -> Any:
                asked.append(key)
                return make()

            return super().get(key, told)

    cache = Watched(1 << 28)
    twirl, tone = {"id": "t", "kind": "twirl", "settings": {}}, {"id": "o", "kind": "tone", "settings": {"gamma": 1.5}}

    def piece(opacity: float) -> Piece:
        return made(photo(steps=[twirl, tone]), layer("m", STAR, opacity=0.5), layer("b", {**STAR, "x": 0.3}, opacity=opacity))

    render(piece(0.5), 160, PHOTO, cache=cache)
    asked.clear()
    render(piece(0.6), 160, PHOTO, cache=cache)
    assert len(asked) == 1  # only the last laying


def test_a_strength_changes_without_bending_again() -> None:
    cache = Cache(1 << 28)
    made_by: list[int] = []

    def piece(strength: float) -> Piece:
        return made(photo(steps=[{"id": "t", "kind": "twirl", "settings": {}, "strength": strength}]))

    for strength in (0.3, 0.6):
        before = cache.size
        render(piece(strength), 160, PHOTO, cache=cache)
        made_by.append(cache.size - before)
    assert made_by[1] < made_by[0]


def test_a_place_is_part_of_what_is_kept() -> None:
    cache = Cache(1 << 28)
    pictures = {
        render(made(layer("a", DUSK), photo("b", place=place)), 80, PHOTO, cache=cache).tobytes()
        for place in (None, {"x": 0.5}, {"x": 0.6}, {"scale": 0.5}, {"flip": True})
    }
    assert len(pictures) == 5
    tiled = {"kind": "photo", "photo": "p.png", "fit": "tile"}
    assert (
        len({render(made(layer("a", DUSK), layer("b", {**tiled, "cell": c})), 80, PHOTO, cache=cache).tobytes() for c in (0.2, 0.3)}) == 2
    )


class Gone(OnePhoto):
    """Photos of which one is gone."""

    def pyramid(self, name: str) -> Pyramid:
        if name == "gone.png":
            raise MissingPhoto("The photo “gone” is not there.")
        return super().pyramid(name)


def test_a_layer_whose_photo_is_gone_says_so_and_the_rest_renders() -> None:
    photos = Gone(detailed(200, 400))
    lost = layer("b", {"kind": "photo", "photo": "gone.png"}, place={"scale": 0.3})
    with pytest.raises(MissingPhoto):
        render(made(photo(), lost), 80, photos)
    renderer = Renderer(made(photo(), lost), Context(photos, lenient=True))
    shown = renderer.picture(80)
    assert renderer.missing == ["The photo “gone” is not there."]
    assert np.array_equal(shown[:, :8], render(made(photo()), 80, photos)[:, :8])
    with pytest.raises(MissingPhoto):
        Renderer(made(layer("b", {"kind": "photo", "photo": "gone.png"})), Context(photos, lenient=True))


def test_a_layer_alone_and_its_steps() -> None:
    piece = made(layer("a", DUSK), photo("b", steps=[{"id": "r", "kind": "ring", "settings": {}}], place={"scale": 0.2}))
    assert render(piece, 80, PHOTO, layer="b").shape == (80, 80, 4)
    assert render(piece, 80, PHOTO, upto=0, layer="b").tobytes() == look(photo()).tobytes()
    with pytest.raises(PieceError, match="no layer has the id 'x'; there are a, b"):
        render(piece, 80, PHOTO, layer="x")


def test_keep_only_cuts_a_layer_mid_trail() -> None:
    keep = {"id": "k", "kind": "keep-only", "settings": {}, "where": {"shapes": [{"kind": "ellipse", "rx": 0.5, "ry": 0.5}]}}
    cut = look(photo(steps=[keep]))
    assert cut[..., 3].mean() * 8 == pytest.approx(np.pi / 4, rel=0.02)
    assert np.array_equal(cut[20, 40], look(photo())[20, 40])
    assert cut[0, 0].max() == 0
    half = look(photo(steps=[{**keep, "strength": 0.5}]))
    assert half[0, 0, 3] == pytest.approx(0.5)
    moved = look(photo(steps=[keep, {"id": "p", "kind": "place", "settings": {"x": 1}}]))
    assert moved[20, 40, 3] == 0
    assert moved[20, 60, 3] == 1


def test_forty_layers_and_a_deep_group_render() -> None:
    nested: dict[str, Any] = layer("deep", STAR)
    for depth in range(6):
        nested = {"id": f"g{depth}", "layers": [nested]}
    many = [layer(f"l{n}", {**STAR, "x": n / 20 - 1, "width": 0.1}, blend="screen") for n in range(40)]
    assert np.isfinite(look(layer("a", DUSK), *many, nested)).all()
    with pytest.raises(PieceError, match="at most 100"):
        made(*(layer(f"l{n}", STAR) for n in range(101)))


def test_a_layer_is_displaced_by_the_light_of_one_beneath() -> None:
    def displaced(by: str | None) -> dict[str, Any]:
        return photo("high", steps=[{"id": "d", "kind": "displace", "settings": {"heading": 0.25, "amount": 0.4, "by": by}}])

    white = layer("low", {"kind": "fill", "form": "plain", "first": "#ffffff", "ratio": 2})
    plain, moved = look(photo(), size=200), look(white, displaced("low"), size=200)
    assert np.allclose(moved[:, 25:], np.roll(plain, 20, axis=1)[:, 25:], atol=0.02)  # white goes the whole 0.4 of fifty pixels
    dark, own = look(layer("low", DUSK), displaced("low"), size=200), look(layer("low", DUSK), displaced(None), size=200)
    assert np.abs(dark - moved).mean() > 0.02
    assert np.abs(own - moved).mean() > 0.02
    for wrong in ("high", "moon"):
        with pytest.raises(PieceError, match=f"settings.by: '{wrong}' is no layer below; below it lie low"):
            made(white, displaced(wrong))


@pytest.mark.parametrize(
    ("kind", "settings"),
    [("slices", {}), ("pixel-sort", {"lines": 240}), ("pixel-sort", {"lines": 0}), ("crush", {"lines": 240}), ("stipple", {"lines": 240})],
)
def test_plates_show_the_same_input_whether_they_are_moved_or_not(kind: str, settings: dict[str, Any]) -> None:
    """Of a grey picture every plate is grey: moved back by hand, the red one must lie on the others, in drafts too."""
    grey = OnePhoto(np.repeat(detailed(100, 200)[..., :1], 4, axis=2).clip(0, 1) * [1, 1, 1, 0] + np.float32([0, 0, 0, 1]))
    steps = [{"id": "a", "kind": kind, "settings": settings}, {"id": "s", "kind": "channel-split", "settings": {"red_x": 0.2}}]
    for quality in (DRAFT, FULL):
        shown = render(made(photo(steps=steps)), 100, grey, quality=quality)
        shift = 5  # 0.2 units of 25 pixels
        red, green = shown[:, shift + 8 : -8, 0], shown[:, 8 : -8 - shift, 1]
        assert np.abs(red - green).mean() < 0.01, quality


TWIRL = {"id": "t", "kind": "twirl", "settings": {"turns": 0.2}}
CROP = {"id": "c", "kind": "crop", "settings": {"left": 0.25, "right": 0.75}}


def group(*layers: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"id": "group", "layers": list(layers), **more}


def test_a_group_has_a_trail_of_what_is_in_it() -> None:
    """A twirl of the group is a twirl of everything so far, where everything is in it."""
    together = look(group(photo(), layer("b", STAR), steps=[TWIRL]))
    above = look(photo(), layer("b", STAR), layer("all", {"kind": "below"}, steps=[TWIRL]))
    assert np.allclose(together, above, atol=2e-3)
    alone = render(made(photo(), group(layer("b", STAR), steps=[TWIRL])), 80, PHOTO, layer="group", upto=0)
    assert alone.tobytes() == look(layer("b", STAR)).tobytes()


def test_a_group_is_placed_like_a_layer_of_its_picture() -> None:
    """Half as large and moved right: what lay in its middle lies there, what is round it is not covered."""
    spot = {"x": 0.5, "y": 0, "scale": 0.5}
    placed = look(layer("a", DUSK), group(photo(), layer("b", STAR), place=spot), size=160)
    small = look(photo(), layer("b", STAR), size=80)
    assert psnr(placed[22:58, 62:138], small[2:38, 2:78]) > 30
    assert np.allclose(placed[:, :50], look(layer("a", DUSK), size=160)[:, :50], atol=2e-3)


@pytest.mark.parametrize("flip", [False, True])
def test_a_group_holds_what_reaches_beyond_the_frame(flip: bool) -> None:
    """A layer that lies half outside comes in whole when its group is moved, turned, flipped and scaled back."""
    aside = {"x": 1.5, "y": 0.25, "scale": 1.5, "turn": 0.125}
    back = {"x": -0.5, "y": 0.0, "scale": 0.5, "turn": -0.125, "flip": flip}
    # By hand: what lies at p in the group lies at 0.5·R(-1/8)·p - (0.5, 0) on the piece, mirrored first where it is flipped.
    x = (-1.5 if flip else 1.5) * 0.5
    half = 2**-0.5
    alone = {
        "x": -0.5 + (x + 0.125) * half, "y": (0.125 - x) * half, "scale": 0.75, "turn": -0.125 + (-0.125 if flip else 0.125), "flip": flip,
    }  # fmt: skip
    held = look(layer("a", DUSK), group(photo(place=aside), place=back), size=160)
    assert psnr(held, look(layer("a", DUSK), photo(place=alone), size=160)) > 60
    nested = look(layer("a", DUSK), group({**group(photo(place=aside)), "id": "inner"}, place=back), size=160)
    assert psnr(nested, held) > 60


def test_groups_within_groups_are_described_without_doubling() -> None:
    """Sixteen deep: were each made twice by the one around it, this would take a minute."""
    entry = photo(place={"x": 1.5})
    for n in range(16):
        entry = {**group(entry, place={"scale": 0.95}), "id": f"g{n}"}
    made_of = sum(1 for _ in Renderer(made(entry), Context(PHOTO)).scene.whole.laid)
    assert made_of == 1
    assert Renderer(made(entry), Context(PHOTO)).plan(80).cost < 1e9


def test_a_group_that_is_cropped_covers_the_piece_again() -> None:
    piece = made(layer("a", DUSK), group(photo(), steps=[CROP]))
    assert Renderer(piece, Context(PHOTO)).scene.ratios() == {"a": 2, "land": 2, "group": 1}
    assert render(piece, 80, PHOTO)[..., 3].min() == 1


def test_what_a_groups_step_looks_at_lies_below() -> None:
    step = {"id": "d", "kind": "displace", "settings": {"by": "land"}}
    assert look(photo(), group(layer("b", STAR), steps=[step])).shape == (40, 80, 4)
    with pytest.raises(PieceError, match="'top' is no layer below"):
        made(photo(), group(layer("b", STAR), steps=[{**step, "settings": {"by": "top"}}]), layer("top", STAR))
    with pytest.raises(PieceError, match="'group' is no layer below"):
        made(photo(), group(layer("b", STAR)), layer("top", STAR, steps=[{**step, "settings": {"by": "group"}}]))


def test_steps_of_a_group_are_varied_like_those_of_layers() -> None:
    twirled = made(photo(), group(layer("b", STAR), steps=[TWIRL]))
    (variant,) = roll(twirled, 3, spread=0.5, vary="settings", steps=frozenset({"t"}), count=1)
    assert variant.piece.find("group").steps[0].settings != twirled.find("group").steps[0].settings
    assert variant.piece.find("land") == twirled.find("land")


def test_a_hidden_group_says_its_ratio_as_well() -> None:
    hidden = made(layer("a", DUSK), group(photo(), steps=[CROP], visible=False))
    assert Renderer(hidden, Context(PHOTO)).scene.ratios()["group"] == 1
