"""From a checked tree to a short list of operations, and the compiled machine that runs them over blocks of points.

Every operation runs over a whole block before the next, so that its loop is vector code and the block stays in the nearest cache:
a formula costs about what a compiled bend does, and nothing is compiled when it is typed.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import numba as nb
import numpy as np

from ..arrays import AnyArray, Array
from ..geometry.points import cosine_of, sine_of, wave_of
from ..geometry.polar import log_of
from ..pixels.noise import noise_at
from .language import VARIABLES, Node, read_formula

BLOCK = 512
CODES = (
    "+", "-", "*", "/", "%", "^", "<", ">", "<=", ">=", "==", "!=", "negate", "abs", "sqrt", "exp", "log", "sin", "cos", "tan", "asin",
    "acos", "atan2", "floor", "fract", "min", "max", "clamp", "mix", "step", "smooth", "noise", "wave", "tri", "saw", "pulse",
)  # fmt: skip
"""Operations by number; `_evaluate` must agree."""
CODE_OF = {what: number for number, what in enumerate(CODES)}


@dataclass(frozen=True)
class Program:
    """Operations (code, target, a, b, c) on registers. The first four hold x, y, rad and ang, then the constants, then the knobs."""

    operations: AnyArray
    constants: tuple[float, ...]
    knobs: tuple[str, ...]
    registers: int
    results: tuple[int, int]


@dataclass
class _Builder:
    constants: list[float] = field(default_factory=list)
    knobs: list[str] = field(default_factory=list)
    operations: list[tuple[int, int, int, int, int]] = field(default_factory=list)
    made: dict[Node, int] = field(default_factory=dict)
    values: int = 0

    def place(self, node: Node) -> int:
        """Return a number for the node's value, alike for alike nodes: -1… for what is given, 0… for what is computed."""
        if node.what == "name" and node.name in VARIABLES:
            return -1 - VARIABLES.index(node.name)
        if node.what == "number":
            if node.number not in self.constants:
                self.constants.append(node.number)
            return -1000 - self.constants.index(node.number)
        if node.what == "name":
            if node.name not in self.knobs:
                self.knobs.append(node.name)
            return -2000 - self.knobs.index(node.name)
        if node not in self.made:
            parts = [self.place(part) for part in node.parts]
            while node.what in ("min", "max") and len(parts) > 2:
                parts = [self.emit(node.what, parts[:2]), *parts[2:]]
            self.made[node] = self.emit(node.what, parts)
        return self.made[node]

    def emit(self, what: str, parts: list[int]) -> int:
        a, b, c = (*parts, 0, 0, 0)[:3]
        self.operations.append((CODE_OF[what], self.values, a, b, c))
        self.values += 1
        return self.values - 1

    def register(self, place: int) -> int:
        """Return the register of a place: variables, constants, knobs, then computed values."""
        given = len(VARIABLES) + len(self.constants) + len(self.knobs)
        if place >= 0:
            return given + place
        if place <= -2000:
            return len(VARIABLES) + len(self.constants) - 2000 - place
        if place <= -1000:
            return len(VARIABLES) - 1000 - place
        return -1 - place


@lru_cache(maxsize=512)
def compiled(first: str, second: str) -> Program:
    """Return the program of two formulas; alike parts are computed once. Faults as in `read_formula`.

    Parameters
    ----------
    first, second : str
        The lines, as in the settings of a formula step.

    Returns
    -------
    Program
    """
    builder = _Builder()
    ends = (builder.place(read_formula(first)), builder.place(read_formula(second)))
    at = builder.register
    operations = [(code, at(target), at(a), at(b), at(c)) for code, target, a, b, c in builder.operations]
    given = len(VARIABLES) + len(builder.constants) + len(builder.knobs)
    return Program(
        np.array(operations, np.int64).reshape(-1, 5), tuple(builder.constants), tuple(builder.knobs), given + builder.values, (at(ends[0]), at(ends[1]))
    )  # fmt: skip


@nb.njit(inline="always")
def _power(a, b):  # type: ignore[no-untyped-def]
    size = np.float32(np.exp(min(b * log_of(max(abs(a), np.float32(1e-30))), np.float32(80))))
    if a >= 0:
        return size
    if b != np.rint(b):
        return np.float32(0)
    return size if b * np.float32(0.5) == np.rint(b * np.float32(0.5)) else -size


@nb.njit(inline="always")
def _away_from_zero(a):  # type: ignore[no-untyped-def]
    return np.copysign(max(abs(a), np.float32(1e-9)), a)


