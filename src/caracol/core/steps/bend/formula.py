"""Formula: a bend written in two lines."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numba as nb
import numpy as np
from pydantic import Field, field_validator, model_validator

from ...arrays import Array
from ...formulas.book import BOOK
from ...formulas.language import MOST_KNOBS, knobs_of, read_formula
from ...formulas.program import compiled, evaluate
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import cosine_of, sine_of
from ...geometry.polar import turns_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Bond, Settings, choice, formula, knobs, number

POLAR = ["polar"]
FAR = np.float32(1e4)
Bound = Annotated[float, Field(ge=-1000, le=1000)]


class Knob(Settings):
    """A number of a formula that has a slider of its own."""

    value: Bound = 1
    low: Bound = 0
    high: Bound = 2

    bonds: ClassVar = (Bond("order", "low", "high", 1e-6, "the knob's low end must lie below its high end"),)


class FormulaSettings(Settings):
    """Two lines, what they speak of, and their knobs."""

    system: Literal["flat", "polar"] = choice(
        "flat", label="System", help="Flat: the lines give x and y. Polar: they give rad (0 centre, 1 rim) and ang (turns)."
    )
    first: str = formula("x + 0.06 * h * wave(2 * y / l)", label="First", help="Where the colour comes from: the new x, or the new rad.")
    second: str = formula("y", label="Second", help="Where the colour comes from: the new y, or the new ang.")
    knobs: dict[str, Knob] = knobs(label="Knobs", help="Every other name in the lines, with its value and range.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Right positive.")
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Down positive.")
    reach: float = number(1, 0.05, 4, label="Radius", unit="units", help="Where rad is 1, and x and y are 1 from the centre.")
    ray: float = number(
        0, -1, 1, label="Ray", unit="turns", step=0.0025, help="Where ang is 0, clockwise from the top.", when={"system": list(POLAR)}
    )  # fmt: skip
    fold: bool = choice(
        False, label="There and back", help="Runs ang there and back, so that nothing tears at the ray.", when={"system": list(POLAR)}
    )
    edge: Edge = choice("mirror", label="Outside", help=EDGE_HELP)

    @field_validator("first", "second")
    @classmethod
    def _reads(cls, value: str) -> str:
        read_formula(value)
        return value

    @field_validator("knobs")
    @classmethod
    def _few_knobs(cls, value: dict[str, Knob]) -> dict[str, Knob]:
        if len(value) > MOST_KNOBS:
            raise ValueError(f"{len(value)} knobs; at most {MOST_KNOBS} are taken")
        return value

    @model_validator(mode="after")
    def _few_names(self) -> FormulaSettings:
        names = knobs_of(read_formula(self.first), read_formula(self.second))
        if len(names) > MOST_KNOBS:
            raise ValueError(f"the formula has {len(names)} knobs ({', '.join(names)}); at most {MOST_KNOBS} are taken")
        return self


@nb.njit(nogil=True, fastmath=True, cache=True)
def _about(x, y, cx, cy, reach, ray, fold, out_x, out_y, rad, ang):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    for i in range(x.size):
        px, py = (x[i] - cx) / reach, (y[i] - cy) / reach
        out_x[i], out_y[i] = px, py
        rad[i] = np.sqrt(px * px + py * py)
        turn = turns_of(px, py) - ray
        turn = turn - np.floor(turn)
        ang[i] = one - abs(two * turn - one) if fold else turn


@nb.njit(nogil=True, fastmath=True, cache=True)
def _from_polar(x, y, rad, ang, at_ray, cx, cy, reach, ray, fold, out_x, out_y):  # type: ignore[no-untyped-def]
    half = np.float32(0.5)
    for i in range(x.size):
        turn = ang[i]
        if fold:
            here = turns_of(x[i], y[i]) - ray
            away = (turn - at_ray[i]) * half
            turn = at_ray[i] * half + (away if here - np.floor(here) < half else -away)
        size = min(max(rad[i], -FAR), FAR) * reach
        out_x[i] = cx + size * sine_of(turn + ray)
        out_y[i] = cy - size * cosine_of(turn + ray)


def formula_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: FormulaSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where the two lines say that points come from.

    Notes
    -----
    With (x, y) about the centre in reaches; rad and ang = (turns - ray) mod 1 of the same. With `fold` ang runs 0 … 1 … 0 once round. What
    the new ang is at the ray turns both sides alike; how far it goes from there is laid down on the side it was read on. So `ang` alone
    changes nothing, `ang + c` turns everything by c / 2, and nothing is torn at the ray; nor opposite, where a whole number lies between
    the new ang there and at the ray.
    """
    flat = [np.empty(x.size, np.float32) for _ in range(4)]
    cx, cy, size, turn = (np.float32(n) for n in (s.x, s.y, s.reach, s.ray))
    folded = s.fold and s.system == "polar"
    _about(np.ascontiguousarray(x).ravel(), np.ascontiguousarray(y).ravel(), cx, cy, size, turn, folded, *flat)
    values = {name: knob.value for name, knob in s.knobs.items()}
    a, b = evaluate(compiled(s.first, s.second), values, *flat)
    if s.system == "polar":
        out_x, out_y = np.empty(x.size, np.float32), np.empty(x.size, np.float32)
        at_ray = b
        if folded:
            at_ray = evaluate(compiled(s.first, s.second), values, *[*flat[:3], np.zeros_like(flat[3])])[1]
        _from_polar(flat[0], flat[1], a, b, at_ray, cx, cy, size, turn, folded, out_x, out_y)
    else:
        out_x, out_y = np.clip(a, -FAR, FAR) * size + cx, np.clip(b, -FAR, FAR) * size + cy
    return out_x.reshape(x.shape), out_y.reshape(x.shape)


FORMULA = BendKind(
    key="formula",
    label="Formula",
    family="bend",
    role="formula",
    purpose="A bend of your own, written in two lines.",
    words=("equation", "expression", "maths", "function", "custom", "polar", "own"),
    settings=FormulaSettings,
    handles=("formula-ray", "centre-reach"),
    starts=tuple(Start(page.name, page.settings()) for page in BOOK),
    pull=formula_pull,
)
