"""Measure mending on the demo's photos and write it to `benchmarks/results/`: seams, centres, strokes. `python -m benchmarks.mending`."""

from __future__ import annotations

import json
import resource
import time
from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from PIL import Image
from tests.pictures import OnePhoto, opaque, piece

from caracol.core.arrays import Array
from caracol.core.geometry.lines import packed
from caracol.core.pixels.joining import seam_visibility
from caracol.core.render import Context, Renderer, render
from caracol.core.render.analyses import step_analysis_of
from caracol.core.render.quality import DRAFT
from caracol.core.steps.mend.centre import crush_of
from caracol.world.photos import SCENES, draw_photo

RESULTS = Path(__file__).parent / "results"
WIDE = (
    "salt-marsh-dusk",
    "stilt-village-noon",
    "observatory-ridge-night",
    "rail-yard-night",
    "pier-globe",
    "kelp-garden",
    "reed-bed",
    "tile-wall",
)
SIZE = 2048
CROPS = 10


def mirrored(picture: Array, band: int) -> float:
    """Return how like one side of the join is to the other flipped, -1…1, tones that change slowly left out."""
    sides = [picture[:, -band:, :3], picture[:, :band, :3][:, ::-1]]
    a, b = (side - cv2.GaussianBlur(side, (0, 0), band / 8) for side in map(np.ascontiguousarray, sides))
    return float((a * b).sum() / max(float(np.sqrt((a * a).sum() * (b * b).sum())), 1e-9))


def seam(photo: Array) -> dict[str, Any]:
    """Return visibility, likeness of the mirrored side, and what changes beyond the width, before and after the automatic choice."""
    source = OnePhoto(photo)
    size = max(photo.shape[:2])
    before, after = render(piece(), size, source), render(piece(("close-seam", {})), size, source)
    band = round(0.08 * before.shape[1])
    beyond = 255 * np.abs(after - before)[:, band:-band, :3]
    return {
        "before": round(seam_visibility(before), 2),
        "after": round(seam_visibility(after), 2),
        "mirror_before": round(mirrored(before, band), 2),
        "mirror_after": round(mirrored(after, band), 2),
        "beyond_mean": round(float(beyond.mean()), 3),
        "beyond_99": round(float(np.percentile(beyond, 99)), 3),
        "way": step_analysis_of(piece(("close-seam", {})), Context(source), "land", "s1")["way"],
    }


def strokes_of(count: int, modes: tuple[str, ...] = ("clone", "heal", "colour")) -> list[dict[str, Any]]:
    """Return strokes of twelve points all over a wide picture."""
    rng = np.random.default_rng(1)
    made = []
    for n in range(count):
        x, y = rng.uniform(-2, 2), rng.uniform(-0.9, 0.9)
        ways = rng.uniform(0, 6.28, 12).cumsum() * 0.1
        points = [[float(x + 0.03 * k * np.cos(way)), float(y + 0.03 * k * np.sin(way))] for k, way in enumerate(ways)]
        made.append(
            {"mode": modes[n % len(modes)], "line": packed(points), "radius": 0.03, "colour": "#808080", "source": {"dx": 0.3, "dy": 0.1}}
        )
    return made


def timed(work: Any) -> float:
    """Return the seconds some work takes."""
    begun = time.perf_counter()
    work()
    return round(time.perf_counter() - begun, 3)


def strokes(photo: Array) -> dict[str, Any]:
    """Return what one stroke more costs at 1024, and 500 at 1024 and at 4096."""
    source = OnePhoto(photo)
    many = strokes_of(500)
    found: dict[str, Any] = {}
    for size in (1024, 4096):
        render(piece(), size, source)
        render(piece(("touch-up", {"strokes": many[:3]})), size, source)
        found[f"replay_500_at_{size}_s"] = timed(lambda size=size: render(piece(("touch-up", {"strokes": many})), size, source))
    for quality, name in ((None, "full"), (DRAFT, "draft")):
        for before in (0, 500):
            context = Context(source) if quality is None else Context(source, quality=quality)
            Renderer(piece(("touch-up", {"strokes": many[: before or 1]})), context).picture(1024)
            for mode in ("clone", "heal", "fill-in"):
                more = many[: before or 1] + strokes_of(1, (mode,))
                cost = timed(lambda more=more, context=context: Renderer(piece(("touch-up", {"strokes": more})), context).picture(1024))
                found[f"one_more_{mode}_after_{before or 1}_{name}_s"] = cost
    found["peak_mb"] = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss >> 10
    return found


RINGS: tuple[tuple[str, dict[str, Any], float], ...] = (
    ("planet", {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.2}, 0.16),
    ("well", {"inside": "top", "spread": "even", "reach": 1.42}, 0.3),
    ("tunnel", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42, "fold": 0.3}, 0.24),
)


def centre(photo: Array) -> dict[str, Any]:
    """Return the waves to a turn in the innermost tenth, before and after, of each ring."""
    source = OnePhoto(photo)
    found = {}
    for name, ring, radius in RINGS:
        before = render(piece(("close-seam", {}), ("ring", ring)), 1024, source)
        after = render(piece(("close-seam", {}), ("ring", ring), ("centre", {"radius": radius})), 1024, source)
        found[name] = [round(crush_of(picture, 0, 0, 0.1), 1) for picture in (before, after)]
    return found


def photo_of(name: str, longer: int) -> Array:
    """Draw a photo of the demo at a size."""
    scene = next(one for one in SCENES if one.name == name)
    drawn = np.asarray(Image.open(BytesIO(draw_photo(scene, longer))).convert("RGB"), np.float32)
    return opaque(drawn / 255)


def main() -> None:
    """Measure everything and write it down."""
    rng = np.random.default_rng(15)
    photos = {name: photo_of(name, SIZE) for name in WIDE}
    seams = {name: seam(photo) for name, photo in photos.items()}
    for n in range(CROPS):
        name = WIDE[n % len(WIDE)]
        whole = photos[name]
        rows, cols = whole.shape[:2]
        wide, high = int(cols * rng.uniform(0.4, 0.8)), int(rows * rng.uniform(0.6, 1))
        left, top = int(rng.uniform(0, cols - wide)), int(rng.uniform(0, rows - high))
        seams[f"{name}, crop {n + 1}"] = seam(np.ascontiguousarray(whole[top : top + high, left : left + wide]))
    village = photo_of("stilt-village-noon", 4000)
    result = {
        "seams": seams,
        "centre_waves": {name: centre(photos[name]) for name in WIDE[:3]},
        "strokes": strokes(village),
    }
    path = RESULTS / f"{datetime.now(UTC):%Y-%m-%d-%H%M}-mending.json"
    path.write_text(json.dumps(result, indent=1) + "\n", encoding="utf-8")
    print(json.dumps(result, indent=1))


if __name__ == "__main__":
    main()
