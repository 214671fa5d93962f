"""Reading a formula into a checked tree. Nothing is ever evaluated as code; size and depth are limited.

Grammar, loosest first (all but `^` group from the left)::

    comparison = sum [ ("<" | ">" | "<=" | ">=" | "==" | "!=") sum ]
    sum        = product { ("+" | "-") product }
    product    = signed { ("*" | "/" | "%") signed }
    signed     = "-" signed | power
    power      = atom [ "^" signed ]
    atom       = number | name | function "(" comparison { "," comparison } ")" | "(" comparison ")"
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from difflib import get_close_matches
from math import pi, tau

from ..errors import CaracolError

LONGEST = 400
DEEPEST = 40
MOST_NODES = 240
MOST_KNOBS = 12

FUNCTIONS: dict[str, tuple[int, int]] = {
    "abs": (1, 1), "sqrt": (1, 1), "exp": (1, 1), "log": (1, 1), "sin": (1, 1), "cos": (1, 1), "tan": (1, 1), "asin": (1, 1),
    "acos": (1, 1), "atan2": (2, 2), "floor": (1, 1), "fract": (1, 1), "min": (2, 4), "max": (2, 4), "clamp": (3, 3), "mix": (3, 3),
    "step": (2, 2), "smooth": (3, 3), "noise": (2, 2), "wave": (1, 1), "tri": (1, 1), "saw": (1, 1), "pulse": (1, 1),
}  # fmt: skip
"""Functions by name, with the least and most arguments they take."""

CONSTANTS = {"pi": pi, "tau": tau, "time": 0.0}
VARIABLES = ("x", "y", "rad", "ang")

_TOKEN = re.compile(r"(?P<number>(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?)|(?P<name>[A-Za-z_][A-Za-z0-9_]*)|(?P<sign><=|>=|==|!=|[-+*/%^(),<>])")
_SPACE = re.compile(r"\s*")


class FormulaError(CaracolError, ValueError):
    """A formula that cannot be read.

    Parameters
    ----------
    column, length : int
        Where the fault is: the first character's place from 1, and how many characters.
    """

    def __init__(self, message: str, column: int, length: int = 1) -> None:
        super().__init__(f"column {column}: {message}")
        self.told = message
        self.column = column
        self.length = length


@dataclass(frozen=True)
class Node:
    """A checked tree: `what` is an operator, a function, `number` or `name`."""

    what: str
    parts: tuple[Node, ...] = ()
    number: float = 0.0
    name: str = ""

    def walk(self) -> Iterator[Node]:
        """Yield this node and all below it."""
        yield self
        for part in self.parts:
            yield from part.walk()


@dataclass(frozen=True)
class _Token:
    kind: str
    text: str
    column: int


def _tokens(text: str) -> list[_Token]:
    if len(text) > LONGEST:
        raise FormulaError(f"the formula has {len(text)} characters; at most {LONGEST} are taken", LONGEST + 1)
    found: list[_Token] = []
    at = 0
    while True:
        at = _SPACE.match(text, at).end()  # type: ignore[union-attr]
        if at == len(text):
            return [*found, _Token("end", "", at + 1)]
        match = _TOKEN.match(text, at)
        if match is None:
            raise FormulaError(f"{text[at]!r} has no place in a formula; expected a number, a name or an operator", at + 1)
        found.append(_Token(str(match.lastgroup), match.group(), at + 1))
        at = match.end()


class _Reader:
    """A recursive descent over the tokens, counting nodes and depth as it goes."""

    def __init__(self, text: str) -> None:
        self.tokens = _tokens(text)
        self.at = 0
        self.nodes = 0
        self.depth = 0

    @property
    def now(self) -> _Token:
        return self.tokens[self.at]

    def fault(self, expected: str) -> FormulaError:
        found = f"found {self.now.text!r}" if self.now.kind != "end" else "the formula ends here"
        return FormulaError(f"expected {expected}; {found}", self.now.column, max(1, len(self.now.text)))

    def take(self, *signs: str) -> str | None:
        if self.now.kind == "sign" and self.now.text in signs:
            self.at += 1
            return self.tokens[self.at - 1].text
        return None

    def node(self, what: str, *parts: Node, number: float = 0.0, name: str = "") -> Node:
        self.nodes += 1
        if self.nodes > MOST_NODES:
            raise FormulaError(f"the formula has more than {MOST_NODES} parts; make it shorter", self.tokens[self.at - 1].column)
        return Node(what, parts, number, name)

    def deeper(self) -> None:
        self.depth += 1
        if self.depth > DEEPEST:
            raise FormulaError(f"more than {DEEPEST} brackets or signs within each other", self.now.column)

    def comparison(self) -> Node:
        self.deeper()
        left = self.sum()
        sign = self.take("<", ">", "<=", ">=", "==", "!=")
        if sign:
            left = self.node(sign, left, self.sum())
        self.depth -= 1
        return left

    def sum(self) -> Node:
        left = self.product()
        while sign := self.take("+", "-"):
            left = self.node(sign, left, self.product())
        return left

    def product(self) -> Node:
        left = self.signed()
        while sign := self.take("*", "/", "%"):
            left = self.node(sign, left, self.signed())
        return left

    def signed(self) -> Node:
        if not self.take("-"):
            return self.power()
        self.deeper()
        part = self.signed()
        self.depth -= 1
        return self.node("negate", part)

    def power(self) -> Node:
        base = self.atom()
        if not self.take("^"):
            return base
        self.deeper()
        exponent = self.signed()
        self.depth -= 1
        return self.node("^", base, exponent)

    def atom(self) -> Node:
        token = self.now
        if token.kind == "number":
            self.at += 1
            value = float(token.text)
            if value > 1e9:
                raise FormulaError("numbers go up to 1e9", token.column, len(token.text))
            return self.node("number", number=value)
        if token.kind == "name":
            self.at += 1
            return self.call(token) if self.now.text == "(" else self.named(token)
        if self.take("("):
            inside = self.comparison()
            if not self.take(")"):
                raise self.fault("an operator or “)”")
            return inside
        raise self.fault("a number, a name or “(”")

    def named(self, token: _Token) -> Node:
        if token.text in FUNCTIONS:
            raise FormulaError(f"{token.text} is a function; put its values in brackets: {token.text}(…)", token.column, len(token.text))
        if token.text in CONSTANTS:
            return self.node("number", number=CONSTANTS[token.text])
        if len(token.text) > 24:
            raise FormulaError("names have at most 24 letters", token.column, len(token.text))
        return self.node("name", name=token.text)

    def call(self, token: _Token) -> Node:
        if token.text not in FUNCTIONS:
            near = get_close_matches(token.text, FUNCTIONS, n=1, cutoff=0.5)
            hint = f"; did you mean {near[0]}?" if near else f"; there are {', '.join(FUNCTIONS)}"
            raise FormulaError(f"there is no function {token.text[:24]!r}{hint}", token.column, len(token.text))
        self.take("(")
        parts = [self.comparison()]
        while self.take(","):
            parts.append(self.comparison())
        if not self.take(")"):
            raise self.fault("an operator, “,” or “)”")
        least, most = FUNCTIONS[token.text]
        if not least <= len(parts) <= most:
            wanted = str(least) if least == most else f"{least} to {most}"
            raise FormulaError(f"{token.text} takes {wanted} values, not {len(parts)}", token.column, len(token.text))
        return self.node(token.text, *parts)


def read_formula(text: str) -> Node:
    """Read one line into a checked tree.

    Raises
    ------
    FormulaError
        With the column of the fault and what was expected there.

    Examples
    --------
    >>> read_formula("x + 2").what
    '+'
    >>> read_formula("x + * 2")
    Traceback (most recent call last):
    caracol.core.formulas.language.FormulaError: column 5: expected a number, a name or “(”; found '*'
    """
    reader = _Reader(text)
    tree = reader.comparison()
    if reader.now.kind != "end":
        raise reader.fault("an operator or the end")
    return tree


def knobs_of(*trees: Node) -> list[str]:
    """Return the names that are neither variables nor constants, in the order of their first use."""
    names = [node.name for tree in trees for node in tree.walk() if node.what == "name" and node.name not in VARIABLES]
    return list(dict.fromkeys(names))
