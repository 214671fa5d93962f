"""What screens keep pictures and answers by: alike for two stages only where all that is seen of them is alike."""

from __future__ import annotations

import copy
import json
import os
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from caracol.core.catalogue.registry import INDEX, KINDS
from caracol.core.errors import PieceError
from caracol.core.kinds.kind import Kind
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.pixels.masks import outline_of
from caracol.core.render import Context, Renderer
from caracol.core.render.analyses import area_mask_of, bars_of, clipped_tones_of, keep_mask_of, sorted_stretches_of, step_analysis_of
from caracol.core.render.cache import Cache
from caracol.core.render.identities import EntryIdentity, Identities, identities_of
from caracol.core.render.quality import DRAFT
from tests.documents import Document, histories, sheets_of
from tests.pictures import TwoPhotos, detailed

PHOTOS = TwoPhotos(detailed(48, 96), detailed(64, 48, 2))
SIZE = 40
SEEN: dict[tuple[str, str], bytes] = {}
"""What was seen under each identity, over all random documents."""


def identified(document: Document) -> tuple[Piece, Identities]:
    piece = check_piece(document)
    return piece, identities_of(piece, Context(PHOTOS))


def context() -> Context:
    """Nothing is known yet: what is seen hangs on no cache."""
    return Context(PHOTOS, cache=Cache(1 << 26), quality=DRAFT)


def remember(what: str, identity: str, seen: bytes) -> None:
    known = SEEN.setdefault((what, identity), seen)
    assert known == seen, f"two {what} under one identity"


def picture(piece: Piece, upto: int | None = None, layer: str | None = None) -> bytes:
    renderer = Renderer(piece, context(), upto, layer)
    return repr(renderer.frame.ratio).encode() + renderer.picture(SIZE).tobytes()


def look_at(piece: Piece, found: Identities, draw: Any) -> None:
    """Look at the finished piece, and at one stage of one layer or group with all that is asked about it."""
    remember("pieces", found.delivered, picture(piece))
    entry = draw(st.sampled_from(list(piece.entries())))
    own = found.entries[entry.id]
    upto = draw(st.integers(0, len(entry.steps)))
    remember("pictures", own.after[upto], picture(piece, upto, entry.id))
    if own.kept:
        mask, frame = keep_mask_of(piece, context(), entry.id, upto)
        assert mask is not None
        remember("outlines", own.kept[upto], json.dumps(outline_of(mask, frame)).encode())
    if own.where is not None:
        remember("wheres", own.where, area_mask_of(piece, context(), entry.id, None, SIZE).tobytes())
    if upto:
        look_at_step(piece, own, entry.id, upto)


def look_at_step(piece: Piece, own: EntryIdentity, layer: str, place: int) -> None:
    step = piece.find(layer).steps[place - 1]
    identity = own.steps[step.id]
    told = step_analysis_of(piece, context(), layer, step.id)
    remember("tales", identity.answer, repr(sorted(told.items())).encode())
    if step.kind == "slices":
        bars = bars_of(piece, context(), layer, step.id)
        remember("bars", identity.answer, repr(bars).encode())
    if getattr(INDEX[step.kind], "show", None):
        remember("stretches", identity.answer, sorted_stretches_of(piece, context(), layer, step.id, SIZE).tobytes())
    if identity.where is not None:
        remember("wheres", identity.where, area_mask_of(piece, context(), layer, step.id, SIZE).tobytes())
    if not step.definition.reshapes(step.settings):
        dark, light = clipped_tones_of(piece, context(), layer, step.id, SIZE)
        remember("lost tones", " ".join(own.after[place - 1 : place + 1]), np.packbits([dark, light]).tobytes())


COUNT = int(os.environ.get("CARACOL_DOCUMENTS", "20"))
"""Random documents; 2,000 before a release."""


@settings(max_examples=COUNT, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
@given(st.data())
def test_what_is_seen_differs_only_under_different_identities(data: st.DataObject) -> None:
    """Every look is made cold, and compared with all that was ever seen under the same identity."""
    for document in data.draw(histories()):
        try:
            piece, found = identified(document)
        except PieceError:
            continue  # an edit may leave a layer that looks at nothing
        look_at(piece, found, data.draw)


@settings(max_examples=40, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
@given(st.data())
def test_names_places_and_what_lies_above_change_no_stage(data: st.DataObject) -> None:
    document = data.draw(histories(1))[0]
    _, before = identified(document)
    after = copy.deepcopy(document)
    for sheet in sheets_of(after):
        sheet["name"] = f"Another {sheet['id']}"
    top = after["layers"][-1]
    # How the top layer is laid changes the finished piece alone, and its own where: nobody lies above it.
    top |= {"opacity": 0.35, "blend": "screen", "place": {"x": 0.1}} if len(after["layers"]) > 1 else {"opacity": 0.35}
    after["layers"].append({"id": "new", "source": {"kind": "fill"}})
    _, now = identified(after)
    for name, entry in before.entries.items():
        grounded = any(INDEX[step["kind"]].grounded for step in next(one for one in sheets_of(after) if one["id"] == name).get("steps", []))
        if name != top["id"] or not grounded:
            assert (now.entries[name].after, now.entries[name].steps, now.entries[name].kept) == (entry.after, entry.steps, entry.kept), (
                name
            )
    assert now.whole != before.whole


def two_groups(first: str, second: str) -> Document:
    def group(name: str, photo: str) -> Document:
        slices = {"id": f"s-{name}", "kind": "slices", "settings": {"seed": 1}}
        return {"id": name, "layers": [{"id": f"in-{name}", "source": {"kind": "photo", "photo": photo}}], "steps": [slices]}

    return {"caracol": 1, "layers": [group("one", first), group("two", second)]}


def test_the_bars_of_two_groups_are_two() -> None:
    piece, found = identified(two_groups("a.png", "b.png"))
    answers = [found.entries[name].steps[f"s-{name}"].answer for name in ("one", "two")]
    bars = [bars_of(piece, context(), name, f"s-{name}") for name in ("one", "two")]
    assert bars[0] != bars[1]
    assert answers[0] != answers[1]


def test_groups_that_look_alike_are_asked_for_once() -> None:
    _, found = identified({"caracol": 1, "layers": two_groups("a.png", "a.png")["layers"]})
    (one, two) = (found.entries[name] for name in ("one", "two"))
    assert one.after == two.after
    assert [step.answer for step in one.steps.values()] == [step.answer for step in two.steps.values()]


def trail(*steps: tuple[str, dict[str, Any]], **more: Any) -> Document:
    made = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps)]
    return {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "a.png"}, "steps": made, **more}]}


