"""Breaking steps at full size: what `make bench` measures of them."""

from __future__ import annotations

import resource
import statistics
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np
from tests.pictures import OnePhoto, detailed, piece

from caracol.core.geometry.frame import Frame
from caracol.core.geometry.rows import Rows
from caracol.core.piece.model import Piece
from caracol.core.piece.variants import roll
from caracol.core.pixels.raster import Raster
from caracol.core.render import Renderer, render
from caracol.core.render.cache import Cache
from caracol.core.render.context import Context
from caracol.core.render.quality import DRAFT
from caracol.core.steps.break_.melt import MeltSettings, melt
from caracol.core.steps.break_.pixel_sort import PixelSortSettings, pixel_sort

LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)


def best(work: Callable[[], object], times: int = 5) -> float:
    """Return the shortest of several runs in seconds: what the machine can do when nothing else disturbs it."""
    lengths = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        lengths.append(time.perf_counter() - start)
    return min(lengths)


def sorted_by_argsort(picture: np.ndarray, low: float, high: float) -> np.ndarray:
    """Sort runs of rows by light the plain way: find the runs of each row, `np.argsort` each of them."""
    out = picture.copy()
    keys = picture[..., 0] * LUMA[0] + picture[..., 1] * LUMA[1] + picture[..., 2] * LUMA[2]
    inside = (keys >= low) & (keys <= high)
    for row in range(len(picture)):
        ends = np.flatnonzero(np.diff(np.concatenate([[0], inside[row].view(np.int8), [0]])))
        for a, b in zip(ends[::2], ends[1::2], strict=True):
            if b - a > 1:
                out[row, a:b] = picture[row, a + np.argsort(keys[row, a:b], kind="stable")]
    return out


def sort() -> dict[str, Any]:
    """Sort 18 megapixels along rows and along columns, against `np.argsort` by runs and against a copy of the picture."""
    picture = np.ascontiguousarray(np.tile(detailed(1500, 3000), (2, 2, 1)))
    rows, cols = picture.shape[:2]
    context = Context(OnePhoto(detailed(8, 8)))
    raster = Raster(Rows(Frame(cols / rows), rows, cols), in_parts=context.in_parts)
    found: dict[str, Any] = {"megapixels": round(rows * cols / 1e6, 1)}
    copy = best(picture.copy)
    for name, low, high in (("short_runs", 0.45, 0.6), ("long_runs", 0.05, 0.95)):
        settings = PixelSortSettings(heading=0.25, low=low, high=high)
        ours, plain = (
            best(lambda s=settings: pixel_sort(picture, raster, s)),
            best(lambda a=low, b=high: sorted_by_argsort(picture, a, b), 1),
        )
        same = np.array_equal(pixel_sort(picture, raster, settings), sorted_by_argsort(picture, low, high))
        down = best(lambda s=settings: pixel_sort(picture, raster, s.model_copy(update={"heading": 0.5})))
        found[name] = {
            "seconds": round(ours, 3),
            "argsort_seconds": round(plain, 3),
            "times_faster": round(plain / ours, 1),
            "copies": round(ours / copy, 1),
            "down_seconds": round(down, 3),
            "same_pixels": bool(same),
        }
    return found


def whole(trail: Piece, photo: OnePhoto, size: int) -> None:
    """Render strip by strip, nothing cached."""
    _, strips = Renderer(trail, Context(photo, cache=Cache(1 << 31))).rows(size)
    for _ in strips:
        pass


def large(photo: OnePhoto) -> dict[str, float]:
    """Slices, split and scan lines at 24 megapixels: seconds each, and what rendering the photo alone takes."""
    size = 6000
    steps = {
        "photo_alone": None,
        "slices": ("slices", {}),
        "channel_split": ("channel-split", {"red_x": -0.03, "blue_x": 0.03}),
        "channel_split_turned": ("channel-split", {"red_x": -0.03, "red_turn": 0.01, "blue_scale": 1.02}),
        "scan_lines": ("scan-lines", {}),
    }
    return {name: round(best(lambda s=step: whole(piece(*([s] if s else [])), photo, size), 2), 2) for name, step in steps.items()}


def melted() -> dict[str, float]:
    """A hundred rounds at two megapixels, down and aslant; and one more round of them."""
    picture = detailed(1000, 2000)
    context = Context(OnePhoto(picture))
    found = {}
    for name, heading in (("down", 0.5), ("aslant", 0.4)):
        cache = Cache(1 << 32)
        raster = Raster(
            Rows(Frame(2.0), 1000, 2000), in_parts=context.in_parts, remember=lambda key, make, c=cache: c.get(repr(key), make),
            recall=lambda key, c=cache: c.peek(repr(key)),
        )  # fmt: skip
        start = time.perf_counter()
        melt(picture, raster, MeltSettings(rounds=100, heading=heading))
        found[f"{name}_100_seconds"] = round(time.perf_counter() - start, 2)
        start = time.perf_counter()
        melt(picture, raster, MeltSettings(rounds=101, heading=heading))
        found[f"{name}_next_round_ms"] = round((time.perf_counter() - start) * 1000, 1)
    return found


def rolled(photo: OnePhoto) -> dict[str, Any]:
    """Twelve variants at 512 as the Bench asks for them, two at a time: when the first is there, when all, and how busy the cores were."""
    base = piece(("slices", {}), ("channel-split", {"red_x": -0.03}), ("scan-lines", {}), ("grain", {}))
    cache = Cache(1 << 30)
    render(base, 512, photo, cache=cache, quality=DRAFT)
    firsts, alls, busy = [], [], []
    for seed in range(5):
        started, used = time.perf_counter(), resource.getrusage(resource.RUSAGE_SELF)
        ends: list[float] = []
        with ThreadPoolExecutor(2) as pool:

            def one(variant: Any, began: float = started, done: list[float] = ends) -> None:
                render(variant.piece, 512, photo, cache=cache, quality=DRAFT)
                done.append(time.perf_counter() - began)

            list(pool.map(one, roll(base, seed)))
        now = resource.getrusage(resource.RUSAGE_SELF)
        firsts.append(min(ends))
        alls.append(max(ends))
        busy.append((now.ru_utime + now.ru_stime - used.ru_utime - used.ru_stime) / max(ends))
    return {
        "first_ms": round(statistics.median(firsts) * 1000),
        "all_ms": round(statistics.median(alls) * 1000),
        "cores_busy": round(statistics.median(busy), 2),
    }
