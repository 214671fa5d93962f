"""What a render will do is known before it begins: told as it goes, done once, in linear time, and stopped at once."""

from __future__ import annotations

import sys
import threading
from collections import Counter
from concurrent.futures import Future
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from caracol.core.errors import PieceError, Superseded
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.render import Context, Photos, Renderer, bend
from caracol.core.render.cache import Cache
from caracol.core.render.execution import LONG, Execution, whole
from caracol.core.render.nodes import Node
from caracol.core.render.plan import plan_whole, whole_needs
from tests.core.render.test_warm_and_cold import PHOTOS
from tests.documents import Document, documents
from tests.pictures import OnePhoto, detailed, piece

PHOTO = OnePhoto(detailed(100, 200))


def told(asked: Piece, size: int, streamed: bool, photos: Photos = PHOTOS) -> list[float]:
    shares: list[float] = []
    renderer = Renderer(asked, Context(photos, progress=shares.append))
    if streamed:
        for _ in renderer.rows(size)[1]:
            pass
    else:
        renderer.picture(size)
    return shares


@pytest.mark.slow
@settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
@given(document=documents(), streamed=st.booleans())
def test_progress_rises_to_one_and_reaches_it_once(document: Document, streamed: bool) -> None:
    try:
        asked = check_piece(document)
    except PieceError:
        return
    shares = told(asked, 90, streamed)
    assert shares == sorted(set(shares))
    assert shares[-1] == pytest.approx(1, abs=1e-9)
    assert shares[0] > 0


def test_progress_follows_the_cost_of_its_parts() -> None:
    """Sixty rounds of a melt are nearly all of the work, and told round by round; the tone after it is the rest."""
    shares = told(piece(("melt", {"lines": 240, "rounds": 60}), ("tone", {"gamma": 1.2})), 64, True, PHOTO)
    assert len([share for share in shares if 0.05 < share < 0.95]) > 40
    assert max(np.diff(shares)) < 0.1


def layered(count: int) -> Piece:
    turn = [{"id": "t", "kind": "turn", "settings": {"angle": 0.01}}]
    low = {"id": "l0", "source": {"kind": "photo", "photo": "p"}}
    return check_piece(
        {
            "caracol": 1,
            "layers": [low, *({"id": f"l{n}", "source": {"kind": "below"}, "opacity": 0.5, "steps": turn} for n in range(1, count))],
        }
    )


def test_what_looks_down_the_pile_is_planned_in_linear_time() -> None:
    sizes = [len(Renderer(layered(count), Context(PHOTO)).plan(64).order) for count in (4, 8, 16)]
    assert sizes[2] - sizes[1] == 2 * (sizes[1] - sizes[0])
    assert sizes[2] < 16 * 9
    whole_orders = [
        len(plan_whole(Renderer(layered(count), Context(PHOTO)).result.picture(64), Cache(1 << 28)).order) for count in (4, 8, 16)
    ]
    assert whole_orders[2] < 16 * 10


