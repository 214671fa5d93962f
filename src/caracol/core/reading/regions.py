"""What a photo's edges, ground, sky and surround are like."""

from __future__ import annotations

from math import tan, tau

import cv2
import numpy as np

from ..arrays import AnyArray, Array
from ..pixels.blending import LUMA

SHARP = 0.3
"""What has this share of the finest detail of a picture's sharpest parts is in focus; …"""
LEAST_SHARP = 0.012
"""… a picture of which even those have less is soft all over, and noise is not focus."""
DARK = 0.06
"""Darker than this is the black round a disc."""
SMALL = 144
"""Pixels of the look on which the photo is parted, at its longer side."""
GREY_OF_TEXTURE = 0.003
OF_TEXTURE = 0.35
"""Texture is this times the logarithm of the fine detail, so that it weighs about as much as light."""
ROWS, COLS = 6, 8
"""Parts in which a picture's unevenness along the width is measured."""


def nothing_of(picture: Array) -> AnyArray:
    """Return which pixels of a look show nothing: transparent ones, and black corners that a turned picture leaves.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.

    Returns
    -------
    bool array (rows, cols)
    """
    nothing = picture[..., 3] < 0.5
    black = (picture[..., :3].max(axis=2) < 0.01).astype(np.uint8)
    _, labels = cv2.connectedComponents(black, connectivity=4)
    corners = {int(labels[r, c]) for r in (0, -1) for c in (0, -1)} - {0}
    empty = np.isin(labels, list(corners))
    # A night is black as well: corners are wedges, and small.
    return np.asarray(nothing | empty if 0 < empty.mean() < 0.3 else nothing)


def _fine(picture: Array) -> Array:
    """Return how much fine detail there is at each pixel, compressed to 0…1."""
    grey = np.asarray(picture[..., :3].mean(axis=2), np.float32)
    soft = cv2.GaussianBlur(grey, (0, 0), 1.5)
    slope = np.hypot(cv2.Sobel(soft, cv2.CV_32F, 1, 0, ksize=3), cv2.Sobel(soft, cv2.CV_32F, 0, 1, ksize=3))
    return np.asarray(slope, np.float32)


def _like_sky(picture: Array) -> AnyArray:
    """Return which pixels have a colour that skies have: light, bluish, or as dark as a night."""
    lab = cv2.cvtColor(np.ascontiguousarray(np.clip(picture[..., :3], 0, 1)), cv2.COLOR_RGB2Lab)
    light, green, yellow = lab[..., 0], lab[..., 1], lab[..., 2]
    chroma = np.hypot(green, yellow)
    # Pale or pink and orange, as evenings are; what is yellow without red is reed, sand or paper.
    pale = (light > 60) & ((chroma < 14) | (green > 5) & (yellow < 40)) & ~((yellow > 8) & (green < 3))
    blue = (yellow < -7) & (green > -14)
    return np.asarray(pale | blue)


