"""Identities: what the picture and every answer about each stage of a piece depend on, as keys that a screen keeps them by.

A screen that keeps something under the identity given here never shows another stage's, and never asks again for what is the same.
Sizes and qualities are no part of an identity.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from ..geometry.frame import Frame
from ..piece.model import Piece, Step
from ..piece.where import Where
from . import keys
from .composite import Composite
from .context import Context
from .scene import Begun, Scene, is_contained
from .stages import Stage, followed, stage_alone, stages_along
from .trail import Trail


@dataclass(frozen=True)
class StepIdentity:
    """What is found out about one step depends on.

    Parameters
    ----------
    answer : str
        What the step finds out, tells and acts on: bars, stretches, tones, doubles.
    where : str, optional
        Its where as it is shown; None without one.
    follows : dict
        Settings that it leaves to the steps before it, as those fill them in.
    ring : str, optional
        The id of the nearest step before it that wraps the picture round a centre.
    """

    answer: str
    where: str | None
    follows: dict[str, Any]
    ring: str | None


@dataclass(frozen=True)
class EntryIdentity:
    """What a layer or group depends on.

    Parameters
    ----------
    after : list of str
        Its own picture, not placed, before its first step and after each.
    steps : dict of StepIdentity
        By the id of the step.
    kept : list of str
        The outlines of its keep areas before its first step and after each; empty without keep areas.
    ring : str, optional
        The id of the last step that wraps the picture round a centre.
    where : str, optional
        Its own where as it is shown; None without one.
    around : str
        All that steps added to it may look at besides their input.
    """

    after: list[str]
    steps: dict[str, StepIdentity]
    kept: list[str]
    ring: str | None
    where: str | None
    around: str


@dataclass(frozen=True)
class Identities:
    """What each stage of a piece depends on.

    Parameters
    ----------
    whole, delivered : str
        The finished piece: all of it, and what its box leaves.
    entries : dict
        By the id of the layer or group.
    """

    whole: str
    delivered: str
    entries: dict[str, EntryIdentity]


def identities_of(piece: Piece, context: Context) -> Identities:
    """Return what identifies every stage of a piece.

    Raises
    ------
    MissingPhoto
        A photo is gone, and the context stands in for none.
    """
    with keys.remembering():
        return _identified(Scene(piece, context))


def _identified(scene: Scene) -> Identities:
    piece = scene.piece
    entries: dict[str, EntryIdentity] = {}
    lower: list[tuple[str, str]] = []
    for begun in scene.begun():
        found = _entry(scene, begun, lower)
        entries[begun.entry.id] = found
        if not begun.entry.members:
            lower.append((begun.entry.id, found.after[-1]))
    return Identities(scene.whole.digest, scene.finished(()).digest if piece.frame.box else scene.whole.digest, entries)


def _entry(scene: Scene, begun: Begun, lower: list[tuple[str, str]]) -> EntryIdentity:
    entry, trail, frame = begun.entry, begun.trail, scene.frame
    states = list(_states(begun))
    frames = entry.frames(begun.first.after if begun.first else trail.ground.frame)
    after = [digest for _, digest in states]
    steps = {step.id: _step(trail, entry.steps[:n], step, after[n], frames[: n + 2]) for n, step in enumerate(entry.steps)}
    kept = [keys.outlines(_keep_key(trail, stages), frames[n]) for n, (stages, _) in enumerate(states)] if trail.keep else []
    below = Composite(frame, begun.below, trail.quality).digest if begun.below else None
    around = keys.surroundings(frame, trail.keep, keys.under(below, entry.place, is_contained(entry)) if below else None, lower)
    seen = begun.laid.entry.digest if begun.laid else None
    where = None if entry.where is None else _where(entry.where, frame, seen) if seen else keys.shown_where(entry.where, frame, "unseen")
    return EntryIdentity(after, steps, kept, _ring(entry.steps), where, around)


def _states(begun: Begun) -> Iterator[tuple[list[Stage], str]]:
    """Yield the stages before the first step and after each, with what identifies their result."""
    trail = begun.trail
    done: list[Stage] = []
    digests = [trail.ground.digest]
    for stages in stages_along(begun.entry, trail.ground.frame, begun.first):
        same = 0
        while same < len(done) and same < len(stages) and done[same] is stages[same]:
            same += 1
        del digests[same + 1 :]
        for stage in stages[same:]:
            digests.append(trail.digest_after(digests[-1], stage))
        done = stages
        yield stages, digests[-1]


def _step(trail: Trail, earlier: tuple[Step, ...], step: Step, before: str, frames: list[Frame]) -> StepIdentity:
    full = followed(step, earlier, frames)
    *_, frame, after = frames
    stage = stage_alone(full, frame, after)
    answer = keys.answer(before, stage, trail.respected(stage), trail.looked_at_digest(stage), trail.photos)
    found = full.settings.model_dump(mode="json") if full is not step else {}
    follows = {name: value for name, value in found.items() if getattr(step.settings, name) is None and value is not None}
    return StepIdentity(answer, None if step.where is None else _where(step.where, frame, before), follows, _ring(earlier))


def _where(where: Where, frame: Frame, picture: str) -> str:
    return keys.shown_where(where, frame, picture if where.looks_at_picture else None)


def _keep_key(trail: Trail, stages: list[Stage]) -> str:
    return keys.keep_mask(trail.ground.digest, trail.keep, tuple(stage.chain for stage in stages if stage.chain))


def _ring(steps: tuple[Step, ...]) -> str | None:
    """Return the last step that wraps the picture round a centre."""
    return next((step.id for step in reversed(steps) if step.definition.role == "winds" and not step.is_idle), None)
