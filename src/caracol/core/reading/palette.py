"""The few colours that a picture consists of."""

from __future__ import annotations

import cv2
import numpy as np

from ..arrays import Array

LOOK = 96
"""Pixels of the longer side that are counted: a colour that fills less is none of the picture's own."""
SEED = 16
NEAR = 6.0
"""Colours less far apart than this (CIE Lab) are one."""


def palette_of(picture: Array, count: int = 8) -> list[str]:
    """Return up to `count` colours of a picture (coded, premultiplied) as `#rrggbb`, from dark to light; none where nothing is seen.

    Notes
    -----
    Clusters of its pixels in CIE Lab by k-means++ (D. Arthur and S. Vassilvitskii, 2007), always begun alike.
    """
    # Loaded when it is first needed: it takes a while.
    from scipy.cluster.vq import kmeans2

    rows, cols = picture.shape[:2]
    by = LOOK / max(rows, cols)
    small = cv2.resize(picture, (max(1, round(cols * by)), max(1, round(rows * by))), interpolation=cv2.INTER_AREA) if by < 1 else picture
    seen = small[..., 3] > 0.25
    if not seen.any():
        return []
    straight = np.clip(small[seen][:, :3] / small[seen][:, 3:], 0, 1).astype(np.float32)
    lab = cv2.cvtColor(straight[None], cv2.COLOR_RGB2LAB)[0]
    kinds = len(np.unique((lab / NEAR).round(), axis=0))
    centres, _ = kmeans2(lab.astype(np.float64), min(count, kinds), minit="++", rng=np.random.default_rng(SEED), missing="warn")
    kept: list[Array] = []
    for centre in sorted((one for one in centres if np.isfinite(one).all()), key=lambda one: float(one[0])):
        if all(float(np.linalg.norm(centre - other)) >= NEAR for other in kept):
            kept.append(centre)
    rgb = cv2.cvtColor(np.array([kept], np.float32), cv2.COLOR_LAB2RGB)[0]
    return ["#" + "".join(f"{round(float(np.clip(part, 0, 1)) * 255):02x}" for part in one) for one in rgb]
