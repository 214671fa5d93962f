"""The recipes that come with Caracol, over the whole job. Every one was looked at on wide, square and tall photos."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Steps = tuple[tuple[str, dict[str, Any]], ...]
Turned = tuple[str, tuple[tuple[int, str], ...], float, float, float]
"""A dial: name, (number of the step from 1, setting) of each that it turns, low, high, value."""
LAND = {"layer": "land", "label": "Photo"}


@dataclass(frozen=True)
class BuiltinRecipe:
    """A recipe of ours: its permanent key, its data, and the demo's photo that its picture is made of."""

    key: str
    data: dict[str, Any]
    photo: str


def _one(key: str, name: str, tags: str, photo: str, steps: Steps, *dials: Turned, more: tuple[dict[str, Any], ...] = ()) -> BuiltinRecipe:
    layers = [_layer("land", "Photo", steps), *more]
    turned = [
        {"name": called, "settings": [["land", f"s{n}", setting] for n, setting in places], "low": low, "high": high, "value": value}
        for called, places, low, high, value in dials
    ]
    slots = [LAND, *({"layer": one["id"], "label": "Cut-out"} for one in more if one["source"].get("kind") == "cut-out")]
    return BuiltinRecipe(key, {"caracol": 3, "name": name, "tags": tags.split(), "layers": layers, "dials": turned, "slots": slots}, photo)


def _layer(key: str, name: str, steps: Steps, **more: Any) -> dict[str, Any]:
    numbered = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
    return {"id": key, "name": name, "steps": numbered, **more}


SQUARE = ("refit", {"ratio": 1, "how": "cover"})
FIGURE = _layer(
    "figure", "Figure", (("belong", {}), ("shadow", {})), source={"kind": "cut-out", "fit": "contain"}, place={"scale": 0.32, "y": -0.42},
)  # fmt: skip

