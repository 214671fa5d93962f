"""The API against its own published description, with requests made up from it."""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from django.core.wsgi import get_wsgi_application
from django.db import connection
from hypothesis import HealthCheck, settings

from caracol.core.piece.form import document_form
from caracol.studio.api.app import api as published

from .conftest import Api

PARTS = {f"#/components/schemas/{name}" for name in document_form()}


def _loosened(schema: Any) -> Any:
    """Return a schema with any object in place of documents and their parts: made up from the whole form they take a second each."""
    if isinstance(schema, list):
        return [_loosened(part) for part in schema]
    if not isinstance(schema, dict):
        return schema
    if schema.get("$ref") in PARTS:
        return {"type": "object"}
    return {key: _loosened(value) for key, value in schema.items()}


def _description() -> dict[str, Any]:
    described = dict(published.get_openapi_schema(path_prefix="/api/v1/"))
    parts = described["components"]["schemas"]
    asked = {name: _loosened(part) for name, part in parts.items() if name.endswith(("In", "Patch", "AreaOut"))}
    return {**described, "components": {**described["components"], "schemas": {**parts, **asked}}}


schema = schemathesis.openapi.from_dict(_description())
schema.app = get_wsgi_application()
CHECKS = [
    schemathesis.checks.not_a_server_error,
    schemathesis.specs.openapi.checks.response_schema_conformance,
    schemathesis.specs.openapi.checks.status_code_conformance,
]


@pytest.fixture(autouse=True)
def one_connection(monkeypatch: pytest.MonkeyPatch) -> None:
    """A request made without Django's own client would close the connection that holds the test's transaction."""
    monkeypatch.setattr(connection, "close_if_unusable_or_obsolete", lambda: None)


@pytest.mark.slow
@pytest.mark.django_db
@schema.exclude(operation_id=["add_photo", "load_demo"]).parametrize()
@settings(max_examples=3, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
def test_every_operation_keeps_to_its_description(case: Any) -> None:
    case.call_and_validate(checks=CHECKS)


def test_what_exists_keeps_to_its_description(api: Api) -> None:
    """The same for things that are there, which made-up ids never hit."""
    piece = api.piece()
    operations = {op.ok().definition.raw["operationId"]: op.ok() for op in schema.get_all_operations()}
    for operation, path in (
        ("get_piece", {"piece_id": piece["id"]}),
        ("list_exports", {"piece_id": piece["id"]}),
        ("list_photos", {}),
        ("list_pieces", {}),
        ("get_catalogue", {}),
    ):
        case = operations[operation].Case(path_parameters=path)
        case.call_and_validate(checks=CHECKS)
