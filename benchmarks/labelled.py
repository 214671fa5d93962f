"""The labelled set: what a reading should say of pictures whose truth a person has told.

The photos are the demo world's, and those that open packages ship as test data (`requirements-photos.txt`); each as it is, mirrored, turned
and cut. What a person could not say with certainty of a picture is left open, and is not counted.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import cv2
import numpy as np

from caracol.core.arrays import Array

LOOK = 512
TURNS = (-8.0, -5.0, -3.0, 3.0, 5.0, 8.0)
"""Degrees, clockwise, by which pictures are turned; what is left is the largest upright box."""
ROUND = (-5.0, 5.0)
"""Degrees by which they are turned with dark corners left."""


@dataclass(frozen=True)
class Truth:
    """What a person says of a picture; None where it is open.

    Parameters
    ----------
    tilt : float, bool or None
        Lean of the horizon in degrees, clockwise; False where there is none, True where it leans somehow.
    horizon : float or None
        Its height in the middle, share from the top.
    sky : bool or None
        Whether a person would say that there is sky in it.
    alone : bool or None
        Whether one object stands on plain or empty ground.
    lettering : bool or None
    good, poor : str
        Uses that it is good for, and that it must not be called good for.
    """

    tilt: float | bool | None = False
    horizon: float | None = None
    sky: bool | None = False
    alone: bool | None = False
    lettering: bool | None = False
    good: frozenset[str] = field(default_factory=frozenset)
    poor: frozenset[str] = field(default_factory=frozenset)


@dataclass(frozen=True)
class Labelled:
    """A picture of the set: where it is from, its pixels (a look, coded and premultiplied), its true width and height, and its truth."""

    name: str
    picture: Array
    truth: Truth


def _uses(words: str) -> frozenset[str]:
    return frozenset(word.strip() for word in words.split(",") if word.strip())


def _land(horizon: float, good: str = "planet, sky well, tunnel", tilt: float = 0.0, poor: str = "inside-out, spiral repeat") -> Truth:
    return Truth(tilt, horizon, sky=True, good=_uses(good), poor=_uses(poor))


def _filled(good: str = "inside-out", poor: str = "planet, sky well, spiral repeat", lettering: bool | None = False) -> Truth:
    return Truth(good=_uses(good), poor=_uses(poor), lettering=lettering)


def _thing(sky: bool | None = False) -> Truth:
    return Truth(sky=sky, alone=True, good=_uses("spiral repeat, cut-out"), poor=_uses("planet, sky well, inside-out, tunnel"))


SUBJECT = "planet, sky well, spiral repeat, tunnel"
"""Not for what shows somebody or something on one side, or in the middle, of a room or a page."""
DEMO: dict[str, Truth] = {
    "salt-marsh-dusk.jpg": _land(0.6),
    "stilt-village-noon.jpg": _land(0.6, tilt=2.3),
    "observatory-ridge-night.jpg": _land(0.65, good="sky well, tunnel"),
    "pier-globe.jpg": _land(0.5),
    "rail-yard-night.jpg": _land(0.42, good="breaking"),
    "tile-wall.jpg": _filled("inside-out, twirl, tunnel"),
    "reed-bed.jpg": _filled("inside-out, tunnel"),
    "kelp-garden.jpg": _filled("inside-out, twirl, tunnel"),
    "station-clock.jpg": replace(_filled("breaking"), lettering=True),
    "heron-in-reeds.jpg": replace(_filled(""), tilt=None, alone=None),
    "salt-crystal.jpg": _thing(),
    "heron.png": _thing(),
    "paper-boat.png": _thing(),
    "tape-bars.jpg": replace(_filled(""), lettering=None),
    "salt-dust.jpg": replace(_filled(""), sky=None),
}
PACKAGES: dict[str, Truth] = {
    "astronaut.png": replace(_filled("breaking", SUBJECT), lettering=None),
    "brick.png": _filled("inside-out, tunnel"),
    "camera.png": Truth(tilt=None, sky=True, poor=_uses("planet, spiral repeat, tunnel")),
    "cell.png": _thing(),
    "chelsea.png": _filled("", SUBJECT),
    "china.jpg": Truth(tilt=None, sky=True, poor=_uses("planet, spiral repeat")),
    "clock_motion.png": _thing(),
    "coffee.png": _filled("", SUBJECT),
    "coins.png": replace(_filled(""), alone=None),
    "flower.jpg": replace(_thing(), poor=_uses("planet, sky well, tunnel")),
    "grace_hopper.jpg": replace(_filled("breaking", SUBJECT), lettering=None),
    "grass.png": _filled("inside-out, tunnel"),
    "gravel.png": _filled("inside-out, tunnel"),
    "horse.png": _thing(),
    "hubble_deep_field.jpg": replace(_filled("", poor="planet"), sky=None),
    "ihc.png": _filled("", poor="planet, sky well"),
    "moon.png": _filled("", "planet, sky well, tunnel, twirl, breaking"),
    "motorcycle_left.png": replace(_filled("", SUBJECT), lettering=None),
    "page.png": replace(_filled("", SUBJECT + ", twirl"), lettering=True),
    "retina.jpg": replace(_thing(), poor=_uses("planet, sky well, tunnel")),
    "rocket.jpg": Truth(tilt=None, sky=True, poor=_uses("planet, spiral repeat, inside-out")),
    "text.png": replace(_filled(""), lettering=None),
}


def load_look(path: Path, size: int = LOOK) -> Array:
    """Return a look of a picture file, coded and premultiplied, `size` pixels at its longer side: float32 (rows, cols, 4)."""
    pixels = cv2.imread(str(path), cv2.IMREAD_UNCHANGED)
    if pixels is None:
        raise FileNotFoundError(path)
    if pixels.ndim == 2:
        pixels = cv2.cvtColor(pixels, cv2.COLOR_GRAY2BGRA)
    elif pixels.shape[2] == 3:
        pixels = cv2.cvtColor(pixels, cv2.COLOR_BGR2BGRA)
    return look_of(pixels, size)


def look_of(bgra: np.ndarray, size: int = LOOK) -> Array:
    """Return a look of 8-bit BGRA pixels as `load_look` does."""
    rows, cols = bgra.shape[:2]
    scale = size / max(rows, cols)
    coded = np.float32(bgra) / 255
    rgba = np.concatenate([coded[..., 2::-1] * coded[..., 3:], coded[..., 3:]], axis=2)
    return np.asarray(
        cv2.resize(rgba, (max(2, round(cols * scale)), max(2, round(rows * scale))), interpolation=cv2.INTER_AREA), np.float32
    )


def _turned(picture: Array, degrees: float, dark: bool) -> Array:
    """Return the picture turned clockwise: cut to the largest upright box, or whole with dark corners."""
    rows, cols = picture.shape[:2]
    matrix = cv2.getRotationMatrix2D(((cols - 1) / 2, (rows - 1) / 2), -degrees, 1)
    if dark:
        fill = (0, 0, 0, 1.0 if picture[..., 3].min() > 0.99 else 0.0)
        return np.asarray(cv2.warpAffine(picture, matrix, (cols, rows), flags=cv2.INTER_LINEAR, borderValue=fill))
    whole = np.asarray(cv2.warpAffine(picture, matrix, (cols, rows), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))
    sine, cosine = abs(np.sin(np.radians(degrees))), abs(np.cos(np.radians(degrees)))
    keep = min(cols / (cols * cosine + rows * sine), rows / (cols * sine + rows * cosine))
    high, wide = int(rows * keep), int(cols * keep)
    return whole[(rows - high) // 2 : (rows - high) // 2 + high, (cols - wide) // 2 : (cols - wide) // 2 + wide]


def _leaned(truth: Truth, degrees: float, keep: float) -> Truth:
    tilt = truth.tilt if truth.tilt is None or isinstance(truth.tilt, bool) else truth.tilt + degrees
    horizon = None if truth.horizon is None else 0.5 + (truth.horizon - 0.5) / keep
    return replace(truth, tilt=tilt, horizon=horizon, good=frozenset(use for use in truth.good if use not in ("planet", "sky well")))


def _cut(truth: Truth, top: float, bottom: float) -> Truth:
    """Return what is true of a level part of a picture, over its whole width or half of it."""
    tilt, horizon, sky = truth.tilt, truth.horizon, truth.sky
    if horizon is not None:
        horizon = (horizon - top) / (bottom - top)
        if not 0.12 < horizon < 0.88:
            # A sliver of the other side may be seen or not.
            tilt, sky, horizon = (False if not -0.1 < horizon < 1.1 else None), (horizon > 0.5 if abs(horizon - 0.5) > 0.55 else None), None
    elif sky and top > 0:
        sky = None
    return replace(truth, tilt=tilt, horizon=horizon, sky=sky, alone=None, lettering=None, good=frozenset(), poor=truth.poor & {"planet"})


def variants(name: str, picture: Array, truth: Truth) -> Iterator[Labelled]:
    """Yield a picture as it is, mirrored, turned, and its parts."""
    rows, cols = picture.shape[:2]
    yield Labelled(name, picture, truth)
    mirrored = replace(truth, tilt=-truth.tilt if isinstance(truth.tilt, float) else truth.tilt, lettering=None)
    yield Labelled(f"{name} mirrored", np.ascontiguousarray(picture[:, ::-1]), mirrored)
    for degrees in TURNS:
        turned = _turned(picture, degrees, dark=False)
        yield Labelled(
            f"{name} {degrees:+.0f}°", np.ascontiguousarray(turned), _leaned(replace(truth, lettering=None), degrees, len(turned) / rows)
        )
    for degrees in ROUND:
        yield Labelled(
            f"{name} {degrees:+.0f}° with corners",
            _turned(picture, degrees, dark=True),
            _leaned(replace(truth, lettering=None, good=frozenset()), degrees, 1.0),
        )
    for part, box in (
        ("left half", (0, 1, 0, 0.5)), ("right half", (0, 1, 0.5, 1)), ("upper half", (0, 0.5, 0, 1)), ("lower half", (0.5, 1, 0, 1)),
        ("lower two thirds", (0.33, 1, 0, 1)), ("middle", (0.1, 0.9, 0.2, 0.8)),
    ):  # fmt: skip
        top, bottom, left, right = box
        piece = picture[round(top * rows) : round(bottom * rows), round(left * cols) : round(right * cols)]
        label = _cut(truth, top, bottom)
        if truth.alone:  # a part of an object fills its frame, or nearly
            label = replace(label, poor=frozenset(), sky=truth.sky)
        yield Labelled(f"{name} {part}", np.ascontiguousarray(piece), label)


def labelled(folders: Sequence[Path]) -> Iterator[Labelled]:
    """Yield the whole set, as far as its photos lie in these folders."""
    for name, truth in {**DEMO, **PACKAGES}.items():
        # Packages keep their pictures deep inside.
        found = next((path for folder in folders for path in sorted(folder.rglob(name)) if "tests" not in path.parts), None)
        if found is not None:
            yield from variants(name, load_look(found), truth)
