"""Measure steps that work pixel by pixel: at 24 megapixels against NumPy, five in one pass against one, drafts. `python -m benchmarks.toning`."""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable
from datetime import UTC, datetime
from io import BytesIO
from math import cos, sin, tau
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from PIL import Image
from scipy.interpolate import PchipInterpolator
from tests.pictures import OnePhoto, opaque, piece

from benchmarks.breaks import best
from benchmarks.run import encode_draft
from caracol.core.arrays import Array
from caracol.core.catalogue.registry import get_kind
from caracol.core.geometry.frame import Frame
from caracol.core.piece.cutting import Cut, Search, cut_out, look_for
from caracol.core.pixels.blending import LUMA
from caracol.core.pixels.pyramid import pyramid_of
from caracol.core.render import render
from caracol.core.render.cache import Cache
from caracol.core.render.quality import DRAFT
from caracol.studio.demo.pieces import FIGURES
from caracol.world.photos import SCENES, draw_photo

RESULTS = Path(__file__).parent / "results"
SIZE = 6000
CURVE = ((0.0, 0.0), (0.25, 0.2), (0.75, 0.81), (1.0, 1.0))
RED = ((0.0, 0.0), (0.3, 0.24), (0.7, 0.77), (1.0, 1.0))
LAMP = {"reach": 0.8, "soft": 0.75, "inside": 1.1, "outside": -0.6}
MEASURED: dict[str, dict[str, Any]] = {
    "tone": {"black": 0.04, "white": 0.94, "contrast": 0.12},
    "curves": {"all": CURVE, "red": RED},
    "colour": {"hue": 0.1, "saturation": 0.3},
    "tint": {},
    "gradient-map": {},
    "light": LAMP,
    "fog": {"by": "height", "banks": 0},
    "threshold": {},
    "posterise": {},
}
FIVE = ("tone", "curves", "colour", "light", "fog")


def numpy_curves(rgb: Array) -> Array:
    """The curve for all, then red's, by the library's own interpolation."""
    out = np.clip(PchipInterpolator(*np.array(CURVE).T)(rgb), 0, 1).astype(np.float32)
    out[..., 0] = PchipInterpolator(*np.array(RED).T)(out[..., 0])
    return out


def numpy_table_curves(rgb: Array) -> Array:
    """The same through a table of 4096, read with `np.interp`."""
    at = np.linspace(0, 1, 4096, dtype=np.float32)
    first = PchipInterpolator(*np.array(CURVE).T)(at)
    tables = [PchipInterpolator(*np.array(RED).T)(first), first, first]
    return np.stack([np.interp(rgb[..., k], at, tables[k]).astype(np.float32) for k in range(3)], axis=-1)


def numpy_colour(rgb: Array) -> Array:
    """Hue and saturation as one matrix; what leaves 0…1 drawn to the grey of its light, as the step does."""
    r, g, b = LUMA
    light = np.tile(LUMA, (3, 1))
    round_ = np.array([[-r, -g, 1 - b], [0.143, 0.14, -0.283], [-(1 - r), g, b]], np.float32)
    turned = light + cos(tau * 0.1) * (np.eye(3) - light) + sin(tau * 0.1) * round_
    matrix = ((light + 1.6 * (np.eye(3) - light)) @ turned).astype(np.float32)
    new = rgb @ matrix.T
    grey = np.clip(new @ LUMA, 0, 1)
    low, high = new.min(axis=-1), new.max(axis=-1)
    share = np.where(low < 0, grey / np.maximum(grey - low, 1e-9), 1)
    share = np.minimum(share, np.where(high > 1, (1 - grey) / np.maximum(high - grey, 1e-9), 1))
    return grey[..., None] + (new - grey[..., None]) * share[..., None]


def numpy_gradient(rgb: Array) -> Array:
    """The light through the stops, read with `np.interp`."""
    stops = get_kind("gradient-map").settings().stops  # type: ignore[attr-defined]
    at = [stop.at for stop in stops]
    parts = np.array([[int(stop.colour[i : i + 2], 16) / 255 for i in (1, 3, 5)] for stop in stops])
    light = rgb @ LUMA
    return np.stack([np.interp(light, at, parts[:, k]).astype(np.float32) for k in range(3)], axis=-1)


def numpy_light(rgb: Array) -> Array:
    """Gains between two by the distance from the middle."""
    frame = Frame(rgb.shape[1] / rgb.shape[0])
    x, y = frame.grid(*rgb.shape[:2])
    t = np.clip((1 + LAMP["soft"] - np.hypot(x, y) / LAMP["reach"]) / (2 * LAMP["soft"]), 0, 1)
    inside, outside = (2 ** (LAMP[name] / 2.2) for name in ("inside", "outside"))
    gain = (outside + t * t * (3 - 2 * t) * (inside - outside))[..., None].astype(np.float32)
    return rgb * gain / (1 + np.maximum(gain - 1, 0) * rgb)


def numpy_fog(rgb: Array) -> Array:
    """A colour mixed in by height."""
    frame = Frame(rgb.shape[1] / rgb.shape[0])
    _, y = frame.grid(*rgb.shape[:2])
    t = np.clip((y + 0.35) / 1.25, 0, 1)
    share = (0.75 * t * t * (3 - 2 * t))[..., None]
    return rgb + share * (np.array([0xD9, 0xDF, 0xE0], np.float32) / 255 - rgb)


