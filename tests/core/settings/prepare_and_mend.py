"""Rows of kinds that prepare and mend."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from .checks import (
    Check,
    Rows,
    best,
    both,
    bright_x,
    bright_y,
    changed,
    changed_x,
    changed_y,
    channel,
    down,
    edges,
    fine,
    kept,
    kept_x,
    kept_y,
    less,
    light,
    lights,
    made,
    near,
    opacity,
    part,
    plain,
    rule,
    up,
)

ONE_RAY = {"method": "crossfade", "along": "ray", "width": 0.1}
BLOT = {"mode": "colour", "line": [50_000, 0], "radius": 0.3, "colour": "#ff0000"}


def turn_of(at: Any) -> None:
    """A quarter turn clockwise: what lies right was above."""
    near(at(0.5, 0, 1, angle=0.25), [[0], [-0.5]])
    near(at(0.3, 0.2, 1, angle=0), [[0.3], [0.2]])


def crop_of(side: str, value: float) -> Check:
    def check(kind: str, name: str) -> None:
        whole, cut = made(kind, "ramp" if name in ("left", "right") else "fall"), None
        cut = made(kind, "ramp" if name in ("left", "right") else "fall", **{name: value})
        line = lights(cut).mean(axis=0 if name in ("left", "right") else 1)
        end = line[0] if side == "first" else line[-1]
        assert end == pytest.approx(value, abs=0.02)
        assert lights(whole).mean() == pytest.approx(0.5, abs=0.02)

    return check


def ratio_is(kind: str, name: str) -> None:
    for value in (0.5, 2.0):
        rows, cols = made(kind, **{name: value}).shape[:2]
        assert cols / rows == pytest.approx(value, rel=0.05)


def mismatch(p: Any) -> float:
    """How much the left edge differs from the right."""
    return float(np.abs(p[:, 0] - p[:, -1]).mean())


ROWS_OF: dict[str, Rows] = {
    "crop": {"left": crop_of("first", 0.3), "right": crop_of("last", 0.7), "top": crop_of("first", 0.3), "bottom": crop_of("last", 0.7)},
    "level": {
        "angle": rule(
            lambda at: near(at(0.4, 0, 1, angle=0.02), [[0.4 * np.cos(0.04 * np.pi) * 0.88], [-0.4 * np.sin(0.04 * np.pi) * 0.88]], 0.05)
        ),
        "corners": rule(
            lambda at: near(
                float(np.abs(at(1.5, 1, angle=0.06, corners="fill")[0][0]) > np.abs(at(1.5, 1, angle=0.06, corners="crop")[0][0])), 1
            )
        ),
    },
    "refit": {
        "ratio": ratio_is,
        "how": rule(
            lambda at: (
                near(at(1, 1, 2, **{"ratio": 1, "how": "squash"}), [[2], [1]]),
                near(at(1, 1, 2, **{"ratio": 1, "how": "cover"}), [[1], [1]]),
                near(at(0, 1, 2, **{"ratio": 1, "how": "contain"}), [[0], [2]]),
            )
        ),
        "edge": up(opacity, "noise", "empty", "mirror", ratio=1, how="contain"),
    },
    "turn": {
        "angle": rule(turn_of),
        "quarters": rule(lambda at: near(at(0.5, 0.2, 1, quarters=1), [[0.2], [-0.5]])),
        "flip_x": rule(lambda at: near(at(0.5, 0.2, flip_x=True), [[-0.5], [0.2]])),
        "flip_y": rule(lambda at: near(at(0.5, 0.2, flip_y=True), [[0.5], [-0.2]])),
        "edge": edges({"angle": 0.1}),
    },
    "wrap-shift": {"across": up(bright_x, "middle", -0.2, 0.2, 0.3), "down": up(bright_y, "middle", -0.2, 0.2, 0.3)},
    "keep-only": {},
    "close-seam": {
        "method": both(
            plain("none", "step", level_off=False),
            best("step", base={"width": 0.3, "level_off": False}, none=lambda p: float(np.abs(p[:, 0, 0] - p[:, -1, 0]).mean())),
        ),
        "level_off": down(mismatch, "slant", False, True, 0.005, method="none", width=0.3),
        "width": up(changed("step"), "step", 0.02, 0.4, method="crossfade"),
        "along": up(part(fine, **{"rows": (0.6, 1)}), "noise", "edges", "ray", -1, method="crossfade"),
        "x": up(changed_x("noise"), "noise", -0.6, 0.6, 0.05, **ONE_RAY),
        "y": up(changed_y("noise"), "noise", -0.3, 0.3, 0.02, **{**ONE_RAY, "ray": 0.25}),
        "ray": up(changed_y("noise"), "noise", 0, 0.5, 0.2, **ONE_RAY),
        "pulls": up(changed("noise"), "noise", [], [[0.5, 0.8]], -1, method="cut", width=0.4),
    },
    "touch-up": {"strokes": both(plain([]), up(part(channel(0), cols=(0.6, 0.75), rows=(0.4, 0.6)), "grey", [], [BLOT], 0.3))},
    "centre": {
        "method": up(changed("noise"), "noise", "soften", "fill", radius=0.6, angular=0.01, radial=0.01),
        "radius": up(changed("noise"), "noise", 0.1, 0.9, method="fill"),
        "soft": down(changed("noise"), "noise", 0, 1, method="fill", radius=0.8),
        "angular": down(fine, "noise", 0, 1, method="soften", radius=1),
        "radial": down(fine, "noise", 0, 1, method="soften", radius=1, angular=0),
        "x": up(changed_x("noise"), "noise", -0.6, 0.6, 0.2, method="fill", radius=0.4),
        "y": up(changed_y("noise"), "noise", -0.4, 0.4, 0.2, method="fill", radius=0.4),
    },
    "rim": {
        "x": up(kept_x("noise"), "noise", -0.5, 0.5, 0.1, radius=0.4, width=0.05),
        "y": up(kept_y("noise"), "noise", -0.4, 0.4, 0.1, radius=0.4, width=0.05),
        "radius": up(kept("noise"), "noise", 0.2, 1.2, 0.2),
        "width": down(changed("noise"), "noise", 0, 2, radius=0.4),
        "into": best(
            "noise",
            base={"radius": 0.4, "width": 0.2, "colour": "#000000", "outer": "#ffffff"},
            nothing=less(opacity),
            gradient=part(light, rows=(0, 0.1), cols=(0, 0.1)),
            sky=fine,
        ),
        "outer": up(part(light, rows=(0, 0.1), cols=(0, 0.1)), "noise", "#000000", "#ffffff", 0.3, into="gradient", radius=0.3, width=0.3),
        "colour": up(part(light, rows=(0, 0.1), cols=(0, 0.1)), "noise", "#000000", "#ffffff", 0.3, radius=0.3, width=0.3),
        "band": down(
            lambda p: float(np.abs(p - made("rim", "noise", into="sky", radius=0.4, band=0.03)).mean() < 1e-4),
            "noise",
            0.03,
            0.8,
            0.5,
            into="sky",
            radius=0.4,
        ),
        "border": best("grey", base={"radius": 0.5, "width": 0.1, "into": "nothing"}, glow=light, dark=less(light)),
    },
    "trim": {
        "by": up(lambda p: float(np.abs(p - made("trim", "cut", by="crop")).mean()), "cut", "crop", "fill", 0.002),
        "more": up(lambda p: float(np.abs(p - made("trim", "cut", more=0)).mean()), "cut", 0, 0.15, 0.002),
    },
}