@pytest.mark.parametrize(
    ("steps", "follows"),
    [
        ((("ring", {"x": 0.3, "seam": 0.2}), ("close-seam", {})), {"x": 0.3, "y": 0.0, "ray": 0.2}),
        ((("ring", {"x": 0.3}), ("centre", {"x": 0.1})), {"y": 0.0}),
        ((("mosaic", {"pitch": 0.03}), ("tube", {})), {"pitch": pytest.approx(1 / 33)}),
        ((("mosaic", {"pitch": 0.03}), ("tube", {"pitch": 0.05})), {}),
        ((("twirl", {}), ("centre", {})), {}),
    ],
)
def test_settings_that_are_left_to_earlier_steps_are_told(steps: Any, follows: dict[str, Any]) -> None:
    _, found = identified(trail(*steps))
    assert found.entries["a"].steps["s1"].follows == follows


def test_a_step_that_is_idle_is_followed_by_none() -> None:
    """The page's own idea was the last that is switched on; a mosaic that acts nowhere is none, either."""
    document = trail(("mosaic", {"pitch": 0.1}), ("mosaic", {"pitch": 0.03}), ("tube", {}))
    document["layers"][0]["steps"][1]["strength"] = 0
    assert identified(document)[1].entries["a"].steps["s2"].follows == {"pitch": 0.1}


def test_the_ring_before_a_step_is_told() -> None:
    document = trail(("ring", {}), ("twirl", {}), ("ring", {}), ("tone", {"brightness": 0.1}))
    entry = identified(document)[1].entries["a"]
    assert [step.ring for step in entry.steps.values()] == [None, "s0", "s0", "s2"]
    assert entry.ring == "s2"
    document["layers"][0]["steps"][2]["on"] = False
    assert identified(document)[1].entries["a"].ring == "s0"


def test_what_is_found_out_does_not_hang_on_how_a_step_is_laid() -> None:
    document = trail(("slices", {}))
    before = identified(document)[1].entries["a"]
    document["layers"][0]["steps"][0] |= {"strength": 0.4, "blend": "screen", "on": False}
    after = identified(document)[1].entries["a"]
    assert before.steps["s0"].answer == after.steps["s0"].answer
    assert before.after[1] != after.after[1]


def test_what_steps_may_look_at_is_part_of_what_is_around() -> None:
    document = trail(("twirl", {}))
    document["layers"].append({"id": "top", "source": {"kind": "photo", "photo": "b.png"}})
    around = identified(document)[1].entries["top"].around
    for change in ({"steps": []}, {"opacity": 0.5}):
        other = copy.deepcopy(document)
        other["layers"][0] |= change
        assert identified(other)[1].entries["top"].around != around
    kept = copy.deepcopy(document)
    kept["layers"][1]["source"]["keep"] = [{"where": {"shapes": [{"kind": "ellipse"}]}}]
    assert identified(kept)[1].entries["top"].around != around


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.respects_keep], ids=lambda kind: kind.key)
def test_what_a_step_that_keeps_finds_out_hangs_on_what_is_kept(kind: Kind) -> None:
    def answer(weight: float) -> str:
        document = trail((kind.key, {}))
        document["layers"][0]["source"]["keep"] = [{"weight": weight, "where": {"shapes": [{"kind": "ellipse"}]}}]
        return identified(document)[1].entries["a"].steps["s0"].answer

    assert answer(0.5) != answer(1)


def test_what_a_step_finds_out_hangs_on_what_it_looks_at() -> None:
    """At what lies under its layer, and at another layer."""

    def answers(brightness: float) -> tuple[str, str]:
        tone = {"id": "t", "kind": "tone", "settings": {"brightness": brightness}}
        looks = [{"id": "b", "kind": "belong"}, {"id": "d", "kind": "displace", "settings": {"by": "low"}}]
        low = {"id": "low", "source": {"kind": "photo", "photo": "a.png"}, "steps": [tone]}
        top = {"id": "top", "source": {"kind": "photo", "photo": "b.png"}, "steps": looks}
        steps = identified({"caracol": 3, "layers": [low, top]})[1].entries["top"].steps
        return steps["b"].answer, steps["d"].answer

    for one, other in zip(answers(0.1), answers(0.2), strict=True):
        assert one != other
