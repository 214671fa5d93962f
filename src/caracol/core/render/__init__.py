"""From a piece to pixels."""

from .context import Context, Photos
from .renderer import Renderer, render

__all__ = ["Context", "Photos", "Renderer", "render"]
