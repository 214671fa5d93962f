"""What a render may cost is found before any of it is begun, and costs are near enough the truth."""

from __future__ import annotations

import resource
import time
from typing import Any

import numpy as np
import pytest

from caracol.core.catalogue.registry import INDEX
from caracol.core.errors import TooLarge
from caracol.core.piece.files import check_piece
from caracol.core.piece.outlines import stroke_cover
from caracol.core.render import Context, Renderer
from caracol.core.render.context import CORES
from caracol.core.render.limits import Limits
from tests.pictures import OnePhoto, detailed

PHOTO = OnePhoto(detailed(256, 384))
PATTERN = {"kind": "pattern", "form": "rings"}


def piece(*steps: tuple[str, dict[str, Any]], where: dict[str, Any] | None = None, source: dict[str, Any] = PATTERN) -> Any:
    trail = [{"id": f"s{n}", "kind": kind, "settings": settings, "where": where} for n, (kind, settings) in enumerate(steps)]
    return check_piece({"caracol": 1, "layers": [{"id": "a", "source": source, "steps": trail}]})


def points(count: int) -> list[list[float]]:
    turns = np.linspace(0, 40, count)
    return np.stack([turns / 41 * np.cos(turns), turns / 41 * np.sin(turns)], axis=-1).round(4).tolist()


DEAR = {
    "a sort of many lines in a narrow frame, however small the picture": (
        lambda: piece(("pixel-sort", {"lines": 4320}), source={**PATTERN, "ratio": 0.1}), 16, "GB of memory", "pixel sort",
    ),
    "grain of many lines in a narrow frame": (
        lambda: piece(("grain", {"lines": 4320}), source={**PATTERN, "ratio": 0.1}), 16, "GB of memory", "grain",
    ),
    "two hundred lassos of three hundred corners": (
        lambda: piece(("tone", {"contrast": 0.5}), where={"shapes": [{"kind": "polygon", "points": points(300)}] * 200}), 1024, "one core's work", "a where",
    ),
    "strokes of two thousand points": (
        lambda: piece(("tone", {"contrast": 0.5}), where={"shapes": [{"kind": "stroke", "radius": 2, "points": points(2000)}] * 60}), 1024, "one core's work", "a where",
    ),
    "sixty zoom blurs at full size": (lambda: piece(*[("zoom-blur", {"amount": 0.02 + n / 1000}) for n in range(60)]), 4096, "one core's work", "zoom blur"),
    "a sheet of brushwork": (lambda: piece(*[("brushwork", {"length": 0.4, "lines": 2160, "seed": n}) for n in range(30)]), 1024, "one core's work", "brushwork"),
}  # fmt: skip


@pytest.mark.parametrize("what", DEAR)
def test_dear_documents_are_refused_before_they_begin(what: str, monkeypatch: pytest.MonkeyPatch) -> None:
    made, size, why, named = DEAR[what]
    asked = made()
    monkeypatch.setattr("caracol.core.render.execution.Execution.make_all", lambda _: pytest.fail("it was begun"))
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    with pytest.raises(TooLarge) as refused:
        Renderer(asked, Context(PHOTO, limits=Limits(60, 4 << 30))).picture(size)
    assert why in str(refused.value)
    assert f"Most of it is {named}." in str(refused.value)
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 200_000  # kilobytes


def test_usual_pieces_are_far_from_the_limits() -> None:
    usual = piece(("ring", {}), ("rim", {}), ("pixel-sort", {}), ("tone", {"contrast": 0.2}))
    for size in (512, 2048, 4096):
        plan = Renderer(usual, Context(PHOTO)).plan(size)
        Limits(60, 4 << 30).check(plan)
        assert plan.peak < 60 * size * size + (600 << 20)


def test_what_is_held_is_counted() -> None:
    """A blur needs its whole input and its whole output at once."""
    plan = Renderer(piece(("blur", {"radius": 0.1})), Context(PHOTO)).plan(1000)
    rows, cols = 667, 1000
    assert plan.peak >= 2 * rows * cols * 16
    with pytest.raises(TooLarge):
        Limits(bytes=plan.peak - 1).check(plan)
    with pytest.raises(TooLarge):
        Limits(bytes=plan.peak).check(plan, besides=1)


HEAVY: list[tuple[str, dict[str, Any]]] = [
    ("spiral-repeat", {"arms": 12, "size": 1}),
    ("channel-split", {"blue_blur": 0.5, "red_blur": 0.2}),
    ("slices", {"thin": 150, "wide": 20}),
    ("melt", {"rounds": 60, "lines": 240}),
    ("brushwork", {"length": 0.3, "lines": 480}),
    ("stipple", {"lines": 480}),
    ("zoom-blur", {}),
]


@pytest.mark.slow
@pytest.mark.parametrize(("kind", "settings"), HEAVY, ids=[kind for kind, _ in HEAVY])
def test_costs_tell_the_order_of_what_things_cost(kind: str, settings: dict[str, Any]) -> None:
    """Not a bound on speed: what is planned may be wrong by a factor of eight either way, which a forgotten setting is not."""
    heavy = piece((kind, settings), source={"kind": "photo", "photo": "p"})
    Renderer(heavy, Context(PHOTO)).picture(64)
    renderer = Renderer(heavy, Context(PHOTO))
    planned = renderer.plan(512).cost / 1e9
    begun = time.process_time()
    renderer.picture(512)
    spent = time.process_time() - begun
    assert planned / 8 < spent < planned * 8 + 0.1, f"{planned:.2f} s planned, {spent:.2f} s of {CORES} cores"
    assert INDEX[kind].burden(renderer.scene.piece.layer.steps[0].settings) > 0


def test_a_stroke_covers_the_same_whichever_rows_were_full_before() -> None:
    y, x = np.mgrid[-1:1:40j, -1.5:1.5:60j].astype(np.float32)
    line = np.array([(-1.4, 0), (1.4, 0.1), (0, 0.6), (-1, -0.9)], np.float32)
    for radius in (0.1, 0.5, 1.2, 3.0):
        whole = stroke_cover(x, y, line, radius, 0.05)
        parts = np.maximum.reduce([stroke_cover(x, y, line[n : n + 2], radius, 0.05) for n in range(len(line) - 1)])
        assert np.abs(whole - parts).max() < 1e-6


def test_every_node_of_a_plan_has_a_name() -> None:
    """Placed and tiled layers too, whose links are of no kind in the catalogue."""
    place = {"x": 0.2, "y": 0, "scale": 0.5, "turn": 0.1, "flip": False}
    tiled = {"kind": "photo", "photo": "p", "fit": "tile", "cell": 0.2}
    layers = [{"id": "a", "source": PATTERN}, {"id": "b", "source": PATTERN, "place": place}, {"id": "c", "source": tiled, "opacity": 0.5}]
    plan = Renderer(check_piece({"caracol": 1, "layers": layers}), Context(PHOTO)).plan(256)
    names = {node.name for node in (*plan.order, *plan.flowing)}
    assert {"place", "tile"} <= names
    assert all(names)