def sky_mask(picture: Array, horizon: float | None) -> AnyArray:
    """Return which pixels of a small look are sky.

    Sky lies over the horizon, where there is one (as a share of the height). Elsewhere it is what is calm and has a sky's colour, hangs
    together from the top edge, along most of it, and ends above the bottom edge: what goes on below the subject is a plain ground.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    horizon : float, optional
        As a share of the height.

    Returns
    -------
    bool array (rows, cols)
    """
    rows, cols = picture.shape[:2]
    there = ~nothing_of(picture)
    mask = np.zeros((rows, cols), bool)
    if horizon is not None:
        mask[: round(horizon * rows)] = True
        return mask & there
    calm = (_fine(picture) < 0.14) & there
    open_ = (calm & _like_sky(picture)).astype(np.uint8)
    _, labels = cv2.connectedComponents(cv2.morphologyEx(open_, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)), connectivity=4)
    edge = max(1, rows // 50)
    touching = set(np.unique(labels[:edge])) - {0}
    sky = np.isin(labels, list(touching))
    if sky[:edge].any(axis=0).mean() < 0.5:
        return mask
    foot = sky[-edge:].any(axis=0).mean()
    if foot > 0.06 and not ((foot < 0.35 or sky.mean() > 0.8) and _coloured(picture, sky)):
        return mask
    return np.asarray(sky)


def _coloured(picture: Array, mask: AnyArray) -> bool:
    """Return whether what the mask covers is coloured, as skies are and papers and tables are not."""
    rgb = picture[..., :3][mask]
    return bool((rgb.max(axis=1) - rgb.min(axis=1)).mean() > 0.14)


def sky_of(picture: Array, horizon: float | None) -> tuple[float, float]:
    """Return the share of the photo that is sky, and how plain it is (0 busy … 1 quite plain).

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.
    horizon : float, optional
        As a share of the height.

    Returns
    -------
    share, plainness : float
        0…1.
    """
    mask = sky_mask(picture, horizon)
    share = float(mask.mean())
    if share < 0.02:
        return share, 0.0
    smooth = cv2.GaussianBlur(picture[..., :3], (0, 0), max(2.0, picture.shape[0] / 20))
    rough = float(np.abs(picture[..., :3] - smooth).mean(axis=2)[mask].mean())
    return share, float(np.exp(-25 * rough))


def stands_alone(picture: Array) -> bool:
    """Return whether one object stands on plain ground, on nothing, or in focus before a blurred ground.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        A small look, coded and premultiplied.

    Returns
    -------
    bool

    Notes
    -----
    The ground is a smooth colour (a quadric through the outermost tenth, fitted twice, the second time without what stands out), nothing,
    black round a disc, or what is out of focus. The object is what differs from it; it must be one piece, nearly, and stand clear of most
    of the edge.
    """
    return _is_disc(picture) or _off_plain_ground(picture) or _in_focus(picture)


def _is_disc(picture: Array) -> bool:
    """Return whether all that is shown is one round disc, on black or on nothing, as through a microscope or an ophthalmoscope."""
    shown = (_lit(picture) > DARK).astype(np.uint8)
    number, _, stats, _ = cv2.connectedComponentsWithStats(cv2.morphologyEx(shown, cv2.MORPH_CLOSE, np.ones((15, 15), np.uint8)))
    if number < 2 or shown[[0, 0, -1, -1], [0, -1, 0, -1]].any():
        return False
    left, top, wide, high, area = stats[1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())]
    radius = max(wide, high) / 2
    # Of a disc that is cut at two sides the frame shows less.
    y, x = np.ogrid[: picture.shape[0], : picture.shape[1]]
    round_ = (x - (left + wide / 2 - 0.5)) ** 2 + (y - (top + high / 2 - 0.5)) ** 2 < radius**2
    alike = (round_ & (shown > 0)).sum() / max(1, (round_ | (shown > 0)).sum())
    return bool(alike > 0.93 and area > 0.3 * shown.size and min(wide, high) > 0.8 * max(wide, high))


def _lit(picture: Array) -> Array:
    return np.asarray(np.where(picture[..., 3] > 0.5, picture[..., :3].max(axis=2), 0), np.float32)


def _in_focus(picture: Array) -> bool:
    """Return whether one thing is sharp, and all along the edge the picture is out of focus."""
    grey = np.asarray(picture[..., :3].mean(axis=2), np.float32)
    finest = np.abs(grey - cv2.GaussianBlur(grey, (0, 0), 1.0))
    near = cv2.GaussianBlur(finest, (0, 0), max(1.0, max(grey.shape) / 85))
    small = cv2.resize(near, _size(picture, 96), interpolation=cv2.INTER_AREA)
    most = float(np.percentile(small, 95))
    sharp = small > SHARP * most
    band = max(2, min(small.shape) // 10)
    inner = np.zeros(small.shape, bool)
    inner[band:-band, band:-band] = True
    closed = cv2.morphologyEx(sharp.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8))
    areas = cv2.connectedComponentsWithStats(closed)[2][1:, cv2.CC_STAT_AREA] / closed.size
    if most < LEAST_SHARP or not len(areas):
        return False
    return bool(sharp[~inner].mean() < 0.1 and 0.04 < areas.max() < 0.42 and areas.max() > 0.9 * areas.sum())


