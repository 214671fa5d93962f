"""What a kind of step is: a rule for coordinates (`BendKind`) or a function on pictures (`PictureKind`)."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from math import cos, sin, tau
from typing import Any, ClassVar, Literal, cast

from ..arrays import Array
from ..geometry.edges import Edge
from ..geometry.frame import Frame
from ..geometry.rows import Rows
from ..pixels.pointwise import Op, Pass
from .settings import Settings

Earlier = Sequence[tuple[str, Any, Frame]]
"""What comes before a step in its trail: key, settings and frame before it, the nearest last."""

Family = Literal["prepare", "mend", "bend", "break", "finish"]
Way = Literal["bend", "paint", "picture", "hard", "raster"]
Handle = Literal[
    "crop-box",
    "level-line",
    "turn-arc",
    "ring",
    "rim",
    "seam-band",
    "shift-arrow",
    "centre",
    "centre-reach",
    "twirl-arc",
    "pinch-pull",
    "sector-ray",
    "wave",
    "place-corners",
    "row-curve",
    "displace-arrow",
    "formula-ray",
    "spiral",
    "plate-arrows",
    "bars",
    "sort-way",
    "melt-way",
    "ghost-arrow",
    "strokes",
    "centre-disc",
    "light",
    "fog",
    "shadow",
    "belong-light",
]  # fmt: skip
"""What can be drawn on the picture to be taken hold of; the page has one of each."""


Role = Literal["crops", "levels", "winds", "joins", "rolls", "twirls", "formula"]
"""What a kind is to others, that advice and tools look for: it cuts a box out, turns by an angle and cuts, wraps the picture round a centre,
closes the join of left and right, rolls the picture round its edges, twirls it, moves points by a formula."""


@dataclass(frozen=True)
class Start:
    """A starting point: a named set of settings that looks good at once."""

    name: str
    settings: Mapping[str, Any]
    words: tuple[str, ...] = ()
    """Other words it is looked for by, besides its kind's."""
    after: Role | None = None
    """It says something only where a step of this role stands before it, and is offered only there."""


@dataclass(frozen=True)
class Beneath:
    """What lies under a layer, and how the layer lies on it.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        The piece without the layer and all above it; coded, premultiplied.
    frame : Frame
        The piece's.
    x, y, scale, turn, flip
        Where the layer's middle lies, in units of the piece; how large one of its units is there; how far it is turned, in turns; whether left
        and right are exchanged.
    """

    picture: Array
    frame: Frame
    x: float = 0.0
    y: float = 0.0
    scale: float = 1.0
    turn: float = 0.0
    flip: bool = False

    def on_piece(self, x: float, y: float) -> tuple[float, float]:
        """Return where a point of the layer lies on the piece, in units of each."""
        across, down = (-x if self.flip else x) * self.scale, y * self.scale
        c, s = cos(tau * self.turn), sin(tau * self.turn)
        return self.x + across * c - down * s, self.y + across * s + down * c

    def way_in_layer(self, x: float, y: float) -> tuple[float, float]:
        """Return a way on the piece as it is in the layer."""
        c, s = cos(tau * self.turn), sin(tau * self.turn)
        across, down = x * c + y * s, y * c - x * s
        return (-across if self.flip else across), down


def _once(settings: Any) -> float:
    return 1.0


def _always(settings: Any) -> bool:
    return True


