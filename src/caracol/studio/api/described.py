"""The API's description, with documents described by the core that checks them."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from ...core.piece.form import document_form
from .schemas.common import PART

PREFIX = "#/components/schemas/"
FILE = "x-file"


def _referred(schema: Any) -> Any:
    """Return a schema in which marked data and the core's own references lead to the description's components."""
    if isinstance(schema, list):
        return [_referred(part) for part in schema]
    if not isinstance(schema, dict):
        return schema
    if PART in schema:
        return {"$ref": PREFIX + schema[PART]}
    return {key: value.replace("#/$defs/", PREFIX) if key == "$ref" else _referred(value) for key, value in schema.items()}


def binary(says: str, *kinds: str, headers: dict[str, str] | None = None) -> dict[str, Any]:
    """Return what describes an answer of 200 that is a file: what it is, its media types, and headers of its own."""
    content = {kind: {"schema": {"type": "string", "format": "binary"}} for kind in kinds}
    told = {name: {"description": text, "schema": {"type": "string"}} for name, text in (headers or {}).items()}
    return {FILE: {"description": says, "content": content, **({"headers": told} if told else {})}}


DOWNLOAD = {"Content-Disposition": "The name of the file."}


def _finished(operation: dict[str, Any]) -> None:
    """Say what an operation does, its name as words in place of that of the function; and what file it answers with."""
    operation["summary"] = operation["operationId"].replace("_", " ").capitalize()
    if file := operation.pop(FILE, None):
        operation["responses"] = {200: file, **{status: said for status, said in operation["responses"].items() if status != 200}}


class DescribedAPI(NinjaAPI):
    """An API whose description names the parts of documents."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        """Return the description, with the schemas of documents among its components."""
        schema = super().get_openapi_schema(**options)
        schema["components"]["schemas"] |= document_form()
        for path in schema["paths"].values():
            for operation in path.values():
                _finished(operation)
        schema.update({key: _referred(value) for key, value in schema.items()})
        return schema
