"""The reading of a photo: what Caracol sees in it, and what it is good for."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal

from ..arrays import Array
from ..pixels.pyramid import Pyramid
from .features import Feature, find_features
from .horizon import find_horizon
from .loops import Loop, best_loop
from .regions import crush_of_edges, edge_agreement, sky_of, spreads_of, stands_alone, surround_of
from .seam import Seam, seam_of

LOOK = 512
CLOSED = 2.0
"""A join that can be made no more visible than this, times the usual steps of the photo, is not seen."""
PORTRAIT = 0.1
"""A face of this share of the height makes a photo a portrait; without a horizon there is no sky in it."""
Verdict = Literal["good", "fair", "poor"]


@dataclass(frozen=True)
class Use:
    """How well a photo suits one use, and why."""

    use: str
    verdict: Verdict
    reasons: tuple[str, ...]


@dataclass(frozen=True)
class Reading:
    """A photo's reading.

    Parameters
    ----------
    tilt : float or None
        Lean of the horizon in turns, clockwise positive; None where there is none.
    horizon : float or None
        Its height in the middle, as a share from the top.
    agreement : float
        0…100, how well left and right edge would join.
    sky_share, sky_plainness, surround_plainness : float
        0…1.
    darkness, tone_spread, hue_spread, detail : float
        0…1, as `spreads_of` says.
    surround : str
        Colour of the border, #rrggbb.
    loop : Loop or None
        The best pair of cuts, where it betters the join.
    features : tuple of Feature
        Faces and salient areas.
    seam : Seam or None
        How visible the join of its edges is; None where an older release read it.
    crush_top, crush_bottom : float
        0…1, how uneven the first and the last rows are, which would be crushed in the middle of a well or a planet.
    alone : bool
        Whether it shows one object on plain ground, or on nothing.
    """

    width: int
    height: int
    ratio: float
    tilt: float | None
    horizon: float | None
    agreement: float
    sky_share: float
    sky_plainness: float
    surround: str
    surround_plainness: float
    darkness: float
    tone_spread: float
    hue_spread: float
    detail: float
    loop: Loop | None
    features: tuple[Feature, ...]
    uses: tuple[Use, ...]
    words: str
    seam: Seam | None = None
    crush_top: float = 0.0
    crush_bottom: float = 0.0
    alone: bool = False

    @classmethod
    def from_data(cls, data: dict[str, Any]) -> Reading:
        """Return the reading that `as_data` gave."""
        uses = tuple(Use(u["use"], u["verdict"], tuple(u["reasons"])) for u in data["uses"])
        loop = Loop(**data["loop"]) if data["loop"] else None
        features = tuple(Feature(**feature) for feature in data["features"])
        seam = Seam(**data["seam"]) if data.get("seam") else None
        told = {k: v for k, v in data.items() if k != "tilt_degrees"}
        return cls(**{**told, "uses": uses, "loop": loop, "features": features, "seam": seam})

    @classmethod
    def none(cls, width: int, height: int, words: str) -> Reading:
        """Return what stands for a reading where there is none; `words` say why."""
        return cls(
            width=width, height=height, ratio=width / max(height, 1), tilt=None, horizon=None, agreement=0, sky_share=0, sky_plainness=0,
            surround="#808080", surround_plainness=0, darkness=0, tone_spread=0, hue_spread=0, detail=0, loop=None, features=(), uses=(), words=words,
        )  # fmt: skip

    def as_data(self) -> dict[str, Any]:
        """Return the reading as JSON-ready data; the tilt also in degrees."""
        return {**asdict(self), "tilt_degrees": None if self.tilt is None else round(self.tilt * 360, 2)}


def _verdict(points: int) -> Verdict:
    return "good" if points <= 0 else "fair" if points == 1 else "poor"


def _joins(agreement: float, least: float, seam: Seam) -> bool:
    """Whether left and right edge agree, or can be made to meet without a trace."""
    return agreement >= least or seam.after < CLOSED


def _for_planet(ratio: float, tilt: float | None, joins: bool, sky: float, plain: float) -> Use:
    against = []
    if ratio < 1.4:
        against.append("not much wider than high")
    if tilt is None:
        against.append("no clear horizon")
    elif abs(tilt * 360) > 1:
        against.append(f"horizon leans {abs(tilt * 360):.1f}°")
    if not joins:
        against.append("left and right edge differ")
    if sky < 0.25:
        against.append("little plain sky")
    elif plain < 0.2:
        against.append("a busy sky")
    mendable = sum(1 for a in against if a.startswith("horizon leans"))
    return Use("planet", _verdict(len(against) - mendable), tuple(against) or ("wide, level, edges that agree, plain sky",))


def _for_well(sky: float, plain: float, joins: bool) -> Use:
    against = []
    if sky < 0.3:
        against.append("little sky for the middle")
    elif plain < 0.25:
        against.append("a busy sky would be crushed in the middle")
    if not joins:
        against.append("left and right edge differ")
    return Use("sky well", _verdict(len(against)), tuple(against) or ("plain sky for the middle",))


def _for_inside_out(sky: float, surround: float, detail: float, level: bool) -> Use:
    against = []
    if level:
        against.append("a horizon: sky and ground change places")
    if surround > 0.55 and detail < 0.4:
        against.append("a plain surround would become an empty void")
    if sky > 0.45:
        against.append("much of it is sky")
    return Use("inside-out", _verdict(len(against)), tuple(against) or ("it fills its frame",))


def _for_tunnel(joins: bool, detail: float) -> Use:
    against = []
    if not joins:
        against.append("left and right edge differ")
    if detail < 0.12:
        against.append("too plain to read as depth")
    return Use("tunnel", _verdict(len(against)), tuple(against) or ("detail that runs into the depth",))


def _for_twirl(darkness: float, hue_spread: float, detail: float) -> Use:
    against = []
    if detail < 0.2:
        against.append("little texture to draw out")
    if hue_spread < 0.25:
        against.append("few colours")
    if darkness < 0.35:
        against.append("pale")
    return Use("twirl", _verdict(len(against)), tuple(against) or ("texture and colour to draw out",))


def _for_breaking(tone_spread: float, hue_spread: float, detail: float) -> Use:
    against = []
    if tone_spread < 0.45:
        against.append("a narrow range of tones washes out")
    if hue_spread < 0.15:
        against.append("few colours to pull apart")
    if detail < 0.15:
        against.append("few edges that show a shift")
    return Use("breaking", _verdict(len(against)), tuple(against) or ("wide tones, hard edges",))


def _for_one_thing() -> tuple[Use, ...]:
    """Return what one object on plain ground is good for, and the bends that would only wrap its empty ground."""
    empty = ("one object on plain ground: there is nothing to wrap",)
    good = tuple(Use(use, "good", ("one object on plain ground",)) for use in ("cut-out", "spiral repeat", "layer"))
    return (*good, *(Use(use, "poor", empty) for use in ("planet", "sky well", "tunnel", "inside-out")))


def _words(tilt: float | None, agreement: float, uses: tuple[Use, ...], alone: bool) -> str:
    if alone:
        return "One object on plain ground; good for " + ", ".join(use.use for use in uses if use.verdict == "good") + "."
    edges = "Edges agree well" if agreement >= 70 else "Edges agree somewhat" if agreement >= 50 else "Edges differ"
    lean = "no clear horizon" if tilt is None else "horizon is level" if abs(tilt * 360) < 0.3 else f"horizon leans {abs(tilt * 360):.1f}°"
    good = [u.use for u in uses if u.verdict == "good"]
    fair = [u.use for u in uses if u.verdict == "fair"]
    chosen = good or fair
    end = "hard to bend; try it all the same" if not chosen else ("good for " if good else "fair for ") + ", ".join(chosen)
    return f"{edges}; {lean}; {end}."


def read(photo: Pyramid) -> Reading:
    """Read a photo from a small look of it.

    Parameters
    ----------
    photo : Pyramid

    Returns
    -------
    Reading
    """
    return read_look(photo.picture(min(LOOK, max(photo.rows, photo.cols))), photo.cols, photo.rows)


def read_look(picture: Array, width: int, height: int) -> Reading:
    """Read a small look of a picture that has `width` by `height` pixels.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied.
    width, height : int
        Pixels of the picture itself.

    Returns
    -------
    Reading
    """
    horizon = find_horizon(picture)
    features = find_features(picture)
    alone = horizon is None and stands_alone(picture)
    crush_top, crush_bottom = crush_of_edges(picture)
    agreement = edge_agreement(picture)
    sky_share, sky_plain = sky_of(picture, horizon.height if horizon else None)
    if horizon is None and (alone or any(f.kind == "face" and f.height > PORTRAIT for f in features)):
        # What is plain behind a face or a thing is a wall or a table.
        sky_share, sky_plain = 0.0, 0.0
    surround, surround_plain = surround_of(picture)
    darkness, tone_spread, hue_spread, detail = spreads_of(picture)
    ratio = width / height
    tilt = horizon.tilt if horizon else None
    seam = seam_of(picture)
    wraps = (
        _for_planet(ratio, tilt, _joins(agreement, 55, seam), sky_share, sky_plain),
        _for_well(sky_share, sky_plain, _joins(agreement, 45, seam)),
        _for_tunnel(_joins(agreement, 45, seam), detail),
        _for_inside_out(sky_share, surround_plain, detail, horizon is not None),
    )
    uses = (
        *(_for_one_thing() if alone else wraps),
        _for_twirl(darkness, hue_spread, detail),
        _for_breaking(tone_spread, hue_spread, detail),
    )
    return Reading(
        width=width, height=height, ratio=ratio, tilt=tilt, horizon=horizon.height if horizon else None, agreement=agreement,
        sky_share=sky_share, sky_plainness=sky_plain, surround=surround, surround_plainness=surround_plain, darkness=darkness,
        tone_spread=tone_spread, hue_spread=hue_spread, detail=detail, loop=best_loop(picture, tilt), features=features, uses=uses,
        words=_words(tilt, agreement, uses, alone), seam=seam, crush_top=crush_top, crush_bottom=crush_bottom, alone=alone,
    )  # fmt: skip
