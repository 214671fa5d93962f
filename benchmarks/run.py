"""Measure what Caracol promises and write it to `benchmarks/results/`. Run by `make bench`."""

from __future__ import annotations

import argparse
import json
import os
import platform
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from pathlib import Path
from typing import Any, cast

import cv2
import numpy as np
from PIL import Image
from tests.pictures import OnePhoto, opaque, piece, psnr

from benchmarks import breaks, plain, pointer
from benchmarks.breaks import best
from benchmarks.numpy_maps import BENDS, numpy_map
from caracol.core.catalogue.describe import describe
from caracol.core.catalogue.registry import KINDS, get_kind
from caracol.core.geometry.frame import Frame
from caracol.core.io.formats import collect
from caracol.core.kinds.kind import BendKind, Kind
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.render import Context, Renderer, render
from caracol.core.render.cache import Cache
from caracol.core.render.quality import DRAFT

DRAFT_SIZES = (768, 640, 512, 448, 384)
"""Some of those that `web/src/bench/pace.ts` chooses among, and when it takes the next."""
SLOW = 60
RESULTS = Path(__file__).parent / "results"


def export(trail: Piece, photo: OnePhoto, size: int) -> np.ndarray:
    """Render to 8-bit pixels as an export does, nothing cached."""
    return collect(*Renderer(trail, Context(photo, cache=Cache(1 << 30))).rows(size))


def ring(photo8: np.ndarray, photo: OnePhoto) -> dict[str, Any]:
    """Quality at 1024² and time at 4096², ours and the plain way, from 6000 × 3000."""
    trail = piece(("ring", {}))
    reference = plain.reference(photo8, 1024)
    ours = export(trail, photo, 1024) / 255
    ours_time, plain_time = best(lambda: export(trail, photo, 4096)), best(lambda: plain.remap(photo8, 4096))
    return {
        "psnr_db": round(psnr(ours, reference), 2),
        "plain_psnr_db": round(psnr(plain.remap(photo8, 1024) / 255, reference), 2),
        "seconds_4096": round(ours_time, 3),
        "plain_seconds_4096": round(plain_time, 3),
        "time_ratio": round(ours_time / plain_time, 2),
    }


def chain(photo: OnePhoto) -> dict[str, Any]:
    """Five bends in one sampling against one bend, at 2048²."""
    one = piece(("ring", {}))
    five = piece(
        ("crop", {"left": 0.05}), ("level", {"angle": 0.004}), ("wrap-shift", {"across": 0.3}), ("ring", {}), ("turn", {"angle": 0.1})
    )
    a, b = best(lambda: export(one, photo, 2048)), best(lambda: export(five, photo, 2048))
    return {"one_seconds": round(a, 3), "five_seconds": round(b, 3), "ratio": round(b / a, 2)}


def _by_numpy(photo8: np.ndarray, key: str, values: dict[str, Any], shape: tuple[int, int]) -> np.ndarray:
    return cv2.remap(photo8, *numpy_map(key, values, shape, *photo8.shape[:2]), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)


def bends(photo8: np.ndarray, photo: OnePhoto) -> dict[str, Any]:
    """Every bend at 2048 against a NumPy map and `cv2.remap`: time ratio, and PSNR at 512 against 6 × 6 supersampling."""
    found: dict[str, Any] = {}
    rows, cols = photo8.shape[:2]
    for key, settings in BENDS.items():
        kind = cast(BendKind, get_kind(key))
        chosen = kind.settings(**settings)
        values = {name: getattr(chosen, name) for name in type(chosen).model_fields}
        known: dict[str, Any] = {}
        if kind.asks(chosen) and kind.guide is not None:
            known["guide"] = kind.guide(photo.pyramid("").picture(kind.guide_size), **{n: values[n] for n in kind.guide_settings})
        trail = piece((key, settings))
        reference = plain.pull_reference(kind, settings, photo8, 512, **known)
        ours = export(trail, photo, 512)[..., :3] / 255
        maps = plain.pull_map(kind, settings, 512, rows, cols, **known)
        theirs = cv2.remap(photo8, *maps, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT) / 255
        shape = kind.frame_after(Frame(cols / rows), chosen).pixels(2048)

        by_numpy = partial(_by_numpy, photo8, key, {**values, **known}, shape)
        mine, base = best(lambda trail=trail: export(trail, photo, 2048), 3), best(by_numpy, 3)
        found[key] = {
            "psnr_db": round(psnr(ours, reference), 1),
            "plain_psnr_db": round(psnr(theirs, reference), 1),
            "seconds": round(mine, 3),
            "numpy_seconds": round(base, 3),
            "time_ratio": round(mine / base, 2),
        }
    return found


