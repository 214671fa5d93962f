"""The list of faults is in step with the code: each still finds the text it changes, once at least, and tests that exist."""

from __future__ import annotations

import pytest

from tests.mutants import CORE, MUTANTS, ROOT, Mutant


@pytest.mark.parametrize("mutant", MUTANTS, ids=lambda mutant: mutant.name)
def test_the_fault_can_still_be_put_in(mutant: Mutant) -> None:
    assert mutant.before in (ROOT / CORE / mutant.file).read_text(encoding="utf-8")
    for test in mutant.tests.split():
        assert (ROOT / test.split("::")[0]).exists()
