"""Where compiled kernels are kept: in one folder for all copies of the same sources, so that a fresh checkout need not compile again."""

from __future__ import annotations

import os
import shutil
from contextlib import suppress
from functools import lru_cache
from hashlib import blake2b
from pathlib import Path
from typing import Any, Self

from numba.core.caching import CacheImpl, _CacheLocator

PACKAGE = Path(__file__).resolve().parent.parent
SETS_KEPT = 6
"""So many sets of kernels stay; of older sources the least recently used go."""


@lru_cache
def sources_digest(part: str = "core") -> str:
    """Return a digest of a part's sources that have kernels: they call each other across files, so one change makes all of that part new.

    Parameters
    ----------
    part : str
        A folder of the package; kernels do not call those of another.
    """
    found = blake2b(digest_size=10)
    for path in sorted((PACKAGE / part).rglob("*.py")):
        text = path.read_bytes()
        if b"numba" in text or b"llvmlite" in text:
            found.update(str(path.relative_to(PACKAGE)).encode() + b"\0" + text)
    return found.hexdigest()


@lru_cache
def folder(part: str = "core") -> Path:
    """Return the folder of a part's kernels: below `CARACOL_KERNELS`, else the user's cache folder."""
    base = os.environ.get("CARACOL_KERNELS") or Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "caracol" / "kernels"
    made = Path(base) / sources_digest(part)
    made.mkdir(parents=True, exist_ok=True)
    os.utime(made)
    with suppress(OSError):  # another process may be tidying too
        for old in sorted(made.parent.iterdir(), key=lambda path: (path == made, path.stat().st_mtime), reverse=True)[SETS_KEPT:]:
            shutil.rmtree(old, ignore_errors=True)
    return made


class KernelLocator(_CacheLocator):  # type: ignore[misc]
    """Tells Numba where a function's compiled code lies. Numba itself adds the processor and its own version to what it looks up."""

    def __init__(self, source: Path, line: int) -> None:
        self._source = source
        self._part = source.relative_to(PACKAGE).parts[0]
        self._line = line

    @classmethod
    def from_function(cls, py_func: Any, py_file: str) -> Self | None:
        """Return a locator for functions of this package; None for those elsewhere and where the folder cannot be written, so that Numba's own ways serve."""
        source = Path(py_file).resolve()
        if not source.is_relative_to(PACKAGE):
            return None
        found = cls(source, py_func.__code__.co_firstlineno)
        try:
            found.ensure_cache_path()
        except OSError:
            return None
        return found

    def get_cache_path(self) -> str:
        return str(folder(self._part) / self._source.relative_to(PACKAGE).parent)

    def get_source_stamp(self) -> str:
        return sources_digest(self._part)

    def get_disambiguator(self) -> str:
        return str(self._line)


def keep_ours_here() -> None:
    """Let Numba ask this module first where a kernel is kept; it answers for those of this package alone."""
    ways = CacheImpl._locator_classes  # noqa: SLF001  The variable that Numba reads in its place would take all other ways from all other packages.
    if KernelLocator not in ways:
        ways.insert(0, KernelLocator)
