"""The formula language: what it means, what it refuses and where, and that nothing hostile gets through."""

from __future__ import annotations

import random
import re
import time

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.arrays import Array
from caracol.core.errors import PieceError
from caracol.core.formulas.book import BOOK
from caracol.core.formulas.language import FUNCTIONS, LONGEST, MOST_NODES, FormulaError, Node, knobs_of, read_formula
from caracol.core.formulas.program import compiled, evaluate
from caracol.core.geometry.frame import Frame
from caracol.core.piece.files import check_piece
from caracol.core.render import render
from caracol.core.steps.bend.formula import FormulaSettings, formula_pull
from tests.pictures import OnePhoto, detailed, document, piece, psnr

X = np.array([-0.75, 0.0, 0.3, 1.25], np.float32)


def value(text: str, x: Array = X, y: float = 0.5, **knobs: float) -> Array:
    rad, ang = np.hypot(x, y).astype(np.float32), np.full_like(x, 0.25)
    return evaluate(compiled(text, "y"), knobs, x, np.full_like(x, y), rad, ang)[0]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("1 + 2 * 3", 7), ("2 * 3 ^ 2", 18), ("-2 ^ 2", -4), ("2 ^ 3 ^ 2", 512), ("2 ^ -1", 0.5), ("7 % 3", 1), ("-1 % 3", 2),
        ("8 / 4 / 2", 1), ("1 - 2 - 3", -4), ("(1 + 2) * 3", 9), ("3 < 4", 1), ("3 + 1 <= 3", 0), ("2 == 2", 1), ("2 != 2", 0),
        ("abs(-3)", 3), ("sqrt(16)", 4), ("exp(1)", np.e), ("log(exp(2))", 2), ("sin(pi / 2)", 1), ("cos(pi)", -1), ("tan(pi / 4)", 1),
        ("asin(1) * 2", np.pi), ("acos(1)", 0), ("atan2(1, 0)", np.pi / 2), ("floor(-0.5)", -1), ("fract(-0.25)", 0.75), ("min(3, 1, 2)", 1),
        ("max(3, 1, 4, 2)", 4), ("clamp(5, 0, 1)", 1), ("mix(2, 4, 0.25)", 2.5), ("step(0.5, 0.4)", 0), ("step(0.5, 0.5)", 1),
        ("smooth(0, 1, 0.5)", 0.5), ("wave(0.25)", 1), ("tri(0.25)", 1), ("tri(0.5)", 0), ("saw(0.25)", 0.5), ("saw(0.75)", -0.5),
        ("pulse(0.25)", 1), ("pulse(0.75)", -1), ("tau", 2 * np.pi), ("time", 0), ("1e3 * .5", 500), ("(-8) ^ 3", -512),
    ],
)  # fmt: skip
def test_what_it_means(text: str, expected: float) -> None:
    assert value(text) == pytest.approx(np.full(4, expected), abs=2e-5, rel=2e-5)


def test_names_and_knobs() -> None:
    assert value("x * k + rad - ang", k=2.0) == pytest.approx(X * 2 + np.hypot(X, 0.5) - 0.25, abs=1e-5)
    assert value("x + other") == pytest.approx(X + 1)
    assert knobs_of(read_formula("b + a * x"), read_formula("a + tau")) == ["b", "a"]


@pytest.mark.parametrize(
    "text", ["1 / 0", "log(0)", "sqrt(0 - 1)", "asin(9)", "0 ^ -3", "exp(999)", "tan(pi / 2)", "1e9 * 1e9 * 1e9 * 1e9 * 1e9", "5 % 0"]
)
def test_no_value_fails(text: str) -> None:
    assert np.isfinite(value(text)).all()
    assert np.isfinite(value(f"({text}) - ({text})")).all()


