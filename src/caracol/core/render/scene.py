"""A scene: the layers of a piece as trails and composites, ready to say what would be computed at any size."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property, partial
from typing import cast

from ..errors import MissingPhoto, PieceError
from ..geometry.frame import Frame
from ..piece.keep import KeepArea
from ..piece.model import Group, Layer, PhotoSource, Piece, Place, Step
from ..sources.drawn import DrawnSource
from .chain import Link
from .composite import BelowGround, Composite, PlacedEntry
from .context import Context
from .grounds import DrawnGround, EmptyGround, Ground, MissingGround, PhotoGround
from .placing import boxing_link, composed, placing_link, tiling_link
from .space import PhotosIn, recoloured, space_of
from .stages import followed, placed, stages_of
from .trail import Trail, Under


@dataclass(frozen=True)
class Begun:
    """A layer or group before its first step.

    Parameters
    ----------
    trail : Trail
        Its ground, without stages.
    first : Link, optional
        Tiles the ground, where the layer does.
    below : list of PlacedEntry
        What lies under it.
    laid : PlacedEntry, optional
        As it is laid; None where nothing of it is seen.
    """

    entry: Layer | Group
    trail: Trail
    first: Link | None
    below: list[PlacedEntry]
    laid: PlacedEntry | None


class Scene:
    """A piece.

    Parameters
    ----------
    context : Context
        Where its photos come from, and how well it is to be rendered. Whether a photo that is gone is stood in for: then `missing`
        names it.

    Attributes
    ----------
    piece : Piece
        As it is worked: its colours as codes of `space`.
    space : str
        The colour space of all its numbers.
    """

    def __init__(self, piece: Piece, context: Context) -> None:
        self.space = space_of(piece, context.photos)
        if self.space != "srgb":
            piece = recoloured(piece, self.space)
            context = replace(context, photos=PhotosIn(context.photos, self.space))
        self.piece = piece
        self.missing: list[str] = []
        self._context = context
        self._lenient = context.lenient and len(list(piece.walk())) > 1
        self._others: dict[str, Trail] = {}
        self._lowest = self._ground(piece.layer, [])
        self.longest = self._lowest.longest
        own = piece.layer.frames(self._lowest.frame)[-1]
        self.frame = Frame(piece.frame.ratio) if piece.frame.ratio else own

    @cached_property
    def whole(self) -> Composite:
        """All layers put together."""
        return self._composite(self.piece.layers, [])

    def alone(self, layer: Layer | Group, upto: int | None = None) -> Trail:
        """Return the trail of a layer or group after its first `upto` steps (all when None), not placed and not laid over anything."""
        below: list[PlacedEntry] = []
        if isinstance(layer, Group):
            self._composite(self.piece.layers, below, until=layer)
            inner = BelowGround(self._composite(layer.layers, below).evened)
            return Trail(inner, stages_of(layer, self.frame, upto), self._context, (), self._other)
        if layer.source.kind == "below" or _grounded(layer):
            self._composite(self.piece.layers, below, until=layer)
        ground, first = self._start(layer, below)
        stages = stages_of(layer, ground.frame, upto, first)
        return Trail(ground, stages, self._context, _kept(layer), self._other, self._under(layer, below))

    def begun(self) -> Iterator[Begun]:
        """Yield every layer and group as it begins, each group after what is in it, in one walk from the lowest up."""
        yield from self._begun(self.piece.layers, [], {one.sheet.id: one for one in self.laid()})

    def _begun(self, entries: tuple[Layer | Group, ...], below: list[PlacedEntry], seen: dict[str, PlacedEntry]) -> Iterator[Begun]:
        for entry in entries:
            under, laid = list(below), seen.get(entry.id)
            yield from self._begun(entry.members, list(below), seen)
            if isinstance(entry, Group):
                inner = laid.inner if laid and laid.inner else self._composite(entry.layers, list(below))
                yield Begun(entry, Trail(BelowGround(inner.evened), [], self._context, (), self._other), None, under, laid)
            else:
                ground, first = self._start(entry, below)
                trail = Trail(ground, [], self._context, _kept(entry), self._other, self._under(entry, below))
                yield Begun(entry, trail, first, under, laid)
            if laid is not None:
                below.append(laid)

    def finished(self, steps: tuple[Step, ...], of: Composite | None = None) -> Trail:
        """Return what is delivered, of the whole or of its box, with steps after everything, such as an export's shape; `of` is only a part of it."""
        box = self.piece.frame.box
        first = None if box is None else boxing_link(box, self.frame)
        stages = stages_of(Layer(id="finish", steps=steps), self.frame, None, first)
        return Trail(BelowGround(self.whole if of is None else of), stages, self._context)

    def apart(self, one: PlacedEntry) -> Composite:
        """Return what one layer or group puts into the piece, by itself on nothing: with its where, without opacity and blend."""
        return Composite(
            self.frame, [PlacedEntry(one.entry, one.sheet.model_copy(update={"opacity": 1.0, "blend": "normal"}))], self._context.quality
        )

    def step(self, layer_id: str, step_id: str) -> tuple[Step, Trail]:
        """Return a step, and the trail of its layer as it is before it.

        Raises
        ------
        PieceError
            The layer has no such step.
        """
        layer = self.piece.find(layer_id)
        for index, step in enumerate(layer.steps):
            if step.id == step_id:
                trail = self.alone(layer, index)
                return followed(step, layer.steps[:index], layer.frames(trail.ground.frame)), trail
        raise PieceError([f"step: the layer {layer_id!r} has no step {step_id!r}"])

    def laid(self) -> Iterator[PlacedEntry]:
        """Yield every layer and group as it is laid, each group before what is in it."""
        yield from _all_laid(self.whole)

    def ratios(self) -> dict[str, float]:
        """Return for each layer the ratio of its frame after its steps, before it is placed."""
        found = {}
        for layer in self.piece.walk():
            tiled = _tiles(layer)
            ground = self.frame if tiled or layer.source.kind == "below" else self._start(layer, [])[0].frame
            found[layer.id] = layer.frames(ground)[-1].ratio
        return found | {group.id: group.frames(self.frame)[-1].ratio for group in self.piece.entries() if group.members}

    def _other(self, layer_id: str) -> Trail:
        """Return the trail of a layer that another looks at."""
        if layer_id not in self._others:
            self._others[layer_id] = self.alone(self.piece.find(layer_id))
        return self._others[layer_id]

    def _ground(self, layer: Layer, below: list[PlacedEntry]) -> Ground:
        if layer.source.kind in ("photo", "cut-out"):
            return self._photo(layer, layer.source)
        if layer.source.kind == "below":
            return BelowGround(Composite(self.frame, list(below), self._context.quality).evened)
        return DrawnGround(cast(DrawnSource, layer.source))

    def _photo(self, layer: Layer, source: PhotoSource) -> Ground:
        if source.photo is None:
            return self._empty(layer, source)
        try:
            return PhotoGround(self._context.photos, source.photo)
        except MissingPhoto as error:
            if not self._lenient:
                raise
            if str(error) not in self.missing:
                self.missing.append(str(error))
            return MissingGround(source.photo)

    def _empty(self, layer: Layer, source: PhotoSource) -> EmptyGround:
        """Return what stands in a slot whose photo is not chosen: a cut-out may be left out, a photo may not."""
        if source.kind == "photo":
            raise PieceError([f"{self._path(layer)}.source.photo: this is a recipe; name a photo to render it"])
        words = f"“{layer.name or layer.id}” is empty: no picture is chosen for it yet."
        if words not in self.missing:
            self.missing.append(words)
        named = next((one for one in self.piece.walk() if isinstance(one.source, PhotoSource) and one.source.photo), None)
        return EmptyGround(None if named is None else self._ground(named, []))

    def _path(self, layer: Layer) -> str:
        for index, entry in enumerate(self.piece.layers):
            if entry is layer:
                return f"layers[{index}]"
        return f"layer {layer.id!r}"

    def _start(self, layer: Layer, below: list[PlacedEntry]) -> tuple[Ground, Link | None]:
        """Return the ground of a layer, and the link that tiles it where it does."""
        ground = self._lowest if layer is self.piece.layer else self._ground(layer, below)
        return ground, tiling_link(cast(PhotoSource, layer.source), ground.frame, self.frame) if _tiles(layer) else None

    def _trail(self, layer: Layer, below: list[PlacedEntry]) -> Trail:
        """Return the trail of a layer, placed on the piece."""
        ground, first = self._start(layer, below)
        stages = stages_of(layer, ground.frame, None, first)
        frame = stages[-1].after if stages else ground.frame
        link = placing_link(layer.place, is_contained(layer), frame, self.frame)
        return Trail(ground, placed(stages, link), self._context, _kept(layer), self._other, self._under(layer, below))

    def _under(self, layer: Layer, below: list[PlacedEntry]) -> Under | None:
        """Return what lies under a layer, where one of its steps looks at that and there is something."""
        if not below or not _grounded(layer):
            return None
        return Under(Composite(self.frame, list(below), self._context.quality), layer.place or Place(), is_contained(layer))

    def _laid_group(self, group: Group, below: list[PlacedEntry]) -> PlacedEntry:
        """Return a group as it is laid: its layers put together, its steps, its place."""
        under = list(below)
        inner = self._composite(group.layers, below)
        if group.place is not None and not group.place.is_idle and _is_whole(group):
            together = self._composite(_members_placed(group), under)
            return PlacedEntry(together, group, inner, PlacedEntry(together.evened, group, inner.evened))
        stages = stages_of(group, self.frame)
        after = stages[-1].after if stages else self.frame
        stages = placed(stages, placing_link(group.place, False, after, self.frame))
        trail = Trail(BelowGround(inner.evened), stages, self._context, (), self._other)
        even = PlacedEntry(trail.evened if stages else inner.evened, group, inner.evened)
        return PlacedEntry(trail if stages else inner, group, inner, even)

    def _composite(self, entries: tuple[Layer | Group, ...], below: list[PlacedEntry], until: Layer | Group | None = None) -> Composite:
        """Put entries together; `below` grows by what is laid, and nothing from `until` on is."""
        laid: list[PlacedEntry] = []
        unseen: list[tuple[int, Callable[[], PlacedEntry]]] = []
        for entry in entries:
            if until is not None and _holds(entry, until):
                if entry is not until:
                    self._composite(entry.members, below, until)
                break
            if entry.is_idle:
                unseen.append((len(laid), partial(self._laid, entry, list(below))))
                continue
            laid.append(self._laid(entry, below))
            below.append(laid[-1])
        return Composite(self.frame, laid, self._context.quality, unseen)

    def _laid(self, entry: Layer | Group, below: list[PlacedEntry]) -> PlacedEntry:
        if isinstance(entry, Group):
            return self._laid_group(entry, list(below))
        trail = self._trail(entry, below)
        return PlacedEntry(trail, entry, even=PlacedEntry(trail.evened, entry) if entry.source.kind == "below" else None)


