"""The book of formulas that come with Caracol."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal


@dataclass(frozen=True)
class Page:
    """A formula with its knobs: name -> (value, low, high)."""

    name: str
    system: Literal["flat", "polar"]
    first: str
    second: str
    knobs: Mapping[str, tuple[float, float, float]]
    more: Mapping[str, Any] = field(default_factory=dict)

    def settings(self) -> dict[str, Any]:
        """Return it as settings of a formula step."""
        told = {name: {"value": v, "low": low, "high": high} for name, (v, low, high) in self.knobs.items()}
        return {"system": self.system, "first": self.first, "second": self.second, "knobs": told, **self.more}


BOOK: tuple[Page, ...] = (
    Page("Slow swell", "flat", "x + h * wave(y / l + 0.4 * x)", "y + 0.5 * h * wave(x / l)", {"h": (0.12, 0, 0.6), "l": (1.2, 0.1, 4)}),
    Page("Crossing seas", "flat", "x + h * wave((x + y) * n)", "y + h * wave((x - y) * n)", {"h": (0.05, 0, 0.3), "n": (1.5, 0.2, 6)}),
    Page(
        "Opening rose", "polar", "rad * (1 + depth * wave(petals * ang)) / (1 + abs(depth))", "ang",
        {"depth": (0.28, -0.9, 0.9), "petals": (6, 1, 24)}, {"reach": 1.2},
    ),
    Page(
        "Water drop", "polar", "rad + h * wave(rad * n) * smooth(1.2, 0, rad)", "ang", {"h": (0.05, 0, 0.3), "n": (5, 1, 20)},
    ),
    Page("Bulging eye", "polar", "rad ^ power", "ang", {"power": (1.7, 0.3, 4)}, {"reach": 1.2}),
    Page(
        "Whirl in steps", "polar", "rad", "ang + turn * floor(rad * rings) / rings",
        {"turn": (0.35, -2, 2), "rings": (9, 1, 40)}, {"reach": 1.3},
    ),
    Page(
        "Ammonite", "polar", "exp(abs(tri((log(rad) / grow + 2 * ang) / 4)) * grow) * 0.45", "ang", {"grow": (0.9, 0.1, 3)}, {"fold": False},
    ),
    Page("Terraces", "flat", "x", "mix(y, floor(y * n) / n, amount)", {"n": (9, 2, 40), "amount": (0.75, 0, 1)}),
    Page(
        "Ribbed pane", "flat", "x + h * (fract(x * n) - 0.5)", "y + h * (fract(y * n) - 0.5)", {"h": (0.18, -0.6, 0.6), "n": (4, 1, 20)},
    ),
    Page(
        "Drifting smoke", "flat", "x * (1 - h) + h * noise(x * n, y * n)", "y * (1 - h) + h * noise(x * n + 17, y * n - 9)", {"h": (0.22, 0, 1), "n": (2.2, 0.3, 12)},
    ),
    Page(
        "Folded fan", "polar", "rad", "abs(tri(blades * ang / 2)) / blades * 2", {"blades": (5, 1, 16)}, {"ray": 0.55, "fold": True},
    ),
    Page(
        "Inside the glass", "flat", "x / max(0.05, x ^ 2 + y ^ 2) * size", "y / max(0.05, x ^ 2 + y ^ 2) * size", {"size": (0.5, 0.05, 2)},
    ),
)  # fmt: skip
