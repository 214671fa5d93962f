"""How well something is rendered."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Quality:
    """What a render may spare.

    Parameters
    ----------
    coded : bool
        Whether pictures are read as drafts are: once per point, of 8-bit levels (`pixels.drafts`).
    detail : float
        Share of the needed size at which pictures below a bend are computed.
    apart : bool
        Whether what a step must know of its whole input is always found on a look of its own, so that all sizes agree to the last bit, or
        on the picture at hand, which is faster; what decides (`Kind.decides`) is found on the look of the settled picture all the same.
    """

    coded: bool
    detail: float
    apart: bool


FULL = Quality(coded=False, detail=1.0, apart=True)
DRAFT = Quality(coded=True, detail=0.5, apart=False)