@nb.njit(nogil=True, error_model="numpy", cache=True)
def _evaluate(operations, given, ends, x, y, rad, ang, out_a, out_b, registers):  # type: ignore[no-untyped-def]  # noqa: C901
    zero, one, two, three, half = np.float32(0), np.float32(1), np.float32(2), np.float32(3), np.float32(0.5)
    per_turn = np.float32(1 / (2 * np.pi))
    for k in range(given.size):
        registers[4 + k, :] = given[k]
    for begin in range(0, x.size, BLOCK):
        n = min(BLOCK, x.size - begin)
        registers[0, :n] = x[begin : begin + n]
        registers[1, :n] = y[begin : begin + n]
        registers[2, :n] = rad[begin : begin + n]
        registers[3, :n] = ang[begin : begin + n]
        for o in range(operations.shape[0]):
            code = operations[o, 0]
            t = registers[operations[o, 1]]
            a, b, c = registers[operations[o, 2]], registers[operations[o, 3]], registers[operations[o, 4]]
            if code == 0:
                for i in range(n):
                    t[i] = a[i] + b[i]
            elif code == 1:
                for i in range(n):
                    t[i] = a[i] - b[i]
            elif code == 2:
                for i in range(n):
                    t[i] = a[i] * b[i]
            elif code == 3:
                for i in range(n):
                    t[i] = a[i] / _away_from_zero(b[i])
            elif code == 4:
                for i in range(n):
                    d = _away_from_zero(b[i])
                    t[i] = a[i] - d * np.floor(a[i] / d)
            elif code == 5:
                for i in range(n):
                    t[i] = _power(a[i], b[i])
            elif code == 6:
                for i in range(n):
                    t[i] = one if a[i] < b[i] else zero
            elif code == 7:
                for i in range(n):
                    t[i] = one if a[i] > b[i] else zero
            elif code == 8:
                for i in range(n):
                    t[i] = one if a[i] <= b[i] else zero
            elif code == 9:
                for i in range(n):
                    t[i] = one if a[i] >= b[i] else zero
            elif code == 10:
                for i in range(n):
                    t[i] = one if a[i] == b[i] else zero
            elif code == 11:
                for i in range(n):
                    t[i] = one if a[i] != b[i] else zero
            elif code == 12:
                for i in range(n):
                    t[i] = -a[i]
            elif code == 13:
                for i in range(n):
                    t[i] = abs(a[i])
            elif code == 14:
                for i in range(n):
                    t[i] = np.sqrt(max(a[i], zero))
            elif code == 15:
                for i in range(n):
                    t[i] = np.exp(min(a[i], np.float32(80)))
            elif code == 16:
                for i in range(n):
                    t[i] = log_of(max(a[i], np.float32(1e-30)))
            elif code == 17:
                for i in range(n):
                    t[i] = sine_of(a[i] * per_turn)
            elif code == 18:
                for i in range(n):
                    t[i] = cosine_of(a[i] * per_turn)
            elif code == 19:
                for i in range(n):
                    t[i] = sine_of(a[i] * per_turn) / _away_from_zero(cosine_of(a[i] * per_turn))
            elif code == 20:
                for i in range(n):
                    t[i] = np.arcsin(min(max(a[i], -one), one))
            elif code == 21:
                for i in range(n):
                    t[i] = np.arccos(min(max(a[i], -one), one))
            elif code == 22:
                for i in range(n):
                    t[i] = np.arctan2(a[i], b[i])
            elif code == 23:
                for i in range(n):
                    t[i] = np.floor(a[i])
            elif code == 24:
                for i in range(n):
                    t[i] = a[i] - np.floor(a[i])
            elif code == 25:
                for i in range(n):
                    t[i] = min(a[i], b[i])
            elif code == 26:
                for i in range(n):
                    t[i] = max(a[i], b[i])
            elif code == 27:
                for i in range(n):
                    t[i] = min(max(a[i], b[i]), c[i])
            elif code == 28:
                for i in range(n):
                    t[i] = a[i] + (b[i] - a[i]) * c[i]
            elif code == 29:
                for i in range(n):
                    t[i] = one if b[i] >= a[i] else zero
            elif code == 30:
                for i in range(n):
                    s = min(max((c[i] - a[i]) / _away_from_zero(b[i] - a[i]), zero), one)
                    t[i] = s * s * (three - two * s)
            elif code == 31:
                for i in range(n):
                    t[i] = noise_at(min(max(a[i], np.float32(-1e6)), np.float32(1e6)), min(max(b[i], np.float32(-1e6)), np.float32(1e6)), 1)
            elif code == 32:
                for i in range(n):
                    t[i] = wave_of(0, a[i])
            elif code == 33:
                for i in range(n):
                    t[i] = wave_of(1, a[i])
            elif code == 34:
                for i in range(n):
                    t[i] = two * (a[i] - np.floor(a[i] + half))
            else:
                for i in range(n):
                    t[i] = wave_of(2, a[i])
        a, b = registers[ends[0]], registers[ends[1]]
        for i in range(n):
            out_a[begin + i] = a[i] if np.isfinite(a[i]) else zero
            out_b[begin + i] = b[i] if np.isfinite(b[i]) else zero


def evaluate(program: Program, knobs: dict[str, float], x: Array, y: Array, rad: Array, ang: Array) -> tuple[Array, Array]:
    """Evaluate a program on flat float32 arrays and return both results.

    Parameters
    ----------
    program : Program
    knobs : dict
        The numbers of the knobs by name; those left out are 1.
    x, y : float32 array (n,)
        About the centre, in reaches.
    rad, ang : float32 array (n,)
        Their distance in reaches and their angle in turns from the ray.

    Returns
    -------
    first, second : float32 array (n,)

    Notes
    -----
    No value of the inputs fails: dividing by nearly nothing divides by 1e-9 of that sign, roots and logarithms of what is below 0 take
    0 and 1e-30, a negative base with a broken exponent gives 0, arcs clamp to -1…1. What is not finite all the same becomes 0.
    """
    given = np.array([*program.constants, *(knobs.get(name, 1.0) for name in program.knobs)], np.float32)
    first, second = np.empty(x.size, np.float32), np.empty(x.size, np.float32)
    registers = np.empty((program.registers, BLOCK), np.float32)
    _evaluate(program.operations, given, np.array(program.results, np.int64), x, y, rad, ang, first, second, registers)
    return first, second
