"""The core's errors: one base class, each also a built-in, each saying what, where and what to do."""

from __future__ import annotations

from collections.abc import Sequence


class CaracolError(Exception):
    """Base of every error the core raises on purpose; its text is fit for a user's eyes."""


class PictureError(CaracolError, ValueError):
    """A file that cannot be read as a picture, or is too large."""


MOST_TOLD = 20
LONGEST_TOLD = 300


def told(faults: Sequence[str]) -> list[str]:
    """Return at most so many faults as anybody reads, each at most so long, and how many more there are."""
    short = [one if len(one) <= LONGEST_TOLD else f"{one[: LONGEST_TOLD - 1]}…" for one in faults[:MOST_TOLD]]
    return short + ([f"and {len(faults) - MOST_TOLD:,} more"] if len(faults) > MOST_TOLD else [])


class PieceError(CaracolError, ValueError):
    """A piece or recipe that does not follow the rules.

    Parameters
    ----------
    faults : sequence of str
        One line per fault: the path to it, what was found and what was expected. The first twenty are told, and how many more there are.
    """

    def __init__(self, faults: Sequence[str]) -> None:
        self.faults = told(faults)
        super().__init__("\n".join(self.faults))

    def __reduce__(self) -> tuple[type[PieceError], tuple[list[str]]]:
        """Come from another process as it was there."""
        return type(self), (self.faults,)


class UnknownKind(CaracolError, KeyError):
    """A kind of step that the catalogue does not hold."""

    def __str__(self) -> str:
        return str(self.args[0])


class MissingPhoto(CaracolError, FileNotFoundError):
    """A photo that a piece names and that is not where photos are looked up."""

    def __str__(self) -> str:
        return str(self.args[0])


class Superseded(CaracolError):
    """The work was stopped because nobody waits for it any more."""


class TooLarge(CaracolError):
    """Work that would cost more time or memory than is allowed; found before it is begun."""
