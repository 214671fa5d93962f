"""The demo's world: photos of a salt marsh and its night market, drawn and ray traced. Knows nothing of the studio."""

from ..core import kernels

# Compiled kernels of the world are kept where those of the core are.
kernels.keep_ours_here()
