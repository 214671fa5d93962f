"""Colours wider than sRGB through the whole trail into files, and pieces in which they meet others."""

from __future__ import annotations

import io
import zlib

import imagecodecs
import numpy as np
import pytest
import tifffile
from PIL import Image

from caracol.core.delivery.export import DeliveryOptions, deliver
from caracol.core.io.colour_spaces import profile_of
from caracol.core.io.decode import read_photo
from caracol.core.io.formats import FORMATS, Format
from caracol.core.piece.files import check_piece, dump_piece
from caracol.core.pixels.pyramid import Pyramid, build_pyramid
from caracol.core.pixels.spaces import code_in, in_space
from caracol.core.reading.reading import read
from caracol.core.render import Context, Renderer
from caracol.core.render.analyses import step_analysis_of
from caracol.core.render.space import recoloured
from tests.core.io.test_colours_in import CELL, CHART, P3_TO_XYZ, lab, large, light, png
from tests.pictures import detailed

P3_CHUNK = (b"iCCP", b"x\0\0" + zlib.compress(profile_of("display-p3")))
WIDE = png(large(CHART, 65535), P3_CHUNK)
"""The chart's numbers as those of Display P3: eleven of its patches lie beyond sRGB."""
XYZ_TO_SRGB = np.linalg.inv(
    np.array([[0.4123908, 0.3575843, 0.1804808], [0.2126390, 0.7151687, 0.0721923], [0.0193308, 0.1191948, 0.9505322]])
)


def opened(content: bytes) -> Pyramid:
    loaded = read_photo(content, "chart")
    return build_pyramid(loaded.texels, loaded.space)


class Shelf:
    """The wide chart, and a photo of sRGB."""

    def __init__(self) -> None:
        self.photos = {"wide.png": opened(WIDE), "plain.png": opened(png(np.uint16(detailed(32, 48)[..., :3] * 65535 + 0.5)))}

    def pyramid(self, name: str) -> Pyramid:
        return self.photos[name]

    def digest(self, name: str) -> str:
        return name


SHELF = Shelf()
SEEN = {"id": "wide", "source": {"kind": "photo", "photo": "wide.png"}}


def renderer(*layers: dict[str, object]) -> Renderer:
    return Renderer(check_piece({"caracol": 3, "layers": list(layers)}), Context(SHELF))


def numbers(content: bytes, kind: Format) -> np.ndarray:
    """Return a file's own numbers, 0…1, whatever it says of their colours."""
    if kind == "png16":
        return imagecodecs.png_decode(content)[..., :3] / 65535
    if kind == "tiff16":
        return tifffile.imread(io.BytesIO(content))[..., :3] / 65535
    return np.asarray(Image.open(io.BytesIO(content)).convert("RGB"), float) / 255


def seen_as(p3: np.ndarray) -> np.ndarray:
    """Return L*a*b* of coded Display P3."""
    return lab(light(p3) @ P3_TO_XYZ.T @ XYZ_TO_SRGB.T)


