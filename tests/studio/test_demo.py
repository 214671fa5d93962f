"""The demo world: every photo can be drawn, and every piece is whole and names photos that are there."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
from django.conf import settings
from PIL import Image

from caracol.core.arrays import Array
from caracol.core.piece.cutting import Cut, Search, cut_out, look_for
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import PhotoSource
from caracol.core.pixels.pyramid import Pyramid, pyramid_of
from caracol.core.render import render
from caracol.core.render.keys import digest
from caracol.core.render.quality import DRAFT
from caracol.studio.demo import loading
from caracol.studio.demo.pieces import FIGURES, PIECES
from caracol.world.photos import SCENES, Scene, draw_photo

from .conftest import Api


def decoded(content: bytes) -> Array:
    """Return a photo's straight colours 0…1 with alpha."""
    return np.asarray(Image.open(io.BytesIO(content)).convert("RGBA"), np.float32) / 255


def opened(scene: Scene, cols: int) -> Array:
    """Return a small drawing of a scene."""
    return decoded(draw_photo(scene, cols))


@pytest.mark.slow
@pytest.mark.parametrize("scene", SCENES, ids=lambda scene: scene.name)
def test_every_photo_is_drawn_and_always_the_same(scene: Scene) -> None:
    first = draw_photo(scene, 96)
    assert draw_photo(scene, 96) == first
    picture = decoded(first)
    assert picture.shape[1] == 96
    assert picture[..., :3].std() > 0.04  # it shows something
    see_through = (picture[..., 3] < 1).mean()
    assert (see_through > 0.2) == (scene.suffix == "png")


FIGURE_FILES = {f"{name}.png": data for name, data in FIGURES}


class Drawn:
    """The demo's photos, drawn small."""

    def __init__(self) -> None:
        self._pyramids: dict[str, Pyramid] = {}

    def pyramid(self, name: str) -> Pyramid:
        if name not in self._pyramids:
            self._pyramids[name] = pyramid_of(self._figure(name) if name in FIGURE_FILES else self._photo(name, 240))
        return self._pyramids[name]

    @staticmethod
    def _photo(name: str, cols: int) -> Array:
        picture = opened(next(scene for scene in SCENES if scene.file_name == name), cols)
        picture[..., :3] *= picture[..., 3:]
        return picture

    def _figure(self, name: str) -> Array:
        data = FIGURE_FILES[name]
        pyramid = pyramid_of(self._photo(data["photo"], 600))
        outline = look_for(pyramid, Search.model_validate(data["search"]))
        return cut_out(pyramid, Cut.model_validate({**data, "outline": outline}))

    def digest(self, name: str) -> str:
        return digest(name)


PHOTOS = Drawn()


@pytest.mark.slow
@pytest.mark.parametrize(("name", "document"), PIECES, ids=[name for name, _ in PIECES])
def test_every_piece_is_whole(name: str, document: dict[str, object]) -> None:
    piece = check_piece(document)
    named = {layer.source.photo for layer in piece.walk() if isinstance(layer.source, PhotoSource)}
    assert named <= {scene.file_name for scene in SCENES} | set(FIGURE_FILES)
    result = render(piece, 160, PHOTOS, quality=DRAFT)
    assert np.isfinite(result).all()
    assert result[..., :3].std() > 0.04


def test_names_of_pieces_and_photos_differ() -> None:
    assert len({name for name, _ in PIECES}) == len(PIECES)
    assert len({scene.file_name for scene in SCENES}) == len(SCENES)


def test_the_demo_is_loaded_from_an_empty_shelf(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    """Asked for through the API; what is there already is left alone, and the Shelf has its small pictures."""
    scenes = [scene for scene in SCENES if scene.name in ("salt-marsh-dusk", "heron")]
    pieces = [("Twirled", {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "photo", "photo": scenes[0].file_name}}]})]
    monkeypatch.setattr(loading, "SCENES", scenes)
    monkeypatch.setattr(loading, "PIECES", pieces)
    monkeypatch.setattr(loading, "draw_photo", lambda scene: draw_photo(scene, 160))
    for _ in range(2):
        answer = api.send("post", "demo", {})
        assert answer.status_code == 202
        assert answer.json() == {"loading": False, "photos": len(SCENES)}
    assert {photo["name"] for photo in api.rows("photos")} == {"salt-marsh-dusk", "heron"}
    (piece,) = api.rows("pieces")
    small = len(list((Path(settings.VAR) / "looks").rglob("*.jpg")))
    assert api.get(f"pieces/{piece['id']}/thumbnail").status_code == 200
    assert len(list((Path(settings.VAR) / "looks").rglob("*.jpg"))) == small
