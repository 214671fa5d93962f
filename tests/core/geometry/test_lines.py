"""Lines as whole numbers: nothing of a hundred-thousandth is lost, whatever the way."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.geometry.lines import FARTHEST, GRAIN, fault_of, packed, unpacked

PLACES = st.floats(-FARTHEST, FARTHEST, allow_nan=False)


@given(st.lists(st.tuples(PLACES, PLACES), max_size=60))
def test_points_come_back_to_half_a_grain(points: list[tuple[float, float]]) -> None:
    back = unpacked(packed(points))
    assert back.shape == (len(points), 2)
    assert not points or np.abs(back - np.array(points)).max() <= 0.5001 / GRAIN
    # Written again they are the same numbers.
    assert packed(back.tolist()) == packed(points)
    assert fault_of(packed(points)) == ""


@pytest.mark.parametrize(
    ("line", "fault"), [([1], "has 1 numbers"), ([2_000_001, 0], "leads more than 20 units"), ([1_500_000, 0, 1_500_000, 0], "leads more")]
)
def test_what_is_no_line_is_told(line: list[int], fault: str) -> None:
    assert fault in fault_of(line)
