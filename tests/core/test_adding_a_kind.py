"""The walk in CONTRIBUTING, walked: a new bend is one file and one line, and the contract runs over it."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
EXAMPLE = re.compile(r"```python\n(.*?)```", re.DOTALL)


@pytest.mark.slow
def test_a_bend_is_one_file_and_one_line(tmp_path: Path) -> None:
    """In a copy of the sources; no kernel is compiled, for none has changed."""
    shutil.copytree(ROOT / "src" / "caracol", tmp_path / "src" / "caracol", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copytree(ROOT / "tests", tmp_path / "tests", ignore=shutil.ignore_patterns("__pycache__", "browser", "studio"))
    shutil.copy(ROOT / "pyproject.toml", tmp_path)
    found = EXAMPLE.search((ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8"))
    assert found is not None, "CONTRIBUTING shows a whole kind"
    (tmp_path / "src/caracol/core/steps/bend/shear.py").write_text(found[1], encoding="utf-8")
    catalogue = tmp_path / "src/caracol/core/catalogue/registry.py"
    text = catalogue.read_text(encoding="utf-8")
    text = text.replace("from ..steps.bend.twirl import", "from ..steps.bend.shear import SHEAR\nfrom ..steps.bend.twirl import")
    catalogue.write_text(text.replace("*(RING, UNRING,", "*(SHEAR, RING, UNRING,"), encoding="utf-8")
    command = [
        sys.executable,
        "-m",
        "pytest",
        "-q",
        "tests/core/test_contract.py",
        "-k",
        "shear",
        "-p",
        "no:playwright",
        "-p",
        "no:schemathesis",
    ]
    environment = {**os.environ, "PYTHONPATH": str(tmp_path / "src")}
    run = subprocess.run([*command, "-p", "no:cacheprovider"], cwd=tmp_path, env=environment, capture_output=True, text=True, check=False)
    assert run.returncode == 0, run.stdout + run.stderr
    passed = re.search(r"(\d+) passed", run.stdout)
    assert passed is not None
    assert int(passed[1]) > 15
