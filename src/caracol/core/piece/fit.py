"""How well a photo suits a recipe, from its reading, and why."""

from __future__ import annotations

from dataclasses import dataclass

from ..reading.reading import Reading
from .model import Piece, Step

WORTH = {"good": 2, "fair": 1, "poor": 0}
UNSAID = 1
"""What a photo is worth of which nothing is said for this use."""


@dataclass(frozen=True)
class Fit:
    """How well a photo suits: the higher `worth` is, the better; `use` it was judged by (None: any photo will do), and why."""

    worth: int
    use: str | None
    reason: str


def use_of(piece: Piece) -> str | None:
    """Return what a recipe makes of its lowest photo, in the words of a reading's uses; None where any photo will do."""
    steps = [step for step in piece.layer.steps if step.on]
    kinds = [step.kind for step in steps]
    if "unring" in kinds and "ring" in kinds:
        return "inside-out"
    for step in steps:
        if step.kind == "ring":
            return _use_of_ring(step)
    if "spiral-repeat" in kinds:
        return "spiral repeat"
    if "twirl" in kinds:
        return "twirl"
    if any(step.definition.family == "break" for step in steps):
        return "breaking"
    return None


def _use_of_ring(step: Step) -> str:
    inside, spread = getattr(step.settings, "inside"), getattr(step.settings, "spread")  # noqa: B009
    if inside == "bottom":
        return "planet"
    return "tunnel" if spread == "depth" else "sky well"


def fit_of(piece: Piece, reading: Reading) -> Fit:
    """Return how well a photo with this reading suits a recipe."""
    use = use_of(piece)
    if use is None:
        return Fit(UNSAID, None, "any photo will do")
    said = next((one for one in reading.uses if one.use == use), None)
    if said is None:
        return Fit(UNSAID, use, f"nothing is said for or against {use}")
    return Fit(WORTH[said.verdict], use, f"{said.verdict} for {use}: {', '.join(said.reasons)}")
