"""From a piece to pixels."""

from .context import Context, Photos, aside
from .renderer import Renderer, render

__all__ = ["Context", "Photos", "Renderer", "aside", "render"]
