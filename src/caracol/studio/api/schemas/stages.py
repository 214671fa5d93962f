"""What identifies the stages of a piece."""

from __future__ import annotations

from ninja import Schema

from .common import Document, StepSettings


class StagesIn(Schema):
    """A document whose stages are to be identified."""

    document: Document


class StepStage(Schema):
    """What identifies all that is found out about a step; its where as it is shown; settings that it takes from the steps before it.

    `ring` is the nearest step before it that wraps the picture round a centre.
    """

    answer: str
    where: str | None
    follows: StepSettings
    ring: str | None


class EntryStages(Schema):
    """What identifies the stages of a layer or group.

    `after`: its own picture before the first step and after each. `kept`: the outlines of its keep areas there, empty without any. `ring`:
    the id of its last step that wraps the picture round a centre. `where`: its own where as it is shown. `around`: all that a step added to it may look at besides its input.
    """

    after: list[str]
    steps: dict[str, StepStage]
    kept: list[str]
    ring: str | None
    where: str | None
    around: str


class StagesOut(Schema):
    """What identifies the finished piece, whole and as its box leaves it, and the stages of its layers and groups by their ids.

    Pictures and answers about a stage that are kept under its identity are never another's, at any size, and are the same where it is the same.
    """

    whole: str
    delivered: str
    entries: dict[str, EntryStages]