BUILTIN_RECIPES: tuple[BuiltinRecipe, ...] = (
    _one("small-world", "Planet", "planet ring", "salt-marsh-dusk.jpg", (
        ("close-seam", {}), ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.05, "seam": 0.0}), ("centre", {"radius": 0.16}),
        ("rim", {"radius": 0.85, "width": 0.25}), ("tone", {"contrast": 0.08}),
    ), ("Size", ((2, "reach"),), 0.5, 2.2, 1.05), ("Turn", ((2, "seam"),), -0.5, 0.5, 0.0), ("Middle", ((3, "radius"),), 0.05, 0.5, 0.16)),
    _one("sky-well", "Sky well", "sky ring", "stilt-village-noon.jpg", (
        ("close-seam", {}), ("ring", {"inside": "top", "spread": "even", "reach": 1.42, "edge": "mirror", "seam": 0.0}), ("centre", {"radius": 0.25}),
    ), ("Size", ((2, "reach"),), 0.9, 2.2, 1.42), ("Turn", ((2, "seam"),), -0.5, 0.5, 0.0)),
    _one("tunnel", "Tunnel", "tunnel ring", "kelp-garden.jpg", (
        ("close-seam", {}), ("ring", {"inside": "top", "spread": "depth", "hole": 0.16, "reach": 1.42, "seam": 0.0}), ("centre", {"radius": 0.22}),
        ("tone", {"contrast": 0.1}),
    ), ("Depth", ((2, "hole"),), 0.08, 0.4, 0.16), ("Turn", ((2, "seam"),), -0.5, 0.5, 0.0)),
    _one("spiral-tunnel", "Spiral tunnel", "tunnel ring twirl", "reed-bed.jpg", (
        ("close-seam", {}), ("ring", {"inside": "top", "spread": "depth", "hole": 0.16, "reach": 1.42, "seam": 0.0}), ("centre", {"radius": 0.22}),
        ("twirl", {"fall": "log", "turns": 0.14}), ("tone", {"contrast": 0.08}),
    ), ("Winding", ((4, "turns"),), -0.6, 0.6, 0.14), ("Depth", ((2, "hole"),), 0.08, 0.4, 0.16)),
    _one("inside-out", "Inside-out", "ring", "tile-wall.jpg", (
        SQUARE, ("unring", {"inside": "bottom", "spread": "even", "reach": 1.2, "ratio": 3, "edge": "mirror"}), ("turn", {"flip_y": True}),
        ("ring", {"inside": "bottom", "spread": "even", "reach": 1.42, "edge": "mirror"}),
    ), ("Size", ((4, "reach"),), 0.8, 2.2, 1.42)),
    _one("deep-twirl", "Deep twirl", "twirl", "kelp-garden.jpg", (
        SQUARE, ("twirl", {"turns": 1.1, "reach": 1.7}), ("wave", {"length": 0.6, "height": 0.02, "number": 3, "variety": 0.7, "seed": 12}),
        ("tone", {"black": 0.03, "contrast": 0.12}),
    ), ("Turns", ((2, "turns"),), -3, 3, 1.1), ("Radius", ((2, "reach"),), 0.5, 2.5, 1.7)),
    _one("vortex", "Vortex", "twirl light", "stilt-village-noon.jpg", (
        SQUARE, ("twirl", {"fall": "log", "turns": 0.35, "reach": 1.3}), ("zoom-blur", {"amount": 0.06}),
        ("light", {"reach": 1.0, "soft": 0.8, "inside": 0.35, "outside": -0.45, "warmth": 0.15}), ("tone", {"contrast": 0.1}),
    ), ("Winding", ((2, "turns"),), -0.8, 0.8, 0.35), ("Rush", ((3, "amount"),), 0, 0.3, 0.06)),
    _one("shell", "Shell", "spiral", "salt-crystal.jpg", (
        SQUARE, ("spiral-repeat", {
            "arms": 1, "per_turn": 18, "turns": 3.5, "growth": 2.1, "size": 0.34, "light": 0.08, "hue": 0.03, "on_top": "outer", "reach": 0.74, "start": 0.06,
        }),
    ), ("Turns", ((2, "turns"),), 1, 6, 3.5), ("Growth", ((2, "growth"),), 1.3, 4, 2.1), ("Copies in a turn", ((2, "per_turn"),), 8, 30, 18)),
    _one("comb", "Comb", "wave", "stilt-village-noon.jpg", (
        ("wave", {"heading": 0, "length": 0.045, "height": 0.42, "form": "stepped"}),
    ), ("Teeth", ((1, "length"),), 0.02, 0.3, 0.045), ("Shift", ((1, "height"),), 0.05, 1, 0.42)),
    _one("mirror-flower-twist", "Mirror flower twist", "mirror twirl", "tile-wall.jpg", (
        SQUARE, ("kaleidoscope", {"sectors": 6, "seek": True}), ("twirl", {"turns": 0.22, "reach": 1.5}), ("tone", {"contrast": 0.06}),
    ), ("Sectors", ((2, "sectors"),), 3, 16, 6), ("Twist", ((3, "turns"),), -1, 1, 0.22), ("First ray", ((2, "angle"),), -0.5, 0.5, 0.0)),
    _one("off-register", "Off register", "print channels", "station-clock.jpg", (
        ("channel-split", {"red_x": -0.012, "red_y": 0.008, "red_turn": 0.002, "blue_x": 0.014, "blue_y": -0.006, "blue_turn": -0.0015}),
        ("grain", {"amount": 0.16}), ("tone", {"contrast": 0.05}),
    ), ("Red", ((1, "red_x"),), -0.08, 0.08, -0.012), ("Blue", ((1, "blue_x"),), -0.08, 0.08, 0.014), ("Grain", ((2, "amount"),), 0, 0.5, 0.16)),
    _one("two-inks", "Two inks", "print colour", "heron-in-reeds.jpg", (
        ("gradient-map", {"stops": [
            {"at": 0.07, "colour": "#0b0c20"}, {"at": 0.172, "colour": "#1c1f4a"}, {"at": 0.526, "colour": "#d8574a"}, {"at": 0.955, "colour": "#fff4e4"},
        ]}), ("channel-split", {"red_x": -0.006, "blue_x": 0.006, "blue_y": 0.004}), ("grain", {"amount": 0.2}),
    ), ("Plates apart", ((2, "blue_x"),), -0.05, 0.05, 0.006), ("Grain", ((3, "amount"),), 0, 0.5, 0.2)),
    _one("torn-tape", "Torn tape", "tape glitch", "station-clock.jpg", (
        ("tape", {"wobble": 0.012, "delay": 0.02, "bleed": 0.03}), ("slices", {"thin": 30, "wide": 4, "shift": 0.08, "seed": 4}),
        ("scan-lines", {"dark": 0.2}),
    ), ("Tear", ((2, "shift"),), 0, 0.3, 0.08), ("Wobble", ((1, "wobble"),), 0, 0.05, 0.012), ("Lines", ((3, "dark"),), 0, 0.6, 0.2)),
    _one("night-monitor", "Night monitor", "tube glitch night", "rail-yard-night.jpg", (
        ("colour", {"saturation": -1}), ("gradient-map", {"stops": [
            {"at": 0.02, "colour": "#04080a"}, {"at": 0.35, "colour": "#11554a"}, {"at": 0.75, "colour": "#5fd6a4"}, {"at": 1.0, "colour": "#eafff2"},
        ]}), ("tape", {"wobble": 0.004, "snow": 0.06, "drops": 0.1, "head": 0}), ("scan-lines", {"pitch": 0.008, "dark": 0.4, "band": 0.3}),
        ("light", {"reach": 1.5, "soft": 0.6, "inside": 0.1, "outside": -0.7}),
    ), ("Snow", ((3, "snow"),), 0, 0.4, 0.06), ("Lines", ((4, "dark"),), 0, 0.7, 0.4)),
    _one("tube", "Tube", "tube", "stilt-village-noon.jpg", (
        ("tube", {"pitch": 0.014}), ("light", {"reach": 1.6, "soft": 0.6, "inside": 0.15, "outside": -0.5}),
    ), ("Pitch", ((1, "pitch"),), 0.006, 0.05, 0.014), ("Glass", ((1, "glass"),), 0, 0.3, 0.08)),
    _one("sorted-rain", "Sorted rain", "sort glitch", "observatory-ridge-night.jpg", (
        ("pixel-sort", {"low": 0.3, "high": 0.85, "longest": 0.9, "shortest": 0.05}),
    ), ("From", ((1, "low"),), 0, 0.9, 0.3), ("Length", ((1, "longest"),), 0.05, 2, 0.9)),
    _one("slow-melt", "Slow melt", "melt glitch", "kelp-garden.jpg", (
        ("melt", {}), ("tone", {"contrast": 0.06}),
    ), ("Rounds", ((1, "rounds"),), 10, 160, 60)),
    _one("broken-file", "Broken file", "glitch channels", "station-clock.jpg", (
        ("crush", {"rows": 0.25, "slip": 0.2, "drift": 0.2}), ("channel-split", {"red_x": -0.02, "blue_x": 0.02}),
    ), ("Damage", ((1, "rows"),), 0, 0.6, 0.25), ("Colours apart", ((2, "blue_x"),), -0.1, 0.1, 0.02)),
    _one("evening-haze", "Evening haze", "finish fog", "salt-marsh-dusk.jpg", (
        ("colour", {"warmth": 0.3, "vividness": 0.15}), ("fog", {"clear": 0.5, "dense": -0.25, "density": 0.45, "banks": 0.3, "size": 0.5}),
        ("grain", {}), ("light", {"reach": 1.4, "soft": 0.5, "inside": 0.2, "outside": -0.5}),
    ), ("Warmth", ((1, "warmth"),), -0.6, 0.8, 0.3), ("Fog", ((2, "density"),), 0, 1, 0.45)),
    _one("fogged-world", "Planet in fog with a figure", "planet fog layer", "salt-marsh-dusk.jpg", (
        ("close-seam", {}), ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.0, "seam": 0.0}), ("centre", {"radius": 0.16}),
        ("rim", {"radius": 0.8, "width": 0.3}), ("fog", {"by": "radius", "clear": 0.45, "dense": 1.25, "density": 0.6, "banks": 0.4}),
    ), ("Size", ((2, "reach"),), 0.5, 2.2, 1.0), ("Fog", ((5, "density"),), 0, 1, 0.6), more=(FIGURE,)),
)  # fmt: skip
