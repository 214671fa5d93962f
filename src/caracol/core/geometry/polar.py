"""Angles and radii for compiled kernels.

References
----------
Abramowitz and Stegun, Handbook of Mathematical Functions, 4.4.49 (arctangent, error below 2e-8).
"""

from __future__ import annotations

import numba as nb
import numpy as np

_A = tuple(
    np.float32(a)
    for a in (-0.3333314528, 0.1999355085, -0.1420889944, 0.1065626393, -0.0752896400, 0.0429096138, -0.0161657367, 0.0028662257)
)
_PER_TURN = np.float32(1 / (2 * np.pi))
_ONE = np.float32(1)


@nb.njit(inline="always")
def turns_of(x, y):  # type: ignore[no-untyped-def]
    """Return the angle of (x, y) in turns, -0.5 … 0.5: 0 is up, clockwise positive; y runs down. Float32 in, float32 out.

    Parameters
    ----------
    x, y : float32
        About the centre, right and down positive, any unit.

    Returns
    -------
    float32
        Turns; 0 for the centre itself.
    """
    up, across = abs(y), abs(x)
    big, small = max(up, across), min(up, across)
    q = small / max(big, np.float32(1e-20))
    s = q * q
    a = q * (_ONE + s * (_A[0] + s * (_A[1] + s * (_A[2] + s * (_A[3] + s * (_A[4] + s * (_A[5] + s * (_A[6] + s * _A[7]))))))))
    a *= _PER_TURN
    if across > up:
        a = np.float32(0.25) - a
    if y > 0:
        a = np.float32(0.5) - a
    return -a if x < 0 else a


_L = tuple(np.float32(a) for a in (0.9999964239, -0.49987412, 0.33179903, -0.24073381, 0.16765407, -0.09532939, 0.03608849, -0.00645354))
_LN2 = np.float32(0.69314718056)


@nb.njit(inline="always")
def log_of(value):  # type: ignore[no-untyped-def]
    """Return the natural logarithm of a float32 above 0, off by less than 2e-7 of a whole e-fold (Abramowitz and Stegun 4.1.44).

    Parameters
    ----------
    value : float32
        Above 0.

    Returns
    -------
    float32

    References
    ----------
    M. Abramowitz and I. A. Stegun, Handbook of Mathematical Functions, 4.1.44.
    """
    bits = np.float32(value).view(np.int32)
    exponent = (bits >> np.int32(23)) - np.int32(127)
    m = np.int32((bits & np.int32(0x007FFFFF)) | np.int32(0x3F800000)).view(np.float32) - _ONE
    part = m * (_L[0] + m * (_L[1] + m * (_L[2] + m * (_L[3] + m * (_L[4] + m * (_L[5] + m * (_L[6] + m * _L[7])))))))
    return np.float32(exponent) * _LN2 + part