@dataclass(frozen=True)
class Kind:
    """One kind of step, as the catalogue publishes it.

    Parameters
    ----------
    key : str
        Permanent kebab-case id, used in files.
    settings : type of Settings
        Its schema is the only list of ranges.
    words : tuple of str
        What else people call what it does, so that it is found; at least five.
    handles : tuple of str
        Names of the handles it wants on the picture.
    neutral : mapping or None
        Values at which the step gives its input back exactly.
    role : Role, optional
        What it is to other steps and to tools.
    plain : bool
        Whether it is offered at its defaults although it has starting points.
    by_hand : bool
        Whether it does nothing before something is made with it on the picture.
    cuts : bool
        Its where says what is left: everything else becomes transparent.
    respects_keep : bool
        Whether it moves less in keep areas.
    measure : callable (picture, settings) -> dict, optional
        What the step must find out about its whole input; asked on a look of `measure_size` pixels so that every size agrees.
    grounded : bool
        Whether `measure` is given what lies under the layer as well, as a `Beneath`; None where there is nothing.
    measures : callable (settings) -> bool
        Whether there is anything to find out with these settings.
    decides : bool
        Whether what it finds out decides between pictures that differ plainly (which bars, where to cut): then drafts find it on the look
        that the settled picture does.
    tell : callable (measured, settings) -> dict, optional
        What of it is said to an artist, ready for JSON.
    survey : callable (picture, settings) -> dict, optional
        What an artist is told of the step's input that no render needs, ready for JSON; asked on a look of `SURVEYED` pixels.
    prepare : callable (frame, **prepare_settings) -> array, optional
        What can be made before any picture is seen, such as a raster of draws; kept, and given with what is measured as `prepared`.
    prepared_bytes : callable (frame, settings) -> int, optional
        How large that is.
    effort : float
        How much longer a pixel takes than with others of its sort (bends, painting steps …), for plans.
    turns : callable (settings) -> float
        How often as much is done as with usual settings: rounds, copies, bars.
    follow : callable (settings, earlier) -> settings, optional
        Fills in what is left to the steps before it in the trail: `earlier` are their (key, settings, frame before), the nearest last.
    """

    way: ClassVar[Way]
    """How a render runs it."""

    key: str
    label: str
    family: Family
    purpose: str
    settings: type[Settings]
    words: tuple[str, ...] = ()
    handles: tuple[Handle, ...] = ()
    starts: tuple[Start, ...] = ()
    neutral: Mapping[str, Any] | None = None
    role: Role | None = None
    plain: bool = False
    by_hand: bool = False
    cuts: bool = False
    respects_keep: bool = False
    measure: Callable[..., dict[str, Any]] | None = None
    measure_size: int = 256
    grounded: bool = False
    measures: Callable[[Any], bool] = _always
    decides: bool = False
    tell: Callable[[dict[str, Any], Any], dict[str, Any]] | None = None
    survey: Callable[[Array, Any], dict[str, Any]] | None = None
    prepare: Callable[..., Array] | None = None
    prepare_settings: tuple[str, ...] = ()
    prepared_bytes: Callable[[Frame, Any], int] | None = None
    effort: float = 1.0
    turns: Callable[[Any], float] = _once
    follow: Callable[[Any, Earlier], Any] | None = None

    def burden(self, settings: Settings) -> float:
        """How much longer a pixel takes with these settings than with others of its sort."""
        return self.effort * self.turns(settings)

    def reshapes(self, settings: Settings) -> bool:
        """Whether the step may change the frame's ratio, and so takes no strength, where, channels or blend."""
        return False

    def takes_every_pixel(self, settings: Settings) -> bool:
        """Whether it works on single pixels of the very size that is rendered, so that another size is another picture."""
        return False

    def is_neutral(self, settings: Settings) -> bool:
        """Whether these settings leave every picture as it is."""
        return self.neutral is not None and all(getattr(settings, k) == v for k, v in self.neutral.items())


def _same_frame(before: Frame, settings: Any) -> Frame:
    return before


def _never(settings: Any) -> bool:
    return False


def _no_wrap(settings: Any) -> tuple[bool, bool]:
    return False, False


def _edge_setting(settings: Any) -> Edge:
    return cast(Edge, getattr(settings, "edge", "beyond"))


@dataclass(frozen=True)
class BendKind(Kind):
    """A geometric step.

    Parameters
    ----------
    pull : callable (x, y, before, after, settings) -> (x, y)
        Output points in units of `after` to input points in units of `before`; float32 arrays of any shape, not written into: new arrays are returned.
    frame_after : callable (before, settings) -> Frame
    changes_frame : callable (settings) -> bool
    changes_frame_by : str, optional
        The setting that makes it change the frame whenever it is not 0, where it does so only then.
    wrap : callable (settings) -> (bool, bool)
        Whether the input goes on round the back, across and down (the ring's seam).
    edge : callable (settings) -> Edge
        The rule for points outside the input's frame; the setting `edge`, or `beyond` without one.
    guide : callable (picture, **guide_settings) -> array, optional
        What the rule must know of its input picture: asked on a look of `guide_size` pixels so that every size agrees, and given to
        `pull` as `guide`. Such a step begins a new sampling.
    guides : callable (settings) -> bool
        Whether it asks with these settings.
    guide_layer : str, optional
        The setting that may name a layer below, whose picture is then looked at in place of the input's.
    leaves_out : bool
        Whether its rule may say of points that there is nothing, by `OUTSIDE`.
    """

    way: ClassVar[Way] = "bend"
    pull: Callable[..., tuple[Array, Array]] = field(kw_only=True)
    frame_after: Callable[[Frame, Any], Frame] = _same_frame
    changes_frame: Callable[[Any], bool] = _never
    changes_frame_by: str | None = None
    wrap: Callable[[Any], tuple[bool, bool]] = _no_wrap
    edge: Callable[[Any], Edge] = _edge_setting
    guide: Callable[..., Array] | None = None
    guide_settings: tuple[str, ...] = ()
    guides: Callable[[Any], bool] = _always
    guide_size: int = 768
    guide_layer: str | None = None
    leaves_out: bool = False

    def reshapes(self, settings: Settings) -> bool:
        return self.changes_frame(settings)

    def asks(self, settings: Settings) -> bool:
        """Whether its rule must know of its input picture, as it is set."""
        return self.guide is not None and self.guides(settings)


