"""Each setting does what its help says: one row a setting, none missing."""

from __future__ import annotations

import pytest

from caracol.core.catalogue.describe import describe
from caracol.core.catalogue.registry import INDEX, KINDS

from . import bend, break_, finish, prepare_and_mend

TABLE = prepare_and_mend.ROWS_OF | bend.ROWS_OF | break_.ROWS_OF | finish.ROWS_OF
CASES = [(kind.key, setting["name"]) for kind in KINDS for setting in describe(kind)["settings"]]


@pytest.mark.parametrize(("kind", "name"), CASES, ids=[f"{kind}-{name}" for kind, name in CASES])
def test_each_setting_does_what_its_help_says(kind: str, name: str) -> None:
    assert name in TABLE.get(kind, {}), f"{kind}.{name} has no row; its help says: {INDEX[kind].settings.model_fields[name].description}"
    TABLE[kind][name](kind, name)


def test_no_row_is_of_a_setting_that_is_not_there() -> None:
    assert {(kind, name) for kind, rows in TABLE.items() for name in rows} == set(CASES)
