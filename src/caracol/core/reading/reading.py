"""The reading of a photo: what Caracol sees in it, and what it is good for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict, dataclass, replace
from typing import Any, Literal

import numpy as np

from ..arrays import Array
from ..pixels.pyramid import Pyramid
from .features import Feature, find_features
from .horizon import find_horizon
from .loops import Loop, best_loop
from .regions import crush_of_edges, edge_agreement, sky_of, spreads_of, stands_alone, surround_of, unevenness
from .seam import Seam, seam_of

LOOK = 512
CLOSED = 2.0
"""A join that can be made no more visible than this, times the usual steps of the photo, is not seen."""
PORTRAIT = 0.1
"""A face of this share of the height makes a photo a portrait; without a horizon there is no sky in it."""
SOMEBODY = 0.15
"""A face of this share of the height is somebody to be cut out."""
SOME_SKY = 0.12
"""Less sky than this share is none: a sky well would have anything but sky in its middle."""
UNEVEN = 0.172
"""A photo whose rows differ no more than this along the width is alike all the way round, …"""
TOO_UNEVEN = 0.2
"""… and one that differs by more has something on one side only."""
ANYBODYS = 0.85
"""What a use that most photos serve is worth, beside those that few do."""
NAMED = 3
"""So many uses, the best ones, are named in words."""
VERSION = 1
"""Grows with every change of what a reading says: photos that were read by an older one are read again."""
Verdict = Literal["good", "fair", "poor"]
RANK: dict[Verdict, int] = {"good": 0, "fair": 1, "poor": 2}


@dataclass(frozen=True)
class Use:
    """How well a photo suits one use, and why."""

    use: str
    verdict: Verdict
    reasons: tuple[str, ...]
    worth: float = 0.0
    """0…1, how strongly the photo has what this use wants; among uses of one verdict the more is the better."""


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
        Whether it shows one object by itself: on plain ground, on nothing, or in focus before a blurred one.
    uses : tuple of Use
        What it is good for, the best first.
    uneven : float
        How much its rows differ along the width, as `unevenness` says.
    version : int
        VERSION of the release that read it.
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
    uneven: float = 0.0
    version: int = 0

    @classmethod
    def from_data(cls, data: dict[str, Any]) -> Reading:
        """Return the reading that `as_data` gave."""
        uses = tuple(Use(u["use"], u["verdict"], tuple(u["reasons"]), u.get("worth", 0.0)) for u in data["uses"])
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
            surround="#808080", surround_plainness=0, darkness=0, tone_spread=0, hue_spread=0, detail=0, loop=None, features=(), uses=(), words=words, version=VERSION,
        )  # fmt: skip

    def as_data(self) -> dict[str, Any]:
        """Return the reading as JSON-ready data; the tilt also in degrees."""
        return {**asdict(self), "tilt_degrees": None if self.tilt is None else round(self.tilt * 360, 2)}


@dataclass(frozen=True)
class _Check:
    """One thing that a use wants: how strongly the photo has it (1: just enough, 2 and more: plenty), and what is said where it has not.

    What can be `mended` by a step says so, and costs nothing; what `rules out` makes a photo poor by itself.
    """

    strength: float
    against: str
    mended: bool = False
    rules_out: bool = False

    @property
    def held(self) -> bool:
        return self.strength >= 1


def _judged(use: str, praise: str, *checks: _Check) -> Use:
    """Return a use by its checks: good where all hold, fair where one does not; its worth is the geometric mean of what each is worth."""
    against = [check for check in checks if not check.held]
    points = sum(2 if check.rules_out else 1 for check in against if not check.mended)
    verdict: Verdict = "good" if points == 0 else "fair" if points == 1 else "poor"
    worths = [min(max(check.strength, 0.02) / 2, 1.0) for check in checks if not check.mended]
    worth = float(np.exp(np.mean(np.log(worths))))
    return Use(use, verdict, tuple(check.against for check in against) or (praise,), round(worth, 3))


def _meets(agreement: float, least: float, seam: Seam) -> _Check:
    """Whether left and right edge agree, or can be made to meet without a trace."""
    closed = 1 + (CLOSED - seam.after) / CLOSED if seam.after < CLOSED else 0.0
    return _Check(max(agreement / least, closed), "left and right end differ")


def _for_planet(ratio: float, tilt: float | None, meets: _Check, sky: float, plain: float) -> Use:
    leans = 0.0 if tilt is None else abs(tilt * 360)
    return _judged(
        "planet",
        "wide, level, ends that match, plain sky",
        _Check(ratio / 1.4, "not much wider than high"),
        _Check(0.0 if tilt is None else 2.0, "no clear horizon"),
        _Check(0.0 if leans > 1 else 2.0, f"horizon tilted by {leans:.1f}°", mended=True),
        meets,
        _Check(sky / 0.25, "little plain sky"),
        _Check(plain / 0.2 if sky >= 0.25 else 1.0, "a busy sky"),
    )


def _for_well(sky: float, plain: float, meets: _Check) -> Use:
    return _judged(
        "sky well",
        "plain sky for the middle",
        _Check(sky / 0.3, "little sky for the middle", rules_out=sky < SOME_SKY),
        _Check(plain / 0.25 if sky >= 0.3 else 1.0, "a busy sky would be crushed in the middle"),
        meets,
    )


def _for_inside_out(sky: float, surround: float, detail: float, level: bool) -> Use:
    void = surround > 0.55 and detail < 0.4
    return _judged(
        "inside-out",
        "it fills its frame",
        _Check(0.0 if level else 2.0, "a horizon: sky and ground change places"),
        _Check(0.0 if void else min(2.0, 1 + detail - 0.4 * surround), "a plain surround would become empty"),
        _Check(2 - sky / 0.45, "mostly sky"),
    )


def _for_tunnel(meets: _Check, detail: float, uneven: float) -> Use:
    return _judged(
        "tunnel",
        "similar all the way round",
        meets,
        _Check(detail / 0.15, "too plain to show depth"),
        _Check(UNEVEN / max(uneven, 1e-3), "what is on one side only would become a streak", rules_out=uneven > TOO_UNEVEN),
    )


def _for_twirl(darkness: float, hue_spread: float, detail: float) -> Use:
    return _judged(
        "twirl",
        "texture and colour to twist",
        _Check(detail / 0.2, "little texture to twist"),
        _Check(hue_spread / 0.25, "few colours"),
        _Check(darkness / 0.35, "pale"),
    )


def _for_breaking(tone_spread: float, hue_spread: float, detail: float) -> Use:
    return _judged(
        "breaking",
        "wide tones, hard edges",
        _Check(tone_spread / 0.45, "few tones"),
        _Check(hue_spread / 0.15, "few colours to pull apart"),
        _Check(detail / 0.15, "few edges to show a shift"),
    )


def _for_one_thing() -> tuple[Use, ...]:
    """Return what one object by itself is good for, and the bends that would only wrap its empty ground."""
    empty = ("one object: there is nothing to wrap",)
    good = (Use(use, "good", ("one object",), worth) for use, worth in (("cut-out", 1.0), ("spiral repeat", 0.98), ("layer", 0.96)))
    return (*good, *(Use(use, "poor", empty) for use in ("planet", "sky well", "tunnel", "inside-out")))


def _is_face(picture: Array, found: Feature) -> bool:
    """Return whether a feature is a face so large that somebody can be cut out, and is of a colour that skin has: patterns look like faces, too."""
    if found.kind != "face" or found.height <= SOMEBODY:
        return False
    rows, cols = picture.shape[:2]
    top, left = found.top + found.height / 4, found.left + found.width / 4
    inner = picture[round(top * rows) : round((top + found.height / 2) * rows), round(left * cols) : round((left + found.width / 2) * cols)]
    red, green, blue = (float(part) for part in np.median(inner[..., :3].reshape(-1, 3), axis=0))
    return red > 1.1 * green > 1.1 * 0.9 * blue and red < 2.6 * green


def _for_somebody() -> tuple[Use, ...]:
    return (Use("cut-out", "good", ("a person to cut out",), 1.0),)


def _best_first(uses: Iterable[Use]) -> tuple[Use, ...]:
    return tuple(sorted(uses, key=lambda use: (RANK[use.verdict], -use.worth)))


def _anybodys(use: Use) -> Use:
    """Return a use that most photos serve: it says less of this one than what few are good for."""
    return replace(use, worth=round(ANYBODYS * use.worth, 3))


def _words(tilt: float | None, agreement: float, uses: tuple[Use, ...], alone: bool) -> str:
    if alone:
        return "One object by itself; good for " + ", ".join([use.use for use in uses if use.verdict == "good"][:NAMED]) + "."
    edges = "Ends match well" if agreement >= 70 else "Ends match somewhat" if agreement >= 50 else "Ends differ"
    lean = (
        "no clear horizon" if tilt is None else "horizon is level" if abs(tilt * 360) < 0.3 else f"horizon tilted by {abs(tilt * 360):.1f}°"
    )
    good = [u.use for u in uses if u.verdict == "good"][:NAMED]
    fair = [u.use for u in uses if u.verdict == "fair"][:NAMED]
    chosen = good or fair
    end = "hard to bend, but try it" if not chosen else ("good for " if good else "fair for ") + ", ".join(chosen)
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
    return read_look(photo.look(min(LOOK, max(photo.rows, photo.cols))), photo.cols, photo.rows)


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
    uneven = unevenness(picture, tilt or 0.0)
    wraps = (
        _for_planet(ratio, tilt, _meets(agreement, 55, seam), sky_share, sky_plain),
        _for_well(sky_share, sky_plain, _meets(agreement, 45, seam)),
        _for_tunnel(_meets(agreement, 45, seam), detail, uneven),
        _for_inside_out(sky_share, surround_plain, detail, horizon is not None),
    )
    somebody = horizon is None and not alone and any(_is_face(picture, feature) for feature in features[:2])
    uses = _best_first(
        (
            *(_for_one_thing() if alone else wraps),
            *(_for_somebody() if somebody else ()),
            _anybodys(_for_twirl(darkness, hue_spread, detail)),
            _anybodys(_for_breaking(tone_spread, hue_spread, detail)),
        )
    )
    return Reading(
        width=width, height=height, ratio=ratio, tilt=tilt, horizon=horizon.height if horizon else None, agreement=agreement,
        sky_share=sky_share, sky_plainness=sky_plain, surround=surround, surround_plainness=surround_plain, darkness=darkness,
        tone_spread=tone_spread, hue_spread=hue_spread, detail=detail, loop=best_loop(picture, tilt), features=features, uses=uses,
        words=_words(tilt, agreement, uses, alone), seam=seam, crush_top=crush_top, crush_bottom=crush_bottom, alone=alone, version=VERSION,
        uneven=round(uneven, 3),
    )  # fmt: skip