BY_NUMPY: dict[str, Callable[[Array], Array]] = {
    "curves": numpy_table_curves,
    "colour": numpy_colour,
    "gradient-map": numpy_gradient,
    "light": numpy_light,
    "fog": numpy_fog,
}


def large() -> Array:
    """A demo photo at 24 megapixels, 6000 × 4000."""
    scene = next(scene for scene in SCENES if scene.name == "stilt-village-noon")
    drawn = np.asarray(Image.open(BytesIO(draw_photo(scene))).convert("RGB"), np.float32) / 255
    return opaque(cv2.resize(drawn, (SIZE, SIZE * 2 // 3), interpolation=cv2.INTER_CUBIC).clip(0, 1))


def on_ground(photo: OnePhoto, *trail: tuple[str, dict[str, Any]], times: int = 4) -> float:
    """Return the seconds that a render takes whose photo has its size already."""
    lengths = []
    for _ in range(times):
        cache = Cache(1 << 30)
        render(piece(), SIZE, photo, cache=cache)
        begun = time.perf_counter()
        render(piece(*trail), SIZE, photo, cache=cache)
        lengths.append(time.perf_counter() - begun)
    return min(lengths)


def steps(picture: Array) -> dict[str, Any]:
    """Each kind alone at 24 megapixels, against NumPy where that is asked for, and five of them against one."""
    photo = OnePhoto(picture)
    rgb = np.ascontiguousarray(picture[..., :3])
    found: dict[str, Any] = {}
    for key, settings in MEASURED.items():
        found[key] = {"seconds": round(on_ground(photo, (key, settings)), 3)}
        if key in BY_NUMPY:
            plain = best(lambda key=key: BY_NUMPY[key](rgb), 2)
            found[key] |= {"numpy_seconds": round(plain, 3), "times_faster": round(plain / found[key]["seconds"], 1)}
    five = on_ground(photo, *((key, MEASURED[key]) for key in FIVE))
    ones = [found[key]["seconds"] for key in FIVE]
    apart = on_ground(photo, *({"kind": key, "settings": MEASURED[key], "strength": 0.999} for key in FIVE))  # type: ignore[arg-type]
    found["five"] = {
        "seconds": round(five, 3),
        "against_the_mean_of_one": round(five / statistics.mean(ones), 2),
        "against_the_slowest_of_one": round(five / max(ones), 2),
        "against_their_sum": round(five / sum(ones), 2),
        "one_by_one_seconds": round(apart, 3),
    }
    return found


def drafts(photo: OnePhoto) -> dict[str, float]:
    """Drafts at 768 as the server makes them, encoding included: the median in milliseconds, each time with another setting."""
    moved = {"tone": "gamma", "curves": None, "colour": "hue", "tint": "balance", "gradient-map": "dither", "light": "x", "fog": "clear",
             "threshold": "level", "posterise": "levels", "sharpen": "amount", "shadow": "heading"}  # fmt: skip
    found = {}
    for key, name in moved.items():
        cache, times = Cache(1 << 30), []
        render(piece(), 768, photo, cache=cache, quality=DRAFT)
        for n in range(15):
            settings: dict[str, Any] = {"all": ((0, 0), (0.5, 0.4 + 0.01 * n), (1, 1))} if name is None else {name: 0.3 + 0.01 * n}
            if key == "posterise":
                settings = {"levels": 2 + n}
            begun = time.perf_counter()
            encode_draft(render(piece((key, settings)), 768, photo, cache=cache, quality=DRAFT))
            times.append((time.perf_counter() - begun) * 1000)
        found[key] = round(statistics.median(times[1:]), 1)
    return found


def figures() -> dict[str, float]:
    """Seconds from a rough box to a proposed outline, and to the cut-out, on a photo of 12 megapixels."""
    drawn = draw_photo(next(scene for scene in SCENES if scene.name == "heron-in-reeds"), 4243)
    pyramid = pyramid_of(opaque(np.asarray(Image.open(BytesIO(drawn)).convert("RGB"), np.float32) / 255))
    search = Search.model_validate(FIGURES[0][1]["search"])
    rough = search.model_copy(update={"hints": ()})
    cut = Cut(photo="p", outline=look_for(pyramid, search), search=search)
    return {
        "megapixels": round(pyramid.rows * pyramid.cols / 1e6, 1),
        "outline_seconds": round(best(lambda: look_for(pyramid, rough), 3), 2),
        "outline_with_strokes_seconds": round(best(lambda: look_for(pyramid, search), 3), 2),
        "cut_out_seconds": round(best(lambda: cut_out(pyramid, cut), 2), 2),
    }


def main() -> None:
    """Measure and write."""
    picture = large()
    found = {"steps_24_megapixels": steps(picture), "drafts_768_ms": drafts(OnePhoto(cv2.resize(picture, (3000, 2000))))}
    found["figures"] = figures()
    path = RESULTS / f"{datetime.now(UTC):%Y-%m-%d-%H%M}-toning.json"
    path.write_text(json.dumps(found, indent=2) + "\n")
    print(json.dumps(found, indent=2))


if __name__ == "__main__":
    main()
