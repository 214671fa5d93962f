"""How well the number of *Close seam* tells what an eye finds: 24 joins, ranked once by eye, against their numbers.

python -m benchmarks.joins FOLDER…
"""

from __future__ import annotations

import sys
from pathlib import Path

import cv2
import numpy as np

from caracol.core.steps.mend.close_seam import CloseSeamSettings, measure_join

from .labelled import load_look

LOOK = 1024
PHOTOS = {
    "temple": "china.jpg", "rocket": "rocket.jpg", "coffee": "coffee.png", "portrait": "grace_hopper.jpg",
    "marsh": "salt-marsh-dusk.jpg", "village": "stilt-village-noon.jpg", "yard": "rail-yard-night.jpg", "reeds": "reed-bed.jpg",
}  # fmt: skip
BY_EYE = [
    "marsh cut",
    "marsh crossfade",
    "temple cut",
    "marsh blend",
    "reeds cut",
    "reeds crossfade",
    "village cut",
    "temple crossfade",
    "rocket cut",
    "reeds blend",
    "village crossfade",
    "yard cut",
    "rocket crossfade",
    "yard blend",
    "coffee cut",
    "temple blend",
    "rocket blend",
    "yard crossfade",
    "village blend",
    "coffee crossfade",
    "portrait cut",
    "portrait crossfade",
    "coffee blend",
    "portrait blend",
]
"""The least visible first, as looked at on 2026-12-01 with the join in the middle, at 1:1."""


def rank_correlation(values: list[float]) -> float:
    """Return Spearman's coefficient of values against their own order: 1 where they rise throughout."""
    places = np.argsort(np.argsort(values))
    count = len(values)
    return float(1 - 6 * ((places - np.arange(count)) ** 2).sum() / (count * (count**2 - 1)))


def numbers(folders: list[Path]) -> dict[str, float]:
    """Return the number of every join, by photo and way."""
    found = {}
    for name, file in PHOTOS.items():
        path = next(one for folder in folders for one in sorted(folder.rglob(file)) if "tests" not in one.parts)
        look = np.ascontiguousarray(load_look(path, LOOK))
        for way in ("cut", "blend", "crossfade"):
            settings = CloseSeamSettings(method=way)  # type: ignore[arg-type]
            found[f"{name} {way}"] = float(measure_join(look, settings)["closing"].after)
    return found


if __name__ == "__main__":
    cv2.setNumThreads(1)
    seen = numbers([Path(word) for word in sys.argv[1:]])
    for name in BY_EYE:
        print(f"{name:20} {seen[name]:.2f}")
    print(f"rank correlation {rank_correlation([seen[name] for name in BY_EYE]):.2f}")
