"""The pieces of the demo world."""

from __future__ import annotations

from typing import Any


def _piece(photo: str, *steps: tuple[str, dict[str, Any]]) -> dict[str, Any]:
    trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
    return {"caracol": 1, "layers": [{"id": "land", "name": "Land", "source": {"kind": "photo", "photo": photo}, "steps": trail}]}


PIECES: tuple[tuple[str, dict[str, Any]], ...] = (
    (
        "Marsh planet, poster 1",
        _piece(
            "salt-marsh-dusk.jpg",
            ("close-seam", {"width": 0.08}),
            ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.2, "seam": 0.56}),
            ("rim", {"radius": 1.05, "width": 0.4}),
            ("tone", {"contrast": 0.12, "gamma": 0.94}),
        ),
    ),
    (
        "Village well, study",
        _piece(
            "stilt-village-noon.jpg",
            ("level", {"angle": -0.00639}),
            ("crop", {"left": 0.13, "right": 0.9, "top": 0, "bottom": 0.97}),
            ("close-seam", {"width": 0.05}),
            ("ring", {"inside": "top", "spread": "even", "reach": 1.42}),
            ("tone", {"black": 0.03, "contrast": 0.08}),
        ),
    ),
    (
        "Into the reeds",
        _piece(
            "reed-bed.jpg",
            ("crop", {"left": 0.02, "right": 0.98, "top": 0.02, "bottom": 0.9}),
            ("close-seam", {"width": 0.12}),
            ("ring", {"inside": "top", "spread": "depth", "hole": 0.14, "reach": 1.42, "fold": 0.35}),
            ("twirl", {"fall": "log", "turns": 0.05, "reach": 1}),
            ("tone", {"contrast": 0.18, "gamma": 1.08}),
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
            ("kaleidoscope", {"sectors": 8, "angle": 0.03}),
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
)
