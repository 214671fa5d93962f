"""How a picture's tones are spread, and what would spread them from black to white."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..arrays import Array
from .blending import LUMA

BINS = 64
SPARED = 0.004
"""So many of the darkest and of the lightest pixels do not count: they become black and white altogether."""
NARROWEST = 0.1
"""Black and white never come nearer to each other than this."""


def _straight(picture: Array) -> tuple[Array, Array]:
    """Return the straight colours of pixels that are seen at all, (n, 3), and how much each counts."""
    alpha = picture[..., 3]
    seen = alpha > 1 / 255
    return np.clip(picture[seen][:, :3] / alpha[seen][:, None], 0, 1), alpha[seen]


def tones_of(picture: Array) -> dict[str, Any]:
    """Return the histogram of a picture (coded, premultiplied): `BINS` counts for red, green, blue and light, each the largest is 1.

    `middle` is the light that half of the picture is darker than. What is transparent does not count.
    """
    straight, weight = _straight(picture)
    light = straight @ LUMA
    found: dict[str, Any] = {}
    planes = {"red": straight[:, 0], "green": straight[:, 1], "blue": straight[:, 2], "light": light}
    for name, plane in planes.items():
        counts = np.histogram(plane, BINS, (0, 1), weights=weight)[0]
        # A single tone, such as a plain sky, would flatten all others.
        tall = np.sort(counts)[-3] if len(counts) > 2 and np.sort(counts)[-3] > 0 else max(counts.max(), 1e-9)
        found[name] = [round(float(min(count / tall, 1)), 3) for count in counts]
    found["middle"] = round(float(np.median(light)) if len(light) else 0.5, 3)
    return found


def light_at(picture: Array, share: float) -> float:
    """Return the light, 0…1, that such a share of a picture is darker than; 0.5 of a picture in which nothing is seen."""
    straight, _ = _straight(picture)
    return round(float(np.quantile(straight @ LUMA, share)), 4) if len(straight) else 0.5


def auto_tone(picture: Array) -> dict[str, float]:
    """Return black, white and gamma that spread a picture's tones from black to white and bring its middle half way to a middle grey."""
    straight, _ = _straight(picture)
    if not len(straight):
        return {"black": 0.0, "white": 1.0, "gamma": 1.0}
    black, white = (float(np.quantile(straight, share)) for share in (SPARED, 1 - SPARED))
    black, white = min(black, 0.9 - NARROWEST), max(white, NARROWEST)
    white = max(white, black + NARROWEST)
    middle = float(np.clip((np.median(straight @ LUMA) - black) / (white - black), 0.05, 0.95))
    # Half way only: a night stays a night.
    gamma = float(np.clip(np.sqrt(np.log(middle) / np.log(0.46)), 0.7, 1.5))
    return {"black": round(black, 3), "white": round(white, 3), "gamma": round(gamma, 2)}
