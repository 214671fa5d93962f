"""Names of files that are made in one go."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping, Sequence

from ..errors import PieceError

USUAL = "{photo}-{recipe}"
TOKENS = ("photo", "recipe", "number")
WIDEST = 9
"""Digits of a number at most."""
LONGEST = 120
LONGEST_PART = 60
"""Letters of a photo's or recipe's name that go into a file's."""
HEAVIEST = 200
"""Bytes of a name at most, its ending and the number that tells it from others not counted: file systems take 255."""
UNFIT = re.compile(r'[\x00-\x1f\x7f/\\:*?"<>|]+')
"""What file systems do not take in names."""
JOINER = "\u200d"
"""Makes one sign of those on either side."""
BRACED = re.compile(r"\{([^{}]*)\}")
KNOWN = "{photo}, {recipe} and {number}, which takes a width, as in {number:4}"


def safe(name: str, longest: int = LONGEST_PART) -> str:
    """Return a name as a part of a file's name: readable, without what file systems do not take, and not too long.

    Examples
    --------
    >>> safe("../Before/After")
    'Before-After'
    """
    plain = "".join("-" if unicodedata.category(c) in ("Cc", "Cs") else c for c in unicodedata.normalize("NFC", name))
    return UNFIT.sub("-", plain)[:longest].strip(" .-") or "unnamed"


def stem_for(name: str, usual: str) -> str:
    """Return the name of a piece, recipe or run as that of a file, without its ending; `usual` where nothing of it is left.

    Examples
    --------
    >>> stem_for("Before/After, at dusk", "piece")
    'before-after-at-dusk'
    """
    plain = safe(name, LONGEST).replace(",", "").replace(" ", "-").lower()
    return _lighter(plain) if plain != "unnamed" else usual


def names_for(pattern: str, stems: Sequence[str], recipe: str, suffix: str) -> list[str]:
    """Return a file name for each photo; those that would be alike, in capitals or not, are numbered.

    Parameters
    ----------
    pattern : str
        With {photo}, {recipe} and {number}, which may have a width from 1 to 9: {number:4} is 0001.
    stems : sequence of str
        Names of photos, without endings.
    recipe : str
        Name of the recipe.
    suffix : str
        Ending of the files, with its dot.

    Raises
    ------
    PieceError
        The pattern has something else in braces, or leads into another folder.
    """
    _check(pattern)
    taken: set[str] = set()
    found = []
    for number, photo in enumerate(stems, 1):
        words = {"photo": safe(photo), "recipe": safe(recipe).lower().replace(" ", "-")}
        stem = _lighter(safe(BRACED.sub(lambda at, words=words, n=number: _filled(at[1], words, n), pattern), LONGEST))  # type: ignore[misc]
        ends = ("" if k == 1 else f"-{k}" for k in range(1, len(stems) + 2))
        name = next(one for end in ends if (one := f"{stem}{end}{suffix}").lower() not in taken)
        taken.add(name.lower())
        found.append(name)
    return found


def _check(pattern: str) -> None:
    for token in BRACED.findall(pattern):
        word, colon, width = token.partition(":")
        wide = word == "number" and width.isdecimal() and 1 <= int(width[:3]) <= WIDEST and len(width) < 3
        if word not in TOKENS or (colon and not wide):
            raise PieceError([f"name {pattern}: {{{token}}} is not filled in; there are {KNOWN}"])
    rest = BRACED.sub("", pattern)
    if "{" in rest or "}" in rest:
        raise PieceError([f"name {pattern}: a brace stands alone; there are {KNOWN}"])
    if "/" in rest or "\\" in rest or pattern.startswith(".") or not pattern.strip():
        raise PieceError([f"name {pattern}: this is no plain file name; leave out slashes and a leading dot"])


def _filled(token: str, words: Mapping[str, str], number: int) -> str:
    word, _, width = token.partition(":")
    return f"{number:0{int(width or 3)}d}" if word == "number" else words[word]


def _lighter(stem: str) -> str:
    """Return as much of a name as a file system takes, cut between letters: what joins a letter to the one before goes with it."""
    left = len(stem)
    while len(stem[:left].encode()) > HEAVIEST or (left < len(stem) and (_joins(stem[left]) or stem[left - 1] == JOINER)):
        left -= 1
    return stem[:left].strip(" .")


def _joins(letter: str) -> bool:
    return letter == JOINER or unicodedata.category(letter) in ("Mn", "Me", "Mc") or "\U0001f3fb" <= letter <= "\U0001f3ff"
