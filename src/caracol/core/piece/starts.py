"""Starting points of whole pieces: a photo and a treatment that looks good at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..reading.reading import Reading

LEVEL_FROM = 0.3 / 360
"""Leans smaller than this many turns are left alone."""
Steps = list[tuple[str, dict[str, Any]]]


@dataclass(frozen=True)
class PieceStart:
    """One starting point."""

    key: str
    label: str
    purpose: str
    steps: Callable[[Reading], Steps]


def _levelled(reading: Reading) -> Steps:
    if reading.tilt is None or abs(reading.tilt) < LEVEL_FROM:
        return []
    return [("level", {"angle": round(-reading.tilt, 5)})]


def _planet(reading: Reading) -> Steps:
    ring = {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.2}
    return [*_levelled(reading), ("close-seam", {}), ("ring", ring), ("rim", {"radius": 1.05, "width": 0.4})]


def _sky_well(reading: Reading) -> Steps:
    return [*_levelled(reading), ("close-seam", {}), ("ring", {"inside": "top", "spread": "even", "reach": 1.42})]


def _tunnel(reading: Reading) -> Steps:
    return [
        *_levelled(reading),
        ("close-seam", {}),
        ("ring", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42, "fold": 0.3}),
    ]


def _inside_out_steps() -> Steps:
    flat = {"inside": "bottom", "spread": "even", "reach": 1.2, "ratio": 3, "edge": "mirror"}
    return [
        ("refit", {"ratio": 1, "how": "cover"}),
        ("unring", flat),
        ("turn", {"flip_y": True}),
        ("ring", {"inside": "bottom", "spread": "even", "reach": 1.42, "edge": "mirror"}),
    ]


def _inside_out(reading: Reading) -> Steps:
    return _inside_out_steps()


def _plain(reading: Reading) -> Steps:
    return []


STARTS: tuple[PieceStart, ...] = (
    PieceStart("planet", "Planet", "The ground as a little world, the sky around it.", _planet),
    PieceStart("sky-well", "Sky well", "The sky in the middle, the skyline standing round the rim.", _sky_well),
    PieceStart("tunnel", "Tunnel", "The middle pushed far into the distance.", _tunnel),
    PieceStart("inside-out", "Inside-out", "Laid flat, flipped and wrapped again.", _inside_out),
    PieceStart("plain", "Plain", "Just the photo; add your own steps.", _plain),
)


@dataclass(frozen=True)
class Run:
    """A starting point of several steps, to be put into a trail in one go."""

    name: str
    purpose: str
    steps: tuple[tuple[str, dict[str, Any]], ...]
    words: tuple[str, ...] = ()


RUNS: tuple[Run, ...] = (
    Run("Small planet", "A world that leaves most of the picture to the sky.", (
        ("close-seam", {}), ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.05, "fold": 0.2}), ("rim", {"radius": 0.85, "width": 0.25}),
    ), ("tiny planet", "little planet", "polar", "tiny world")),
    Run("Spiral tunnel", "A tunnel wound round its own depth.", (
        ("close-seam", {}), ("ring", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42, "fold": 0.3}), ("twirl", {"fall": "log", "turns": 0.12}),
    ), ("vortex", "whirlpool", "wormhole", "polar")),
    Run("Inside-out", "Laid flat, flipped and wrapped again.", tuple(_inside_out_steps()), ("polar", "invert", "inversion", "wrap")),
)  # fmt: skip


def start_piece(key: str, photo: str, reading: Reading) -> dict[str, Any]:
    """Return the data of a new piece from a photo and the starting point `key`.

    The lean that the reading found is levelled first, where the treatment needs a level horizon.
    """
    start = next(s for s in STARTS if s.key == key)
    steps = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(start.steps(reading), 1)]
    return {"caracol": 1, "layers": [{"id": "land", "name": "Land", "source": {"kind": "photo", "photo": photo}, "steps": steps}]}
