"""Stages: the steps of a layer as they are computed together."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import islice

from ..geometry.frame import Frame
from ..kinds.kind import Kind, PixelKind
from ..kinds.settings import Settings
from ..piece.model import Sheet, Step
from .chain import Chain, Link, link_of


@dataclass(frozen=True)
class Stage:
    """Steps computed together: one bend chain, one step on pictures, or several that work pixel by pixel."""

    steps: tuple[Step, ...]
    before: Frame
    after: Frame
    chain: Chain | None

    @property
    def is_plain(self) -> bool:
        """Whether the result stands for itself and is not laid over the input."""
        return self.steps[0].is_plain and not (self.chain is None and self.kind.cuts)

    @property
    def kind(self) -> Kind:
        """The kind of its first step."""
        return self.chain.links[0].kind if self.chain else self.steps[0].definition

    @property
    def settings(self) -> list[Settings]:
        """The settings of all its steps."""
        return [step.settings for step in self.steps]

    @property
    def kinds(self) -> list[Kind]:
        """The kinds of all its steps."""
        return [link.kind for link in self.chain.links] if self.chain else [step.definition for step in self.steps]


def _joined(stages: list[Stage], link: Link) -> list[Stage]:
    """Return the stages with one more link, fused with the last where both are plain."""
    last = stages[-1] if stages else None
    fuses = link.step.is_plain and not link.asks
    if fuses and last is not None and last.chain is not None and last.is_plain:
        return [*stages[:-1], Stage((*last.steps, link.step), last.before, link.after, Chain((*last.chain.links, link)))]
    return [*stages, Stage((link.step,), link.before, link.after, Chain((link,)))]


def _is_pixelwise(kind: Kind) -> bool:
    return isinstance(kind, PixelKind) and kind.way == "picture"


def _together(last: Stage, step: Step) -> bool:
    """Whether a step can be done in one pass with those of the last stage: all of them pixel by pixel, and laid over nothing."""
    kind = step.definition
    return last.is_plain and step.is_plain and _is_pixelwise(last.kind) and _is_pixelwise(kind) and kind.measure is None


def followed(step: Step, earlier: tuple[Step, ...], frames: Sequence[Frame]) -> Step:
    """Return a step with what its settings leave to the steps before it; each of those has its frame in `frames`."""
    follow = step.definition.follow
    if follow is None:
        return step
    told = [(prior.kind, prior.settings, frame) for prior, frame in zip(earlier, frames, strict=False) if not prior.is_idle]
    return step.model_copy(update={"settings": follow(step.settings, told)})


def stages_along(layer: Sheet, ground: Frame, first: Link | None = None) -> Iterator[list[Stage]]:
    """Yield the stages of a layer or group before its first step, then after each: idle steps fall out, plain geometric ones fuse."""
    stages: list[Stage] = [] if first is None else _joined([], first)
    frames = layer.frames(ground if first is None else first.after)
    yield stages
    for index, step in enumerate(layer.steps):
        if not step.is_idle:
            stages = _with(stages, followed(step, layer.steps[:index], frames), frames[index], frames[index + 1])
        yield stages


def _with(stages: list[Stage], step: Step, before: Frame, after: Frame) -> list[Stage]:
    if step.definition.way == "bend":
        return _joined(stages, link_of(step, before, after))
    if stages and _together(stages[-1], step):
        return [*stages[:-1], replace(stages[-1], steps=(*stages[-1].steps, step))]
    return [*stages, Stage((step,), before, after, None)]


def stage_alone(step: Step, before: Frame, after: Frame) -> Stage:
    """Return the stage of one step, fused with no other."""
    return _with([], step, before, after)[0]


def stages_of(layer: Sheet, ground: Frame, upto: int | None = None, first: Link | None = None) -> list[Stage]:
    """Split the first `upto` steps of a layer or group (all when None) into stages."""
    count = len(layer.steps) if upto is None else min(upto, len(layer.steps))
    return next(islice(stages_along(layer, ground, first), count, None))


def placed(stages: list[Stage], link: Link | None) -> list[Stage]:
    """Return the stages with the layer put on the piece."""
    return stages if link is None else _joined(stages, link)
