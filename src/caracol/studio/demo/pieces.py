"""The pieces of the demo world."""

from __future__ import annotations

from typing import Any


def _piece(photo: str, *steps: tuple[str, dict[str, Any]]) -> dict[str, Any]:
    trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
    return {
        "caracol": 3,
        "layers": [
            {
                "id": "land",
                "name": photo.rsplit(".", 1)[0].replace("-", " ").capitalize(),
                "source": {"kind": "photo", "photo": photo},
                "steps": trail,
            }
        ],
    }


def _steps(*steps: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"id": f"s{n}", **step} for n, step in enumerate(steps, 1)]


def _layer(name: str, source: dict[str, Any] | str, steps: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
    ground = {"kind": "photo", "photo": source} if isinstance(source, str) else source
    return {"id": name.lower().replace(" ", "-"), "name": name, "source": ground, "steps": steps or [], **more}


def _layers(*layers: dict[str, Any], ratio: float | None = None) -> dict[str, Any]:
    return {"caracol": 3, "frame": {"ratio": ratio}, "layers": list(layers)}


FIGURES: tuple[tuple[str, dict[str, Any]], ...] = (
    (
        "Heron",
        {"photo": "heron-in-reeds.jpg", "hair": 0.004, "fringe": 0.8, "search": {
            "box": [-0.27, -0.92, 1.02, 0.94],
            "hints": [
            {"points": [[0.408, 0.14], [0.414, 0.4], [0.408, 0.56], [0.42, 0.84], [0.336, 0.86]], "radius": 0.0065},
            {"points": [[-0.2, -0.722], [0.0, -0.748], [0.09, -0.776]], "radius": 0.01},
            {"points": [[0.521, 0.15], [0.527, 0.2], [0.561, 0.36], [0.528, 0.52], [0.54, 0.86], [0.465, 0.89]], "radius": 0.0065},
            ],
        }},
    ),
)  # fmt: skip
"""Figures that are cut out of the demo's photos: what their outline is looked for with. Pieces know them by their names."""


PIECES: tuple[tuple[str, dict[str, Any]], ...] = (
    (
        "Marsh planet, poster 1",
        _piece(
            "salt-marsh-dusk.jpg",
            ("close-seam", {"width": 0.1}),
            ("ring", {"inside": "bottom", "spread": "shape", "reach": 2.0, "seam": 0.56}),
            ("centre", {"radius": 0.3}),
            ("rim", {"radius": 1.15, "width": 0.4}),
            ("tone", {"contrast": 0.12, "gamma": 0.94}),
        ),
    ),
    (
        "Village planet, mended",
        _piece(
            "stilt-village-noon.jpg",
            ("level", {"angle": -0.00639}),
            ("close-seam", {"width": 0.1}),
            ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.12, "fold": 0.2, "seam": 0.3}),
            ("centre", {"radius": 0.12}),
            ("rim", {"into": "sky", "radius": 0.9, "width": 0.14, "band": 0.22}),
            ("touch-up", {"strokes": [
                {"mode": "fill-in", "line": [92000, 60000, 6000, -10000], "radius": 0.09, "hardness": 0.7},
                {"mode": "heal", "line": [-72000, -96000, -14000, 2000], "radius": 0.08, "source": {"dx": 0.3, "dy": 0.06}},
            ]}),
            ("tone", {"contrast": 0.08, "black": 0.02}),
        ),
    ),
    (
        "Kelp tunnel",
        _piece(
            "kelp-garden.jpg",
            ("close-seam", {"width": 0.12}),
            ("ring", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42, "fold": 0.0}),
            ("centre", {"radius": 0.24}),
            ("tone", {"contrast": 0.1}),
        ),
    ),
    (
        "Night market globe",
        _piece(
            "pier-globe.jpg",
            ("ring", {"inside": "bottom", "spread": "globe", "reach": 0.62, "seam": 0.5}),
            ("centre", {"radius": 0.05}),
            ("tone", {"contrast": 0.12, "gamma": 1.05}),
        ),
    ),
    (
        "Tiles, inside out",
        _piece(
            "tile-wall.jpg",
            ("refit", {"ratio": 1, "how": "cover"}),
            ("unring", {"reach": 1.2, "ratio": 3, "edge": "mirror"}),
            ("turn", {"flip_y": True}),
            ("ring", {"reach": 1.42, "edge": "mirror"}),
            ("kaleidoscope", {"sectors": 8, "seek": False, "angle": 0.03}),
        ),
    ),
    (
        "Kelp, deep twirl",
        _piece(
            "kelp-garden.jpg",
            ("refit", {"ratio": 1, "how": "cover"}),
            ("twirl", {"turns": 1.1, "reach": 1.7, "x": -0.08, "y": 0.06}),
            ("wave", {"length": 0.6, "height": 0.02, "number": 3, "variety": 0.7, "seed": 12}),
            ("tone", {"black": 0.03, "contrast": 0.15}),
        ),
    ),
    (
        "Vortex of kelp and tiles",
        _layers(
            _layer("Kelp", "kelp-garden.jpg", _steps(
                {"kind": "refit", "settings": {"ratio": 1, "how": "cover"}},
                {"kind": "twirl", "settings": {"fall": "log", "turns": 0.4, "reach": 0.9}},
            )),
            _layer("Tiles", "tile-wall.jpg", _steps(
                {"kind": "refit", "settings": {"ratio": 1, "how": "cover"}},
                {"kind": "twirl", "settings": {"fall": "log", "turns": -0.22, "reach": 1.1}},
            ), blend="soft-light", opacity=0.45),
            _layer("Glow", {"kind": "fill", "form": "radial", "first": "#ffe2ad", "second": "#0b2433", "reach": 1.25, "ratio": 1}, blend="overlay", opacity=0.7),
            _layer("Picture below", {"kind": "below"}, _steps(
                {"kind": "twirl", "settings": {"turns": 0.6, "reach": 0.8}},
                {"kind": "tone", "settings": {"contrast": 0.15}},
            ), where={"shapes": [{"kind": "radial", "inner": 0.3, "outer": 0.8}]}),
            ratio=1,
        ),
    ),
    (
        "Marsh planet under noon",
        _layers(
            _layer("Noon sky", "stilt-village-noon.jpg", _steps(
                {"kind": "crop", "settings": {"top": 0, "bottom": 0.36, "left": 0.2, "right": 0.8}},
                {"kind": "tone", "settings": {"brightness": -0.06}},
            )),
            _layer("Planet", "salt-marsh-dusk.jpg", _steps(
                {"kind": "crop", "settings": {"top": 0.3}},
                {"kind": "close-seam", "settings": {"width": 0.08}},
                {"kind": "ring", "settings": {"inside": "bottom", "spread": "shape", "reach": 1.2, "seam": 0.56}},
                {"kind": "centre", "settings": {"radius": 0.3}},
                {"kind": "rim", "settings": {"radius": 0.62, "width": 0.16, "into": "nothing"}},
                {"kind": "tone", "settings": {"contrast": 0.1, "gamma": 1.08}},
            ), place={"scale": 0.92, "y": 0.08}),
            _layer("Words", {"kind": "lettering", "text": "Feria de la Marea", "face": "round", "size": 0.11, "round": 0.86, "spacing": 0.14, "colour": "#fff6e4", "ratio": 1}),
            ratio=1,
        ),
    ),
    (
        "Heron at the end of the clouds",
        _layers(
            _layer("Clouds", "stilt-village-noon.jpg", _steps(
                {"kind": "level", "settings": {"angle": -0.00639}},
                {"kind": "crop", "settings": {"top": 0, "bottom": 0.34}},
                {"kind": "close-seam", "settings": {"width": 0.14}},
                {"kind": "ring", "settings": {"inside": "top", "spread": "depth", "hole": 0.13, "reach": 1.42, "fold": 0.4, "seam": 0.06}},
                {"kind": "centre", "settings": {"radius": 0.3}},
                {"kind": "twirl", "settings": {"fall": "log", "turns": 0.06, "reach": 1}},
                {"kind": "fog", "settings": {
                    "by": "radius", "colour": "#f2e3cf", "density": 0.92, "clear": 1.15, "dense": 0.08, "banks": 0.45, "size": 0.4, "seed": 4,
                }},
                {"kind": "colour", "settings": {"warmth": 0.22, "vividness": 0.2}},
                {"kind": "light", "settings": {"reach": 0.95, "soft": 0.9, "inside": 0.25, "outside": -0.9, "warmth": 0, "shade_warmth": -0.25}},
            )),
            _layer("Heron", {"kind": "cut-out", "photo": "Heron.png", "fit": "contain"}, _steps(
                {"kind": "belong", "settings": {"tone": 0.35, "colour": 0.45, "contrast": 0.2, "shade": 0.5}},
                {"kind": "shadow", "settings": {"heading": 0.44, "length": 0.7, "dark": 0.35, "soft": 0.04, "colour": "#27324a"}},
            ), place={"x": -0.02, "y": 0.36, "scale": 0.62}),
            ratio=1,
        ),
    ),
    (
        "Tiles in crossed colours",
        _piece(
            "tile-wall.jpg",
            ("refit", {"ratio": 1, "how": "cover"}),
            ("twirl", {"fall": "log", "turns": -0.34, "reach": 1.1}),
            ("curves", {
                "all": [[0, 0], [0.28, 0.2], [0.7, 0.78], [1, 1]],
                "red": [[0, 0], [0.3, 0.2], [0.68, 0.82], [1, 1]],
                "green": [[0, 0.02], [0.5, 0.47], [1, 0.96]],
                "blue": [[0, 0.16], [0.45, 0.5], [1, 0.8]],
            }),
            ("light", {"reach": 1.3, "soft": 0.5, "inside": 0.2, "outside": -1.0, "warmth": 0}),
        ),
    ),
    (
        "Marsh planet under a lamp",
        _piece(
            "salt-marsh-dusk.jpg",
            ("close-seam", {"width": 0.1}),
            ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.9, "seam": 0.31}),
            ("centre", {"radius": 0.28}),
            ("rim", {"radius": 1.1, "width": 0.4}),
            ("light", {"x": 0.12, "y": -0.2, "reach": 0.78, "squash": 1.15, "turn": 0.08, "soft": 0.75, "inside": 0.9, "outside": -2.0, "warmth": 0.3,
                       "shade_warmth": -0.5}),
            ("curves", {"all": [[0, 0], [0.2, 0.15], [0.7, 0.77], [1, 1]]}),
        ),
    ),
    (
        "Yard, wound into its lamps",
        _piece(
            "rail-yard-night.jpg",
            ("refit", {"ratio": 1, "how": "cover"}),
            ("twirl", {"fall": "log", "turns": -0.17, "reach": 1.1, "y": -0.14}),
            ("tone", {"contrast": 0.2, "gamma": 1.2}),
            ("light", {"reach": 1.3, "soft": 0.7, "inside": 0.35, "outside": -0.8, "warmth": 0, "y": -0.14}),
        ),
    ),
    (
        "Shell of salt",
        _layers(
            _layer("Night", {"kind": "fill", "form": "radial", "first": "#31525c", "second": "#0d171d", "reach": 1.5, "ratio": 1}),
            _layer("Salt", "salt-crystal.jpg", _steps(
                {"kind": "keep-only", "settings": {}, "where": {"feather": 0.03, "shapes": [
                    {"kind": "polygon", "points": [[-0.42, 0.22], [-0.36, -0.1], [-0.12, -0.42], [0.16, -0.46], [0.36, -0.3], [0.42, -0.06], [0.62, 0.04], [0.6, 0.22], [0.4, 0.4], [0.0, 0.44], [-0.3, 0.36]]},
                ]}},
                {"kind": "refit", "settings": {"ratio": 1, "how": "cover"}},
                {"kind": "spiral-repeat", "settings": {
                    "cut": "whole", "ground": False, "per_turn": 13, "turns": 3.2, "growth": 2.0, "size": 0.8, "reach": 0.72, "start": 0.1,
                    "on_top": "outer", "hue": 0.05, "light": -0.1,
                }},
            )),
            ratio=1,
        ),
    ),
    (
        "Rail yard, off register",
        _piece(
            "rail-yard-night.jpg",
            ("crop", {"left": 0.02, "right": 0.98, "top": 0.04, "bottom": 0.9}),
            ("channel-split", {"red_x": -0.026, "red_y": 0.006, "red_turn": 0.003, "blue_x": 0.03, "blue_y": -0.008, "blue_turn": -0.002, "blue_scale": 1.01}),
            ("scan-lines", {"pitch": 0.0085, "dark": 0.42, "bright": 0.18, "interlace": 0.004, "band": 0.22, "band_at": 0.66, "band_height": 0.3}),
            ("grain", {"amount": 0.16, "size": 1.5}),
            ("tone", {"contrast": 0.16}),
        ),
    ),
    (
        "Station clock, torn",
        _layers(_layer("Clock", {
            "kind": "photo", "photo": "station-clock.jpg", "keep": [
                {"name": "Dial", "weight": 0.86, "where": {"feather": 0.08, "shapes": [{"kind": "ellipse", "x": 0, "y": -0.12, "rx": 0.62, "ry": 0.62}]}},
                {"name": "Name", "weight": 0.93, "where": {"feather": 0.06, "shapes": [{"kind": "rectangle", "x": 0, "y": 0.77, "rx": 0.75, "ry": 0.1}]}},
            ],
        }, _steps(
            {"kind": "slices", "settings": {"thin": 46, "wide": 6, "shift": 0.2, "short": 0.42, "uneven": 0.85, "lean": 0.4, "seed": 41}},
            {"kind": "channel-split", "settings": {"red_x": -0.07, "blue_x": 0.035}},
            {"kind": "tape", "settings": {"delay": 0.012, "bleed": 0.012, "soft": 0.001, "wobble": 0.008, "jitter": 0.002, "head": 0.045, "tear": 0.3, "drops": 0.3, "snow": 0.05, "lines": 900}},
        ))),
    ),
    (
        "Village on a tube",
        _piece(
            "stilt-village-noon.jpg",
            ("level", {"angle": -0.00639}),
            ("crop", {"left": 0.3, "right": 0.7, "top": 0.25, "bottom": 0.85}),
            ("mosaic", {"pitch": 0.0125}),
            ("tube", {"mask": "slots", "glass": 0.09, "bloom": 0.16, "reach": 0.05, "depth": 0.7, "beam": 1.1, "spread": 0.8, "gain": 1.35, "keep_light": 0.55}),
            ("tone", {"contrast": 0.35, "gamma": 1.1}),
        ),
    ),
    (
        "Sorted rain on the ridge",
        _layers(_layer("Ridge", "observatory-ridge-night.jpg", _steps(
            {"kind": "crop", "settings": {"left": 0.16, "right": 0.84, "top": 0.02, "bottom": 0.96}},
            {"kind": "pixel-sort", "settings": {"low": 0.115, "high": 0.72, "shortest": 0.02, "longest": 0.7, "order": "falling", "heading": 0.485},
             "where": {"feather": 0.3, "shapes": [{"kind": "linear", "x": 0, "y": -0.05, "heading": 0, "reach": 0.6}]}, "strength": 0.9},
            {"kind": "channel-split", "settings": {"red_x": 0, "red_y": -0.012, "blue_y": 0.012}},
            {"kind": "grain", "settings": {"amount": 0.12, "size": 1.2}},
        ))),
    ),
    (
        "Melted kelp",
        _piece(
            "kelp-garden.jpg",
            ("refit", {"ratio": 0.8, "how": "cover"}),
            ("melt", {"rounds": 120, "push": 0.0055, "threshold": 0.38, "hold": 0.006, "heading": 0.5,
                      "keys": [{"round": 46, "heading": 0.42}, {"round": 80, "heading": 0.56, "push": 0.008}, {"round": 104, "hold": 0.03}]}),
            ("tone", {"black": 0.03, "contrast": 0.16}),
        ),
    ),
)  # fmt: skip
