"""Names of files that are made in one go."""

from __future__ import annotations

import re
from collections.abc import Sequence
from pathlib import Path

from .errors import PieceError

USUAL = "{photo}-{recipe}"
TOKENS = ("photo", "recipe", "number")
LONGEST = 120
UNFIT = re.compile(r'[\x00-\x1f\x7f/\\:*?"<>|]+')
"""What file systems do not take in names."""


def names_for(pattern: str, stems: Sequence[str], recipe: str, suffix: str) -> list[str]:
    """Return a file name for each photo; those that would be alike, in capitals or not, are numbered.

    Parameters
    ----------
    pattern : str
        With {photo}, {recipe} and {number}.
    stems : sequence of str
        Names of photos, without endings.
    recipe : str
        Name of the recipe.
    suffix : str
        Ending of the files, with its dot.

    Raises
    ------
    PieceError
        The pattern has a word that is not known, or leads into another folder.
    """
    taken: set[str] = set()
    found = []
    for number, photo in enumerate(stems, 1):
        try:
            stem = pattern.format(photo=photo, recipe=recipe.lower().replace(" ", "-"), number=f"{number:03d}")
        except (KeyError, IndexError, ValueError, AttributeError) as error:
            known = ", ".join(f"{{{token}}}" for token in TOKENS)
            raise PieceError([f"name {pattern}: only {known} are filled in"]) from error
        if not stem or Path(stem).name != stem or stem.startswith("."):
            raise PieceError([f"name {pattern}: {stem!r} is no plain file name"])
        stem = UNFIT.sub("-", stem)[:LONGEST].strip(" .")
        ends = ("" if k == 1 else f"-{k}" for k in range(1, len(stems) + 2))
        name = next(one for end in ends if (one := f"{stem}{end}{suffix}").lower() not in taken)
        taken.add(name.lower())
        found.append(name)
    return found