def _off_plain_ground(picture: Array) -> bool:
    """Return whether one object stands on a ground of one smooth colour, or on nothing."""
    small = cv2.resize(picture, _small(picture), interpolation=cv2.INTER_AREA)
    rows, cols = small.shape[:2]
    nothing = nothing_of(picture)
    there = cv2.resize((~nothing).astype(np.float32), (cols, rows), interpolation=cv2.INTER_AREA) > 0.99
    band = max(2, min(rows, cols) // 12)
    border = np.ones((rows, cols), bool)
    border[band:-band, band:-band] = False
    if (small[..., 3] < 0.5).mean() > 0.1:
        object_ = small[..., 3] >= 0.5
    else:
        lab = cv2.cvtColor(np.ascontiguousarray(np.clip(small[..., :3], 0, 1)), cv2.COLOR_RGB2Lab)
        border &= cv2.erode(there.astype(np.uint8), np.ones((7, 7), np.uint8)) > 0
        if border.mean() < 0.1:
            return False
        off = _off_ground(lab, border)
        # Grain is not ground; leaves and bricks are not plain, however alike their colours.
        if (off < 8)[border].mean() < 0.86 or float(np.median(_fine(small)[border])) > 0.035:
            return False
        object_ = (off > 10) & there
    closed = np.asarray(cv2.morphologyEx(object_.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((9, 9), np.uint8)))
    number, _, stats, _ = cv2.connectedComponentsWithStats(closed)
    if number < 2:
        return False
    areas = stats[1:, cv2.CC_STAT_AREA] / closed.size
    outermost = np.concatenate([closed[0], closed[-1], closed[:, 0], closed[:, -1]]).mean()
    return bool(0.015 < areas.max() < 0.75 and areas.max() > 0.55 * areas.sum() and outermost < 0.12)


def _small(picture: Array) -> tuple[int, int]:
    return _size(picture, 160)


def _size(picture: Array, longer: int) -> tuple[int, int]:
    """Return (cols, rows) of a look whose longer side has so many pixels, at least 24 each."""
    scale = longer / max(picture.shape[:2])
    return max(24, round(picture.shape[1] * scale)), max(24, round(picture.shape[0] * scale))


def _off_ground(lab: Array, border: AnyArray) -> AnyArray:
    """Return how far each pixel's colour is from that of the ground, which a quadric through the border's pixels tells."""
    rows, cols = lab.shape[:2]
    y, x = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : cols * 1j]
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)
    kept = border.copy()
    off = np.zeros((rows, cols))
    for _ in range(2):
        fit, *_ = np.linalg.lstsq(terms[kept], lab[kept].astype(float), rcond=None)
        off = np.linalg.norm(lab - terms @ fit, axis=2)
        kept = border & (off < max(6.0, 2.5 * float(np.median(off[border]))))
    return off