def _can_grow(setting: dict[str, Any], start: dict[str, Any]) -> bool:
    if setting["type"] != "number" or setting["default"] is None:
        return False
    return float(start.get(setting["name"], setting["default"])) + 0.01 <= float(setting["maximum"])


def kind_drafts(photo: OnePhoto) -> dict[str, dict[str, float]]:
    """Drafts of every kind alone at the size the Bench chooses: milliseconds, encoding included, and pixels."""
    found = {}
    for size in DRAFT_SIZES:
        left = [kind for kind in KINDS if kind.key not in found or found[kind.key]["ms"] > SLOW]
        found |= {key: {"size": size, "ms": took} for key, took in _kind_drafts(photo, left, size).items()}
    return found


def _kind_drafts(photo: OnePhoto, kinds: list[Kind], size: int) -> dict[str, float]:
    """Return the median of some kinds' drafts at a size, each time with another setting."""
    found = {}
    for kind in kinds:
        start = dict(kind.starts[0].settings) if kind.starts else {}
        name = next((setting["name"] for setting in describe(kind)["settings"] if _can_grow(setting, start)), None)
        times = []
        cache = Cache(1 << 30)
        render(piece(), size, photo, cache=cache, quality=DRAFT)
        for n in range(9):
            settings = {**start, name: start.get(name, kind.settings.model_fields[name].default) + 0.0007 * (n + 1)} if name else start
            begun = time.perf_counter()
            encode_draft(render(piece((kind.key, settings)), size, photo, cache=cache, quality=DRAFT))
            times.append((time.perf_counter() - begun) * 1000)
        found[kind.key] = round(statistics.median(times[1:]), 1)
    return found


