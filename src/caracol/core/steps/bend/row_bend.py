"""Row bend: rows or columns moved along a drawn curve."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Literal

import numba as nb
import numpy as np
from pydantic import Field

from ...arrays import Array
from ...geometry.curves import curve_table
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import over_points
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number, pairs

REACH = 2.0
Place = Annotated[float, Field(ge=0, le=1)]
Shift = Annotated[float, Field(ge=-REACH, le=REACH)]


class RowBendSettings(Settings):
    """The curve and what it moves."""

    lines: Literal["rows", "columns"] = choice("rows", label="Moves", help="Rows to the right and left, or columns down and up.")
    curve: tuple[tuple[Place, Shift], ...] = pairs(
        ((0.0, 0.0), (0.35, 0.25), (0.65, -0.25), (1.0, 0.0)), label="Curve", kind="curve", least=1, most=64, reach=REACH,
        help="Points of place and shift: place along the height (or width), shift right (or down) positive.",
    )  # fmt: skip
    smooth: bool = choice(True, label="Smooth", help="A smooth curve through the points, or straight lines.")
    amount: float = number(1, -2, 2, label="Amount", unit="share", help="Multiplies the curve; negative reverses it.")
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)


@lru_cache(maxsize=64)
def _table(curve: tuple[tuple[float, float], ...], smooth: bool) -> Array:
    return curve_table(curve, smooth)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _row_bend(x, y, half, amount, columns, table, out_x, out_y):  # type: ignore[no-untyped-def]
    last = np.float32(table.size - 1)
    for i in range(x.size):
        place = ((x[i] if columns else y[i]) / half + np.float32(1)) * np.float32(0.5) * last
        place = min(max(place, np.float32(0)), last)
        k = min(int(place), table.size - 2)
        shift = amount * (table[k] + (table[k + 1] - table[k]) * (place - np.float32(k)))
        out_x[i] = x[i] if columns else x[i] - shift
        out_y[i] = y[i] - shift if columns else y[i]


def row_bend_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: RowBendSettings
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: each row's x less the curve's value at its height (columns: y, at their place across)."""
    table = _table(tuple(tuple(p) for p in s.curve), s.smooth)
    columns = s.lines == "columns"

    def kernel(*args: Array) -> None:
        _row_bend(*args[:5], table, *args[5:])

    return over_points(kernel, x, y, before.half_w if columns else before.half_h, s.amount, columns)


ROW_BEND = BendKind(
    key="row-bend",
    label="Row bend",
    family="bend",
    purpose="Moves rows or columns along a drawn curve.",
    words=("shear", "skew", "sway", "curve", "slip", "distort", "wobble"),
    settings=RowBendSettings,
    handles=("row-curve",),
    starts=(
        Start("Swaying", {}),
        Start(
            "Slipped",
            {
                "curve": ((0.0, 0.0), (0.44, 0.0), (0.46, 0.35), (0.58, 0.35), (0.6, -0.12), (0.72, -0.12), (0.74, 0.0), (1.0, 0.0)),
                "smooth": False,
                "edge": "tile",
            },
        ),
        Start("Arched", {"lines": "columns", "curve": ((0.0, 0.2), (0.5, -0.18), (1.0, 0.2))}),
    ),
    neutral={"amount": 0},
    respects_keep=True,
    pull=row_bend_pull,
)
