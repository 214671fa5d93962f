"""The reading of a photo: what Caracol sees in it, and what it is good for."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any, Literal

from ..pyramid import Pyramid
from .horizon import find_horizon
from .regions import edge_agreement, sky_of, surround_of

LOOK = 512
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
    surround : str
        Colour of the border, #rrggbb.
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
    uses: tuple[Use, ...]
    words: str

    @classmethod
    def from_data(cls, data: dict[str, Any]) -> Reading:
        """Return the reading that `as_data` gave."""
        uses = tuple(Use(u["use"], u["verdict"], tuple(u["reasons"])) for u in data["uses"])
        return cls(**{**{k: v for k, v in data.items() if k != "tilt_degrees"}, "uses": uses})

    def as_data(self) -> dict[str, Any]:
        """Return the reading as JSON-ready data; the tilt also in degrees."""
        return {**asdict(self), "tilt_degrees": None if self.tilt is None else round(self.tilt * 360, 2)}


def _verdict(points: int) -> Verdict:
    return "good" if points <= 0 else "fair" if points == 1 else "poor"


def _for_planet(ratio: float, tilt: float | None, agreement: float, sky: float, plain: float) -> Use:
    against = []
    if ratio < 1.4:
        against.append("not much wider than high")
    if tilt is None:
        against.append("no clear horizon")
    elif abs(tilt * 360) > 1:
        against.append(f"horizon leans {abs(tilt * 360):.1f}°")
    if agreement < 55:
        against.append("left and right edge differ")
    if sky < 0.25:
        against.append("little plain sky")
    elif plain < 0.35:
        against.append("a busy sky")
    mendable = sum(1 for a in against if a.startswith("horizon leans"))
    return Use("planet", _verdict(len(against) - mendable), tuple(against) or ("wide, level, edges that agree, plain sky",))


def _for_well(sky: float, plain: float, agreement: float) -> Use:
    against = []
    if sky < 0.3:
        against.append("little sky for the middle")
    elif plain < 0.25:
        against.append("a busy sky would be crushed in the middle")
    if agreement < 45:
        against.append("left and right edge differ")
    return Use("sky well", _verdict(len(against)), tuple(against) or ("plain sky for the middle",))


def _for_inside_out(sky: float, surround: float) -> Use:
    against = []
    if surround > 0.55:
        against.append("a plain surround would become an empty void")
    if sky > 0.45:
        against.append("much of it is sky")
    return Use("inside-out", _verdict(len(against)), tuple(against) or ("it fills its frame",))


def _words(tilt: float | None, agreement: float, uses: tuple[Use, ...]) -> str:
    edges = "Edges agree well" if agreement >= 70 else "Edges agree somewhat" if agreement >= 50 else "Edges differ"
    lean = "no clear horizon" if tilt is None else "horizon is level" if abs(tilt * 360) < 0.3 else f"horizon leans {abs(tilt * 360):.1f}°"
    good = [u.use for u in uses if u.verdict == "good"]
    fair = [u.use for u in uses if u.verdict == "fair"]
    chosen = good or fair
    end = "hard to bend; try it all the same" if not chosen else ("good for a " if good else "fair for a ") + " or ".join(chosen)
    return f"{edges}; {lean}; {end}.".replace("a inside", "an inside")


def read(photo: Pyramid) -> Reading:
    """Read a photo from a small look of it."""
    picture = photo.picture(min(LOOK, max(photo.rows, photo.cols)))
    horizon = find_horizon(picture[..., :3].mean(axis=2))
    agreement = edge_agreement(picture)
    sky_share, sky_plain = sky_of(picture, horizon.height if horizon else None)
    surround, surround_plain = surround_of(picture)
    ratio = photo.cols / photo.rows
    tilt = horizon.tilt if horizon else None
    uses = (
        _for_planet(ratio, tilt, agreement, sky_share, sky_plain),
        _for_well(sky_share, sky_plain, agreement),
        _for_inside_out(sky_share, surround_plain),
    )
    return Reading(
        width=photo.cols, height=photo.rows, ratio=ratio, tilt=tilt, horizon=horizon.height if horizon else None, agreement=agreement,
        sky_share=sky_share, sky_plainness=sky_plain, surround=surround, surround_plainness=surround_plain, uses=uses,
        words=_words(tilt, agreement, uses),
    )  # fmt: skip
