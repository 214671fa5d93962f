"""What people look for that is not there yet, by its name, so that a search can say so and lead to what comes near."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Missing:
    """A kind of step that is not in the catalogue yet.

    Parameters
    ----------
    label : str
    words : tuple of str
        What else it is looked for by.
    near : tuple of str
        Keys of kinds that go some of the way.
    """

    label: str
    words: tuple[str, ...]
    near: tuple[str, ...] = ()


MISSING: tuple[Missing, ...] = ()
