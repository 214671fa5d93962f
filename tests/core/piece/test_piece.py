"""The piece file: faults by path, versions, limits."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.catalogue.registry import KINDS, build_index, get_kind
from caracol.core.errors import PieceError, UnknownKind
from caracol.core.piece.files import check_piece, load_piece
from caracol.core.piece.model import MOST_STEPS
from tests.pictures import document


def faults(data: Any) -> list[str]:
    with pytest.raises(PieceError) as caught:
        check_piece(data)
    return caught.value.faults


def changed(**step: Any) -> dict[str, Any]:
    return document({"kind": "ring", **step})


@pytest.mark.parametrize(
    ("data", "expected"),
    [
        ([], "the piece: expected a JSON object, got list"),
        ({}, "caracol: Field required"),
        ({"caracol": 1}, "layers: Field required"),
        ({"caracol": 4, "whatever": 1}, "caracol: this piece is of version 4, newer than the 3 known here; open it with a newer Caracol"),
        ({"caracol": "1", "layers": []}, "caracol: got '1', expected the version of the format, 1 to 3"),
        (changed(kind="rign"), "layers[0].steps[0]: unknown kind 'rign'; did you mean ring or unring or rim?"),
        (changed(kind="zzz"), "layers[0].steps[0]: unknown kind 'zzz'; known kinds: crop, level"),
        (changed(settings={"sem": 1}), "layers[0].steps[0].settings.sem: unknown field; remove it or check its spelling"),
        (changed(settings={"seam": 5}), "layers[0].steps[0].settings.seam: got 5, should be less than or equal to 1"),
        (changed(settings={"edge": "torn"}), "layers[0].steps[0].settings.edge: got 'torn', should be 'tile', 'mirror'"),
        (changed(strength=2), "layers[0].steps[0].strength: got 2, should be less than or equal to 1"),
        (changed(id="two words"), "layers[0].steps[0].id: got 'two words'"),
        (changed(where={"shapes": [{"kind": "ellipse", "rx": -1}]}), "layers[0].steps[0].where.shapes[0].rx: got -1"),
        ({"caracol": 1, "layers": [{"id": "a"}, {"id": "a"}]}, "the piece: layers: the id 'a' is taken twice"),
        (
            {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "below"}}]},
            "the piece: layers: nothing lies below the bottom layer 'a'",
        ),
        ({"caracol": 1, "layers": [{"id": "g", "layers": []}]}, "layers[0].layers: "),
        ({"caracol": 1, "layers": [{"id": "g", "layers": [{"id": "a", "opacity": 2}]}]}, "layers[0].layers[0].opacity: got 2"),
        (changed(kind="keep-only", settings={}, blend="screen"), "layers[0].steps[0]: keep-only takes no channels and no blend"),
    ],
)
def test_faults_name_place_and_expectation(data: Any, expected: str) -> None:
    assert any(fault.startswith(expected) for fault in faults(data)), faults(data)


def test_all_faults_are_told_at_once() -> None:
    data = document({"kind": "ring", "settings": {"seam": 9, "reach": 99}}, {"kind": "nope"})
    assert len(faults(data)) == 3


def test_two_steps_with_one_id_are_refused() -> None:
    data = document(("ring", {}), ("tone", {}))
    data["layers"][0]["steps"][1]["id"] = "s1"
    assert faults(data) == ["layers[0]: steps[1].id: 's1' is taken by an earlier step; every step needs an id of its own"]


def test_too_many_steps_are_refused() -> None:
    check_piece(document(*[("tone", {})] * MOST_STEPS))
    assert "at most" in faults(document(*[("tone", {})] * (MOST_STEPS + 1)))[0]


@pytest.mark.parametrize(
    ("content", "expected"),
    [
        (b"", "not valid JSON"),
        (b"{", "not valid JSON"),
        (b"\xff\xfe", "not valid JSON"),
        (b'{"caracol": NaN}', "NaN is not a number JSON knows"),
        (b"[" * 100_000, "more than 64 deep"),
        (b"[" * 70 + b"]" * 70, "more than 64 deep"),
        (b"[" * 500_000, "holds 500,000 lists or objects"),
        (b"9" * 5000, "not valid JSON"),
    ],
)
def test_broken_files(tmp_path: Path, content: bytes, expected: str) -> None:
    path = tmp_path / "piece.json"
    path.write_bytes(content)
    with pytest.raises(PieceError, match=rf"piece\.json: .*{expected}"):
        load_piece(path)


def test_a_missing_file(tmp_path: Path) -> None:
    with pytest.raises(PieceError, match=r"gone\.json: cannot be read"):
        load_piece(tmp_path / "gone.json")


json_values = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=4)
        | st.dictionaries(
            st.sampled_from(["id", "kind", "settings", "steps", "source", "seam", "on", "where", "shapes"]), inner, max_size=4
        )
    ),
    max_leaves=12,
)


@given(json_values)
def test_no_json_gets_past_but_as_a_fault(data: Any) -> None:
    """Whatever stands where a step should, the answer is a PieceError and nothing else."""
    whole = document()
    whole["layers"][0]["steps"] = [data]
    with pytest.raises(PieceError):
        check_piece(whole)


def test_catalogue_refuses_two_kinds_of_one_key() -> None:
    with pytest.raises(ValueError, match="two kinds share the key 'crop': 'Crop' and 'Crop'"):
        build_index([KINDS[0], KINDS[0]])


def test_unknown_kind_names_the_nearest() -> None:
    with pytest.raises(UnknownKind, match=r"did you mean .*tone"):
        get_kind("tune")