@pytest.mark.parametrize(
    ("text", "column", "told"),
    [
        ("", 1, "expected a number, a name or “(”; the formula ends here"),
        ("x + * 2", 5, "found '*'"),
        ("x + 2)", 6, "expected an operator or the end; found ')'"),
        ("(x + 2", 7, "expected an operator or “)”; the formula ends"),
        ("sin x", 1, "sin is a function"),
        ("sine(x)", 1, "no function 'sine'; did you mean sin"),
        ("min(x)", 1, "min takes 2 to 4 values, not 1"),
        ("clamp(x, 1)", 1, "clamp takes 3 values, not 2"),
        ("x $ y", 3, "has no place in a formula"),
        ("x y", 3, "expected an operator or the end; found 'y'"),
        ("1 < 2 < 3", 7, "found '<'"),
        ("__import__('os')", 12, "no place in a formula"),
        ("x" * 25, 1, "at most 24 letters"),
        ("9" * 30, 1, "numbers go up to 1e9"),
        ("(" * 60 + "x" + ")" * 60, 41, "more than 40"),
        ("-" * 200 + "x", 41, "more than 40"),
        ("x" + "+x" * 300, LONGEST + 1, "at most 400"),
    ],
)
def test_faults_name_their_column(text: str, column: int, told: str) -> None:
    with pytest.raises(FormulaError, match=re.escape(told)) as caught:
        read_formula(text)
    assert caught.value.column == column


