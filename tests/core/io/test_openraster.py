"""OpenRaster files, read back by a reader that is not ours."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image
from pyora import Project

from caracol.core.io.decode import PhotoFolder
from caracol.core.io.formats import Note, collect
from caracol.core.io.openraster import unnamed_blends, write_openraster
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, Renderer
from tests.pictures import OnePhoto, detailed

PHOTO = {"kind": "photo", "photo": "p.png"}
OVAL = {"shapes": [{"kind": "ellipse", "x": 0, "y": 0, "rx": 0.5, "ry": 0.4}]}


def piece(**frame: Any) -> Any:
    fill = {"kind": "fill", "form": "plain", "first": "#d04020"}
    layers = [
        {"id": "land", "name": "Land & sea", "source": PHOTO, "steps": [{"id": "s", "kind": "twirl", "settings": {"turns": 0.3}}]},
        {"id": "glow", "name": "Glow", "source": fill, "opacity": 0.5, "blend": "screen", "where": OVAL},
        {
            "id": "pair", "name": "Pair", "opacity": 0.8, "blend": "multiply",
            "layers": [
                {"id": "a", "name": "Lower", "source": PHOTO, "place": {"scale": 0.5, "x": -0.5}},
                {"id": "b", "name": "Upper", "source": PHOTO, "place": {"scale": 0.4, "x": 0.5}, "blend": "darker-pixel"},
            ],
        },
        {"id": "hidden", "name": "Hidden", "source": PHOTO, "visible": False},
    ]  # fmt: skip
    return check_piece({"caracol": 1, "layers": layers, "frame": frame})


def written(renderer: Renderer, size: int = 200) -> tuple[bytes, np.ndarray]:
    merged = collect(*renderer.rows(size))
    return write_openraster(renderer.layers(), merged, size, Note(dpi=300)), merged


@pytest.fixture
def renderer() -> Renderer:
    return Renderer(piece(), Context(OnePhoto(detailed(100, 200))))


def test_an_independent_reader_finds_the_layers(renderer: Renderer) -> None:
    content, merged = written(renderer)
    project = Project.load(io.BytesIO(content))
    assert project.dimensions == (200, 100)
    land, glow, pair, hidden = reversed(list(project.children))
    assert [one.name for one in (land, glow, pair)] == ["Land & sea", "Glow", "Pair"]
    assert [one.name for one in pair.children] == ["Upper", "Lower"]  # it names the uppermost first
    assert [one.opacity for one in (land, glow, pair)] == [1, 0.5, 0.8]
    assert glow.composite_op == "svg:screen"
    assert pair.composite_op == "svg:multiply"
    assert pair.isolated
    assert [one.hidden for one in (land, glow, pair, hidden)] == [False, False, False, True]
    seen = Renderer(check_piece({"caracol": 1, "layers": [{"id": "a", "source": PHOTO}]}), Context(OnePhoto(detailed(100, 200))))
    assert (np.asarray(hidden.get_image_data(raw=True).convert("RGB")) == collect(*seen.rows(200))[..., :3]).all()
    shown = np.asarray(glow.get_image_data(raw=True).convert("RGBA"))
    assert shown[50, 100].tolist() == [0xD0, 0x40, 0x20, 255]
    assert shown[5, 5, 3] == 0
    assert (
        np.abs(np.asarray(land.get_image_data(raw=True).convert("RGB"), int) - collect(*renderer.layers()[0].rows(200))[..., :3]).max() == 0
    )
    whole = np.asarray(Image.open(io.BytesIO(zipfile.ZipFile(io.BytesIO(content)).read("mergedimage.png"))).convert("RGB"))
    assert (whole == merged[..., :3]).all()


def test_layers_laid_by_the_reader_give_the_picture() -> None:
    """Modes that the format has, laid by it."""
    layers = [
        {"id": "a", "source": PHOTO},
        {"id": "b", "source": {"kind": "fill", "form": "plain", "first": "#4080c0"}, "opacity": 0.6, "blend": "multiply", "where": OVAL},
        {"id": "c", "source": PHOTO, "place": {"scale": 0.5, "turn": 0.1}},
    ]
    renderer = Renderer(check_piece({"caracol": 1, "layers": layers}), Context(OnePhoto(detailed(100, 200))))
    content, merged = written(renderer)
    laid = np.asarray(Project.load(io.BytesIO(content)).get_image_data(use_original=False).convert("RGB"), int)
    assert np.abs(laid - merged[..., :3]).mean() < 1


def test_the_file_is_as_the_specification_wants_it(renderer: Renderer) -> None:
    content, _ = written(renderer)
    assert content == written(renderer)[0]
    file = zipfile.ZipFile(io.BytesIO(content))
    assert file.infolist()[0].filename == "mimetype"
    assert file.infolist()[0].compress_type == zipfile.ZIP_STORED
    assert file.read("mimetype") == b"image/openraster"
    assert max(Image.open(io.BytesIO(file.read("Thumbnails/thumbnail.png"))).size) <= 256
    assert b'xres="300"' in file.read("stack.xml")


def test_modes_it_does_not_have_are_told(renderer: Renderer) -> None:
    assert unnamed_blends(renderer.layers()) == ["Upper (darker-pixel)"]


def test_a_group_with_steps_of_its_own_is_one_picture() -> None:
    layers = [
        {
            "id": "g",
            "name": "G",
            "layers": [{"id": "a", "source": PHOTO}],
            "steps": [{"id": "t", "kind": "turn", "settings": {"angle": 0.25}}],
        }
    ]
    renderer = Renderer(check_piece({"caracol": 1, "layers": layers}), Context(OnePhoto(detailed(100, 200))))
    (only,) = renderer.layers()
    assert not only.members


def test_box_and_shape_cut_every_layer() -> None:
    square = {"id": "x", "kind": "refit", "settings": {"ratio": 1, "how": "cover"}}
    (step,) = check_piece({"caracol": 1, "layers": [{"id": "shape", "steps": [square]}]}).layer.steps
    context = Context(OnePhoto(detailed(100, 200)))
    renderer = Renderer(piece(box={"x": 0.2, "y": 0, "rx": 0.8, "ry": 0.5}), context, finish=(step,))
    shapes = {one.rows(90)[0] for one in renderer.layers()}
    assert shapes == {(90, 90)}
    assert Project.load(io.BytesIO(written(renderer, 90)[0])).dimensions == (90, 90)


def test_a_layer_that_is_switched_off_and_has_no_photo_is_left_out() -> None:
    layers = [{"id": "a", "source": {"kind": "fill"}}, {"id": "b", "source": PHOTO, "visible": False}]
    renderer = Renderer(check_piece({"caracol": 1, "layers": layers}), Context(PhotoFolder(Path("nowhere"))))
    assert [one.name for one in renderer.layers()] == ["a"]
