"""How far readings can be believed: precision and recall of every verdict on the labelled set.

python -m benchmarks.readings FOLDER… [--draw] [--wrong]
"""

from __future__ import annotations

import sys
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from caracol.core.reading.reading import read_look
from caracol.world.photos import draw_missing

from .labelled import Labelled, labelled

NEAR = 1.5
"""Degrees by which a lean may differ, and percent of the height by which …"""
ROWS = 0.05
"""… a horizon may lie elsewhere, and still count as found."""
SKY = 0.12
"""A reading that gives this share of a picture to the sky says that there is sky in it."""


@dataclass
class Count:
    """How often a verdict was right."""

    hits: int = 0
    false: int = 0
    missed: int = 0

    @property
    def precision(self) -> float:
        return self.hits / max(1, self.hits + self.false)

    @property
    def recall(self) -> float:
        return self.hits / max(1, self.hits + self.missed)


def judge(pictures: Iterable[Labelled]) -> tuple[int, dict[str, Count], list[str]]:
    """Return how many pictures there are, the counts by verdict, and a line for everything that was wrong."""
    counts: dict[str, Count] = defaultdict(Count)
    wrong: list[str] = []
    number = 0

    def told(what: str, said: bool, true: bool | None, picture: str, detail: str = "") -> None:
        if true is None:
            return
        count = counts[what]
        count.hits += said and true
        count.false += said and not true
        count.missed += true and not said
        if said != true:
            wrong.append(f"{what}: {picture}: {'said' if said else 'missed'} {detail}")

    for one in pictures:
        number += 1
        truth, reading = one.truth, read_look(one.picture, one.picture.shape[1], one.picture.shape[0])
        lean = None if reading.tilt is None else reading.tilt * 360
        if isinstance(truth.tilt, bool):
            told("horizon", lean is not None, truth.tilt, one.name, f"{lean} at {reading.horizon}")
        elif truth.tilt is not None:
            right = lean is not None and abs(lean - truth.tilt) <= NEAR
            there = truth.horizon is None or (reading.horizon is not None and abs(reading.horizon - truth.horizon) <= ROWS)
            told("horizon", right and there, True, one.name, f"{lean} at {reading.horizon} for {truth.tilt} at {truth.horizon}")
            if lean is not None and not (right and there):
                counts["horizon"].false += 1
        told("sky", reading.sky_share >= SKY, truth.sky, one.name, f"{reading.sky_share:.2f}")
        told("alone", reading.alone, truth.alone, one.name)
        told("lettering", any(f.kind == "lettering" for f in reading.features), truth.lettering, one.name)
        for use in reading.uses:
            expected = True if use.use in truth.good else False if use.use in truth.poor else None
            told(use.use, use.verdict == "good", expected, one.name, "; ".join(use.reasons))
            if use.verdict == "poor" and expected is not None:
                told(f"{use.use}: poor", True, not expected, one.name, "; ".join(use.reasons))
    return number, dict(counts), wrong


def table(number: int, counts: dict[str, Count]) -> str:
    """Return the figures as a table."""
    rows = [f"| verdict ({number} pictures) | right | false | missed | precision | recall |", "|---|---|---|---|---|---|"]
    for what, count in counts.items():
        rows.append(f"| {what} | {count.hits} | {count.false} | {count.missed} | {count.precision:.2f} | {count.recall:.2f} |")
    return "\n".join(rows)


if __name__ == "__main__":
    folders = [Path(word) for word in sys.argv[1:] if not word.startswith("--")]
    if "--draw" in sys.argv:
        draw_missing(folders[0])
    number, counts, wrong = judge(labelled(folders))
    print(table(number, counts))
    if "--wrong" in sys.argv:
        print("\n".join(wrong))
