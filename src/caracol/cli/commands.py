"""The command line over the core: render, apply, try, roll, map, open, read, seam, cut, steps, schema."""

from __future__ import annotations

import argparse
import sys

from ..core.errors import CaracolError
from . import lists, photos, pieces, recipes

FAULT = 2


def build_parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(prog="caracol", description="Bends photographs by rules for coordinates.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    for part in (pieces, recipes, photos, lists):
        part.add(commands)
    return parser


def run(argv: list[str] | None = None) -> int:
    """Run the command line; return the exit code: 0, or 2 with one line per fault on standard error."""
    args = build_parser().parse_args(argv)
    try:
        args.do(args)
    except CaracolError as error:
        print(error, file=sys.stderr)
        return FAULT
    except OSError as error:
        print(f"{error.filename or 'the output'}: {error.strerror or error}", file=sys.stderr)
        return FAULT
    return 0
