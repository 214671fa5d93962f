"""Wave: one or several, round, pointed or stepped, in any heading."""

from __future__ import annotations

from functools import lru_cache
from math import cos, sin, tau
from typing import Literal

import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...geometry.points import FORMS, over_points, wave_of
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice
from ...kinds.settings import number as measure
from ...kinds.settings import seed as any_draw
from ...pixels.draws import draw, spread

Form = Literal["round", "pointed", "stepped"]


class WaveSettings(Settings):
    """What the waves are like."""

    heading: float = measure(0, 0, 1, label="Direction", unit="turns", step=0.0025, help="The direction waves push in: 0 is up, clockwise.")
    length: float = measure(0.5, 0.005, 6, label="Length", unit="units", step=0.005, help="From crest to crest.")
    height: float = measure(0.06, 0, 2, label="Height", unit="units", step=0.005, help="How far a crest pushes.")
    number: int = measure(1, 1, 8, label="Number", unit="count", step=1, help="How many waves are added.")
    variety: float = measure(
        0.5,
        0,
        1,
        label="Variety",
        idle=(({"number": [1]}, "A single wave has none to differ from."),),
        unit="share",
        help="How much the waves differ in length and height; 0 makes them alike.",
    )
    form: Form = choice("round", label="Form", help="Round is a sine, pointed a triangle, stepped a square.")
    cross: float = measure(0, 0, 1, label="Cross", unit="share", help="Adds the same waves at right angles.")
    phase: float = measure(0, -1, 1, label="Phase", unit="turns", step=0.0025, help="Moves the waves along, as a share of their length.")
    seed: int = any_draw(help="Random lengths, heights and phases.", idle=(({"number": [1]}, "A single wave is always the same."),))
    edge: Edge = choice("beyond", label="Outside", help=EDGE_HELP)


@lru_cache(maxsize=256)
def wave_plan(length: float, height: float, count: int, variety: float, chosen: int) -> Array:
    """Return (count, 3): length, height and phase of each wave. The first has phase 0; at variety 0 all lengths and heights are alike."""
    rows = []
    for index in range(count):
        longer = 2.0 ** (1.5 * variety * spread(chosen, index, 0)) if count > 1 else 1.0
        higher = 1 + 0.7 * variety * spread(chosen, index, 1) if count > 1 else 1.0
        rows.append((length * longer, height * higher, draw(chosen, index, 2) if index else 0.0))
    return np.array(rows, np.float32)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _wave(x, y, dx, dy, cross, phase, form, plan, out_x, out_y):  # type: ignore[no-untyped-def]
    nx, ny = -dy, dx
    for i in range(x.size):
        across = nx * x[i] + ny * y[i]
        along = dx * x[i] + dy * y[i]
        push = np.float32(0)
        side = np.float32(0)
        for k in range(plan.shape[0]):
            push += plan[k, 1] * wave_of(form, across / plan[k, 0] + plan[k, 2] + phase)
            if cross > 0:
                side += plan[k, 1] * wave_of(form, along / plan[k, 0] + plan[k, 2] + phase)
        side *= cross
        out_x[i] = x[i] - dx * push - nx * side
        out_y[i] = y[i] - dy * push - ny * side


def wave_pull(
    x: Array, y: Array, before: Frame, after: Frame, s: WaveSettings,
) -> tuple[Array, Array]:  # fmt: skip
    """Return where points came from: p - d·S(n·p) - cross·n·S(d·p), S the sum of the waves (docs/coordinates.md).

    Notes
    -----
    d = (sin τ·heading, -cos τ·heading); n is d turned a quarter clockwise; S(q) = Σ hᵢ·f(q / λᵢ + φᵢ + phase).
    """
    plan = wave_plan(s.length, s.height, s.number, s.variety, s.seed)

    def kernel(*args: Array) -> None:
        _wave(*args[:7], plan, *args[7:])

    return over_points(kernel, x, y, sin(tau * s.heading), -cos(tau * s.heading), s.cross, s.phase, FORMS.index(s.form))


WAVE = BendKind(
    key="wave",
    label="Wave",
    family="bend",
    purpose="Bends the picture in waves.",
    words=("sine", "undulate", "wobble", "water", "sway", "ripple", "distort"),
    settings=WaveSettings,
    handles=("wave",),
    starts=(
        Start("Sea", {"length": 0.9, "height": 0.12, "number": 4, "variety": 0.7, "seed": 3}),
        Start("Comb", {"heading": 0, "length": 0.045, "height": 0.55, "form": "stepped"}, words=("square wave", "stepped")),
        Start("Scales", {"length": 0.28, "height": 0.07, "cross": 1, "heading": 0.125}),
        Start("Switchback", {"heading": 0.25, "length": 0.4, "height": 0.09, "form": "pointed"}, ("zigzag", "chevron")),
    ),
    neutral={"height": 0},
    respects_keep=True,
    pull=wave_pull,
)
