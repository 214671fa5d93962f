"""The API's description, with documents described by the core that checks them."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

from ...core.piece.form import document_form
from .schemas.common import PART

PREFIX = "#/components/schemas/"


def _referred(schema: Any) -> Any:
    """Return a schema in which marked data and the core's own references lead to the description's components."""
    if isinstance(schema, list):
        return [_referred(part) for part in schema]
    if not isinstance(schema, dict):
        return schema
    if PART in schema:
        return {"$ref": PREFIX + schema[PART]}
    return {key: value.replace("#/$defs/", PREFIX) if key == "$ref" else _referred(value) for key, value in schema.items()}


class DescribedAPI(NinjaAPI):
    """An API whose description names the parts of documents."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:
        """Return the description, with the schemas of documents among its components."""
        schema = super().get_openapi_schema(**options)
        schema["components"]["schemas"] |= document_form()
        schema.update({key: _referred(value) for key, value in schema.items()})
        return schema