def edge_agreement(picture: Array) -> float:
    """Return 0…100: how well the left and the right edge of a photo would join.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    float
        0…100.

    Notes
    -----
    The two outermost strips (one hundredth of the width) are compared row by row after the better of small shifts up or down (3 % of
    the height): half the score is tone (mean distance of the colours), half is detail (mean distance of the steps along the edge).
    """
    rows, cols = picture.shape[:2]
    wide = max(1, cols // 100)
    left, right = picture[:, :wide, :3].mean(axis=1), picture[:, -wide:, :3].mean(axis=1)
    reach = min(max(1, rows * 3 // 100), rows - 1)
    best = np.inf
    for shift in range(-reach, reach + 1):
        a, b = left[max(0, shift) : rows + min(0, shift)], right[max(0, -shift) : rows - max(0, shift)]
        tone = np.abs(a - b).mean()
        detail = np.abs(np.diff(a, axis=0) - np.diff(b, axis=0)).mean() if len(a) > 1 else 0.0
        best = min(best, float(tone + 2 * detail))
    return float(100 * np.exp(-6 * best))


def crush_of_edges(picture: Array) -> tuple[float, float]:
    """Return how much would be crushed to a star in the middle of a ring: how much columns differ in the top and the bottom twelfth, 0…1.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    top, bottom : float
        The deviation along a row, finest texture left out, in the mean of the rows.
    """
    rows = picture.shape[0]
    band = max(1, rows // 12)
    small = cv2.GaussianBlur(picture[..., :3], (0, 0), 1.5)
    top, bottom = (float(part.std(axis=1).mean()) for part in (small[:band], small[rows - band :]))
    return top, bottom


def surround_of(picture: Array) -> tuple[str, float]:
    """Return the colour of the outermost twelfth of the photo as `#rrggbb`, and how plain it is (0…1).

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    colour : str
    plainness : float
        0…1.
    """
    rows, cols = picture.shape[:2]
    band = max(1, min(rows, cols) // 12)
    border = np.concatenate(
        [picture[:band].reshape(-1, 4), picture[-band:].reshape(-1, 4), picture[:, :band].reshape(-1, 4), picture[:, -band:].reshape(-1, 4)]
    )
    middle = np.median(border[:, :3], axis=0)
    plain = float(np.exp(-8 * np.abs(border[:, :3] - middle).mean()))
    return "#" + "".join(f"{round(float(np.clip(c, 0, 1)) * 255):02x}" for c in middle), plain


def spreads_of(picture: Array) -> tuple[float, float, float, float]:
    """Return (darkness, tone spread, hue spread, detail) of a small look, each 0…1.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    tuple of float

    Notes
    -----
    Darkness: 1 - mean luma. Tone spread: from the 5th to the 95th percentile of the luma. Hue spread: how evenly colour is dealt round
    the circle of hues, entropy of 24 parts weighted by chroma, times how much chroma there is. Detail: mean step of the luma between
    neighbours, 0.08 and more counting as 1.
    """
    rgb = picture[..., :3]
    luma = rgb @ LUMA
    low, high = np.percentile(luma, (5, 95))
    hsv = cv2.cvtColor(np.ascontiguousarray(np.clip(rgb, 0, 1)), cv2.COLOR_RGB2HSV)
    chroma = rgb.max(axis=2) - rgb.min(axis=2)
    dealt, _ = np.histogram(hsv[..., 0], bins=24, range=(0, 360), weights=chroma)
    share = dealt / max(float(dealt.sum()), 1e-9)
    entropy = float(-(share * np.log(np.maximum(share, 1e-9))).sum() / np.log(24))
    steps = np.abs(np.diff(luma, axis=0)).mean() + np.abs(np.diff(luma, axis=1)).mean() if min(luma.shape) > 1 else 0.0
    return float(1 - luma.mean()), float(high - low), entropy * min(1.0, float(chroma.mean()) / 0.12), min(1.0, float(steps) / 0.08)


def unevenness(picture: Array, tilt: float = 0.0) -> float:
    """Return how much a picture's rows differ along the width: 0 where each is the same all along, as a ring of it would be all round.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.
    tilt : float
        Lean of the horizon in turns, clockwise: the picture is levelled first.

    Returns
    -------
    float
        About 0.05 for walls, 0.1 for wide land, 0.2 and more where a thing or a person stands on one side.

    Notes
    -----
    The deviation along the width of light, two colours and texture in six rows of eight parts each, in the mean of the rows; light and
    colours as L*a*b* / 100, texture as the logarithm of the fine detail, scaled to weigh as much.
    """
    rows, cols = picture.shape[:2]
    fall = tan(tau * tilt)
    if fall:
        # Every column moved up or down by as much as the horizon lies below or above the middle there.
        matrix = np.array([[1, 0, 0], [fall, 1, -fall * (cols - 1) / 2]], np.float64)
        picture = np.asarray(
            cv2.warpAffine(picture, matrix, (cols, rows), flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE)
        )
    planes = look_planes(picture)
    parts = np.array(
        [[part.mean(axis=(0, 1)) for part in np.array_split(row, COLS, axis=1)] for row in np.array_split(planes, ROWS, axis=0)]
    )
    return float(np.sqrt((parts.std(axis=1).mean(axis=0) ** 2).sum()))


def look_planes(picture: Array) -> Array:
    """Return light, two colours and texture of a look, at most `SMALL` pixels at its longer side: float32 (rows, cols, 4)."""
    rgb = np.ascontiguousarray(np.clip(picture[..., :3], 0, 1))
    scale = SMALL / max(rgb.shape[:2])
    size = (max(24, round(rgb.shape[1] * scale)), max(24, round(rgb.shape[0] * scale)))
    grey = rgb.mean(axis=2)
    fine = np.abs(grey - cv2.GaussianBlur(grey, (0, 0), 2.0))
    lab = cv2.cvtColor(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), cv2.COLOR_RGB2Lab) / 100
    texture = OF_TEXTURE * np.log(cv2.resize(fine, size, interpolation=cv2.INTER_AREA) + GREY_OF_TEXTURE)
    return np.asarray(np.dstack([lab, texture]), np.float32)
