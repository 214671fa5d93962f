"""The core's errors: one base class, each also a built-in, each saying what, where and what to do."""


class CaracolError(Exception):
    """Base of every error the core raises on purpose; its text is fit for a user's eyes."""


class PictureError(CaracolError, ValueError):
    """A file that cannot be read as a picture, or is too large."""


class PieceError(CaracolError, ValueError):
    """A piece or recipe that does not follow the rules.

    Parameters
    ----------
    faults : list of str
        One line per fault: the path to it, what was found and what was expected.
    """

    def __init__(self, faults: list[str]) -> None:
        self.faults = faults
        super().__init__("\n".join(faults))


class UnknownKind(CaracolError, KeyError):
    """A kind of step that the catalogue does not hold."""

    def __str__(self) -> str:
        return str(self.args[0])


class MissingPhoto(CaracolError, FileNotFoundError):
    """A photo that a piece names and that is not where photos are looked up."""

    def __str__(self) -> str:
        return str(self.args[0])


class Overtaken(CaracolError):
    """The work was stopped because nobody waits for it any more."""


class TooLarge(CaracolError):
    """Work that would cost more time or memory than is allowed; found before it is begun."""
