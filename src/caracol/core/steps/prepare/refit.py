"""Refit: bring the picture to another ratio."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np

from ...arrays import Array
from ...geometry.edges import EDGE_HELP, Edge
from ...geometry.frame import Frame
from ...kinds.kind import BendKind, Start
from ...kinds.settings import Settings, choice, number


class RefitSettings(Settings):
    """The new ratio and how to reach it."""

    ratio: float = number(1, 0.1, 10, label="Ratio", unit="ratio", step=0.01, help="Width divided by height.")
    how: Literal["squash", "cover", "contain"] = choice(
        "cover", label="Method", help="Squash or stretch the whole picture, cover the new frame and lose the rest, or contain all of it."
    )
    edge: Edge = choice("empty", label="Outside", when={"how": ["contain"]}, help=EDGE_HELP)


def refit_pull(x: Array, y: Array, before: Frame, after: Frame, s: RefitSettings) -> tuple[Array, Array]:
    """Return where in the input frame points of the new frame lie."""
    if s.how == "squash":
        kx, ky = before.half_w / after.half_w, before.half_h / after.half_h
    else:
        fits = (before.half_w / after.half_w, before.half_h / after.half_h)
        kx = ky = min(fits) if s.how == "cover" else max(fits)
    return x * np.float32(kx), y * np.float32(ky)


def _frame(before: Frame, s: RefitSettings) -> Frame:
    return Frame(s.ratio)


def _changes(s: Any) -> bool:
    return True


def _edge(s: RefitSettings) -> Edge:
    """Only a contained picture leaves room around itself; else a later bend may look on beyond the cut."""
    return s.edge if s.how == "contain" else "beyond"


REFIT = BendKind(
    key="refit",
    label="Refit",
    family="prepare",
    purpose="Brings the picture to another ratio.",
    words=("resize", "ratio", "aspect", "square", "squash", "stretch", "fit"),
    settings=RefitSettings,
    starts=(
        Start("Square, cut", {"ratio": 1, "how": "cover"}, words=("square",)),
        Start("Square, squashed", {"ratio": 1, "how": "squash"}, words=("squash",)),
        Start("Twice as wide", {"ratio": 2, "how": "cover"}, words=("stretch",)),
    ),
    pull=refit_pull,
    frame_after=_frame,
    changes_frame=_changes,
    edge=_edge,
)
