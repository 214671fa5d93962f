"""What JSON from outside may hold: counted first, and told in few words."""

from __future__ import annotations

from time import process_time
from typing import Any

import pytest

from caracol.core import bounds
from caracol.core.bounds import check_shape, read_json
from caracol.core.errors import LONGEST_TOLD, MOST_TOLD, PieceError
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import MOST_LAYERS
from caracol.core.piece.recipe import check_recipe

LAND: dict[str, Any] = {"id": "land"}


def nested(groups: int) -> dict[str, Any]:
    """Return a piece with so many groups in each other."""
    entry: dict[str, Any] = LAND
    for n in range(groups):
        entry = {"id": f"g{n}", "layers": [entry]}
    return {"caracol": 3, "layers": [entry]}


def stepped(**settings: Any) -> dict[str, Any]:
    return {"caracol": 3, "layers": [{**LAND, "steps": [{"id": "s", "kind": "touch-up", "settings": settings}]}]}


def faults(data: dict[str, Any]) -> list[str]:
    with pytest.raises(PieceError) as caught:
        check_piece(data)
    return caught.value.faults


@pytest.mark.parametrize(
    ("data", "expected"),
    [
        ({"caracol": 3, "layers": [1] * 9000}, "layers: the piece has 9,000 layers and groups in all; at most 100 are taken"),
        ({"caracol": 3, "layers": [{"x": 1}] * 300_000}, "a list has 300,000 entries; at most 10,000 are read"),
        ({"caracol": 3, "layers": [{**LAND, "steps": [{}] * 150}] * 30}, "steps: the piece has 4,500 steps in all; at most 2,000 are taken"),
        (stepped(strokes=[{}] * 4001), "strokes: the piece has 4,001 strokes in all; at most 4,000 are taken"),
        (stepped(strokes=[{"line": [0] * 2_000_002}]), "points: the piece has 1,000,001 points of strokes and outlines in all"),
        ({**nested(1), **{f"a{n}": 0 for n in range(1001)}}, "an object has 1,003 fields; at most 1,000 are read"),
        (nested(17), "layers: groups lie in each other 17 deep; at most 16 are taken"),
        (nested(400), "lists and objects lie in each other more than 64 deep"),
    ],
)  # fmt: skip
def test_what_is_too_much_is_counted_before_it_is_checked(data: dict[str, Any], expected: str) -> None:
    begun = process_time()
    (told,) = faults(data)
    assert expected in told
    # A fault for each of them took minutes: the walk is a fraction of a second on any machine.
    assert process_time() - begun < 20


def test_as_much_as_may_be_is_taken() -> None:
    check_piece(nested(16))
    check_piece({"caracol": 3, "layers": [{"id": f"l{n}"} for n in range(MOST_LAYERS)]})
    assert bounds.MOST["layers"] == MOST_LAYERS


def test_twenty_faults_are_told_and_how_many_more() -> None:
    told = faults({"caracol": 3, "layers": [{"id": "a", "steps": [{"kind": "tone", "settings": {f"x{n}": 0 for n in range(100)}}]}]})
    assert len(told) == MOST_TOLD + 1
    assert told[-1] == "and 81 more"
    (long,) = faults({"caracol": 3, "layers": [LAND], "x" * 5000: 0})
    assert len(long) < LONGEST_TOLD
    assert len(PieceError(["x" * 5000]).faults[0]) == LONGEST_TOLD
    (shown,) = faults({"caracol": 3, "layers": [{"id": ["x" * 1000] * 9000}]})
    assert len(shown) < LONGEST_TOLD


def test_points_that_are_none_are_told_once() -> None:
    assert len(faults(stepped(strokes=[{"mode": "erase", "line": ["x"] * 4000}]))) == 1


@pytest.mark.parametrize("part", ["dials", "slots", "tags"])
def test_lists_of_a_recipe_are_bounded(part: str) -> None:
    with pytest.raises(PieceError) as caught:
        check_recipe({"caracol": 3, "layers": [LAND], part: [{}] * 5000})
    assert caught.value.faults == [f"{part}: the piece has 5,000 {part} in all; at most {bounds.MOST[part]:,} are taken"]


def test_json_is_read_no_deeper_and_no_larger_than_anything_is_written() -> None:
    deep: Any = 0
    for _ in range(bounds.DEEPEST):
        deep = [deep]
    check_shape(deep)
    with pytest.raises(PieceError, match="more than 64 deep"):
        check_shape([deep])
    with pytest.raises(PieceError, match=r"it has 16\.0 MB; at most 16 MB are read"):
        read_json(b" " * (bounds.SPACED + 1))
    with pytest.raises(PieceError, match="holds 50,001 lists or objects"):
        read_json("[" + ",".join(["{}"] * 50_001) + "]")
    assert read_json("\ufeff[1]".encode()) == [1]
