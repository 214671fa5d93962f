"""Rolling variants of a piece."""

from __future__ import annotations

import json

from hypothesis import given, settings
from hypothesis import strategies as st

from caracol.core.piece.files import check_piece, dump_piece
from caracol.core.piece.variants import roll
from tests.pictures import document

PIECE = check_piece(
    document(
        ("wave", {"seed": 3}), ("slices", {"bars": [{"top": 0.2, "height": 0.1, "shift": 0.1}, {"top": 0.5, "height": 0.1, "shift": 0.2, "locked": True}]}),
        ("grain", {"seed": 5}), {"kind": "tone", "settings": {"contrast": 0.2}, "on": False},
        ("curves", {"all": [[0, 0], [0.4, 0.5], [1, 1]]}), ("gradient-map", {}),
    )
)  # fmt: skip


def steps(variant: object) -> dict[str, dict[str, object]]:
    return {step["kind"]: step["settings"] for step in dump_piece(variant.piece)["layers"][0]["steps"]}  # type: ignore[attr-defined]


def test_same_seed_same_variants_and_all_differ() -> None:
    first, again, other = roll(PIECE, 7), roll(PIECE, 7), roll(PIECE, 8)
    assert [one.piece for one in first] == [one.piece for one in again]
    assert len({json.dumps(dump_piece(one.piece)) for one in [*first, *other]}) == 24
    assert all(one.changes for one in first)


def test_draws_alone_change_seeds_alone() -> None:
    before = steps(type("One", (), {"piece": PIECE}))
    for one in roll(PIECE, 1, vary="seeds"):
        for kind, found in steps(one).items():
            assert {k: v for k, v in found.items() if k != "seed"} == {k: v for k, v in before[kind].items() if k != "seed"}


def test_only_chosen_steps_and_never_those_that_are_off_or_locked() -> None:
    before = steps(type("One", (), {"piece": PIECE}))
    for one in roll(PIECE, 2, steps=frozenset({"s2", "s4"}), spread=1):
        found = steps(one)
        assert {kind for kind in found if found[kind] != before[kind]} == {"slices"}
        assert found["slices"]["bars"][1] == before["slices"]["bars"][1]  # type: ignore[index]
        assert found["slices"]["bars"][0] != before["slices"]["bars"][0]  # type: ignore[index]
        assert found["slices"]["lines" if "lines" in found["slices"] else "thin"] is not None


def test_curves_and_gradients_stray_and_keep_their_ends() -> None:
    found = [steps(one) for one in roll(PIECE, 4, spread=0.8)]
    curves = [one["curves"]["all"] for one in found]
    assert len({json.dumps(curve) for curve in curves}) == 12
    assert all([curve[0], curve[-1]] == [[0, 0], [1, 1]] and curve[1][0] == 0.4 and abs(curve[1][1] - 0.5) <= 0.16 for curve in curves)  # type: ignore[index]
    places = [[stop["at"] for stop in one["gradient-map"]["stops"]] for one in found]  # type: ignore[index,union-attr]
    assert len({json.dumps(place) for place in places}) == 12


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 999_999), st.floats(0, 1))
def test_every_variant_is_a_piece(seed: int, by: float) -> None:
    for one in roll(PIECE, seed, spread=by, count=3):
        assert check_piece(dump_piece(one.piece)) == one.piece


def test_linked_layers_vary_alike_and_are_told_of_once() -> None:
    step = {"id": "w", "kind": "wave", "settings": {"seed": 3}}
    layers = [{"id": name, "source": {"kind": "fill"}, "link": "a", "steps": [{**step, "id": f"{name}-w"}]} for name in ("a", "b")]
    linked = check_piece({"caracol": 3, "layers": [*layers, {"id": "c", "source": {"kind": "fill"}, "steps": [step]}]})
    for chosen in (None, frozenset({"b-w", "w"})):
        for variant in roll(linked, 2, steps=chosen, count=4):
            first, second, other = (layer["steps"][0]["settings"] for layer in dump_piece(variant.piece)["layers"])
            assert first == second != other
            assert len(variant.changes) == 2


def test_rolling_keeps_the_shape_of_the_frame() -> None:
    shaped = check_piece(document(("crop", {"left": 0.1, "right": 0.9, "top": 0.05}), ("refit", {"ratio": 0.8}), ("wave", {"seed": 3})))
    for one in roll(shaped, 4, spread=1):
        found = steps(one)
        assert found["crop"] == steps(type("One", (), {"piece": shaped}))["crop"]
        assert found["refit"]["ratio"] == 0.8
        assert found["wave"]["seed"] != 3


def test_what_is_moved_moves_plainly_and_breaks_move_further() -> None:
    """A spread of 0.3 leaves no shift within a third of itself, and a wave within a tenth."""
    piece = check_piece(document(("ghosts", {"apart": 0.1}), ("wave", {"length": 0.5})))
    found = [steps(one) for one in roll(piece, 4, spread=0.3, vary="settings", count=60)]
    shifts = [max(one["ghosts"]["apart"] / 0.1, 0.1 / one["ghosts"]["apart"]) for one in found]  # type: ignore[operator]
    lengths = [max(one["wave"]["length"] / 0.5, 0.5 / one["wave"]["length"]) for one in found]  # type: ignore[operator]
    assert min(shifts) > 1.5
    assert max(shifts) < 3.4
    assert 1.08 < min(lengths) < max(lengths) < 1.24


def test_a_number_at_its_limit_moves_away_from_it() -> None:
    piece = check_piece(document(("crush", {"press": 1.0, "bits": 4})))
    assert all(steps(one)["crush"]["press"] < 0.9 for one in roll(piece, 5, spread=0.3, count=40))  # type: ignore[operator]


def test_some_choose_otherwise_and_no_edge_and_no_side_changes() -> None:
    piece = check_piece(document(("ghosts", {}), ("ring", {"inside": "top"})))
    found = [steps(one) for one in roll(piece, 6, spread=0.4, count=80)]
    assert 12 < sum(one["ghosts"]["meet"] != steps(type("One", (), {"piece": piece}))["ghosts"]["meet"] for one in found) < 52
    assert {(one["ring"]["inside"], one["ring"]["spread"], one["ring"]["edge"]) for one in found} == {
        ("top", "even", piece.layer.steps[1].settings.edge)
    }  # type: ignore[attr-defined]