def test_parts_are_limited() -> None:
    read_formula("+".join("x" * ((MOST_NODES + 1) // 2)))
    with pytest.raises(FormulaError, match="more than 240 parts"):
        read_formula("+".join("x" * (MOST_NODES // 2 + 2)))


def test_ten_thousand_hostile_strings() -> None:
    """Whatever is typed is read or refused with our own fault, within the limits, and quickly."""
    rng = random.Random(7)
    pieces = [
        *FUNCTIONS,
        "x",
        "y",
        "rad",
        "ang",
        "k",
        "(",
        ")",
        ",",
        "+",
        "-",
        "*",
        "/",
        "%",
        "^",
        "<",
        "==",
        "1",
        "2.5",
        ".5",
        "1e9",
        "1e-9",
        " ",
    ]
    hostile = [
        "__class__",
        "lambda",
        "\x00",
        "é",
        "∞",
        "０",
        "[",
        "{",
        "'",
        '"',
        ";",
        "\n",
        "if",
        "9" * 50,
        "(" * 30,
        "-" * 50,
        "^" * 9,
        "1e999",
        "exec(",
    ]
    read = 0
    columns = []
    begun = time.process_time()
    for _ in range(10_000):
        words = pieces if rng.random() < 0.6 else pieces + hostile
        text = "".join(rng.choice(words) for _ in range(rng.randint(0, 40)))
        try:
            tree = read_formula(text)
        except FormulaError as error:
            columns.append((error.column, len(text)))
            continue
        read += 1
        assert sum(1 for _ in tree.walk()) <= MOST_NODES
        first, second = evaluate(compiled(text, "y"), {}, X, X, X, X)
        assert np.isfinite(first).all()
        assert np.isfinite(second).all()
    assert read > 100
    assert all(1 <= column <= max(length, LONGEST) + 1 for column, length in columns)
    assert time.process_time() - begun < 120


def _write(node: Node) -> str:
    if node.what == "number":
        return repr(node.number)
    if node.what == "name":
        return node.name
    parts = [_write(part) for part in node.parts]
    if node.what == "negate":
        return f"(-{parts[0]})"
    return f"{node.what}({', '.join(parts)})" if node.what in FUNCTIONS else f"({parts[0]} {node.what} {parts[1]})"


TREES = st.recursive(
    st.sampled_from([Node("name", name=n) for n in ("x", "y", "rad", "ang", "k")]) | st.integers(0, 99).map(lambda n: Node("number", number=float(n))),
    lambda below: st.builds(lambda what, a, b: Node(what, (a, b)), st.sampled_from("+-*/%^<"), below, below)
    | st.builds(lambda what, a: Node(what, (a,)), st.sampled_from(["negate", "abs", "sin", "floor", "tri"]), below)
    | st.builds(lambda a, b, c: Node("mix", (a, b, c)), below, below, below),
    max_leaves=12,
)  # fmt: skip


@given(TREES)
def test_what_is_written_is_read(tree: Node) -> None:
    assert read_formula(_write(tree)) == tree


@pytest.mark.parametrize("system", ["flat", "polar"])
@pytest.mark.parametrize("fold", [False, True])
def test_names_alone_change_nothing(system: str, fold: bool) -> None:
    lines = {"first": "x", "second": "y"} if system == "flat" else {"first": "rad", "second": "ang"}
    settings = FormulaSettings(system=system, fold=fold, x=0.2, y=-0.1, ray=0.13, reach=0.7, **lines)  # type: ignore[arg-type]
    x, y = Frame(1.5).grid(40, 60)
    px, py = formula_pull(x, y, Frame(1.5), Frame(1.5), settings)
    assert np.allclose(px, x, atol=3e-6)
    assert np.allclose(py, y, atol=3e-6)


def test_same_as_the_kind_that_does_it() -> None:
    photo = OnePhoto(detailed())
    knobs = {"t": {"value": 0.4, "low": 0, "high": 1}}
    written = piece(
        ("formula", {"system": "polar", "first": "rad", "second": "ang - t * max(0, 1 - rad) ^ 2", "knobs": knobs, "edge": "mirror"})
    )
    built = piece(("twirl", {"turns": 0.4, "reach": 1, "edge": "mirror"}))
    assert psnr(render(written, 256, photo), render(built, 256, photo)) > 60


@pytest.mark.parametrize("line", ["ang * 0.6", "ang + 0.3", "ang + 0.3 * rad", "2 * ang + 0.1", "ang + 0.2 * wave(ang)"])
def test_there_and_back_leaves_no_tear(line: str) -> None:
    """Neither along the ray nor, where the line grows by a whole number, opposite it."""

    def jump(fold: bool, y: float) -> float:
        settings = FormulaSettings(system="polar", first="rad", second=line, fold=fold)
        px, py = formula_pull(np.array([-1e-4, 1e-4], np.float32), np.array([y, y], np.float32), Frame(1), Frame(1), settings)
        return float(np.hypot(px[0] - px[1], py[0] - py[1]))

    assert jump(True, -0.5) < 2e-3
    if line == "ang * 0.6":
        assert jump(False, -0.5) > 0.1
    else:
        assert jump(True, 0.5) < 2e-3


def test_there_and_back_turns_by_what_is_added() -> None:
    settings = FormulaSettings(system="polar", first="rad", second="ang + 0.5", fold=True)
    px, py = formula_pull(np.float32([0, 0.5, -0.5]), np.float32([-0.5, 0, 0]), Frame(1), Frame(1), settings)
    # A quarter turn on: what is at the top is read at the right, the right at the foot, the left at the top.
    assert np.allclose(px, [0.5, 0, 0], atol=1e-6)
    assert np.allclose(py, [0, 0.5, -0.5], atol=1e-6)


@pytest.mark.parametrize(
    ("settings", "told"),
    [
        ({"first": "x +"}, r"settings\.first: column 4: expected a number"),
        ({"second": "sine(y)"}, r"settings\.second: column 1: there is no function 'sine'"),
        ({"knobs": {"a": {"value": 1, "low": 2, "high": 1}}}, r"settings\.knobs\.a: the knob's low end must lie below"),
        ({"first": "+".join(f"k{n}" for n in range(13))}, r"settings: the formula has 13 knobs"),
        ({"knobs": {f"k{n}": {} for n in range(13)}}, r"settings\.knobs: 13 knobs"),
    ],
)
def test_piece_faults_name_the_line(settings: dict[str, object], told: str) -> None:
    with pytest.raises(PieceError, match=told):
        check_piece(document(("formula", settings)))


def test_book_is_complete() -> None:
    assert len(BOOK) >= 12
    assert len({page.name for page in BOOK}) == len(BOOK)
    for page in BOOK:
        assert set(page.knobs) == set(knobs_of(read_formula(page.first), read_formula(page.second))), page.name
        for low_value_high in page.knobs.values():
            assert low_value_high[1] <= low_value_high[0] <= low_value_high[2]
