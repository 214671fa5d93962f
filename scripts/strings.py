"""List every text a person can read: of the page, the catalogue, and the messages of Python. With `--check`, fail on retired words.

The glossary (`docs/glossary.md`) has the words to use. A line is `where: text`.
"""

from __future__ import annotations

import argparse
import ast
import json
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
Line = tuple[str, str]

RETIRED: tuple[tuple[str, str], ...] = (
    (r"\beverywhere\b|everywhere else instead|^where$", "area, whole picture, Invert"),
    (r"finished picture|lowest layer", "whole piece, bottom layer"),
    (r"from what is there|everything (so far|below)|where the trail begins|\bground of\b", "the picture below, source"),
    (r"\bits face\b|put together by themsel", "drag it, combined first"),
    (r"starting points?\b", "start"),
    (r"\bun-?pinch", "even out"),
    (r"\bdraw again\b|^draws?$|^draws and|which draw", "new random"),
    (r"best loop|\bsmall world\b|\bsmall planet\b", "trim …, planet"),
    (r"\bplates?\b", "channel"),
    (r"\bheading\b", "direction"),
    (
        r"\bthey meet by\b|flows by|\bfed[- ]in\b|set while it ran|chance wills",
        "combine by, driven by, second picture, changes along the way, at random",
    ),
    (
        r"said in the file|trail inside|weighing it|and another$|^delivered$|^typed$",
        "file information, steps inside the file, estimating size, files, custom",
    ),
    (r"by itself\b|by themselves|left to itself|left free", "automatic"),
    (r"revision \{|take the other|name of this state|^branch$", "load the other version, name, new piece from it"),
    (
        r"answers? to (that|“)|bring back what|taken away|take off\b|take out\b|brought back|given up|put away|is put back",
        "delete, remove, restore, reset, cancel",
    ),
    (r"\bthe book\b|put it into", "recipes, formula book"),
    (
        r"^as (the recipe|it) (has|is)( it)?$|for all of them|leaves nothing open|in one go\b",
        "reset, settings for all, no dials, export files",
    ),
    (r"\bpick(s|ed)?\b", "select, choose, use"),
    (r"comes along|exactly as painted|^leave( it)?$|begin anew", "similar parts are added, only what I paint, cancel, start over"),
    (r"(^|[^\":] )null\b", "automatic"),
    (r"\blettering (is|of|layer)\b|\bwords? (are|on the picture)\b", "text"),
    (r"^strength\b", "opacity"),
    (r"\b(color|colors|center|gray|behavior|favorite)\b", "British spelling"),
)
"""Words that had another name before, as patterns, and what is said now."""
KEPT = re.compile(
    # What is data, a standard's name, or a word the artist types in search.
    r"^(dots per inch|DPI|x: |caracol)|#[0-9a-f]{6}|text-|display-p3|_scale|\bpx\b.*\bauto\b"
)
NO_TEXT = ("docs", "words", "code")
"""Fields of the catalogue that nobody reads on the screen: what is typed in a search may be any word."""
READ = ("label", "purpose", "help", "name", "told", "why")
"""Fields of the catalogue that are shown."""


def page() -> Iterator[Line]:
    """Yield the texts of the page."""
    out = subprocess.run(["node", str(ROOT / "scripts" / "strings.mjs")], capture_output=True, text=True, check=True, cwd=ROOT).stdout
    for line in out.splitlines():
        one = json.loads(line)
        yield f"{one['file']}:{one['line']}", one["text"]


def catalogue(part: Any = None, path: str = "catalogue") -> Iterator[Line]:
    """Yield the texts of the catalogue: labels, helps, purposes, starts."""
    if part is None:
        part = json.loads((ROOT / "docs" / "catalogue.json").read_text(encoding="utf-8"))
    if isinstance(part, list):
        for one in part:
            key = one.get("key") or one.get("name") or "" if isinstance(one, dict) else ""
            yield from catalogue(one, f"{path}.{key}" if key else path)
    elif isinstance(part, dict):
        for name, one in part.items():
            if isinstance(one, str) and name in READ and not (name == "name" and "widget" in part):
                yield f"{path}.{name}", one
            elif name not in NO_TEXT and isinstance(one, (dict, list)):
                yield from catalogue(one, f"{path}.{name}")


