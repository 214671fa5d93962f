"""Rows of kinds that bend."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from .checks import (
    Rows,
    best,
    both,
    bright_area,
    bright_x,
    bright_y,
    centre,
    changed,
    down,
    drawn,
    edges,
    fine,
    greenness,
    less,
    light,
    lights,
    made,
    near,
    opacity,
    plain,
    rule,
    still_beyond,
    up,
)

CENTRE: Rows = {"x": centre(), "y": centre()}
RAY = 0.25
"""To the right."""
WAVES = {"height": 0.2, "length": 0.5}
SPIRAL = {"ground": False, "follow": False, "arms": 1, "per_turn": 6, "turns": 2, "size": 0.3, "growth": 2}
ONE_COPY = {**SPIRAL, "turns": 0.1, "per_turn": 1, "reach": 0.6, "size": 0.2}


def ratio_is(kind: str, name: str) -> None:
    for value in (0.5, 2.0):
        rows, cols = made(kind, **{name: value}).shape[:2]
        assert cols / rows == pytest.approx(value, rel=0.05)


def fold_of(at: Any) -> None:
    """In the hole the inner side goes to and fro in place of one line."""
    near(np.clip(at(0, -0.2, hole=0.4, fold=0)[1], -1, 1), [1], 0.01)
    assert at(0, -0.2, hole=0.4, fold=0.5)[1][0] < 0.9


def count_of_copies(kind: str, name: str) -> None:
    """Bright discs on nothing, counted."""
    import cv2

    for value in (2, 4):
        base = {"arms": 1, "per_turn": 1, "turns": 1, "growth": 1.01, "size": 0.12, "ground": False, "follow": False, "reach": 0.7}
        seen = made(kind, "middle", **(base | {name: value}))
        number, _ = cv2.connectedComponents((seen[..., 3] > 0.5).astype(np.uint8))
        assert number - 1 in (value, value + 1), f"{kind}.{name}: {number - 1} for {value}"


ROWS_OF: dict[str, Rows] = {
    "ring": {
        "inside": rule(lambda at: (near(at(0, -1, inside="bottom")[1], [-1]), near(at(0, -1, inside="top")[1], [1]))),
        "spread": rule(
            lambda at: (
                near(at(0, -0.5, spread="even")[1], [0]),
                near(at(0, -0.5, spread="shape")[1], [1 - 2 * (1 + 1.5 * np.log(0.5) / (2 * np.pi))]),
                near(at(0, -0.5, spread="depth", hole=0.1)[1], [1 - 2 * (10 - 2) / 9]),
                near(at(0, -0.5, spread="globe")[1], [1 - 2 * (2 * np.arctan(0.5) / np.pi)]),
            )
        ),
        "hole": rule(lambda at: near(at(0, -0.5, hole=0.5)[1], [1])),
        "reach": rule(lambda at: near(at(0, -0.5, reach=0.5)[1], [-1])),
        "seam": rule(lambda at: (near(at(0.5, 0.001, seam=RAY)[0], [-1.5], 0.02), near(at(-0.5, 0, seam=RAY)[0], [0], 0.02))),
        "fold": rule(fold_of),
        "amount": both(
            rule(lambda at: near(at(0.3, 0.2, 1, amount=0), [[0.3], [0.2]])), rule(lambda at: near(at(0, -0.5, amount=1)[1], [0]))
        ),
        "x": centre(moves_input=False),
        "y": centre(moves_input=False),
        "ratio": ratio_is,
        "edge": down(opacity, "noise", "stretch", "empty", 0.05, reach=0.6),
    },
    "unring": {
        "inside": rule(lambda at: near(np.hypot(*at(0, 0.999, 1, inside="bottom")), [0], 0.01)),
        "spread": rule(
            lambda at: (
                near(np.hypot(*at(0, 0, 1, spread="even")), [0.5], 0.01),
                near(np.hypot(*at(0, 0, 1, spread="depth", hole=0.1)), [2 / 11], 0.01),
            )
        ),
        "hole": rule(lambda at: near(np.hypot(*at(0, 0.999, 1, hole=0.4)), [0.4], 0.01)),
        "reach": rule(lambda at: near(np.hypot(*at(0, -1, 1, reach=0.6)), [0.6], 0.01)),
        "seam": rule(lambda at: near(at(-1.999, -1, 1, seam=RAY), [[1], [0]], 0.02)),
        "x": centre(moves_output=False),
        "y": centre(moves_output=False),
        "ratio": ratio_is,
        "edge": down(opacity, "noise", "stretch", "empty", 0.02, reach=2),
    },
    "twirl": {
        **CENTRE,
        "reach": still_beyond(),
        "turns": rule(lambda at: near(at(0.5, 0, turns=0.25, fall="even"), [[0], [-0.5]], 0.01)),
        "fall": rule(
            lambda at: (
                None,
                near(at(0.5, 0, turns=0.25, fall="soft"), [[0.5 * np.cos(np.pi / 8)], [-0.5 * np.sin(np.pi / 8)]], 0.01),
                near(at(1.5, 0, turns=0.25, fall="even"), [[1.5], [0]]),
                near(np.hypot(*at(1.5, 0, turns=0.25, fall="log")), [1.5], 0.01),
                near(float(at(1.5, 0, turns=0.25, fall="log")[1][0] > 0.1), 1),
            )
        ),
        "edge": edges({"turns": 0.12, "reach": 2, "fall": "even"}),
    },
    "pinch": {
        **CENTRE,
        "reach": still_beyond(),
        "amount": rule(
            lambda at: (near(float(at(0.5, 0, amount=0.5)[0][0] > 0.52), 1), near(float(at(0.5, 0, amount=-0.5)[0][0] < 0.48), 1))
        ),
        "edge": edges({"x": 1.2, "y": 0.4, "amount": 1, "reach": 1.5}),
    },
    "wave": {
        "heading": rule(
            lambda at: (near(at(0.125, 0.3, **WAVES, heading=0)[0], [0.125]), near(at(0.1, 0.125, **WAVES, heading=0.25)[1], [0.125]))
        ),
        "length": rule(lambda at: near(at([0, 0.25], [0, 0], heading=0, height=0.2, length=0.25)[1], [0, 0], 0.01)),
        "height": rule(
            lambda at: near(
                np.abs(np.stack(at(np.linspace(-1, 1, 400), np.zeros(400), heading=0, length=0.5, height=0.3))[1]).max(), 0.3, 0.01
            )
        ),
        "number": up(lambda p: float(np.abs(p - made("wave", "noise", number=1, **WAVES)).mean()), "noise", 1, 4, 0.01, **WAVES),
        "variety": both(
            rule(
                lambda at: near(
                    at(0.1, 0.2, number=3, variety=0, **WAVES, seed=1)[1], at(0.1, 0.2, number=3, variety=0, **WAVES, seed=1)[1]
                )
            ),
            up(
                lambda p: float(np.abs(p - made("wave", "noise", number=3, variety=0, **WAVES)).mean()),
                "noise",
                0,
                1,
                0.01,
                number=3,
                **WAVES,
            ),
        ),
        "form": rule(
            lambda at: (
                near(np.abs(at(0.0625, 0, heading=0, **WAVES, form="round")[1]), [0.2 * np.sin(np.pi / 4)], 0.01),
                near(np.abs(at(0.0625, 0, heading=0, **WAVES, form="pointed")[1]), [0.1], 0.01),
                near(np.abs(at(0.0625, 0, heading=0, **WAVES, form="stepped")[1]), [0.2], 0.01),
            )
        ),
        "cross": rule(
            lambda at: (
                near(at(0.3, 0.1, heading=0, **WAVES, cross=0)[0], [0.3]),
                near(float(abs(at(0.3, 0.1, heading=0, **WAVES, cross=1)[0][0] - 0.3) > 0.05), 1),
            )
        ),
        "phase": rule(lambda at: near(at(0.1, 0, heading=0, **WAVES, phase=0.25)[1], at(0.225, 0, heading=0, **WAVES)[1], 0.01)),
        "seed": drawn(number=3, **WAVES),
        "edge": edges({"height": 0.5, "length": 1, "heading": 0.25}),
    },
    "ripple": {
        **CENTRE,
        "reach": still_beyond(),
        "length": rule(lambda at: near(np.hypot(*at(0.4, 0, length=0.4, height=0.05, reach=6)), [0.4], 0.01)),
        "height": rule(
            lambda at: near(
                np.abs(at(np.linspace(0.05, 0.5, 300), np.zeros(300), height=0.1, reach=6)[0] - np.linspace(0.05, 0.5, 300)).max(),
                0.1,
                0.02,
            )
        ),
        "form": up(
            lambda p: float(np.abs(p - made("ripple", "noise", form="round", height=0.1)).mean()),
            "noise",
            "round",
            "stepped",
            0.005,
            height=0.1,
        ),
        "phase": rule(lambda at: near(at(0.4, 0, phase=0.25, reach=6)[0] - 0.4, at(0.35, 0, reach=6)[0] - 0.35, 0.01)),
        "edge": edges({"height": 0.6, "reach": 5, "length": 1.2}),
    },
    "row-bend": {
        "lines": rule(lambda at: (near(at(0.2, -0.3, lines="rows")[1], [-0.3]), near(at(0.2, -0.3, lines="columns")[0], [0.2]))),
        "curve": rule(lambda at: near(at(0.2, 0, curve=((0, 0.3), (1, 0.3))), [[-0.1], [0]])),
        "smooth": rule(lambda at: near(at(0, -0.5, curve=((0, 0), (0.5, 0.4), (1, 0)), smooth=False)[0], [-0.2], 0.01)),
        "amount": rule(lambda at: near(at(0, 0, curve=((0, 0.3), (1, 0.3)), amount=-2)[0], [0.6])),
        "edge": edges({"curve": [[0, 0.5], [1, 0.5]]}),
    },
    "kaleidoscope": {
        "sectors": rule(
            lambda at: (lambda a, b: near(a, b, 0.01))(
                at(0.5 * np.sin(0.3), -0.5 * np.cos(0.3), sectors=5),
                at(0.5 * np.sin(0.3 + 2 * np.pi / 5), -0.5 * np.cos(0.3 + 2 * np.pi / 5), sectors=5),
            )
        ),
        **CENTRE,
        "angle": rule(lambda at: near(at(0.5, 0, angle=RAY), [[0.5], [0]], 0.01)),
        "seek": up(bright_area, "spot", False, True, 0.005, sectors=12),
        "mirrored": rule(
            lambda at: (lambda a, b: near(a, b, 0.01))(
                at(0.5 * np.sin(0.2), -0.5 * np.cos(0.2)), at(-0.5 * np.sin(0.2), -0.5 * np.cos(0.2))
            )
        ),
        "edge": edges({"x": 1.2, "y": 0.6, "angle": 0.3}),
    },
    "lens": {
        "form": rule(
            lambda at: (
                near(float(at(0.5, 0, form="barrel", cover=False)[0][0] < 0.499), 1),
                near(float(at(0.5, 0, form="pincushion", cover=False)[0][0] > 0.501), 1),
                near(float(abs(at(0.5, 0, form="fisheye", cover=False)[0][0] - at(0.5, 0, form="barrel", cover=False)[0][0]) > 0.005), 1),
            )
        ),
        "amount": both(
            rule(lambda at: near(at(0.5, 0.2, amount=0, cover=False), [[0.5], [0.2]])),
            rule(lambda at: near(float(at(0.5, 0, amount=1, cover=False)[0][0] < at(0.5, 0, amount=0.3, cover=False)[0][0]), 1)),
        ),
        "x": centre(cover=False),
        "y": centre(cover=False),
        "reach": rule(lambda at: near(at(0.6, 0, reach=0.6, cover=False), [[0.6], [0]])),
        "only": rule(
            lambda at: (
                near(at(0.9, 0, reach=0.6, only=True, cover=False), [[0.9], [0]]),
                near(float(abs(at(0.9, 0, reach=0.6, cover=False)[0][0] - 0.9) > 0.01), 1),
            )
        ),
        "cover": up(lambda p: float(p[..., 3].min()), "noise", False, True, 0.5, edge="empty", form="barrel", amount=1),
        "edge": edges({"cover": False, "amount": 1}),
    },
    "droste": {
        "x": centre(),
        "y": centre(),
        "reach": rule(lambda at: near(float(np.hypot(*at(1.9, 0, winding=0, reach=0.8))[0] <= 0.801), 1)),
        "inner": rule(lambda at: near(at(0.2, 0, winding=0, inner=0.25), at(0.8, 0, winding=0, inner=0.25), 0.01)),
        "winding": rule(lambda at: near(float(abs(at(0.4, 0.3, winding=1)[0][0] - at(0.4, 0.3, winding=0)[0][0]) > 0.01), 1)),
        "mirrored": rule(
            lambda at: near(
                float(
                    abs(np.hypot(*at(0.2, 0, winding=0, inner=0.25, mirrored=True))[0] - np.hypot(*at(0.2, 0, winding=0, inner=0.25))[0])
                    > 0.1
                ),
                1,
            )
        ),
        "turn": rule(lambda at: near(at(0.5, 0, winding=0, turn=0.25), np.array(at(0, -0.5, winding=0, turn=0)), 0.01)),
        "edge": down(opacity, "noise", "mirror", "empty", 0.005, reach=2),
    },
    "place": {
        "x": rule(lambda at: near(at(0.5, 0, x=0.2), [[0.3], [0]])),
        "y": rule(lambda at: near(at(0, 0.5, y=0.2), [[0], [0.3]])),
        "scale": rule(lambda at: near(at(0.5, 0.2, scale=2), [[0.25], [0.1]])),
        "turn": rule(lambda at: near(at(0.5, 0, turn=0.25), [[0], [-0.5]])),
        "shear": rule(lambda at: near(float(at(0, -0.5, shear=0.5)[0][0] < -0.1), 1)),
        "corners": rule(lambda at: near(at(-1.2, -0.9, corners=((0.3, 0.1), (0, 0), (0, 0), (0, 0))), [[-1.5], [-1]], 0.01)),
        "edge": edges({"x": 0.5}),
    },
    "displace": {
        "along": up(lambda p: float(np.abs(p - made("displace", "noise", along="heading")).mean()), "noise", "heading", "slope", 0.005),
        "by": up(lambda p: float(np.abs(p - made("displace", "noise")).mean()), "noise", None, "low", 0.005, under="second"),
        "heading": up(bright_y, "spot", 0, 0.5, 0.02, amount=0.5, softness=0.2, middle=0),
        "amount": both(plain(0), up(changed("noise"), "noise", 0, 1)),
        "softness": down(fine, "noise", 0.005, 0.5, amount=1),
        "middle": down(bright_x, "spot", 0, 1, 0.005, amount=0.5, heading=0.25, softness=0.2),
        "edge": edges({"amount": 1, "softness": 0.2, "heading": 0.25, "middle": 0}),
    },
    "map": {
        "by": up(lambda p: float(np.abs(p - made("map", "hues")).mean()), "hues", None, "low", 0.005, under="second"),
        "amount": both(plain(0, "hues", coverage=False), up(changed("hues"), "hues", 0, 1, coverage=False)),
        "coverage": down(opacity, "hues", False, True, 0.05, by="low", under="second"),
        "edge": down(opacity, "noise", "mirror", "empty", -0.001, amount=2, coverage=False),
    },
    "formula": {
        "system": rule(
            lambda at: (
                near(at(0.3, 0.4, first="x", second="y", system="flat"), [[0.3], [0.4]]),
                near(np.hypot(*at(0.3, 0.4, first="2 * rad", second="ang", system="polar")), [1], 0.01),
            )
        ),
        "first": rule(lambda at: near(at(0.3, 0.4, first="x + 0.5", second="y"), [[0.8], [0.4]])),
        "second": rule(lambda at: near(at(0.3, 0.4, first="x", second="y - 0.5"), [[0.3], [-0.1]])),
        "knobs": rule(
            lambda at: near(at(0.3, 0.4, first="x * k", second="y", knobs={"k": {"value": 2, "low": 0, "high": 3}}), [[0.6], [0.4]])
        ),
        "x": rule(lambda at: near(at(0.5, 0, first="0", second="0", x=0.3), [[0.3], [0]])),
        "y": rule(lambda at: near(at(0.5, 0, first="0", second="0", y=0.3), [[0], [0.3]])),
        "reach": rule(lambda at: near(at(0.4, 0, first="1", second="0", reach=0.5), [[0.5], [0]])),
        "ray": rule(lambda at: near(at(0, -0.5, first="0.5", second="0", system="polar", ray=RAY), [[0.5], [0]], 0.01)),
        "fold": rule(
            lambda at: near(
                at(0.3, -0.4, first="rad", second="ang * 0", system="polar", fold=True),
                at(-0.3, -0.4, first="rad", second="ang * 0", system="polar", fold=True),
                0.01,
            )
        ),
        "edge": edges({"first": "x - 0.6", "second": "y"}),
    },
    "spiral-repeat": {
        "dim": down(light, "grey", 0, 0.8, 0.05, **{**SPIRAL, "ground": True}),
        "x": up(lambda p: bright_x(p * p[..., 3:]), "middle", -0.5, 0.5, 0.2, **{**SPIRAL, "reach": 0.4}),
        "y": up(lambda p: bright_y(p * p[..., 3:]), "middle", -0.3, 0.3, 0.2, **{**SPIRAL, "reach": 0.4}),
        "reach": down(lambda p: bright_y(p * p[..., 3:]), "middle", 0.2, 0.7, 0.05, **{k: v for k, v in ONE_COPY.items() if k != "reach"}),
        "start": up(lambda p: bright_y(p), "middle", 0, 0.5, 0.3, **ONE_COPY),
        "arms": count_of_copies,
        "per_turn": count_of_copies,
        "turns": up(opacity, "grey", 0.5, 2, 0.01, **{k: v for k, v in SPIRAL.items() if k != "turns"}),
        "growth": down(opacity, "grey", 1.2, 6, 0.005, **{k: v for k, v in SPIRAL.items() if k != "growth"}),
        "clockwise": up(bright_x, "middle", False, True, 0.1, **{**SPIRAL, "per_turn": 4, "turns": 0.5, "size": 0.15}),
        "size": up(opacity, "grey", 0.1, 0.6, 0.03, **{k: v for k, v in SPIRAL.items() if k != "size"}),
        "follow": up(
            lambda p: float(np.abs(p - made("spiral-repeat", "step", **SPIRAL)).mean()),
            "step",
            False,
            True,
            0.003,
            **{k: v for k, v in SPIRAL.items() if k != "follow"},
        ),
        "twist": up(lambda p: float(np.abs(p - made("spiral-repeat", "step", **SPIRAL)).mean()), "step", 0, 0.3, 0.003, **SPIRAL),
        "hue": up(greenness, "red", -0.3, 0.3, 0.01, **SPIRAL),
        "light": up(light, "grey", -0.6, 0.6, 0.01, **SPIRAL),
        "chance_hue": up(lambda p: float(p[..., 1].max() - p[..., 1][p[..., 3] > 0.9].min()), "red", 0, 1, 0.02, **SPIRAL),
        "chance_light": up(lambda p: float(lights(p)[p[..., 3] > 0.99].std()), "grey", 0, 1, 0.01, **SPIRAL),
        "chance_size": up(lambda p: float(np.abs(p - made("spiral-repeat", "grey", **SPIRAL)).mean()), "grey", 0, 1, 0.003, **SPIRAL),
        "chance_turn": up(lambda p: float(np.abs(p - made("spiral-repeat", "step", **SPIRAL)).mean()), "step", 0, 1, 0.003, **SPIRAL),
        "seed": drawn("step", **SPIRAL, chance_turn=1),
        "cut": best("grey", base=SPIRAL, whole=opacity, soft=less(opacity)),
        "on_top": up(
            lambda p: float(np.abs(p - made("spiral-repeat", "ramp", **{**SPIRAL, "size": 0.9}, on_top="inner")).mean()),
            "ramp",
            "inner",
            "outer",
            0.003,
            **{**SPIRAL, "size": 0.9},
        ),
        "ground": up(opacity, "grey", False, True, 0.2, **{k: v for k, v in SPIRAL.items() if k != "ground"}),
    },
}