def _all_laid(composite: Composite) -> Iterator[PlacedEntry]:
    for laid in composite.laid:
        yield laid
        if laid.inner is not None:
            yield from _all_laid(laid.inner)


def _holds(entry: Layer | Group, sought: Layer | Group) -> bool:
    return entry is sought or any(_holds(member, sought) for member in entry.members)


def _is_whole(group: Group) -> bool:
    """Whether a group's place may be given to each of its layers: nothing in it is told in the piece's frame, or made of what lies below."""
    if any(not step.is_idle for step in group.steps):
        return False
    return all(
        entry.where is None
        and (_is_whole(entry) if isinstance(entry, Group) else entry.source.kind != "below" and not _tiles(entry) and not _grounded(entry))
        for entry in group.layers
    )


def _members_placed(group: Group) -> tuple[Layer | Group, ...]:
    """Return what is in a group with the group's place given to each layer: what reaches beyond the frame is not cut there.

    Groups within it have no place of their own left, so that none is placed again.
    """
    place = group.place or Place()
    found: list[Layer | Group] = []
    for entry in group.layers:
        at = entry.model_copy(update={"place": composed(place, entry.place or Place())})
        found.append(at.model_copy(update={"layers": _members_placed(at), "place": None}) if isinstance(at, Group) else at)
    return tuple(found)


def _grounded(layer: Layer) -> bool:
    return any(step.definition.grounded for step in layer.steps)


def _kept(layer: Layer) -> tuple[KeepArea, ...]:
    return getattr(layer.source, "keep", ())


def is_contained(entry: Layer | Group) -> bool:
    """Whether all of a layer is seen on the piece; else it covers the piece."""
    return getattr(getattr(entry, "source", None), "fit", "cover") == "contain"


def _tiles(layer: Layer) -> bool:
    return getattr(layer.source, "fit", "cover") == "tile"
