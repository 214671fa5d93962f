"""What a picture is kept under: each change that changes a picture is computed again; each that does not is found."""

from __future__ import annotations

import copy
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
import pytest

from caracol.core import kernels
from caracol.core.catalogue.registry import INDEX, KINDS
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import Kind, RasterKind
from caracol.core.piece.files import check_piece
from caracol.core.piece.where import Where
from caracol.core.pixels.pyramid import Pyramid
from caracol.core.render import keys, render
from caracol.core.render.cache import Cache
from caracol.core.render.keys import described, digest
from caracol.core.render.quality import DRAFT, FULL
from caracol.core.render.stages import Stage
from tests.documents import Document
from tests.pictures import OnePhoto, detailed

PHOTO = OnePhoto(detailed(100, 200))
OTHER = OnePhoto(detailed(100, 200, 2))
SIZE = 64
WARM = Cache(1 << 29)
"""Filled by all tests of changes alike: the more it holds, the more there is to be mistaken for something else."""


def whole() -> Document:
    """Return a piece that has one of everything keys are made from."""
    spot = {"shapes": [{"kind": "ellipse", "rx": 0.6, "ry": 0.6}], "feather": 0.1}
    return {
        "caracol": 1,
        "layers": [
            {
                "id": "low",
                "source": {"kind": "photo", "photo": "p", "keep": [{"weight": 0.5, "where": copy.deepcopy(spot)}]},
                "steps": [
                    {"id": "split", "kind": "channel-split", "settings": {"red_x": 0.3}, "strength": 0.7},
                    {"id": "wave", "kind": "wave", "settings": {"height": 0.3}, "where": copy.deepcopy(spot)},
                    {"id": "sort", "kind": "pixel-sort", "settings": {"lines": 240}},
                ],
            },
            {"id": "middle", "source": {"kind": "pattern", "form": "rings"}, "opacity": 0.5, "where": copy.deepcopy(spot)},
            {
                "id": "high",
                "source": {"kind": "photo", "photo": "p"},
                "steps": [{"id": "push", "kind": "displace", "settings": {"by": "low", "amount": 0.3}, "strength": 0.6}],
                "place": {"scale": 0.7},
                "blend": "screen",
            },
        ],
    }


def low(d: Document) -> Document:
    return dict(d["layers"][0])


CHANGES: dict[str, Callable[[Document], object]] = {
    "keep weight": lambda d: low(d)["source"]["keep"][0].update(weight=1),
    "keep shape": lambda d: low(d)["source"]["keep"][0]["where"]["shapes"][0].update(rx=1.5),
    "keep none": lambda d: low(d)["source"].update(keep=[]),
    "setting": lambda d: low(d)["steps"][0]["settings"].update(red_x=0.1),
    "strength": lambda d: low(d)["steps"][0].update(strength=0.2),
    "channels": lambda d: low(d)["steps"][0].update(channels=["g"]),
    "step's blend": lambda d: low(d)["steps"][0].update(blend="darken"),
    "step's where": lambda d: low(d)["steps"][1]["where"]["shapes"][0].update(x=0.5),
    "feather": lambda d: low(d)["steps"][1]["where"].update(feather=0.6),
    "inverted": lambda d: low(d)["steps"][1]["where"].update(invert=True),
    "raster's lines": lambda d: low(d)["steps"][2]["settings"].update(lines=300),
    "order": lambda d: low(d)["steps"].reverse(),
    "off": lambda d: low(d)["steps"][0].update(on=False),
    "layer's opacity": lambda d: d["layers"][1].update(opacity=0.9),
    "layer's blend": lambda d: d["layers"][2].update(blend="multiply"),
    "layer's where": lambda d: d["layers"][1]["where"]["shapes"][0].update(rx=0.2),
    "layer's source": lambda d: d["layers"][1]["source"].update(form="stripes"),
    "place": lambda d: d["layers"][2]["place"].update(x=0.4),
    "hidden": lambda d: d["layers"][1].update(visible=False),
    "layers' order": lambda d: d["layers"].insert(1, d["layers"].pop()),
}


