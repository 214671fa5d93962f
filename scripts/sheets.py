"""Every starting point on six photos, as one page to look at before a release: `make sheets`.

Each picture is rendered as the step finder would make it. Under each stands by how much its mean linear light differs from the photo's; a
start that says nothing of dark or light in its name and lies outside `KEPT` is marked.
"""

from __future__ import annotations

import argparse
import html
import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import cache, partial
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from caracol.core.arrays import Array
from caracol.core.catalogue.registry import KINDS
from caracol.core.piece.files import check_piece
from caracol.core.piece.starts import PRESET_CHAINS, STARTS, start_piece
from caracol.core.pixels.kept_light import mean_light
from caracol.core.pixels.pyramid import Pyramid, pyramid_of
from caracol.core.reading.reading import read
from caracol.core.render import render
from caracol.world.photos import draw_missing

KEPT = (0.85, 1.18)
TONED = ("mend", "break", "finish")
"""Families whose starts keep the light; bends show more of one part of a photo than of another."""
RING = [{"kind": "ring", "settings": {"inside": "top", "reach": 1.0}}]
"""What starts that say something only after a ring are shown on."""
PHOTOS = (
    ("salt-marsh-dusk", None), ("pier-globe", None), ("observatory-ridge-night", None), ("station-clock", None),
    ("heron-in-reeds", (0.3, 0.87)), ("tile-wall", None),
)  # fmt: skip
"""Names, and for a portrait the part of the width that is cut out: 3:1, 2:1, a night, nearly square, a figure upright, a texture."""


@dataclass(frozen=True)
class Shown:
    """A start: where it stands on the page, its name, and the trail it makes of a photo."""

    group: str
    name: str
    trail: Any
    toned: bool = False


class Held:
    """The six photos, in memory."""

    def __init__(self, pictures: dict[str, Pyramid]) -> None:
        self.pictures = pictures

    def pyramid(self, name: str) -> Pyramid:
        return self.pictures[name]

    def digest(self, name: str) -> str:
        return name


def all_starts() -> Iterator[Shown]:
    """Yield every starting point: of whole pieces, of several steps, of single kinds, and every kind as it begins."""
    for start in STARTS:
        if start.key != "plain":
            yield Shown("pieces", start.label, start.key)
    whole = {start.label for start in STARTS}
    for one in PRESET_CHAINS:
        if one.name in whole:
            continue
        yield Shown("several", one.name, [{"kind": kind, "settings": settings} for kind, settings in one.steps])
    for kind in KINDS:
        if kind.by_hand or kind.cuts:
            continue
        named = [(start.name, dict(start.settings)) for start in kind.starts]
        rings = {start.name for start in kind.starts if start.after == "winds"}
        begins = kind.settings()
        # A kind that begins as one of its starting points is that one.
        unnamed = not any(kind.settings(**settings) == begins for _, settings in named)
        for name, settings in [*([("as it begins", {})] if unnamed else []), *named]:
            says = any(word in name.lower() for word in ("dark", "light", "night", "bright"))
            toned = kind.family in TONED and not says and kind.key != "keep-only"
            yield Shown(
                f"{kind.family}: {kind.label}", name, [*(RING if name in rings else []), {"kind": kind.key, "settings": settings}], toned
            )


@cache
def _photos(folder: Path) -> tuple[Held, dict[str, Any]]:
    pictures, readings = {}, {}
    for name, part in PHOTOS:
        pixels = cv2.imread(str(folder / f"{name}.jpg"))
        if pixels is None:
            raise SystemExit(f"sheets: {name}.jpg is not in {folder}; draw the demo first (make demo), or name its folder")
        if part:
            pixels = pixels[:, round(part[0] * pixels.shape[1]) : round(part[1] * pixels.shape[1])]
        scale = 900 / max(pixels.shape[:2])
        pixels = cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)[..., ::-1]
        coded = np.dstack([np.float32(pixels) / 255, np.ones(pixels.shape[:2], np.float32)])
        pictures[name] = pyramid_of(np.ascontiguousarray(coded))
        readings[name] = read(pictures[name])
    return Held(pictures), readings


