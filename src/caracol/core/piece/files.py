"""Piece files: checked, read and written."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, TypeVar

from pydantic import ValidationError

from ..bounds import check_counts, read_json, written
from ..errors import PieceError
from .faults import fault_message, path_of
from .migrations import VERSION, migrated, version_of
from .model import Piece

EASILY_READ = 500_000
"""Bytes of a file that anybody might read through."""
AnyPiece = TypeVar("AnyPiece", bound=Piece)


def check_piece(data: Any) -> Piece:
    """Check parsed JSON and return it as a piece.

    Raises
    ------
    PieceError
        With one line for each fault: its path, what was found, what was expected.

    Examples
    --------
    >>> check_piece({"caracol": 3, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "rign"}]}]})
    Traceback (most recent call last):
    caracol.core.errors.PieceError: layers[0].steps[0]: unknown kind 'rign'; did you mean ring or unring or rim?
    """
    return checked(data, Piece)


def checked(data: Any, model: type[AnyPiece]) -> AnyPiece:
    """Check parsed JSON against `model`; faults as in `check_piece`."""
    if not isinstance(data, dict):
        raise PieceError([f"the piece: expected a JSON object, got {type(data).__name__}"])
    check_counts(data)
    version = version_of(data)
    if version is None and "caracol" in data:
        raise PieceError([f"caracol: got {str(data['caracol'])[:40]!r}, expected the version of the format, 1 to {VERSION}"])
    if version is not None and version > VERSION:
        raise PieceError(
            [f"caracol: this piece is of version {version}, newer than the {VERSION} known here; open it with a newer Caracol"]
        )
    try:
        return model.model_validate(migrated(data))
    except ValidationError as error:
        # A layer with a fault is not counted by pydantic, which then also finds too few layers.
        told = [e for e in error.errors() if e["type"] != "too_short" or not e["input"] or e["loc"][-1] != "layers"]
        raise PieceError([f"{path_of(e['loc'])}: {fault_message(e)}" for e in told]) from error


def load_piece(path: Path) -> Piece:
    """Read a piece from a JSON file; faults as in `check_piece`."""
    return check_piece(parsed(path))


def parsed(path: Path) -> Any:
    """Return what a JSON file holds; PieceError where it cannot be read."""
    try:
        return read_json(path.read_bytes())
    except OSError as error:
        raise PieceError([f"{path.name}: cannot be read ({error.strerror}); check the path"]) from error
    except PieceError as error:
        raise PieceError([f"{path.name}: {fault}" for fault in error.faults]) from error
    except ValueError as error:
        raise PieceError([f"{path.name}: not valid JSON ({error})"]) from error


def dump_piece(piece: Piece) -> dict[str, Any]:
    """Return the piece as JSON-ready data, defaults included."""
    return piece.model_dump(mode="json", serialize_as_any=True)


def kept_form(piece: Piece) -> dict[str, Any]:
    """Return the piece as `dump_piece` does; PieceError where it is larger than what is kept."""
    data = dump_piece(piece)
    written(data)
    return data


def written_to_read(data: dict[str, Any]) -> str:
    """Return a piece's or recipe's data as the text of a file: a line for each part, unless it would be long beyond reading."""
    text = written(data)
    return text if len(text) > EASILY_READ else json.dumps(data, indent=2, ensure_ascii=False) + "\n"


def piece_schema() -> dict[str, Any]:
    """Return the JSON Schema of pieces."""
    return {"title": "Caracol piece", **Piece.model_json_schema()}