def look(document: Document, cache: Cache, photo: OnePhoto = PHOTO, size: int = SIZE, **more: Any) -> bytes:
    return render(check_piece(document), size, photo, cache=cache, **more).tobytes()


@pytest.mark.parametrize("name", CHANGES)
def test_a_change_is_seen_through_a_warm_cache(name: str) -> None:
    """Also in the layer that only looks at the changed one."""
    before, after = whole(), whole()
    CHANGES[name](after)
    was_seen = False
    for view in ({}, {"layer": "high"}):
        first = look(before, WARM, **view)
        second = look(after, WARM, **view)
        assert second == look(after, Cache(1 << 28), **view), view
        was_seen |= second != first
    assert was_seen, "this change shows nothing, so it proves nothing"


@pytest.mark.parametrize(
    ("first", "second"),
    [({"size": 64}, {"size": 63}), ({"quality": DRAFT}, {"quality": FULL}), ({"photo": PHOTO}, {"photo": OTHER})],
    ids=["size", "quality", "photo"],
)
def test_size_quality_and_photo_are_part_of_it(first: dict[str, Any], second: dict[str, Any]) -> None:
    warm = Cache(1 << 28)
    for view in ({}, {"layer": "low", "upto": 1}, {"layer": "low"}, {"layer": "high"}):
        before = look(whole(), warm, **first, **view)
        after = look(whole(), warm, **second, **view)
        assert after == look(whole(), Cache(1 << 28), **second, **view)
        assert after != before


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.respects_keep], ids=lambda kind: kind.key)
def test_a_changed_keep_area_is_seen_by_every_kind_that_keeps(kind: Kind) -> None:
    """Alone in its trail, so that its input is the same and only the keep area differs."""
    small = {"lines": 240} if isinstance(kind, RasterKind) else {}

    def kept(weight: float) -> Document:
        source = {"kind": "photo", "photo": "p", "keep": [{"weight": weight, "where": {"shapes": [], "invert": True}}]}
        step = {"id": "a", "kind": kind.key, "settings": dict(kind.starts[0].settings) | small}
        return {"caracol": 1, "layers": [{"id": "low", "source": source, "steps": [step]}]}

    warm = Cache(1 << 28)
    first, second = look(kept(0), warm), look(kept(1), warm)
    assert second == look(kept(1), Cache(1 << 28))
    assert second != first


def test_the_contents_of_a_fed_photo_are_part_of_it() -> None:
    """The photo a melt is fed with keeps its name and gets other contents."""

    class Fed(OnePhoto):
        def __init__(self, fed: OnePhoto) -> None:
            super().__init__(detailed(100, 200))
            self.fed = fed

        def pyramid(self, name: str) -> Pyramid:
            return self.fed.pyramid(name) if name == "fed" else super().pyramid(name)

        def digest(self, name: str) -> str:
            return self.fed.digest(name) if name == "fed" else super().digest(name)

    step = {"id": "m", "kind": "melt", "settings": {"rounds": 3, "feed": "fed", "feed_from": 1, "feed_share": 0.5, "lines": 240}}
    melted = {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "p"}, "steps": [step]}]}
    warm, (one, two) = Cache(1 << 28), (Fed(PHOTO), Fed(OTHER))
    first, second = look(melted, warm, one), look(melted, warm, two)
    assert second == look(melted, Cache(1 << 28), two)
    assert second != first


def test_a_where_is_kept_with_its_frame() -> None:
    """Two pieces of other shapes and one where, at sizes of as many pixels."""
    spot = {"shapes": [{"kind": "ellipse", "rx": 0.6, "ry": 0.3}]}
    fill = {"kind": "fill", "form": "plain", "first": "#ffffff"}

    def shaped(ratio: float) -> Document:
        return {"caracol": 1, "frame": {"ratio": ratio}, "layers": [{"id": "a", "source": fill, "where": spot}]}

    warm = Cache(1 << 28)
    for ratio in (1.0, 1.004, 0.5, 2.0):
        assert look(shaped(ratio), warm) == look(shaped(ratio), Cache(1 << 28)), ratio


