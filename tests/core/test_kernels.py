"""Where compiled kernels lie, and what their digest covers."""

from __future__ import annotations

import importlib
import subprocess
import sys
from pathlib import Path
from types import ModuleType
from typing import Any

import numpy as np
import pytest

from caracol.core import kernels

MODULES: list[ModuleType] = [
    importlib.import_module(".".join(("caracol", "core", *path.relative_to(kernels.PACKAGE / "core").with_suffix("").parts)))
    for path in sorted((kernels.PACKAGE / "core").rglob("*.py"))
    if path.stem != "__init__"
]


def has_kernels(module: ModuleType) -> bool:
    assert module.__file__ is not None
    return "numba" in Path(module.__file__).read_text(encoding="utf-8")


def compiled() -> list[Any]:
    found = {id(value): value for module in MODULES for value in vars(module).values() if hasattr(value, "py_func")}
    return list(found.values())


def test_kernels_take_constants_only_from_sources_that_the_digest_covers() -> None:
    """A constant is compiled in: were its file not part of the digest, a change of it would not be seen."""
    others = [module for module in MODULES if not has_kernels(module)]
    assert len(compiled()) > 40
    for kernel in compiled():
        names = kernel.py_func.__code__.co_names
        for name in names:
            value = kernel.py_func.__globals__.get(name)
            if not isinstance(value, int | float | tuple | str | np.generic | np.ndarray):
                continue
            told = [
                module.__name__
                for module in others
                if vars(module).get(name) is value and f"\n{name}" in Path(str(module.__file__)).read_text()
            ]
            assert not told, f"{kernel.py_func.__qualname__} compiles {name} in, which {told} defines"


def test_kernels_lie_in_one_folder_for_these_sources(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("CARACOL_KERNELS", str(tmp_path))
    kernels.folder.cache_clear()
    try:
        for old in range(kernels.SETS_KEPT + 2):
            (tmp_path / f"old-{old}").mkdir()
        made = kernels.folder()
        assert made == tmp_path / kernels.sources_digest()
        assert len(list(tmp_path.iterdir())) == kernels.SETS_KEPT
        assert made.is_dir()
        locator = kernels.KernelLocator.from_function(compiled()[0].py_func, str(kernels.PACKAGE / "core" / "steps" / "bend" / "twirl.py"))
        assert locator is not None
        assert locator.get_cache_path() == str(made / "core" / "steps" / "bend")
        assert kernels.KernelLocator.from_function(compiled()[0].py_func, str(tmp_path / "elsewhere.py")) is None
    finally:
        kernels.folder.cache_clear()


def test_importing_the_web_process_warms_nothing() -> None:
    """Only `serve` warms: a test or a tool that imports the application must not pay for it."""
    script = "import threading, caracol.studio.wsgi; print([t.name for t in threading.enumerate() if t.name == 'warm'])"
    run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert run.stdout.strip() == "[]"


@pytest.mark.slow
def test_warming_loads_every_kernel_that_python_calls() -> None:
    """Kernels called by other kernels alone are compiled into them."""
    script = (
        "import gc; from caracol.studio.warm import warm; warm(); from numba.core.registry import CPUDispatcher;"
        "found = [k for k in gc.get_objects() if isinstance(k, CPUDispatcher) and k.py_func.__module__.startswith('caracol')];"
        "inner = {n for k in found for n in k.py_func.__code__.co_names};"
        "print([k.py_func.__qualname__ for k in found if not k.signatures and k.py_func.__name__ not in inner])"
    )
    run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert run.stdout.strip() == "[]"
