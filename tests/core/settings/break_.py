"""Rows of kinds that break."""

from __future__ import annotations

from typing import Any

import numpy as np

from .checks import (
    FOOT,
    LEFT,
    RIGHT,
    TOP,
    Rows,
    best,
    both,
    bright_area,
    bright_x,
    bright_y,
    changed,
    channel,
    crossings_down,
    down,
    drawn,
    edges,
    fine,
    fine_across,
    fine_down,
    greenness,
    less,
    level,
    light,
    lights,
    made,
    part,
    plain,
    saturation,
    spread,
    steps,
    up,
)

ONE_BAR = [{"top": 0.25, "height": 0.25, "drop": 0, "left": 0, "width": 1, "shift": 0.25, "stretch": 1, "locked": False}]
WIDE = {"pitch": 0.2, "softness": 0, "keep_light": 0, "bright": 0, "dark": 1}
LINES = {"pitch": 0.1, "softness": 0, "keep_light": 0, "bright": 0}
TUBE = {"pitch": 0.1, "keep_light": 0, "bloom": 0, "glass": 0}
CELLS = {"pitch": 0.25, "gap": 0.5, "keep_light": 0}
STREAMS = {"thin": 0, "wide": 3, "uneven": 0, "short": 0, "most": 0.03, "shift": 0.2}
TAPE_OFF = {"delay": 0, "bleed": 0, "soft": 0, "wobble": 0, "jitter": 0, "head": 0, "tear": 0, "drops": 0, "snow": 0}
CRUSH_OFF = {"bits": 8, "press": 0, "rows": 0}


def plate(index: int, sign: dict[str, Any] | None = None) -> Rows:
    """The settings of one plate, by its name: only it moves, and as far as is said."""
    n, name = index, ("red", "green", "blue")[index]

    def only(measure: Any) -> Any:
        return lambda p: measure(np.repeat(p[..., n : n + 1], 4, axis=2))

    def others_stay(kind: str, setting: str) -> None:
        value = {"blur": 0.3, "scale": 2}.get(setting.split("_")[1], 0.4)
        out, before = made(kind, "middle", **{setting: value}), made(kind, "middle")
        still = [k for k in range(3) if k != n]
        assert np.abs(out[..., still] - before[..., still]).max() < 0.01
        assert np.abs(out[..., n] - before[..., n]).mean() > 1e-3

    lean = part(bright_x, rows=(0, 0.45))
    rows = {
        "x": up(only(bright_x), "middle", -0.4, 0.4, 0.1),
        "y": up(only(bright_y), "middle", -0.4, 0.4, 0.1),
        "scale": up(only(bright_area), "middle", 0.5, 2, 0.03),
        "turn": up(only(part(bright_x, rows=(0, 0.5))), "spot", -0.1, 0.1, 0.01),
        "shear": up(only(lean), "middle", -0.6, 0.6, 0.01),
        "blur": down(only(fine), "middle", 0, 0.3),
    }
    return {f"{name}_{what}": both(check, others_stay) for what, check in rows.items()}


def tone_plate(name: str, picture: str) -> Rows:
    """The light, or the colour, moved alone."""
    base = {"plates": "light-colour"}

    def differs(kind: str, setting: str) -> None:
        what = setting.split("_")[1]
        value = {"blur": 0.3, "scale": 2, "turn": 0.1}.get(what, 0.4)
        out, before = (made(kind, picture, **base, **one) for one in ({setting: value}, {}))
        luma = np.abs(lights(out) - lights(before)).mean()
        colour = np.abs((out - lights(out)[..., None]) - (before - lights(before)[..., None]))[..., :3].mean()
        assert (colour > 2 * luma) if name == "colour" else (luma > 0.002), f"{kind}.{setting}"

    return {
        f"{name}_{what}": both(plain(1 if what == "scale" else 0, picture, 0.01, **base), differs)
        for what in ("x", "y", "scale", "turn", "shear", "blur")
    }


def fewer_values(kind: str, name: str) -> None:
    assert steps(made(kind, "ramp", **{name: 2, "press": 0, "rows": 0})) < steps(made(kind, "ramp", **{name: 5, "press": 0, "rows": 0}))