def test_names_and_ids_are_no_part_of_it() -> None:
    """A renamed layer or step is found: nothing at all is computed again."""
    warm, renamed = Cache(1 << 28), whole()
    for entry in renamed["layers"]:
        entry["name"] = "Another name"
    low(renamed)["steps"][0]["id"] = "another"
    look(whole(), warm)
    size = warm.size
    look(renamed, warm)
    assert warm.size == size


def test_digests_tell_kinds_of_values_and_their_places_apart() -> None:
    different = [("1",), (1,), (1.5,), (True,), (None,), ("a", "b"), ("ab",), (("a", "b"),), ({"a": "b"},), ((("a", "b"),),)]
    assert len({digest(*parts) for parts in different}) == len(different)
    assert digest("a", 1) == digest("a", 1) == digest("a", 1.0)
    assert digest([1, 2]) == digest((1, 2))


def test_whole_objects_are_described_but_for_their_names() -> None:
    step = check_piece({"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "twirl"}]}]}).layer.steps[0]
    assert described(step) == described(step.model_copy(update={"id": "other"}))
    for name, value in {
        "strength": 0.5,
        "blend": "screen",
        "channels": ("r",),
        "on": False,
        "where": check_where(0.5),
        "settings": step.settings.model_copy(update={"x": 1}),
    }.items():
        assert described(step) != described(step.model_copy(update={name: value})), name
    stage = Stage((step,), Frame(1.0), Frame(1.0), None)
    assert described(stage) != described(replace(stage, after=Frame(2.0)))
    assert described(stage) != described(replace(stage, before=Frame(2.0)))


@pytest.mark.parametrize(
    "value", [np.zeros(3, np.float32), len, [1, (2, np.zeros(1))], {"a": b"bytes"}], ids=["array", "function", "within", "bytes"]
)
def test_what_cannot_be_described_is_refused(value: object) -> None:
    with pytest.raises(TypeError, match="cannot be part of a key"):
        digest(value)


def test_every_argument_of_a_key_counts() -> None:
    """Also where something else happens to say the same today."""
    step = check_piece({"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "twirl"}]}]}).layer.steps[0]
    stages = [Stage((step,), Frame(ratio), Frame(ratio), None) for ratio in (1.0, 2.0)]
    sheets = [check_piece({"caracol": 1, "layers": [{"id": "a", "opacity": opacity}]}).layer for opacity in (1, 0.5)]
    regions = [check_where(feather) for feather in (0, 0.5)]
    words, numbers, frames, kinds = ("a", "b"), (1, 2), (Frame(1.0), Frame(2.0)), (INDEX["twirl"], INDEX["ring"])
    arguments: dict[Callable[..., str], tuple[Any, ...]] = {
        keys.source: (words, words),
        keys.picture: (words, numbers, (DRAFT, FULL)),
        keys.pyramid: (words,),
        keys.coded: (words, numbers),
        keys.keep_mask: (words, words, words),
        keys.guide: (words, words, kinds, words),
        keys.raster: (words, kinds, words, words),
        keys.remembered: (words, words),
        keys.where: (regions, frames, ((1, 2), (2, 1))),
        keys.laid: (words, sheets),
        keys.composite: (frames, (["a"], ["b"])),
    }
    for function in (keys.after, keys.unlaid):
        arguments[partial(function, photos=PHOTO)] = (words, stages, words, words)
    for function, pairs in arguments.items():
        plain = function(*(pair[0] for pair in pairs))
        for index in range(len(pairs)):
            changed = function(*(pair[1 if n == index else 0] for n, pair in enumerate(pairs)))
            assert changed != plain, (function, index)


def check_where(feather: float) -> Where:
    return Where.model_validate({"shapes": [{"kind": "ellipse"}], "feather": feather})


def test_no_other_module_makes_a_key() -> None:
    """A key made elsewhere may forget something. Files are identified by their bytes, which is no key of something computed; so is the long XMP of a JPEG."""
    for path in sorted((kernels.PACKAGE / "core").rglob("*.py")):
        text = path.read_text(encoding="utf-8")
        if path.name not in ("keys.py", "kernels.py", "decode.py", "formats.py"):
            assert "hashlib" not in text, path
            assert "import digest" not in text, path
