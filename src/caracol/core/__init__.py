"""The computation: pieces to pixels. No Django, no web."""

from . import kernels

# Before any kernel is declared: where those of this package are kept. Those of other packages are found as ever.
kernels.keep_ours_here()