@pytest.mark.parametrize("kind", FORMATS)
def test_wide_colours_live_through_a_trail_into_every_file_of_their_space(kind: Format) -> None:
    """Mirrored, lightened by nothing, and mirrored back: within ΔE 1.5, which the red of Display P3 missed by 8 when sRGB was between."""
    steps = [
        {"id": "a", "kind": "turn", "settings": {"flip_x": True}},
        {"id": "b", "kind": "grain", "settings": {"amount": 0.0}},
        {"id": "c", "kind": "turn", "settings": {"flip_x": True}},
    ]
    made = renderer({**SEEN, "steps": steps})
    content = deliver(made.scene.piece, made, DeliveryOptions(kind, 6 * CELL, quality=100, space="display-p3")).content
    found = numbers(content, kind)[CELL // 2 :: CELL, CELL // 2 :: CELL]
    difference = np.linalg.norm(seen_as(found) - seen_as(CHART), axis=-1)
    assert difference.max() < (2.5 if FORMATS[kind].lossy else 1.5), difference.round(1)
    assert (
        np.linalg.norm(
            seen_as(in_space(in_space(with_alpha(CHART), "srgb", "display-p3"), "display-p3")[..., :3]) - seen_as(CHART), axis=-1
        ).max()
        > 4
    )


def with_alpha(rgb: np.ndarray) -> np.ndarray:
    return np.concatenate([rgb, np.ones((*rgb.shape[:2], 1))], axis=-1).astype(np.float32)


def test_what_sRGB_has_is_the_same_in_files_of_sRGB_and_the_rest_is_the_nearest() -> None:
    shown = renderer(SEEN).picture(6 * CELL)[CELL // 2 :: CELL, CELL // 2 :: CELL, :3]
    straight = light(CHART) @ P3_TO_XYZ.T @ XYZ_TO_SRGB.T
    assert light(shown) == pytest.approx(np.clip(straight, 0, 1), abs=2e-3)
    assert straight.min() < -0.05


def test_a_photo_of_sRGB_and_a_written_colour_stay_what_they_are_beside_wide_ones() -> None:
    """One looks through a window of the other: alone and together it has the same numbers in an sRGB file."""
    plain: dict[str, object] = {"id": "plain", "source": {"kind": "photo", "photo": "plain.png"}}
    ink: dict[str, object] = {"id": "ink", "source": {"kind": "fill", "form": "plain", "first": "#20c080"}, "opacity": 1.0}
    half: dict[str, object] = {"where": {"shapes": [{"kind": "rectangle", "x": 0, "y": 0.5, "rx": 9, "ry": 0.5}], "feather": 0}}
    alone = renderer(plain).picture(48)
    beside = renderer(plain, {**SEEN, **half}).picture(48)
    assert np.abs(beside[:12] - alone[:12]).max() < 1.5 / 255
    assert np.abs(beside[20:] - alone[20:]).max() > 0.2
    coloured = renderer(ink | half, SEEN | {"visible": True, "opacity": 0.0}).picture(48)
    found = coloured[-4, 24]
    assert found[:3] * 255 == pytest.approx([0x20, 0xC0, 0x80], abs=0.6)


def test_an_sRGB_file_of_a_wide_piece_is_its_picture() -> None:
    made = renderer(SEEN)
    content = deliver(made.scene.piece, made, DeliveryOptions("png16", 6 * CELL, space="srgb")).content
    assert numbers(content, "png16") == pytest.approx(made.picture(6 * CELL)[..., :3], abs=1e-4)


def test_one_photo_in_pieces_of_two_spaces_is_kept_apart() -> None:
    """What was made of it in sRGB is not taken for its numbers in Display P3."""
    twirled = {
        "id": "plain",
        "source": {"kind": "photo", "photo": "plain.png"},
        "steps": [{"id": "t", "kind": "blur", "settings": {"radius": 0.02}}],
    }
    kept = Context(SHELF)
    alone, beside = ({"caracol": 3, "layers": layers} for layers in ([twirled], [twirled, {**SEEN, "opacity": 0.0}]))
    first = Renderer(check_piece(alone), kept).picture(48)
    assert Renderer(check_piece(beside), kept).picture(48) == pytest.approx(first, abs=0.004)


def test_a_piece_is_worked_in_sRGB_while_no_wide_photo_is_seen_in_it() -> None:
    plain = {"id": "plain", "source": {"kind": "photo", "photo": "plain.png"}}
    assert renderer(plain).scene.space == "srgb"
    assert renderer(plain, {**SEEN, "visible": False}).scene.space == "srgb"
    assert renderer(plain, SEEN).scene.space == "display-p3"


def test_words_are_no_colours() -> None:
    piece = check_piece(
        {
            "caracol": 3,
            "layers": [
                {"id": "a", "name": "#ff0000", "source": {"kind": "lettering", "text": "#ff0000", "colour": "#ff0000"}, "steps": []}
            ],
        }
    )
    layer = dump_piece(recoloured(piece, "display-p3"))["layers"][0]
    assert (layer["name"], layer["source"]["text"]) == ("#ff0000", "#ff0000")
    assert layer["source"]["colour"] == code_in("#ff0000", "display-p3", digits=4)
    assert recoloured(piece, "srgb") is piece


def test_what_is_told_and_read_of_a_wide_photo_is_sRGB() -> None:
    """The rim's colour is found outside a planet: of a photo that is one wide green, the nearest that sRGB has."""
    green = np.full((40, 80, 3), [6554, 52428, 13107], np.uint16)
    SHELF.photos["green.png"] = opened(png(green, P3_CHUNK))
    steps = [{"id": "ring", "kind": "ring", "settings": {}}, {"id": "rim", "kind": "rim", "settings": {}}]
    piece = check_piece({"caracol": 3, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "green.png"}, "steps": steps}]})
    nearest = code_in("#1acc33", "srgb", "display-p3")
    assert step_analysis_of(piece, Context(SHELF), "a", "rim")["colour"] == nearest != "#1acc33"
    assert read(SHELF.photos["green.png"]).surround == nearest