@dataclass(frozen=True)
class PictureKind(Kind):
    """A step that takes a picture and returns a new one of the same shape.

    Parameters
    ----------
    apply : callable (picture, rows, measured, settings) -> picture
    local : bool, or callable (settings) -> bool
        Whether a strip of rows can be computed from the same strip of the input.
    room : float
        How much memory it needs besides input and result, in sizes of the picture, where it is made whole.
    fewer : callable (settings) -> iterator of (settings, count), optional
        Of a step that does one thing after the other: settings that do only the first `count` of them. A picture made with those is gone on from:
        `apply` is then given it, and `done` and `origin` (the step's input) with what is measured; `measure` is given what it found for those.
    """

    way: ClassVar[Way] = "picture"
    apply: Callable[..., Array] = field(kw_only=True)
    local: bool | Callable[[Any], bool] = True
    room: float = 4.0
    fewer: Callable[[Any], Iterator[tuple[Settings, int]]] | None = None

    def is_local(self, settings: Settings) -> bool:
        """Whether a strip of rows can be computed from the same strip of the input, as it is set."""
        return self.local(settings) if callable(self.local) else self.local


@dataclass(frozen=True)
class PixelKind(PictureKind):
    """A step whose every pixel depends on that pixel alone, and on its place: neighbours of this sort are done in one pass.

    Parameters
    ----------
    ops : callable (settings, frame, measured) -> iterable of Op
        What it does, in order; `measured` has what was prepared.
    """

    ops: Callable[..., Iterable[Op]] = field(kw_only=True)
    apply: Callable[..., Array] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "apply", self._apply)

    def _apply(self, picture: Array, rows: Rows, measured: dict[str, Any], settings: Any) -> Array:
        return Pass(self.ops(settings, rows.frame, measured))(picture, rows)


def _nowhere(settings: Any) -> float:
    return 0.0


@dataclass(frozen=True)
class PaintKind(Kind):
    """A step that lays pictures sampled from its whole input on top of each other, in a frame like its input's.

    Parameters
    ----------
    paint : callable (brush, under, settings) -> strip
        `brush` (a `painting.Brush`) reads the input through coordinate rules; `under` is the input's own strip, not to be written into.
    magnifies : callable (settings) -> float
        How much larger than its place in the frame the input is shown at most: 1 where it is only moved.
    reaches : callable (settings) -> float
        How far above and below a strip it reads to paint it, in units; it is then given taller ones.
    averages : bool
        Whether it adds many readings of its own up, in linear light: then it has the pyramid for drafts too.
    """

    way: ClassVar[Way] = "paint"
    paint: Callable[..., Array] = field(kw_only=True)
    magnifies: Callable[[Any], float] = _once
    reaches: Callable[[Any], float] = _nowhere
    averages: bool = False


def _lines_setting(settings: Any) -> int:
    return int(settings.lines)


@dataclass(frozen=True)
class HardKind(PixelKind):
    """A step on single pixels that makes jumps between values that lie near each other: it works on a raster of its own.

    Parameters
    ----------
    lines : callable (settings) -> int
        Lines of the raster along the shorter side; 0 for every pixel of the size that is rendered.
    """

    way: ClassVar[Way] = "hard"
    lines: Callable[[Any], int] = field(default=_lines_setting, kw_only=True)

    def takes_every_pixel(self, settings: Settings) -> bool:
        return not self.lines(settings)


@dataclass(frozen=True)
class RasterKind(Kind):
    """A step that follows single pixels, so that it works on a raster of its own (docs/breaking.md).

    Parameters
    ----------
    work : callable (picture, raster, settings) -> picture
        On the whole raster; `raster` is a `raster.Raster`. Pixels it gives back as they were keep their full detail at every size.
    lines : callable (settings) -> int
        Lines of the raster along the shorter side; 0 for every pixel of the size that is rendered.
    draft : int, optional
        How many pixels a draft's raster has at most, where the work is long and its result soft; else drafts work on the raster that the
        settled picture does, and are the same picture.
    crisp : bool
        Whether its raster's pixels are plain squares where a picture is larger.
    show : callable (picture, raster, settings) -> mask, optional
        What the step acts on, 0…1, to be shown over the picture while its settings are chosen.
    """

    way: ClassVar[Way] = "raster"
    work: Callable[..., Array] = field(kw_only=True)
    lines: Callable[[Any], int] = _lines_setting
    draft: int | None = None
    crisp: bool = False
    show: Callable[..., Array] | None = None

    def takes_every_pixel(self, settings: Settings) -> bool:
        return not self.lines(settings)
