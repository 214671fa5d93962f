"""Random choices that a stored seed gives again, today and next year, on any machine.

References
----------
Steele, Lea and Flood, Fast Splittable Pseudorandom Number Generators (2014): the mixing function of SplitMix64.
"""

from __future__ import annotations

_MASK = (1 << 64) - 1


def draw(seed: int, *place: int) -> float:
    """Return a number 0 … 1 (1 excluded) for a seed and a place in the plan (which wave, which of its values).

    Parameters
    ----------
    seed : int
        0…999 999.
    *place : int
        Which draw it is.

    Returns
    -------
    float
        0…1, 1 excluded.

    Examples
    --------
    >>> draw(1, 0) == draw(1, 0), draw(1, 0) == draw(1, 1), 0 <= draw(7, 3, 2) < 1
    (True, False, True)
    """
    state = seed & _MASK
    for number in (0, *place):
        state = (state + 0x9E3779B97F4A7C15 * (number + 1)) & _MASK
        state = ((state ^ (state >> 30)) * 0xBF58476D1CE4E5B9) & _MASK
        state = ((state ^ (state >> 27)) * 0x94D049BB133111EB) & _MASK
        state ^= state >> 31
    return (state >> 11) / float(1 << 53)


def spread(seed: int, *place: int) -> float:
    """Return a number -1 … 1.

    Parameters
    ----------
    seed : int
        0…999 999.
    *place : int
        Which draw it is.

    Returns
    -------
    float
        -1…1.
    """
    return 2 * draw(seed, *place) - 1
