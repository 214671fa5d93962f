"""Rows of kinds that finish."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from .checks import (
    FOOT,
    LEFT,
    RIGHT,
    TOP,
    Check,
    Rows,
    best,
    both,
    bright_area,
    bright_x,
    bright_y,
    changed,
    channel,
    down,
    drawn,
    fine,
    fine_across,
    fine_down,
    greenness,
    less,
    light,
    lights,
    made,
    opacity,
    part,
    plain,
    saturation,
    share_light,
    spread,
    steps,
    up,
    warmth,
)

FINE_LINE = {"by": "line", "clear_x": -0.5, "dense_x": 0.5, "clear_y": 0, "dense_y": 0, "density": 1, "banks": 0, "colour": "#ffffff"}
FOG = {"density": 1, "banks": 0, "colour": "#ffffff", "clear": -1, "dense": 1}
RADIAL = {**FOG, "by": "radius", "clear": 0.2, "dense": 0.8}
LAMP = {"inside": 1, "outside": -3, "reach": 0.5, "soft": 0.2}
SIDE = {**LAMP, "form": "side"}
GROUND_SHADOW = {"form": "ground", "length": 0.6, "dark": 1, "colour": "#ff0000"}
BEHIND = {"form": "behind", "distance": 0.3, "soft": 0.01, "dark": 1, "colour": "#ff0000"}


def shows(picture: str, measure: Any, want: Any, /, **base: Any) -> Check:
    """With these settings, what is measured is so much (within a twentieth)."""

    def check(kind: str, name: str) -> None:
        for value, expected in want.items():
            assert measure(made(kind, picture, **(base | {name: value}))) == pytest.approx(expected, rel=0.05, abs=0.01), (
                f"{kind}.{name}={value}"
            )

    return check


ROWS_OF: dict[str, Rows] = {
    "tone": {
        "black": down(light, "ramp", 0, 0.6, 0.1),
        "white": down(light, "ramp", 0.4, 1, 0.1),
        "gamma": up(light, "ramp", 0.4, 2.5, 0.1),
        "brightness": shows("grey", light, {-0.3: 0.2, 0: 0.5, 0.3: 0.8}),
        "contrast": up(spread, "ramp", -0.5, 0.5, 0.05),
    },
    "curves": {
        "all": shows("grey", light, {((0, 0), (0.5, 0.8), (1, 1)): 0.8}),
        "red": shows("grey", channel(0), {((0, 0), (0.5, 0.8), (1, 1)): 0.8}),
        "green": shows("grey", channel(1), {((0, 0), (0.5, 0.8), (1, 1)): 0.8}),
        "blue": shows("grey", channel(2), {((0, 0), (0.5, 0.8), (1, 1)): 0.8}),
        "light": both(
            shows("grey", light, {((0, 0), (0.5, 0.8), (1, 1)): 0.8}),
            up(saturation, "red", ((0, 0), (1, 1)), ((0, 0), (0.35, 0.4), (1, 1)), -0.1),
        ),
    },
    "colour": {
        "hue": up(greenness, "red", 0, 1 / 3, 0.3),
        "saturation": both(shows("red", saturation, {-1: 0, 0: 0.6}), up(saturation, "red", 0, 0.3, 0.02)),
        "vividness": both(up(saturation, "dull", 0, 1, 0.02)),
        "warmth": up(warmth, "grey", -1, 1, 0.05),
        "grey": shows("red", saturation, {0: 0.6, 1: 0}),
        "grey_red": up(lambda p: light(p), "red", -1, 1, 0.05, grey=1),
        "grey_yellow": up(lambda p: float(lights(p)[:, 20:28].mean()), "hues", -1, 1, 0.05, grey=1),
        "grey_green": up(lambda p: float(lights(p)[:, 44:52].mean()), "hues", -1, 1, 0.05, grey=1),
        "grey_cyan": up(lambda p: float(lights(p)[:, 68:76].mean()), "hues", -1, 1, 0.05, grey=1),
        "grey_blue": up(lambda p: float(lights(p)[:, 92:100].mean()), "hues", -1, 1, 0.05, grey=1),
        "grey_magenta": up(lambda p: float(lights(p)[:, 116:124].mean()), "hues", -1, 1, 0.05, grey=1),
    },
    "tint": {
        "dark": up(part(warmth, cols=(0, 0.4)), "ramp", "#0000ff", "#ff0000", 0.05),
        "light": up(part(warmth, cols=(0.6, 1)), "ramp", "#0000ff", "#ff0000", 0.05),
        "dark_share": up(
            lambda p: part(saturation, cols=(0.05, 0.3))(p) - part(saturation, cols=(0.7, 0.95))(p), "ramp", 0, 1, 0.02, light_share=0
        ),
        "light_share": up(
            lambda p: part(saturation, cols=(0.7, 0.95))(p) - part(saturation, cols=(0.05, 0.3))(p), "ramp", 0, 1, 0.02, dark_share=0
        ),
        "balance": down(lambda p: warmth(p), "ramp", 0.2, 0.8, 0.02, dark="#0000ff", light="#ff0000", dark_share=1, light_share=1),
    },
    "gradient-map": {
        "stops": up(
            warmth,
            "grey",
            [{"at": 0, "colour": "#0000ff"}, {"at": 1, "colour": "#0000ff"}],
            [{"at": 0, "colour": "#ff0000"}, {"at": 1, "colour": "#ff0000"}],
            1.5,
        ),
        "dither": up(fine, "grey", 0, 1, 0.001),
    },
    "light": {
        "form": up(
            part(lambda p: part(light, cols=(0, 1), rows=(0, 0.2))(p) - light(p)),
            "grey",
            "round",
            "side",
            0.01,
            **{k: v for k, v in LAMP.items() if k != "form"},
        ),
        "x": up(bright_x, "grey", -0.6, 0.6, 0.2, **LAMP),
        "y": up(bright_y, "grey", -0.5, 0.5, 0.2, **LAMP),
        "turn": up(bright_y, "grey", 0, 0.5, 0.2, **SIDE),
        "reach": up(bright_area, "grey", 0.2, 0.9, 0.1, **{k: v for k, v in LAMP.items() if k != "reach"}),
        "squash": up(
            lambda p: (
                float(np.ptp(np.flatnonzero((lights(p) > 0.4).any(axis=1)))) - float(np.ptp(np.flatnonzero((lights(p) > 0.4).any(axis=0))))
            ),
            "grey",
            0.4,
            2.5,
            10,
            **LAMP,
        ),
        "soft": down(
            lambda p: float(np.abs(np.diff(lights(p), axis=1)).max()),
            "grey",
            0.05,
            1,
            0.02,
            **{k: v for k, v in LAMP.items() if k != "soft"},
        ),
        "inside": up(
            part(light, rows=(0.45, 0.55), cols=(0.45, 0.55)), "grey", -2, 2, 0.1, **{k: v for k, v in LAMP.items() if k != "inside"}
        ),
        "outside": up(part(light, rows=(0, 0.1), cols=(0, 0.1)), "grey", -4, 1, 0.1, **{k: v for k, v in LAMP.items() if k != "outside"}),
        "warmth": up(part(warmth, rows=(0.45, 0.55), cols=(0.45, 0.55)), "grey", -1, 1, 0.05, **LAMP),
        "shade_warmth": up(part(warmth, rows=(0, 0.1), cols=(0, 0.1)), "grey", -1, 1, 0.02, **{**LAMP, "outside": -1}),
    },
    "fog": {
        "by": up(lambda p: float(np.abs(p - made("fog", "dark", **FOG)).mean()), "dark", "height", "radius", 0.02, **FOG),
        "colour": up(light, "dark", "#000000", "#ffffff", 0.2, **{k: v for k, v in FOG.items() if k != "colour"}),
        "density": both(
            plain(0, "dark", **{k: v for k, v in FOG.items() if k != "density"}),
            up(light, "dark", 0, 1, 0.1, **{k: v for k, v in FOG.items() if k != "density"}),
        ),
        "clear": down(light, "dark", -1, 0.5, 0.05, **{k: v for k, v in FOG.items() if k != "clear"}),
        "dense": down(light, "dark", 0, 3, 0.05, **{k: v for k, v in FOG.items() if k != "dense"}),
        "x": up(lambda p: part(light, **LEFT)(p) - part(light, **RIGHT)(p), "dark", -0.5, 0.5, 0.05, **RADIAL),
        "y": up(lambda p: part(light, **TOP)(p) - part(light, **FOOT)(p), "dark", -0.5, 0.5, 0.05, **RADIAL),
        "clear_x": down(light, "dark", -1.4, 0.3, 0.05, **{k: v for k, v in FINE_LINE.items() if k != "clear_x"}),
        "clear_y": up(
            lambda p: float(np.abs(p - made("fog", "dark", **FINE_LINE)).mean()),
            "dark",
            0,
            0.8,
            0.02,
            **{k: v for k, v in FINE_LINE.items() if k != "clear_y"},
        ),
        "dense_x": down(light, "dark", 0, 1.4, 0.05, **{k: v for k, v in FINE_LINE.items() if k != "dense_x"}),
        "dense_y": up(
            lambda p: float(np.abs(p - made("fog", "dark", **FINE_LINE)).mean()),
            "dark",
            0,
            0.8,
            0.02,
            **{k: v for k, v in FINE_LINE.items() if k != "dense_y"},
        ),
        "banks": up(fine_across, "dark", 0, 1, 0.001, **{k: v for k, v in FOG.items() if k != "banks"}),
        "size": down(fine_across, "dark", 0.1, 2, 0.001, **{**FOG, "banks": 1}),
        "seed": drawn("dark", **{**FOG, "banks": 1}),
    },
    "blur": {
        "radius": both(plain(0), down(fine, "noise", 0, 0.2, 0.01)),
        "across": both(down(fine_across, "columns", 0, 1, 0.05, radius=0.03), plain(0, "columns")),
        "down": both(down(fine_down, "rows", 0, 1, 0.05, radius=0.03), plain(0, "rows")),
    },
    "zoom-blur": {
        "x": up(lambda p: part(fine, cols=(0.7, 1))(p) - part(fine, cols=(0, 0.3))(p), "noise", -1, 1, 0.005, amount=0.5),
        "y": up(lambda p: part(fine, rows=(0.7, 1))(p) - part(fine, rows=(0, 0.3))(p), "noise", -0.8, 0.8, 0.005, amount=0.5),
        "amount": both(plain(0), down(fine, "noise", 0, 0.8, 0.01)),
        "way": best(
            "middle",
            base={"amount": 0.6},
            outwards=lambda p: float((lights(p) > 0.15).mean()),
            inwards=less(lambda p: float((lights(p) > 0.15).mean())),
        ),
    },
    "wheel-blur": {
        "x": up(lambda p: part(fine, cols=(0.7, 1))(p) - part(fine, cols=(0, 0.3))(p), "noise", -1, 1, 0.003, turns=0.03),
        "y": up(lambda p: part(fine, rows=(0.7, 1))(p) - part(fine, rows=(0, 0.3))(p), "noise", -0.8, 0.8, 0.003, turns=0.03),
        "turns": both(plain(0), down(fine, "noise", 0, 0.3, 0.01)),
    },
    "sharpen": {
        "amount": both(plain(0), up(fine, "noise", 0, 3, 0.005, radius=0.02, threshold=0)),
        "radius": up(changed("noise"), "noise", 0.002, 0.1, 0.003, threshold=0),
        "threshold": down(changed("noise"), "noise", 0, 0.3, 0.003, radius=0.02),
        "halo": up(lambda p: float(lights(p).max()), "step", 0, 0.5, 0.01, amount=2, radius=0.03, threshold=0),
    },
    "brushwork": {
        "length": up(lambda p: float(np.abs(p - made("brushwork", "noise", length=0.01)).mean()), "noise", 0.01, 0.3, 0.01),
        "breadth": up(lambda p: float(np.abs(p - made("brushwork", "noise", breadth=0.02)).mean()), "noise", 0.02, 0.15, 0.003),
        "across": up(lambda p: float(np.abs(p - made("brushwork", "columns")).mean()), "columns", 0, 0.25, 0.01),
        "bristle": up(lambda p: float(np.abs(p - made("brushwork", "noise", bristle=0)).mean()), "noise", 0, 1, 0.005),
        "lines": up(lambda p: float(np.abs(p - made("brushwork", "noise")).mean()), "noise", 240, 300, 1e-4),
        "seed": drawn(bristle=1),
    },
    "threshold": {
        "level": shows("ramp", share_light, {0.25: 0.75, 0.5: 0.5, 0.75: 0.25}),
        "soft": up(steps, "ramp", 0, 0.4, 10),
        "dark": up(part(light, cols=(0, 0.4)), "ramp", "#000000", "#888888", 0.3),
        "light": up(part(light, cols=(0.6, 1)), "ramp", "#888888", "#ffffff", 0.3),
        "light_share": up(light, "ramp", 0.2, 0.8, 0.4),
        "lines": up(lambda p: float(np.abs(p - made("threshold", "noise")).mean()), "noise", 0, 60, 0.003),
    },
    "posterise": {
        "levels": shows("ramp", lambda p: float(len(np.unique(np.rint(p[..., 0] * 255)))), {2: 2, 4: 4, 8: 8}),
        "of": up(lambda p: float(len(np.unique(np.rint(p[..., :3].reshape(-1, 3) * 100), axis=0))), "hues", "channels", "light", 5),
        "fit": up(lambda p: float(np.abs(p - made("posterise", "noise", fit=False)).mean()), "noise", False, True, 0.003),
        "lines": up(lambda p: float(np.abs(p - made("posterise", "noise")).mean()), "noise", 0, 60, 0.003),
    },
    "belong": {
        "tone": down(light, "cut", 0, 1, 0.02, under="dark", colour=0, contrast=0, shade=0),
        "ground": up(warmth, "cut", "#0000ff", "#ff0000", 0.02, under="dark", tone=0, colour=1, contrast=0, shade=0),
        "colour": up(warmth, "cut", 0, 1, 0.01, under="red", tone=0, contrast=0, shade=0),
        "contrast": up(
            lambda p: float(np.abs(p - made("belong", "spot", under="grey", tone=0, colour=0, contrast=0, shade=0)).mean()),
            "spot",
            0,
            1,
            0.002,
            under="grey",
            tone=0,
            colour=0,
            shade=0,
        ),
        "near": up(
            lambda p: float(np.abs(p - made("belong", "cut", under="ramp", near=0.1, tone=1)).mean()),
            "cut",
            0.1,
            3,
            0.001,
            under="ramp",
            tone=1,
        ),
        "shade": down(light, "cut", 0, 1, 0.01, under="grey", tone=0, colour=0, contrast=0),
        "light": up(
            lambda p: part(light, cols=(0.6, 0.9))(p) - part(light, cols=(0.4, 0.6))(p),
            "cut",
            -0.25,
            0.25,
            0.005,
            under="grey",
            tone=0,
            colour=0,
            contrast=0,
            shade=1,
        ),
    },
    "shadow": {
        "form": best(
            "cut",
            base={"dark": 1, "distance": 0.2, "soft": 0.02},
            inner=less(light),
            none=lambda p: -float(np.abs(p - made("shadow", "cut", dark=0)).mean()),
        ),
        "heading": up(lambda p: part(opacity, rows=(0.8, 1))(p) - part(opacity, rows=(0, 0.3))(p), "cut", 0, 0.5, 0.02, **BEHIND),
        "length": up(opacity, "cut", 0, 1.5, 0.005, **{k: v for k, v in GROUND_SHADOW.items() if k != "length"}, heading=0.2),
        "feet": up(
            lambda p: float(np.abs(p - made("shadow", "cut", **GROUND_SHADOW, heading=0.2, feet=0.3)).mean()),
            "cut",
            0.3,
            0.8,
            0.003,
            **GROUND_SHADOW,
            heading=0.2,
        ),
        "fade": down(opacity, "cut", 0, 1, 0.001, **GROUND_SHADOW, heading=0),
        "distance": up(opacity, "cut", 0, 0.5, 0.02, **{k: v for k, v in BEHIND.items() if k != "distance"}, heading=0.75),
        "soft": up(
            lambda p: float(((p[..., 3] > 0.02) & (p[..., 3] < 0.98)).mean()),
            "cut",
            0,
            0.2,
            0.02,
            **{k: v for k, v in BEHIND.items() if k != "soft"},
            heading=0.75,
        ),
        "dark": both(
            plain(0, "cut", **{k: v for k, v in BEHIND.items() if k != "dark"}),
            up(opacity, "cut", 0, 1, 0.02, **{k: v for k, v in BEHIND.items() if k != "dark"}, heading=0.75),
        ),
        "colour": up(warmth, "cut", "#0000ff", "#ff0000", 0.02, **{k: v for k, v in BEHIND.items() if k != "colour"}, heading=0.75),
    },
}
