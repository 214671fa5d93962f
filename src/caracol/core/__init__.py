"""The computation: pieces to pixels. No Django, no web."""

import os

# Read by Numba when it is first imported: compiled kernels are kept where `kernels` says.
os.environ.setdefault("NUMBA_CACHE_LOCATOR_CLASSES", "caracol.core.kernels.KernelLocator")
