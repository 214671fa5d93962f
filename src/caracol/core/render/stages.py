"""Stages: the steps of a layer as they are computed together."""

from __future__ import annotations

from dataclasses import dataclass, replace

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


def _together(last: Stage, step: Step) -> bool:
    """Whether a step can be done in one pass with those of the last stage: all of them pixel by pixel, and laid over nothing."""
    kind = step.definition
    return last.is_plain and step.is_plain and isinstance(last.kind, PixelKind) and isinstance(kind, PixelKind) and kind.measure is None


def followed(step: Step, earlier: tuple[Step, ...]) -> Step:
    """Return a step with what its settings leave to the steps before it."""
    follow = step.definition.follow
    if follow is None:
        return step
    return step.model_copy(
        update={"settings": follow(step.settings, [(prior.kind, prior.settings) for prior in earlier if not prior.is_idle])}
    )


def stages_of(layer: Sheet, ground: Frame, upto: int | None = None, first: Link | None = None) -> list[Stage]:
    """Split the first `upto` steps of a layer or group (all when None) into stages; idle steps fall out, plain geometric ones fuse."""
    stages: list[Stage] = [] if first is None else _joined([], first)
    frames = layer.frames(ground if first is None else first.after)
    for index, step in enumerate(layer.steps[:upto]):
        if step.is_idle:
            continue
        before, after = frames[index], frames[index + 1]
        step = followed(step, layer.steps[:index])
        if step.definition.way == "bend":
            stages = _joined(stages, link_of(step, before, after))
        elif stages and _together(stages[-1], step):
            stages[-1] = replace(stages[-1], steps=(*stages[-1].steps, step))
        else:
            stages.append(Stage((step,), before, after, None))
    return stages


def placed(stages: list[Stage], link: Link | None) -> list[Stage]:
    """Return the stages with the layer put on the piece."""
    return stages if link is None else _joined(stages, link)
