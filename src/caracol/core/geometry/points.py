"""Running a compiled loop over points, and what such loops share."""

from __future__ import annotations

from collections.abc import Callable

import numba as nb
import numpy as np

from ..arrays import Array


def over_points(kernel: Callable[..., None], x: Array, y: Array, *numbers: float) -> tuple[Array, Array]:
    """Call `kernel(x, y, *numbers, out_x, out_y)` on flat float32 arrays and return both results in the shape of `x`.

    Numbers arrive as float32, except bools and ints, which stay as they are.

    Parameters
    ----------
    kernel : callable
        Compiled; takes two flat arrays, the numbers, and two flat arrays to write into.
    x, y : float32 array
        Of one shape; not written into.
    *numbers : float, int or bool
        What the rule is set to.

    Returns
    -------
    x, y : float32 array
        In the shape of the given ones.
    """
    out_x, out_y = np.empty(x.shape, np.float32), np.empty(x.shape, np.float32)
    flat_x, flat_y = np.ascontiguousarray(x, np.float32).ravel(), np.ascontiguousarray(y, np.float32).ravel()
    kernel(flat_x, flat_y, *(n if isinstance(n, bool | int) else np.float32(n) for n in numbers), out_x.ravel(), out_y.ravel())
    return out_x, out_y


_TAU = np.float32(2 * np.pi)
_S = tuple(np.float32(s) for s in (-1 / 6, 1 / 120, -1 / 5040, 1 / 362880, -1 / 39916800))
_HALF, _QUARTER, _ONE = np.float32(0.5), np.float32(0.25), np.float32(1)


@nb.njit(inline="always")
def sine_of(turns):  # type: ignore[no-untyped-def]
    """Return the sine of an angle in turns, float32, off by less than 1e-6 (Taylor's series to the eleventh power on a quarter turn).

    Parameters
    ----------
    turns : float32
        Any angle; one turn is 1.

    Returns
    -------
    float32
        -1…1.
    """
    r = turns - np.rint(turns)
    r = np.copysign(_HALF, r) - r if abs(r) > _QUARTER else r
    a = r * _TAU
    q = a * a
    return a * (_ONE + q * (_S[0] + q * (_S[1] + q * (_S[2] + q * (_S[3] + q * _S[4])))))


@nb.njit(inline="always")
def cosine_of(turns):  # type: ignore[no-untyped-def]
    """Return the cosine of an angle in turns, as `sine_of`.

    Parameters
    ----------
    turns : float32
        Any angle; one turn is 1.

    Returns
    -------
    float32
        -1…1.
    """
    return sine_of(turns + _QUARTER)


FORMS = ("round", "pointed", "stepped")
"""Wave forms by number, as `wave_of` takes them."""


@nb.njit(inline="always")
def wave_of(form, t):  # type: ignore[no-untyped-def]
    """Return a wave of period one and peak ±1 that rises through 0 at t = 0: sine, triangle or square.

    Parameters
    ----------
    form : int
        0 sine, 1 triangle, 2 square.
    t : float32
        Periods.

    Returns
    -------
    float32
        -1…1.
    """
    if form == 0:
        return sine_of(t)
    t = t - np.floor(t)
    if form == 1:
        # Up to 1 at a quarter, down to -1 at three quarters, back to 0.
        return _ONE - np.float32(4) * abs(t - _QUARTER) if t < np.float32(0.75) else np.float32(4) * (t - _ONE)
    return _ONE if t < _HALF else -_ONE