def python() -> Iterator[Line]:
    """Yield what Python says: texts of exceptions, of constants in capitals, and of the command line's helps."""
    for path in sorted((ROOT / "src" / "caracol").rglob("*.py")):
        if "world" in path.parts:
            continue
        where = str(path.relative_to(ROOT))
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            for text in _said(node):
                if re.search(r"[A-Za-z]{2} [A-Za-z]", text):
                    yield f"{where}:{getattr(node, 'lineno', 0)}", text


def _said(node: ast.AST) -> Iterator[str]:
    if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call):
        for argument in node.exc.args:
            yield from _texts(argument)
    elif isinstance(node, ast.Assign) and isinstance(node.targets[0], ast.Name) and node.targets[0].id.isupper():
        yield from _texts(node.value)
    elif isinstance(node, ast.Call):
        for keyword in node.keywords:
            if keyword.arg in ("help", "description", "title", "words"):
                yield from _texts(keyword.value) if keyword.arg != "words" else ()


def _texts(node: ast.AST) -> Iterator[str]:
    """Yield the strings of an expression; of formatted ones, with their names in braces."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        yield "".join(
            part.value if isinstance(part, ast.Constant) else f"{{{ast.unparse(part.value)}}}"
            for part in node.values
            if hasattr(part, "value")
        )  # type: ignore[attr-defined]
    elif isinstance(node, (ast.List, ast.Tuple)):
        for one in node.elts:
            yield from _texts(one)
    elif isinstance(node, ast.BinOp):
        yield from _texts(node.left)
        yield from _texts(node.right)


RETIRED_NAMES = frozenset(
    [
        "Making",
        "Worked",
        "Staged",
        "Bent",
        "Laid",
        "Wanted",
        "Traffic",
        "Seats",
        "HAND",
        "Crowded",
        "Overtaken",
        "LookedOver",
        "Wording",
        "Several",
        "Ours",
        "Apart",
        "Room",
        "heart",
        "taking_up",
        "sweeping",
        "words",
        "traffic",
        "apart",
        "children",
        "looking",
        "shown",
        "keeping",
        "laying",
        "staged",
        "worked",
        "making",
        "wording",
        "ours",
        "taking_in",
        "beating",
        "take_up",
        "sweep_files",
        "sweep_tasks",
        "told_of",
        "doubles_of",
        "wordings_of",
        "kept_of",
        "look_over",
    ]
)
"""Names of modules, classes and functions of Python that had another name before; the decisions say what they are called now."""


def names() -> Iterator[Line]:
    """Yield the retired names that Python's modules, classes and functions still have."""
    for path in sorted((ROOT / "src" / "caracol").rglob("*.py")):
        where = str(path.relative_to(ROOT))
        if path.stem in RETIRED_NAMES:
            yield where, path.stem
        for node in ast.parse(path.read_text(encoding="utf-8")).body:
            if isinstance(node, (ast.ClassDef, ast.FunctionDef)) and node.name in RETIRED_NAMES:
                yield f"{where}:{node.lineno}", node.name


def retired(lines: list[Line]) -> list[str]:
    """Return what is wrong with texts: where, the text, and the word to use."""
    found = []
    for where, text in lines:
        said = re.sub(r"\{[^}]*\}", "{}", text)
        for pattern, now in RETIRED:
            if not KEPT.search(text) and (hit := re.search(pattern, said, re.IGNORECASE)):
                found.append(f"{where}: “{text}” has “{hit[0]}”; say {now}")
    return found


def main() -> int:
    """Print the list, or with `--check` what is retired in it."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--check", action="store_true", help="print retired words only; exit code 1 where there are any")
    checks = parser.parse_args().check
    lines = [*page(), *catalogue(), *python()]
    shown = (
        [*retired(lines), *(f"{where}: the name {name} is retired" for where, name in names())]
        if checks
        else [f"{where}: {text}" for where, text in lines]
    )
    print("\n".join(shown))
    return 1 if checks and shown else 0


if __name__ == "__main__":
    sys.exit(main())
