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
)
