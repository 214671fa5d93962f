"""Commands that list what there is: steps, schema."""

from __future__ import annotations

import argparse
import json

from ..core.catalogue.describe import describe_all
from ..core.catalogue.registry import KINDS
from ..core.piece.files import piece_schema
from ..core.piece.recipe import recipe_schema


def _steps(args: argparse.Namespace) -> None:
    if args.json:
        print(json.dumps(describe_all(), indent=2))
        return
    family, key = (max(len(getattr(kind, name)) for kind in KINDS) + 2 for name in ("family", "key"))
    for kind in KINDS:
        print(f"{kind.family:<{family}}{kind.key:<{key}}{kind.purpose}")


def _schema(args: argparse.Namespace) -> None:
    print(json.dumps(recipe_schema() if args.recipe else piece_schema(), indent=2))


def add(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add these commands to the command line."""
    command = commands.add_parser("steps", help="list the kinds of step")
    command.add_argument("--json", action="store_true", help="print JSON, with all settings")
    command.set_defaults(do=_steps)
    command = commands.add_parser("schema", help="print the JSON Schema of pieces")
    command.add_argument("--recipe", action="store_true", help="that of recipes")
    command.set_defaults(do=_schema)