def line_at(p: Any) -> float:
    """Where the first dark line lies, as a share of the height of the first fifth, or of what is looked at."""
    dark = 0.5 - lights(p[: max(19, p.shape[0] // 5) if p.shape[0] > 40 else p.shape[0]]).mean(axis=1)
    return float((np.arange(len(dark)) * dark).sum() / dark.sum() / len(dark))


def colour_x(p: Any) -> float:
    """Where colour lies, across."""
    colour = (p[..., :3].max(axis=-1) - p[..., :3].min(axis=-1)).sum(axis=0)
    return float((np.arange(len(colour)) * colour).sum() / colour.sum() / len(colour))


ROWS_OF: dict[str, Rows] = {
    "channel-split": {
        "plates": up(
            lambda p: float(np.abs(p - made("channel-split", "hues", red_x=0.4)).mean()), "hues", "rgb", "light-colour", 0.005, red_x=0.4
        ),
        **plate(0),
        **plate(1),
        **plate(2),
        **tone_plate("light", "spot"),
        **tone_plate("colour", "noise"),
        "join": best("noise", base={"red_x": 0.3, "green_x": -0.3}, difference=less(light)),
        "edge": edges({"red_x": 0.6, "green_x": 0.6, "blue_x": 0.6}),
    },
    "ghosts": {
        "tints": up(channel(1), "middle", None, ["#00ff00", "#00ff00"], 0.003, depth=0, colour=0),
        "copies": up(lambda p: float(np.abs(p - made("ghosts", "middle", apart=0.6)).mean()), "middle", 2, 5, 0.003, apart=0.6),
        "apart": up(changed("middle"), "middle", 0, 1, 0.01),
        "heading": up(
            lambda p: float(bright_y(np.repeat(p[..., 0:1], 4, 2)) - bright_y(np.repeat(p[..., 1:2], 4, 2))),
            "middle",
            0.5,
            0,
            0.05,
            apart=0.5,
        ),
        "hue": up(
            lambda p: bright_x(np.repeat(p[..., 0:1], 4, 2)) - bright_x(np.repeat(p[..., 1:2], 4, 2)),
            "middle",
            0,
            1 / 3,
            0.05,
            apart=0.5,
            copies=3,
        ),
        "tint": up(saturation, "middle", 0, 1, 0.005, apart=0.5),
        "meet": best("noise", base={"apart": 0.3}, lighten=light, darken=less(light)),
        "grow": up(bright_area, "middle", -0.4, 0.4, 0.01, apart=0),
        "turn": both(plain(0, "spot", 0.03, apart=0, tint=0), up(changed("spot"), "spot", 0, 0.2, 0.002, apart=0)),
        "colour": up(lambda p: -changed("hues")(p), "hues", 0, 1, 0.005, apart=0.3),
        "depth": up(lambda p: -float(np.abs(lights(p) - lights(made("tone", "noise"))).mean()), "noise", 0, 1, 0.005, apart=0.3),
        "edge": edges({"apart": 1.5}, leaves_bare=False),
    },
    "slices": {
        "bars": both(plain([]), up(part(bright_x, rows=(0.3, 0.45)), "middle", [], ONE_BAR, 0.1)),
        "thin": up(changed("noise"), "noise", 0, 80, 0.01, wide=0),
        "wide": up(changed("noise"), "noise", 0, 20, 0.01, thin=0),
        "least": up(changed("noise"), "noise", 0.002, 0.1, 0.005, thin=10, wide=0, most=0.1),
        "most": up(changed("noise"), "noise", 0.005, 0.2, 0.005, thin=10, wide=0),
        "shift": both(plain(0), up(changed("ramp"), "ramp", 0.02, 0.6, 0.005)),
        "short": down(changed("noise"), "noise", 0, 1, 0.003, thin=20, wide=0),
        "uneven": up(
            lambda p: float(np.abs(p - made("slices", "noise", **STREAMS)).mean()),
            "noise",
            0,
            1,
            0.002,
            **{k: v for k, v in STREAMS.items() if k != "uneven"},
        ),
        "lean": up(lambda p: float(np.abs(p - made("slices", "noise", lean=0)).mean()), "noise", 0, 1, 0.002),
        "seed": drawn(),
    },
    "scan-lines": {
        "pitch": down(crossings_down, "grey", 0.05, 0.2, 2, **{k: v for k, v in LINES.items() if k != "pitch"}),
        "thickness": down(light, "grey", 0, 1, 0.05, **LINES),
        "softness": down(
            lambda p: float(np.abs(np.diff(lights(p), axis=0)).max()),
            "grey",
            0,
            1,
            0.01,
            **{k: v for k, v in LINES.items() if k != "softness"},
        ),
        "dark": both(plain(0, "grey", **LINES), down(light, "grey", 0, 1, 0.05, **LINES)),
        "bright": up(lambda p: float(lights(p).max()), "grey", 0, 1, 0.05, **{k: v for k, v in LINES.items() if k != "bright"}),
        "angle": up(
            lambda p: part(line_at, cols=(0.75, 1), rows=(0.4, 0.6))(p) - part(line_at, cols=(0, 0.25), rows=(0.4, 0.6))(p),
            "grey",
            -0.01,
            0.01,
            0.1,
            **WIDE,
        ),
        "offset": up(line_at, "grey", 0, 0.2, 0.1, **WIDE),
        "interlace": down(light, "step", -0.1, 0.1, 0.005, **{**LINES, "dark": 0}),
        "keep_light": up(light, "grey", 0, 1, 0.05, **{k: v for k, v in LINES.items() if k != "keep_light"}),
        "band": up(part(light, rows=(0.2, 0.4)), "grey", 0, 1, 0.02, **LINES),
        "band_at": up(lambda p: part(light, **FOOT)(p) - part(light, **TOP)(p), "grey", 0.1, 0.9, 0.02, **LINES, band=1),
        "band_height": up(light, "grey", 0.05, 1, 0.01, **LINES, band=1, band_at=0.5),
    },
    "pixel-sort": {
        "along": up(lambda p: float(np.abs(p - made("pixel-sort", "noise")).mean()), "noise", "heading", "outwards", 0.005),
        "heading": up(lambda p: part(light, **FOOT)(p) - part(light, **RIGHT)(p), "noise", 0.25, 0.5, 0.1),
        "x": up(lambda p: float(np.abs(p - made("pixel-sort", "noise", along="round")).mean()), "noise", 0, 0.6, 0.005, along="round"),
        "y": up(lambda p: float(np.abs(p - made("pixel-sort", "noise", along="round")).mean()), "noise", 0, 0.6, 0.005, along="round"),
        "key": up(lambda p: -fine_down(np.repeat(p[..., 0:1], 4, 2)), "noise", "light", "red", 0.001, heading=0.5),
        "low": down(changed("noise"), "noise", 0, 0.9, 0.01),
        "high": up(changed("noise"), "noise", 0.1, 1, 0.01),
        "order": up(part(light, **TOP), "noise", "rising", "falling", 0.1, heading=0.5),
        "shortest": down(changed("noise"), "noise", 0, 4, 0.01, low=0.4, high=0.6),
        "longest": up(lambda p: part(light, **FOOT)(p) - part(light, **TOP)(p), "noise", 0.05, 4, 0.05, heading=0.5),
        "jitter": up(fine_down, "noise", 0, 1, 0.005, heading=0.5),
        "breaks": up(lambda p: float(np.abs(p - made("pixel-sort", "noise")).mean()), "noise", 0, 0.8, 0.005),
        "lines": up(lambda p: float(np.abs(p - made("pixel-sort", "noise")).mean()), "noise", 96, 64, 0.002),
        "seed": drawn(jitter=0.5),
    },
    "melt": {
        "rounds": both(plain(0, "noise", 0.02), up(changed("noise"), "noise", 1, 20, 0.01)),
        "heading": up(bright_y, "spot", 0, 0.5, 0.005),
        "push": up(changed("noise"), "noise", 0, 0.1, 0.01),
        "key": up(lambda p: float(np.abs(p - made("melt", "noise")).mean()), "noise", "light", "red", 0.005),
        "threshold": down(changed("noise"), "noise", 0, 1, 0.01),
        "hold": down(changed("noise"), "noise", 0, 1, 0.01),
        "feed": up(greenness, "noise", None, "fed", 0.02, feed_from=1, feed_share=0.2),
        "feed_from": down(greenness, "noise", 1, 11, 0.02, feed="fed", feed_share=0.2),
        "feed_share": up(greenness, "noise", 0, 0.5, 0.02, feed="fed", feed_from=1),
        "feed_join": best("noise", base={"feed": "fed", "feed_from": 1, "feed_share": 0.3}, screen=light, difference=less(light)),
        "keys": up(lambda p: float(np.abs(p - made("melt", "noise")).mean()), "noise", [], [{"round": 3, "heading": 0}], 0.003),
        "lines": up(lambda p: float(np.abs(p - made("melt", "noise")).mean()), "noise", 96, 48, 0.001),
    },
    "mosaic": {
        "pitch": down(fine, "noise", 0.05, 0.5, 0.005),
        "gap": down(light, "grey", 0, 0.8, 0.05, **{k: v for k, v in CELLS.items() if k != "gap"}),
        "stretch": down(fine_across, "grey", 0.5, 2, 0.01, **CELLS),
        "offset": up(lambda p: float(np.abs(p - made("mosaic", "grey", **CELLS)).mean()), "grey", 0, 0.5, 0.02, **CELLS),
        "keep_light": up(light, "grey", 0, 1, 0.05, **{k: v for k, v in CELLS.items() if k != "keep_light"}),
    },
    "tube": {
        "mask": best(
            "grey", base={**TUBE, "depth": 1}, stripes=lambda p: fine_across(p) - 3 * level(p), bars=lambda p: level(p) - fine_across(p)
        ),
        "pitch": down(fine, "grey", 0.05, 0.2, 0.005, **{k: v for k, v in TUBE.items() if k != "pitch"}, depth=1),
        "beam": up(light, "grey", 0.2, 1.4, 0.02, **TUBE),
        "spread": up(light, "grey", 0, 2, 0.01, **TUBE, beam=0.4),
        "floor": down(light, "dark", 0, 0.6, 0.02, **TUBE),
        "depth": up(lambda p: abs(light(p) - light(made("tube", "grey", **TUBE, depth=0))), "grey", 0, 1, 0.02, **TUBE),
        "bloom": up(light, "middle", 0, 2, 0.005, **{k: v for k, v in TUBE.items() if k != "bloom"}),
        "reach": up(part(light, cols=(0, 0.2)), "middle", 0.01, 0.5, 0.001, **{**TUBE, "bloom": 2}),
        "gain": up(light, "grey", 0.5, 3, 0.05, **TUBE),
        "keep_light": up(light, "grey", 0, 1, 0.02, **{k: v for k, v in TUBE.items() if k != "keep_light"}),
        "glass": up(
            lambda p: float(np.abs(p - made("tube", "noise", **TUBE)).mean()),
            "noise",
            0,
            0.5,
            0.005,
            **{k: v for k, v in TUBE.items() if k != "glass"},
        ),
    },
    "tape": {
        "delay": up(colour_x, "blot", -0.15, 0.15, 0.05, **{k: v for k, v in TAPE_OFF.items() if k != "delay"}),
        "bleed": down(
            lambda p: fine_across(p - lights(p)[..., None]), "noise", 0, 0.3, 0.002, **{k: v for k, v in TAPE_OFF.items() if k != "bleed"}
        ),
        "soft": down(fine_across, "columns", 0, 0.05, 0.01, **{k: v for k, v in TAPE_OFF.items() if k != "soft"}),
        "wobble": up(fine_down, "columns", 0, 0.3, 0.005, **{k: v for k, v in TAPE_OFF.items() if k != "wobble"}),
        "jitter": up(fine_down, "columns", 0, 0.1, 0.02, **{k: v for k, v in TAPE_OFF.items() if k != "jitter"}),
        "head": up(
            lambda p: float(np.abs(p - made("tape", "columns", **TAPE_OFF)).mean()),
            "columns",
            0,
            0.4,
            0.01,
            **{**{k: v for k, v in TAPE_OFF.items() if k != "head"}, "tear": 0.5},
        ),
        "tear": up(
            part(lambda p: float(np.abs(np.diff(p[..., :3], axis=0)).mean()), rows=(0.7, 1)),
            "columns",
            0,
            1,
            0.005,
            **{**{k: v for k, v in TAPE_OFF.items() if k != "tear"}, "head": 0.3},
        ),
        "drops": up(light, "dark", 0, 1, 0.002, **{k: v for k, v in TAPE_OFF.items() if k != "drops"}),
        "snow": up(fine, "grey", 0, 1, 0.02, **{k: v for k, v in TAPE_OFF.items() if k != "snow"}),
        "lines": up(lambda p: float(np.abs(p - made("tape", "noise")).mean()), "noise", 120, 180, 0.003),
        "seed": drawn(snow=0.5),
    },
    "crush": {
        "bits": fewer_values,
        "dither": up(fine, "ramp", 0, 1, 0.001, **{**CRUSH_OFF, "bits": 2}),
        "press": both(plain(0, "noise", 0.02, rows=0), up(changed("noise"), "noise", 0, 1, 0.01, rows=0)),
        "times": up(changed("noise"), "noise", 1, 8, 0.001, rows=0, press=0.7),
        "rows": up(changed("noise"), "noise", 0, 1, 0.02, press=0),
        "slip": up(changed("ramp"), "ramp", 0, 1, 0.02, press=0, rows=1, drift=0),
        "drift": up(
            lambda p: float(np.abs(p - made("crush", "noise", press=0, rows=1, slip=0, drift=0)).mean()),
            "noise",
            0,
            1,
            0.01,
            press=0,
            rows=1,
            slip=0,
        ),
        "lines": up(lambda p: float(np.abs(p - made("crush", "noise", rows=0)).mean()), "noise", 96, 60, 0.003, rows=0),
        "seed": drawn(press=0, rows=0.5, slip=0.5),
    },
    "stipple": {
        "marks": up(lambda p: float(np.abs(p - made("stipple", "step")).mean()), "step", "dots", "strokes", 0.01),
        "pitch": down(fine, "grey", 0.06, 0.2, 0.004, size=1, scatter=0.7, range=0),
        "range": up(lambda p: float(np.abs(p - made("stipple", "step", range=0)).mean()), "step", 0, 1, 0.01),
        "size": down(light, "grey", 0.4, 1.6, 0.02, shade="ink"),
        "length": up(lambda p: float(np.abs(p - made("stipple", "step", marks="strokes")).mean()), "step", 3, 8, 0.005, marks="strokes"),
        "scatter": up(lambda p: float(np.abs(p - made("stipple", "grey", scatter=0, size=1)).mean()), "grey", 0, 1, 0.01, size=1),
        "from_dark": up(lambda p: part(light, **LEFT)(p) - part(light, **RIGHT)(p), "step", True, False, 0.05, shade="ink"),
        "shade": down(saturation, "red", "own", "ink", 0.05),
        "ink": up(light, "dark", "#000000", "#ffffff", 0.1, shade="ink"),
        "paper": up(light, "grey", "#000000", "#ffffff", 0.03, size=0.8),
        "lines": up(fine, "grey", 240, 960, -1),
        "seed": drawn("grey"),
    },
    "grain": {
        "amount": both(plain(0), up(fine, "grey", 0, 1, 0.02)),
        "size": down(lambda p: fine(p) / (spread(p) + 1e-6), "grey", 2.5, 12, 0.1),
        "colour": up(saturation, "grey", 0, 1, 0.02),
        "darks": up(part(fine, cols=(0, 0.06)), "ramp", 0, 1, 0.005),
        "lines": down(lambda p: fine(p) / (spread(p) + 1e-6), "grey", 960, 240, 0.02, size=3),
        "seed": drawn("grey"),
    },
}
