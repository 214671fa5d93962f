"""What each setting of each kind promises, as checks on small pictures: one row a setting (test_every_setting.py).

A row is a function of the kind's key and the setting's name. Most are one of a few sorts: something that can be measured grows or falls with
the setting; a neutral value leaves the picture as it is; a place goes where its name says; of choices each has a measure it is best at.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

import cv2
import numpy as np

from caracol.core.arrays import Array
from caracol.core.catalogue.describe import describe
from caracol.core.catalogue.registry import INDEX
from caracol.core.geometry.frame import Frame
from caracol.core.piece.files import check_piece
from caracol.core.pixels.pyramid import Pyramid
from caracol.core.render import Renderer, render
from caracol.core.render.cache import Cache
from caracol.core.render.context import Context
from tests.pictures import OnePhoto, detailed, opaque

Check = Callable[[str, str], None]
Rows = dict[str, Check]
"""The checks of a kind, by the names of its settings."""
LEFT, RIGHT = {"cols": (0, 0.5)}, {"cols": (0.5, 1)}
TOP, FOOT = {"rows": (0, 0.5)}, {"rows": (0.5, 1)}
Measure = Callable[[Array], float]
ROWS, COLS = 96, 144
LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)
Y, X = np.mgrid[0:ROWS, 0:COLS].astype(np.float32)
U, V = ((X + 0.5) / COLS, (Y + 0.5) / ROWS)
UX, UY = ((2 * U - 1) * COLS / ROWS, 2 * V - 1)
"""Places of pixels in units."""


def _grey(light: Array) -> Array:
    return opaque(np.repeat(np.clip(light, 0, 1)[..., None], 3, axis=2).astype(np.float32))


def _disc(x: float, y: float, radius: float) -> Array:
    return np.clip((radius - np.hypot(UX - x, UY - y)) * ROWS / 2 + 0.5, 0, 1).astype(np.float32)


def _hues() -> Array:
    hsv = np.stack([U * 179, np.full_like(U, 200), np.full_like(U, 190)], axis=-1).astype(np.uint8)
    return opaque(cv2.cvtColor(hsv, cv2.COLOR_HSV2RGB).astype(np.float32) / 255)


def _cut() -> Array:
    cover = _disc(0.3, 0.1, 0.45)[..., None]
    return (np.concatenate([np.full((ROWS, COLS, 3), 0.6, np.float32), np.ones((ROWS, COLS, 1), np.float32)], axis=2) * cover).astype(
        np.float32
    )


PICTURES: dict[str, Array] = {
    "noise": detailed(ROWS, COLS, 5),
    "spot": _grey(0.1 + 0.9 * _disc(0.35, -0.25, 0.12)),
    "middle": _grey(0.1 + 0.9 * _disc(0, 0, 0.3)),
    "ramp": _grey(U),
    "fall": _grey(V),
    "grey": _grey(np.full((ROWS, COLS), 0.5, np.float32)),
    "dark": _grey(np.full((ROWS, COLS), 0.2, np.float32)),
    "hues": _hues(),
    "rows": _grey((V * 12 % 1 < 0.5).astype(np.float32)),
    "columns": _grey((U * 18 % 1 < 0.5).astype(np.float32)),
    "step": _grey(np.where(U > 0.5, 0.8, 0.2)),
    "ledge": _grey(np.where(V > 0.5, 0.8, 0.2)),
    "slant": _grey(np.where(V > 0.35 + 0.25 * U, 0.2, 0.8)),
    "blot": opaque(np.stack([0.5 + 0.4 * _disc(0, 0, 0.3), *2 * (0.5 - 0.1 * _disc(0, 0, 0.3),)], axis=-1).astype(np.float32)),
    "cut": _cut(),
    "red": opaque(np.broadcast_to(np.array([0.8, 0.2, 0.2], np.float32), (ROWS, COLS, 3)).copy()),
    "dull": opaque(np.broadcast_to(np.array([0.55, 0.45, 0.45], np.float32), (ROWS, COLS, 3)).copy()),
}
SECOND = _grey(np.where((U * 8 + V * 5) % 1 < 0.5, 0.9, 0.3))


class _Photos:
    """The pictures by their names, and `fed`, a bright green one."""

    def __init__(self) -> None:
        green = opaque(np.broadcast_to(np.array([0.1, 0.9, 0.2], np.float32), (ROWS, COLS, 3)).copy())
        self._found = {name: OnePhoto(picture) for name, picture in (PICTURES | {"fed": green, "second": SECOND}).items()}

    def pyramid(self, name: str) -> Pyramid:
        return self._found[name].pyramid(name)

    def digest(self, name: str) -> str:
        return self._found[name].digest(name)


PHOTOS = _Photos()
CACHE = Cache(1 << 28)
SMALL: dict[str, dict[str, Any]] = {
    "melt": {"lines": 96, "rounds": 12, "push": 0.03, "threshold": 0},
    "pixel-sort": {"lines": 96, "low": 0, "high": 1},
    "tape": {"lines": 120},
    "threshold": {"lines": 0},
    "posterise": {"lines": 0, "of": "channels", "fit": False},
    "crush": {"lines": 96},
    "stipple": {"lines": 240, "pitch": 0.1},
    "grain": {"lines": 240, "amount": 0.4},
    "brushwork": {"lines": 240},
}
"""Settings with which kinds do little work, and plainly."""


def made(kind: str, picture: str = "noise", /, *, under: str | None = None, **settings: Any) -> Array:
    """Return what a step makes of a picture, (rows, cols, 4); over another picture."""
    step = {"id": "s", "kind": kind, "settings": SMALL.get(kind, {}) | settings}
    layer = {"id": "a", "source": {"kind": "photo", "photo": picture}, "steps": [step]}
    low = [] if under is None else [{"id": "low", "source": {"kind": "photo", "photo": under}}]
    piece = check_piece({"caracol": 3, "layers": [*low, layer]})
    frame = Renderer(piece, Context(PHOTOS), layer="a").frame
    return render(piece, frame_size(frame), PHOTOS, layer="a", cache=CACHE)


def frame_size(frame: Frame) -> int:
    return max(round(ROWS * max(frame.ratio, 1)), round(ROWS / min(frame.ratio, 1)))


# What is measured.


def light(p: Array) -> float:
    return float((p[..., :3] @ LUMA).mean())


def lights(p: Array) -> Array:
    return np.asarray(p[..., :3] @ LUMA)


def spread(p: Array) -> float:
    return float(lights(p).std())


def part(measure: Measure, rows: tuple[float, float] = (0, 1), cols: tuple[float, float] = (0, 1)) -> Measure:
    """Measure only a part, in shares."""

    def within(p: Array) -> float:
        h, w = p.shape[:2]
        return measure(p[int(rows[0] * h) : int(rows[1] * h), int(cols[0] * w) : int(cols[1] * w)])

    return within


def fine_across(p: Array) -> float:
    return float(np.abs(np.diff(p[..., :3], axis=1)).mean())


def fine_down(p: Array) -> float:
    return float(np.abs(np.diff(p[..., :3], axis=0)).mean())


def fine(p: Array) -> float:
    return fine_across(p) + fine_down(p)


def level(p: Array) -> float:
    """How much rows differ from each other: of level stripes."""
    return float(np.abs(np.diff(lights(p).mean(axis=1))).mean())


def opacity(p: Array) -> float:
    return float(p[..., 3].mean())


def saturation(p: Array) -> float:
    return float((p[..., :3].max(axis=-1) - p[..., :3].min(axis=-1)).mean())


def warmth(p: Array) -> float:
    return float((p[..., 0] - p[..., 2]).mean())


def channel(n: int) -> Measure:
    return lambda p: float(p[..., n].mean())


def greenness(p: Array) -> float:
    return float((p[..., 1] - p[..., 0]).mean())


def share_light(p: Array) -> float:
    return float((lights(p) > 0.5).mean())


def steps(p: Array) -> float:
    """How many different values there are, about."""
    return float(len(np.unique(np.rint(lights(p) * 200))))


def _centroid(weight: Array) -> tuple[float, float]:
    h, w = weight.shape
    y, x = np.mgrid[0:h, 0:w]
    total = weight.sum() + 1e-9
    return float((x * weight).sum() / total / w), float((y * weight).sum() / total / h)


def bright_x(p: Array) -> float:
    return _centroid(np.maximum(lights(p) - 0.4, 0))[0]


def bright_y(p: Array) -> float:
    return _centroid(np.maximum(lights(p) - 0.4, 0))[1]


def bright_area(p: Array) -> float:
    return float((lights(p) > 0.4).mean())


def changed(picture: str) -> Measure:
    """How far it is from what the picture was."""
    return lambda p: float(np.abs(p - PICTURES[picture]).mean())


def changed_x(picture: str) -> Measure:
    return lambda p: _centroid(np.abs(p - PICTURES[picture]).sum(axis=-1))[0]


def changed_y(picture: str) -> Measure:
    return lambda p: _centroid(np.abs(p - PICTURES[picture]).sum(axis=-1))[1]


def kept_x(picture: str) -> Measure:
    return lambda p: _centroid((np.abs(p - PICTURES[picture]).sum(axis=-1) < 0.02).astype(np.float32))[0]


def kept_y(picture: str) -> Measure:
    return lambda p: _centroid((np.abs(p - PICTURES[picture]).sum(axis=-1) < 0.02).astype(np.float32))[1]


def kept(picture: str) -> Measure:
    return lambda p: float((np.abs(p - PICTURES[picture]).sum(axis=-1) < 0.02).mean())


def crossings(p: Array) -> float:
    """How often the light of the middle row crosses its mean."""
    row = lights(p)[p.shape[0] // 2]
    return float((np.diff(row > row.mean()) != 0).sum())


def crossings_down(p: Array) -> float:
    return crossings(p.transpose(1, 0, 2))


# Sorts of rows.


def _ends(kind: str, name: str) -> tuple[Any, Any]:
    setting = next(one for one in describe(INDEX[kind])["settings"] if one["name"] == name)
    return setting["minimum"], setting["maximum"]


def up(measure: Measure, picture: str = "noise", low: Any = None, high: Any = None, by: float = 1e-3, /, **base: Any) -> Check:
    """What is measured is larger by `by` at least with the setting at `high` than at `low` (its ends when left out)."""

    def check(kind: str, name: str) -> None:
        ends = _ends(kind, name)
        a, b = (
            measure(made(kind, picture, **(base | {name: value})))
            for value in (ends[0] if low is None else low, ends[1] if high is None else high)
        )
        assert b > a + by, f"{kind}.{name}: {a:.4f} became {b:.4f}, and should be more"

    return check


def down(measure: Measure, picture: str = "noise", low: Any = None, high: Any = None, by: float = 1e-3, /, **base: Any) -> Check:
    """What is measured falls."""

    def fallen(p: Array) -> float:
        return -measure(p)

    return up(fallen, picture, low, high, by, **base)


def plain(value: Any, picture: str = "noise", within: float = 0.004, /, **base: Any) -> Check:
    """At this value the picture stays as it is."""

    def check(kind: str, name: str) -> None:
        got = changed(picture)(made(kind, picture, **(base | {name: value})))
        assert got < within, f"{kind}.{name}={value} changes the picture by {got:.4f}"

    return check


def both(*checks: Check) -> Check:
    def check(kind: str, name: str) -> None:
        for one in checks:
            one(kind, name)

    return check


def best(picture: str = "noise", /, *, base: dict[str, Any] | None = None, **measures: Measure) -> Check:
    """Each choice is the one with the most of what is measured for it."""

    def check(kind: str, name: str) -> None:
        setting = next(one for one in describe(INDEX[kind])["settings"] if one["name"] == name)
        pictures = {choice: made(kind, picture, **((base or {}) | {name: choice})) for choice in setting["choices"]}
        for choice, measure in measures.items():
            found = {one: measure(picture) for one, picture in pictures.items()}
            assert max(found, key=lambda one: found[one]) == choice, f"{kind}.{name}: {found}"
            assert sorted(found.values())[-1] > sorted(found.values())[-2] + 1e-4, f"{kind}.{name}: {found}"

    return check


def less(measure: Measure) -> Measure:
    return lambda p: -measure(p)


def drawn(picture: str = "noise", /, **base: Any) -> Check:
    """Another draw is another picture, the same draw the same."""

    def check(kind: str, name: str) -> None:
        first, again, other = (made(kind, picture, **(base | {name: value})) for value in (3, 3, 4))
        assert np.array_equal(first, again)
        assert np.abs(first - other).mean() > 1e-3

    return check


# Bends, by their rules.


@cache
def _grid(ratio: float) -> tuple[Array, Array]:
    return Frame(ratio).grid(24, 36)


def pulled(kind: str, x: Array, y: Array, photo: float = 1.5, /, **settings: Any) -> tuple[Array, Array]:
    definition = INDEX[kind]
    chosen = definition.settings(**settings)
    before = Frame(photo)
    after = definition.frame_after(before, chosen)  # type: ignore[attr-defined]
    px, py = definition.pull(np.ascontiguousarray(x), np.ascontiguousarray(y), before, after, chosen)  # type: ignore[attr-defined]
    return np.asarray(px), np.asarray(py)


def centre(moves_input: bool = True, moves_output: bool = True, **base: Any) -> Check:
    """All of it lies so much farther right or down: where it is laid, and where it takes from, as far as that goes along."""

    def check(kind: str, name: str) -> None:
        d = np.float32(0.25)
        x, y = _grid(1.0)
        axis = 0 if name.endswith("x") else 1
        here = pulled(kind, x, y, **base)
        at = (x + d, y) if axis == 0 else (x, y + d)
        there = pulled(kind, *(at if moves_output else (x, y)), **(base | {name: float(d)}))
        expected = [here[0], here[1]]
        if moves_input:
            expected[axis] = expected[axis] + d
        for got, wanted in zip(there, expected, strict=True):
            assert np.abs(got - wanted).max() < 2e-3, f"{kind}.{name}"

    return check


def still_beyond(**base: Any) -> Check:
    """Nothing moves from the reach on, and something does within it."""

    def check(kind: str, name: str) -> None:
        x, y = _grid(1.0)
        px, py = pulled(kind, x, y, **(base | {name: 0.6}))
        away, rad = np.hypot(px - x, py - y), np.hypot(x, y)
        assert away[rad > 0.61].max() < 1e-4, f"{kind}.{name}"
        assert away[rad < 0.4].max() > 0.01, f"{kind}.{name}"

    return check


def rule(of: Callable[[Callable[..., tuple[Array, Array]]], None]) -> Check:
    """What a rule does, point by point: `of` is given a function of points and settings."""

    def check(kind: str, name: str) -> None:
        def at(x: Any, y: Any, photo: float = 1.5, /, **settings: Any) -> tuple[Array, Array]:
            given = np.atleast_1d(np.asarray(x, np.float32)), np.atleast_1d(np.asarray(y, np.float32))
            return pulled(kind, *given, photo, **settings)

        of(at)

    return check


def near(got: Any, wanted: Any, within: float = 2e-3) -> None:
    assert np.abs(np.asarray(got) - np.asarray(wanted, np.float32)).max() < within, f"got {got}, expected {wanted}"


def edges(base: dict[str, Any], leaves_bare: bool = True) -> Check:
    """What comes from outside: the picture again, mirrored, its last line, or nothing, which shows where nothing else is laid."""

    def check(kind: str, name: str) -> None:
        found = {choice: made(kind, "noise", **(base | {name: choice})) for choice in ("tile", "mirror", "stretch", "empty")}
        assert not leaves_bare or opacity(found["empty"]) < min(opacity(found[one]) for one in ("tile", "mirror", "stretch")) - 0.003, (
            f"{kind}.{name}"
        )
        for one, other in (("tile", "mirror"), ("mirror", "stretch"), ("tile", "stretch")):
            assert np.abs(found[one] - found[other]).mean() > 2e-4, f"{kind}.{name}: {one} and {other} are alike"

    return check