def _piece(photo: str, trail: list[dict[str, Any]]) -> dict[str, Any]:
    steps = [{"id": f"s{n}", **step} for n, step in enumerate(trail, 1)]
    return {"caracol": 3, "layers": [{"id": "a", "name": "A", "source": {"kind": "photo", "photo": photo}, "steps": steps}]}


def render_start(shown: Shown, folder: Path, size: int) -> list[tuple[Array, float]]:
    """Return the six pictures of a start, 8-bit BGR on mid-grey, and the light they keep of their photo."""
    photos, readings = _photos(folder)
    out = []
    for name, _ in PHOTOS:
        plain = _piece(name, [])
        data = start_piece(shown.trail, name, readings[name]) if isinstance(shown.trail, str) else _piece(name, shown.trail)
        made, before = render(check_piece(data), size, photos), render(check_piece(plain), size, photos)
        grey = made[..., :3] + (1 - made[..., 3:]) * 0.5
        picture = (np.clip(grey[..., ::-1], 0, 1) * 255 + 0.5).astype(np.uint8)
        out.append((picture, mean_light(made) / max(mean_light(before), 1e-6)))
    return out


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("photos", type=Path, help="folder with the demo's photos")
    parser.add_argument("--draw", action="store_true", help="draw the demo's photos into that folder first, where they are missing")
    parser.add_argument("-o", "--out", type=Path, default=Path("var/sheets"))
    parser.add_argument("--size", type=int, default=300)
    parser.add_argument("--only", default="", help="groups that hold this word")
    chosen = parser.parse_args()
    if chosen.draw:
        draw_missing(chosen.photos)
    chosen.out.mkdir(parents=True, exist_ok=True)
    starts = [start for start in all_starts() if chosen.only in f"{start.group} {start.name}".lower()]
    rows: list[str] = []
    off, group = 0, ""
    with ProcessPoolExecutor() as pool:
        drawn = pool.map(partial(render_start, folder=chosen.photos, size=chosen.size), starts, chunksize=2)
        for number, (start, pictures) in enumerate(zip(starts, drawn, strict=True)):
            cells = []
            for place, (picture, light) in enumerate(pictures):
                file = f"{number:03}-{place}.jpg"
                cv2.imwrite(str(chosen.out / file), picture, [cv2.IMWRITE_JPEG_QUALITY, 88])
                wrong = start.toned and not KEPT[0] <= light <= KEPT[1]
                off += wrong
                cells.append(
                    f'<td><img loading="lazy" src="{file}" alt=""><br><small class="{"off" if wrong else ""}">{light:.2f}</small></td>'
                )
            if start.group != group:
                group = start.group
                rows.append(f'<tr><th colspan="7"><h2>{html.escape(group)}</h2></th></tr>')
            rows.append(f"<tr><th>{html.escape(start.name)}</th>{''.join(cells)}</tr>")
            if start.toned:
                print(f"{start.group:28} {start.name:24} " + " ".join(f"{light:.2f}" for _, light in pictures), flush=True)
    style = (
        "body{font:14px sans-serif;background:#f6f1e7;color:#2a2521}img{width:190px}.off{color:#b3261e;font-weight:700}th{text-align:left}"
    )
    (chosen.out / "index.html").write_text(
        f'<!doctype html><meta charset="utf-8"><title>All starts</title><style>{style}</style><h1>{len(starts)} starts on six photos</h1>'
        f"<p>{off} pictures keep less than {KEPT[0]} or more than {KEPT[1]} of the light.</p><table>{''.join(rows)}</table>"
    )
    print(f"{len(starts)} starts; {off} pictures off in light; {chosen.out / 'index.html'}", file=sys.stderr)


if __name__ == "__main__":
    main()
