"""Figures found in a photo from a rough box and strokes.

References
----------
C. Rother, V. Kolmogorov and A. Blake, GrabCut: Interactive Foreground Extraction using Iterated Graph Cuts (2004), as OpenCV has it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

import cv2
import numpy as np

from ..arrays import AnyArray, Array
from ..geometry.frame import Frame
from .figures import haired

LOOK = 320
"""A figure is looked for in so many pixels of the box's longer side, what lies round it included."""
FINER = 2
"""Its edge is then found in so many times as many."""
NEAR = 5.0
"""So many of those pixels from the edge that was found first."""
ROUND = 0.3
"""So much of the box is looked at on every side of it, to learn what is behind."""
GUESSED = 200
"""Several ways of looking are tried in so many pixels."""
MIDDLE = 0.12
"""The middle of a box, as the square of a share of its half sides."""
FLAT, FLAT_TONES = 8, 24
"""Pixels and levels within which what is alike is made one colour, so that a pattern is one surface."""
TEXTURE_BELOW = 1.3
"""Where the best figure fills its box less (`_fits`), it is looked for by texture as well."""
SPECK = 0.02
REACHED = 0.85
"""Whatever reaches so far of a box reaches its sides: nobody draws one to the pixel."""
LOSS = 0.05
COLOURS = 5
"""The library learns so many colours of figure and of ground, and needs a pixel for each."""
ROUNDS = 5
LEAST = 0.015
"""Parts, and holes, that fill less of the box are none."""
LEAST_HINTED = 0.0006
"""The same where strokes said what is figure."""
HEARD = 3.0
"""A stroke is heard so many of its radii from its line, …"""
FOLLOWED = 4.0
"""… and so many, where what it changes hangs together with it."""
HUES = 4
"""Colours by which what is under a stroke is told from what is near it."""
FINE = 0.9
"""How far an outline may run beside the edge, in pixels of the look."""

Box = tuple[float, float, float, float]
Polygon = list[tuple[float, float]]


def _around(picture: Array, frame: Frame, box: Box) -> tuple[Array, Box]:
    """Return what lies in and round a box, `FINER` times `LOOK` pixels on its longer side at most, and where it lies, in units."""
    rows, cols = picture.shape[:2]
    left, top, right, bottom = box
    wide, high = right - left, bottom - top
    a, c = max(left - ROUND * wide, -frame.half_w), min(right + ROUND * wide, frame.half_w)
    b, d = max(top - ROUND * high, -frame.half_h), min(bottom + ROUND * high, frame.half_h)
    col, row = cols / 2 / frame.half_w, rows / 2 / frame.half_h
    x0, x1 = int((a + frame.half_w) * col), max(ceil((c + frame.half_w) * col), int((a + frame.half_w) * col) + 2)
    y0, y1 = int((b + frame.half_h) * row), max(ceil((d + frame.half_h) * row), int((b + frame.half_h) * row) + 2)
    part = picture[y0:y1, x0:x1]
    by = FINER * LOOK / max(part.shape[:2])
    if by < 1:
        part = cv2.resize(part, (max(2, round(part.shape[1] * by)), max(2, round(part.shape[0] * by))), interpolation=cv2.INTER_AREA)
    return part, (x0 / col - frame.half_w, y0 / row - frame.half_h, x1 / col - frame.half_w, y1 / row - frame.half_h)


Hint = tuple[Sequence[tuple[float, float]], float, bool]
"""A stroke over what is (or is no) figure: its points and radius in units, and whether it is."""