def test_what_is_needed_from_two_sides_is_made_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Though the cache holds nothing at all."""
    made: Counter[str] = Counter()
    honest = Execution._made

    def counted(self: Execution, node: Node) -> Any:
        made[node.key] += 1
        return honest(self, node)

    monkeypatch.setattr(Execution, "_made", counted)
    for _ in Renderer(layered(6), Context(PHOTO, cache=Cache(0))).rows(64)[1]:
        pass
    assert made
    assert set(made.values()) == {1}


def wide_open(step: tuple[str, dict[str, Any]]) -> dict[str, Any]:
    """A step laid over its input by half."""
    return {"kind": step[0], "settings": step[1], "strength": 0.5}


MANY: dict[str, Any] = {
    "blur": ("blur", {"radius": 0.01}),
    "tone": ("tone", {"gamma": 1.01}),
    "wave": ("wave", {"height": 0.001}),
    "pixel-sort": ("pixel-sort", {"lines": 0}),
    "half a tone": wide_open(("tone", {"gamma": 1.01})),
    "half a split": wide_open(("channel-split", {"red_x": 0.01})),
}


@pytest.mark.parametrize("kind", MANY)
def test_two_hundred_steps_are_no_burden(kind: str) -> None:
    """However little room is left on the stack."""
    asked = piece(*[MANY[kind]] * 200)
    limit = sys.getrecursionlimit()
    sys.setrecursionlimit(400)
    try:
        streamed = np.concatenate([strip for _, strip in Renderer(asked, Context(PHOTO)).rows(32)[1]])
        assert np.array_equal(streamed, Renderer(asked, Context(PHOTO)).picture(32))
    finally:
        sys.setrecursionlimit(limit)


def test_what_flows_to_two_sides_is_computed_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Two layers alike: their strips are read once for both."""
    reads: list[int] = []
    honest = bend.sample_strip

    def counted(*given: Any) -> None:
        reads.append(1)
        honest(*given)

    monkeypatch.setattr(bend, "sample_strip", counted)
    wave = [{"id": "w", "kind": "wave", "settings": {}}]
    layers = [{"id": f"l{n}", "source": {"kind": "photo", "photo": "p"}, "steps": wave, "opacity": 0.5} for n in range(2)]
    for _ in Renderer(check_piece({"caracol": 1, "layers": layers}), Context(PHOTO)).rows(256)[1]:
        pass
    assert len(reads) == 2  # strips of 64 rows, of 128


def test_memory_is_given_back_as_soon_as_nobody_asks_again() -> None:
    context = Context(PHOTO, cache=Cache(0))
    plan = plan_whole(Renderer(piece(*[("blur", {"radius": 0.02})] * 8), context).result.picture(48), context.cache)
    run = Execution(context, plan)
    held: list[int] = []
    context_progress = run.tell
    run.tell = lambda cost, share: (held.append(len(run._values)), context_progress(cost, share))[1]  # type: ignore[method-assign,func-returns-value]
    run.make_all()
    assert max(held) <= 3


class Deaf(Node):
    """Long work that never asks whether it is still wanted."""

    kept = False
    cost = 2 * LONG  # type: ignore[assignment]

    def __init__(self) -> None:
        self.begun, self.end = threading.Event(), threading.Event()

    @property
    def key(self) -> str:
        return "deaf"

    def make(self, run: Execution) -> str:
        self.begun.set()
        assert self.end.wait(20)
        return "done"


def test_a_stop_is_heard_though_the_work_is_deaf() -> None:
    node = Deaf()
    with pytest.raises(Superseded):
        whole(node, Context(PHOTO, stop=node.begun.is_set))
    node.end.set()


def test_long_work_aside_gives_its_result_and_its_faults() -> None:
    node = Deaf()
    node.end.set()
    assert whole(node, Context(PHOTO)) == "done"

    class Broken(Deaf):
        def make(self, run: Execution) -> str:
            raise ValueError("no picture")

    with pytest.raises(ValueError, match="no picture"):
        whole(Broken(), Context(PHOTO))


def test_a_plan_names_everything_before_it_is_needed() -> None:
    order = plan_whole(Renderer(layered(5), Context(PHOTO)).result.picture(64), Cache(1 << 28)).order
    for index, node in enumerate(order):
        before = {earlier.key for earlier in order[:index]}
        assert all(need.key in before for need in whole_needs(node))


class JustInTime(Future[str]):
    """Ends in the very moment in which waiting for it is cancelled."""

    def result(self, timeout: float | None = None) -> str:
        if timeout is not None and not self.done():
            self.set_result("done")
            raise TimeoutError
        return super().result(timeout)


def test_work_that_ends_as_patience_does_is_not_lost() -> None:
    assert Context(PHOTO).wait(JustInTime()) == "done"


def test_a_timeout_of_the_work_itself_is_its_fault() -> None:
    failed: Future[str] = Future()
    failed.set_exception(TimeoutError("the disk"))
    with pytest.raises(TimeoutError, match="the disk"):
        Context(PHOTO).wait(failed)
