"""Write the generated documents: the API description, the piece schema, the catalogue as data and the table of steps."""

import json
import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
import django

django.setup()

from caracol.core.catalogue.describe import describe  # noqa: E402
from caracol.core.catalogue.registry import KINDS  # noqa: E402
from caracol.core.piece.describe import describe_everything  # noqa: E402
from caracol.core.piece.files import piece_schema  # noqa: E402
from caracol.core.piece.recipe import recipe_schema  # noqa: E402
from caracol.studio.api.app import api  # noqa: E402
from scripts.third_party import document as third_party  # noqa: E402

DOCS = Path(__file__).resolve().parents[1] / "docs"


def steps_table() -> str:
    """Return the table of all kinds, one line each."""
    lines = [
        "# The kinds of step",
        "",
        "Generated from the catalogue by `make docs`.",
        "",
        "| Kind | Family | What it does | Settings |",
        "|---|---|---|---|",
    ]
    for kind in KINDS:
        settings = ", ".join(f"`{s['name']}`" for s in describe(kind)["settings"])
        lines.append(f"| `{kind.key}` | {kind.family} | {kind.purpose} | {settings} |")
    return "\n".join(lines) + "\n"


def documents() -> dict[str, str]:
    """Return the contents of each generated file by name."""
    return {
        "openapi.json": json.dumps(api.get_openapi_schema(path_prefix="/api/v1/"), indent=1) + "\n",
        "piece.schema.json": json.dumps(piece_schema(), indent=1) + "\n",
        "recipe.schema.json": json.dumps(recipe_schema(), indent=1) + "\n",
        "catalogue.json": json.dumps(describe_everything(), indent=1) + "\n",
        "steps.md": steps_table(),
        "third-party.md": third_party(),
    }


if __name__ == "__main__":
    for name, text in documents().items():
        (DOCS / name).write_text(text, encoding="utf-8")
