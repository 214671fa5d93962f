"""The API against its own published description, with requests made up from it."""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, settings

from .conftest import Api

schema = schemathesis.openapi.from_wsgi("/api/openapi.json", get_wsgi_application())
CHECKS = [
    schemathesis.checks.not_a_server_error,
    schemathesis.specs.openapi.checks.response_schema_conformance,
    schemathesis.specs.openapi.checks.status_code_conformance,
]


@pytest.mark.slow
@pytest.mark.django_db
@schema.exclude(operation_id="add_photo").parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
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