def _figure_of(mask: AnyArray) -> Array:
    """Return 1 where a mask of certainties says figure."""
    return np.asarray(((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(np.float32))


def _hinted(mask: AnyArray, hints: Sequence[Hint], corner: tuple[float, float], scale: tuple[float, float]) -> None:
    """Write strokes into a mask of certainties."""
    for points, radius, is_figure in hints:
        line = np.array([[(x - corner[0]) * scale[0] * 8, (y - corner[1]) * scale[1] * 8] for x, y in points]).round().astype(np.int32)
        wide = max(1, round(2 * radius * min(scale)))
        value = cv2.GC_FGD if is_figure else cv2.GC_BGD
        cv2.polylines(mask, [line if len(line) > 1 else np.repeat(line, 2, axis=0)], False, int(value), wide, cv2.LINE_8, 3)


def _searched(whole: Array, place: Box, box: Box, hints: Sequence[Hint]) -> Array | None:
    """Return 1 where a figure is, in `LOOK` pixels of what lies round its box; None where the box is too small to look in."""
    view = _View.of(whole, place, box, LOOK)
    if view is None:
        return None
    rough = _refined(view, _guessed(_View.of(whole, place, box, GUESSED) or view))
    if not hints:
        return rough
    mask = np.where(rough > 0, cv2.GC_PR_FGD, np.where(view.inside, cv2.GC_PR_BGD, cv2.GC_BGD)).astype(np.uint8)
    _hinted(mask, hints, place[:2], view.scale)
    some = _figure_of(mask)
    if some.min() == some.max():
        return some  # strokes say of all of it what it is: there is nothing left to learn
    _grabbed(view.pixels, mask, 2)
    return _heard(rough, _figure_of(mask), hints, view, place)


@dataclass(frozen=True)
class _View:
    """What lies round a box in so many pixels.

    Parameters
    ----------
    pixels : uint8 array (rows, cols, 3)
        Blue, green, red, as the library has it.
    inside : bool array (rows, cols)
        The box: nothing outside it is figure. A pixel is left all round, so that there is something to learn from.
    sides : (left, top, right, bottom)
        Of the box, in pixels; beyond the view where the picture ends before it.
    scale : (across, down)
        Pixels per unit.
    """

    pixels: AnyArray
    inside: AnyArray
    sides: tuple[int, int, int, int]
    scale: tuple[float, float]

    @classmethod
    def of(cls, whole: Array, place: Box, box: Box, longer: int) -> _View | None:
        """Return a view of at most so many pixels on its longer side; None where the box has less than four of them."""
        by = min(1.0, longer / max(whole.shape[:2]))
        small = (max(2, round(whole.shape[1] * by)), max(2, round(whole.shape[0] * by)))
        part = cv2.resize(whole, small, interpolation=cv2.INTER_AREA) if by < 1 else whole
        rows, cols = part.shape[:2]
        scale = cols / (place[2] - place[0]), rows / (place[3] - place[1])
        sides = (
            round((box[0] - place[0]) * scale[0]), round((box[1] - place[1]) * scale[1]),
            round((box[2] - place[0]) * scale[0]), round((box[3] - place[1]) * scale[1]),
        )  # fmt: skip
        x0, x1, y0, y1 = max(1, sides[0]), min(cols - 1, sides[2]), max(1, sides[1]), min(rows - 1, sides[3])
        if x1 - x0 < 4 or y1 - y0 < 4:
            return None
        inside = np.zeros((rows, cols), bool)
        inside[y0:y1, x0:x1] = True
        pixels = np.ascontiguousarray((np.clip(part[..., 2::-1], 0, 1) * 255 + 0.5).astype(np.uint8))
        return cls(pixels, inside, sides, scale)

    def where(self) -> tuple[AnyArray, AnyArray]:
        """Return how far across and down each pixel lies in the box, -1…1 from side to side."""
        x0, y0, x1, y1 = self.sides
        y, x = np.mgrid[: self.inside.shape[0], : self.inside.shape[1]]
        return (x - (x0 + x1) / 2) / max((x1 - x0) / 2, 1), (y - (y0 + y1) / 2) / max((y1 - y0) / 2, 1)


def _grabbed(pixels: AnyArray, mask: AnyArray, rounds: int) -> None:
    """Tell figure from ground in a mask of certainties, in place; the same at every run. Of too few pixels of either nothing can be learnt."""
    if COLOURS <= np.count_nonzero(mask % 2) <= mask.size - COLOURS:
        cv2.setRNGSeed(16)
        cv2.grabCut(pixels, mask, (0, 0, 1, 1), np.zeros((1, 65)), np.zeros((1, 65)), rounds, cv2.GC_INIT_WITH_MASK)


def _guessed(view: _View) -> Array:
    """Return 1 where a figure may be: of several ways of looking, the one whose figure fills the box it was told to be in.

    References
    ----------
    V. Lempitsky, P. Kohli, C. Rother and T. Sharp, Image Segmentation with a Bounding Box Prior, ICCV (2009): who draws a box draws it so
    that the figure reaches its sides.
    """
    across, down = view.where()
    flat = cv2.pyrMeanShiftFiltering(view.pixels, FLAT, FLAT_TONES)
    middle = across**2 + down**2 < MIDDLE
    somebody = (np.abs(across) < 0.5) & (down > -0.7) | (down > 0.4) & (np.abs(across) < 0.9)
    everything = np.ones_like(middle)
    best, most = np.zeros(middle.shape, np.float32), -1.0
    ways = ((view.pixels, everything), (view.pixels, middle), (flat, middle), (flat, somebody), (None, everything))
    for pixels, begun in ways:
        if pixels is None and most > TEXTURE_BELOW:
            break
        mask = np.where(view.inside, np.where(begun, cv2.GC_PR_FGD, cv2.GC_PR_BGD), cv2.GC_BGD).astype(np.uint8)
        _grabbed(_textures(view.pixels) if pixels is None else pixels, mask, ROUNDS)
        found = _figure_of(mask)
        if pixels is None:
            # Of a surface that ends, roughness tells nothing within its own reach.
            found = cv2.dilate(found, np.ones((7, 7), np.uint8)) * view.inside
        fits = _fits(found, view.sides)
        if fits > most:
            best, most = found, fits
    return best


def _textures(pixels: AnyArray) -> AnyArray:
    """Return light, roughness and colourfulness as a picture: what tells a plain figure from a patterned ground of the same colours."""
    lab = cv2.cvtColor(pixels, cv2.COLOR_BGR2LAB).astype(np.float32)
    light = lab[..., 0]
    mean = cv2.GaussianBlur(light, (0, 0), 3)
    rough = np.sqrt(np.maximum(cv2.GaussianBlur(light * light, (0, 0), 3) - mean * mean, 0))
    chroma = cv2.GaussianBlur(np.hypot(lab[..., 1] - 128, lab[..., 2] - 128), (0, 0), 3)
    return np.clip(np.dstack([mean, 40 * np.log(rough + 1), 3 * chroma]), 0, 255).astype(np.uint8)


def _fits(found: Array, sides: tuple[int, int, int, int]) -> float:
    """Return how well a figure fills the box it is in: how far it reaches, the lesser of both ways, and how much of it is one piece; 0…2."""
    number, labels, stats, _ = cv2.connectedComponentsWithStats(found.astype(np.uint8))
    if number < 2:
        return 0.0
    areas = stats[1:, cv2.CC_STAT_AREA]
    large = np.isin(labels, 1 + np.flatnonzero(areas > SPECK * areas.max()))
    rows, cols = np.flatnonzero(large.any(axis=1)), np.flatnonzero(large.any(axis=0))
    wide = min(sides[2], found.shape[1]) - max(sides[0], 0)
    high = min(sides[3], found.shape[0]) - max(sides[1], 0)
    reach = min((cols[-1] - cols[0] + 1) / max(wide, 1), (rows[-1] - rows[0] + 1) / max(high, 1))
    return float(min(reach, REACHED) + areas.max() / areas.sum())


def _refined(view: _View, guess: Array) -> Array:
    """Return a guess looked at again in the pixels of a view; itself, as large, where that makes it fill its box less."""
    rows, cols = view.inside.shape
    larger = cv2.resize(guess, (cols, rows), interpolation=cv2.INTER_LINEAR) >= 0.5
    larger &= view.inside
    mask = np.where(larger, cv2.GC_PR_FGD, np.where(view.inside, cv2.GC_PR_BGD, cv2.GC_BGD)).astype(np.uint8)
    _grabbed(view.pixels, mask, 1)
    found, kept = _figure_of(mask), larger.astype(np.float32)
    return found if _fits(found, view.sides) >= _fits(kept, view.sides) - LOSS else kept


def _like(pixels: AnyArray, told: AnyArray, other: AnyArray) -> AnyArray:
    """Return which pixels are nearer in colour to what strokes lie on than to what is near them and of the other side: (rows, cols) each."""
    other = other & ~told
    if told.sum() < 4 or other.sum() < 4:
        return np.ones(told.shape, bool)
    lab = cv2.cvtColor(pixels, cv2.COLOR_BGR2LAB).astype(np.float32)
    away = []
    for mask in (told, other):
        colours = lab[mask]
        cv2.setRNGSeed(16)
        _, _, centres = cv2.kmeans(colours, min(HUES, len(colours)), None, (3, 12, 0.5), 1, cv2.KMEANS_PP_CENTERS)  # type: ignore[call-overload]
        away.append(np.min([((lab - centre) ** 2).sum(axis=2) for centre in centres], axis=0))
    return np.asarray(away[0] <= away[1])


def _heard(rough: Array, found: Array, hints: Sequence[Hint], view: _View, place: Box) -> Array:
    """Return what strokes change: each only its own way, round itself and where what it changes hangs together with it. The rest was not meant."""
    out = rough.copy()
    for is_figure in (True, False):
        own = [(points, radius, True) for points, radius, way in hints if way == is_figure]
        line, near, far = (np.zeros(rough.shape, np.uint8) for _ in range(3))
        for mask, reach in ((line, 1.0), (near, HEARD), (far, FOLLOWED)):
            _hinted(mask, [(points, reach * radius, True) for points, radius, _ in own], place[:2], view.scale)
        changed = (found > rough) if is_figure else (found < rough)
        _, labels = cv2.connectedComponents((changed | (line == cv2.GC_FGD)).astype(np.uint8))
        told = np.unique(labels[line == cv2.GC_FGD])
        together = np.isin(labels, told[told > 0]) & (far == cv2.GC_FGD)
        meant = (
            changed & (together | (near == cv2.GC_FGD)) & _like(view.pixels, line == cv2.GC_FGD, (far == cv2.GC_FGD) & (rough != is_figure))
        )
        # Told by single pixels, an edge would be a saw.
        even = cv2.medianBlur((meant | (line == cv2.GC_FGD)).astype(np.uint8), 5) > 0
        out[even | (line == cv2.GC_FGD)] = 1.0 if is_figure else 0.0
    return out


def propose_outline(picture: Array, frame: Frame, box: Box, hints: Sequence[Hint] = ()) -> tuple[list[Polygon], list[Polygon]]:
    """Find the figure in a rough box.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    frame : Frame
    box : (left, top, right, bottom)
        In units.
    hints : sequence of strokes
        What is figure, and what is not: they hold exactly, and what is like them goes with them.

    Returns
    -------
    outlines, holes : list of polygons
        Closed, in units; none where nothing is told from what is behind.
    """
    if box[0] >= frame.half_w or box[2] <= -frame.half_w or box[1] >= frame.half_h or box[3] <= -frame.half_h:
        return [], []  # beside the picture
    whole, place = _around(picture, frame, box)
    rough = _searched(whole, place, box, hints)
    if rough is None:
        return [], []
    rows, cols = whole.shape[:2]
    left, top, right, bottom = place
    scale = cols / (right - left), rows / (bottom - top)
    larger = cv2.resize(rough, (cols, rows), interpolation=cv2.INTER_LINEAR)
    found = (haired(np.ascontiguousarray(whole[..., :3]), larger, NEAR) >= 0.5).astype(np.uint8)
    if hints:
        sure: AnyArray = np.full(found.shape, 2, np.uint8)
        _hinted(sure, hints, (left, top), scale)
        found = np.where(sure == cv2.GC_FGD, 1, np.where(sure == cv2.GC_BGD, 0, _opened(found))).astype(np.uint8)
        whole_box = (box[2] - box[0]) * scale[0] * (box[3] - box[1]) * scale[1]
        # A count of pixels is less than what an outline round them holds.
        found = _without_specks(found, 0.7 * LEAST * whole_box, sure == cv2.GC_FGD)
        found = 1 - _without_specks(1 - found, 0.7 * LEAST * whole_box, sure == cv2.GC_BGD)
        return _outlined(found, LEAST_HINTED * whole_box, (left, top), scale)
    least = LEAST * (box[2] - box[0]) * scale[0] * (box[3] - box[1]) * scale[1]
    return _outlined(_opened(found), least, (left, top), scale)


def _opened(found: AnyArray) -> AnyArray:
    return np.asarray(cv2.morphologyEx(found, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))), np.uint8)


def _without_specks(found: AnyArray, least: float, told: AnyArray) -> AnyArray:
    """Return a mask without its parts of less than `least` pixels, but those that strokes told of."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(found)
    kept = stats[:, cv2.CC_STAT_AREA] >= least
    kept[np.unique(labels[told])] = True
    kept[0] = False
    return kept[labels].astype(np.uint8)


def _outlined(
    found: AnyArray, least: float, corner: tuple[float, float], scale: tuple[float, float]
) -> tuple[list[Polygon], list[Polygon]]:
    """Return the outlines and holes of a mask that are larger than `least` pixels, in units."""
    lines, nested = cv2.findContours(found, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    outlines: list[Polygon] = []
    holes: list[Polygon] = []
    for line, (_, _, _, parent) in zip(lines, nested[0] if nested is not None else (), strict=True):
        if cv2.contourArea(line) < least:
            continue
        kept = cv2.approxPolyDP(line, FINE, closed=True)[:, 0]
        points = [(round(float(c + 0.5) / scale[0] + corner[0], 5), round(float(r + 0.5) / scale[1] + corner[1], 5)) for c, r in kept]
        if len(points) >= 3:
            (outlines if parent < 0 else holes).append(points[:: ceil(len(points) / 480)])
    return outlines, holes