def encode_draft(picture: np.ndarray) -> None:
    """Encode a draft as the server does."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
    import django

    django.setup()
    from caracol.studio.previews import encode_preview

    encode_preview(picture, draft=True)


def six_steps(contrast: float, seam: float = 0.5) -> Piece:
    """Return a planet of six steps."""
    return piece(
        ("crop", {"left": 0.02}), ("level", {"angle": 0.002}), ("close-seam", {}),
        ("ring", {"spread": "shape", "reach": 1.5, "fold": 0.2, "seam": seam}), ("rim", {}), ("tone", {"contrast": contrast}),
    )  # fmt: skip


def drafts(photo: OnePhoto) -> dict[str, Any]:
    """Drafts at 768 pixels as the server makes them, encoding included: after changing the last of six steps, and the ring."""
    cache = Cache(1 << 30)

    def draft(trail: Piece) -> float:
        start = time.perf_counter()
        encode_draft(render(trail, 768, photo, cache=cache, quality=DRAFT))
        return (time.perf_counter() - start) * 1000

    draft(six_steps(0))
    last = [draft(six_steps(0.01 * n)) for n in range(1, 20)]
    bend = [draft(six_steps(0.1, 0.01 * n)) for n in range(1, 20)]
    cold = []
    for _ in range(3):
        cache = Cache(1 << 30)
        cold.append(draft(six_steps(0)))
    return {
        "last_step_ms": round(statistics.median(last), 1),
        "ring_ms": round(statistics.median(bend), 1),
        "ring_worst_ms": round(max(bend), 1),
        "nothing_cached_ms": round(min(cold), 1),
    }


def three_layers(turned: dict[str, float]) -> Piece:
    """Return three layers of six steps, each step of two of them in a where; `turned` sets a twirl of each."""
    where = {
        "feather": 0.05,
        "shapes": [{"kind": "ellipse", "rx": 0.7, "ry": 0.5}, {"kind": "stroke", "points": [[-0.5, 0.2], [0.4, 0.3]], "radius": 0.1}],
    }

    def layer(name: str, blend: str) -> dict[str, Any]:
        steps = [
            {"kind": "twirl", "settings": {"turns": turned.get(name, 0.3)}},
            {"kind": "wave", "settings": {}},
            {"kind": "pinch", "settings": {}, "where": where},
            {"kind": "ripple", "settings": {}, "where": where, "strength": 0.6},
            {"kind": "tone", "settings": {"contrast": 0.1}, "where": where},
            {"kind": "tone", "settings": {"gamma": 1.1 + turned.get(f"{name} tone", 0)}},
        ]
        trail = [{"id": f"s{n}", **step} for n, step in enumerate(steps)]
        return {
            "id": name,
            "source": {"kind": "photo", "photo": "p.png"},
            "steps": trail,
            "blend": blend,
            "where": where if blend != "normal" else None,
        }

    return check_piece({"caracol": 3, "layers": [layer("low", "normal"), layer("middle", "soft-light"), layer("high", "screen")]})


def layers(photo: OnePhoto) -> dict[str, Any]:
    """Drafts at 768 pixels of three layers of six steps, encoding included, after changing one setting; and cold."""
    cache = Cache(1 << 30)

    def draft(turned: dict[str, float]) -> float:
        start = time.perf_counter()
        encode_draft(render(three_layers(turned), 768, photo, cache=cache, quality=DRAFT))
        return (time.perf_counter() - start) * 1000

    draft({})
    found = {}
    for name in ("high tone", "high", "low tone", "low"):
        found[f"{name}_ms"] = round(statistics.median(draft({name: 0.01 * n}) for n in range(1, 12)), 1)
    held = cache.size
    cold = []
    for _ in range(3):
        cache = Cache(1 << 30)
        cold.append(draft({}))
    return {**found, "cold_ms": round(min(cold), 1), "cache_mb": round(held / 1e6), "cache_limit_mb": round((1 << 30) / 1e6)}


def memory(size: int = 8192) -> dict[str, Any]:
    """Peak memory of an export of 8192² from a 6.75-megapixel JPEG, in a process of its own."""
    photo = Path(tempfile.mkdtemp()) / "photo.jpg"
    Image.fromarray(plain.detailed_photo(1500, 4500)).save(photo, quality=92)
    command = [sys.executable, "-m", "benchmarks.export_memory", str(photo), str(size)]
    done = subprocess.run(command, capture_output=True, text=True, check=True)
    peak, base, seconds, weight = (float(v) for v in done.stdout.split())
    return {"peak_mb": round(peak), "before_mb": round(base), "seconds": round(seconds, 2), "file_mb": round(weight / 1e6, 1)}


def main() -> None:
    """Run everything, or what is named, and keep the figures."""
    parser = argparse.ArgumentParser(prog="python -m benchmarks.run", description=__doc__)
    parser.add_argument("names", nargs="*", help="of figures; all when left out")
    chosen = parser.parse_args().names
    photo8 = plain.detailed_photo(3000, 6000)
    photo = OnePhoto(opaque(photo8 / np.float32(255)))
    export(piece(("ring", {})), photo, 256)
    figures: dict[str, Any] = {
        "when": datetime.now(UTC).isoformat(timespec="seconds"),
        "machine": {"processor": platform.processor() or platform.machine(), "cores": os.cpu_count(), "python": platform.python_version()},
    }
    works: dict[str, Callable[[], Any]] = {
        "ring": lambda: ring(photo8, photo),
        "five_bends": lambda: chain(photo),
        "bends_2048": lambda: bends(photo8, photo),
        "draft_768": lambda: drafts(photo),
        "draft_of_each_kind": lambda: kind_drafts(photo),
        "draft_768_three_layers": lambda: layers(photo),
        "sort_18_megapixels": breaks.sort,
        "breaks_24_megapixels_seconds": lambda: breaks.large(photo),
        "melt_2_megapixels": breaks.melted,
        "roll_of_12_at_512": lambda: breaks.rolled(photo),
        "pointer_to_picture": pointer.measure,
        "export_8192": memory,
    }
    if unknown := sorted(set(chosen) - set(works)):
        parser.error(f"there is no {', '.join(unknown)}; there are {', '.join(works)}")
    for name in chosen or works:
        figures[name] = works[name]()
        print(name, json.dumps(figures[name]), flush=True)
    RESULTS.mkdir(exist_ok=True)
    path = RESULTS / f"{datetime.now(UTC):%Y-%m-%d-%H%M}.json"
    path.write_text(json.dumps(figures, indent=2) + "\n", encoding="utf-8")
    print(f"kept in {path.relative_to(Path.cwd())}")


if __name__ == "__main__":
    main()
