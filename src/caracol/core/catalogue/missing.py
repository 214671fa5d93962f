"""What people look for among the steps that is none, by its name, so that a search can say so and lead to what comes near."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Missing:
    """Something that is no kind of step.

    Parameters
    ----------
    label : str
    words : tuple of str
        What else it is looked for by.
    near : tuple of str
        Keys of kinds that go some of the way.
    told : str
        Where it is found instead, as a sentence; empty where Caracol has no such thing.
    """

    label: str
    words: tuple[str, ...]
    near: tuple[str, ...] = ()
    told: str = ""


MISSING: tuple[Missing, ...] = (
    Missing("Text", ("title", "caption", "lettering", "words", "type", "watermark"), (), "Text is a layer: press + Layer, then Text."),
    Missing("Overlay", ("blend mode", "multiply", "screen mode", "soft light", "hard light"), ("ghosts",),
            "Choose the blend mode of a step or layer under Blend in its panel."),
    Missing("Opacity", ("transparency", "fade a step"), (), "Every step and every layer has its own Opacity in its panel."),
    Missing("Frame", ("picture frame", "passe-partout", "mat"), ("rim", "crop", "refit"), "Set the shape of the piece in the panel of Whole piece."),
    Missing("Layer mask", ("masking", "brush mask", "selection"), ("keep-only",), "Draw where a step or layer acts under Area in its panel."),
    Missing("Datamosh", ("datamoshing", "moshing", "optical flow"), ("melt", "crush", "pixel-sort")),
    Missing("Tilt shift", ("miniature", "tilt-shift"), ("blur",)),
    Missing("Lens flare", ("flare", "sunstar"), ("light", "zoom-blur")),
    Missing("Find edges", ("edge detection", "outline", "contour", "sketch", "pencil"), ("threshold", "shadow", "stipple")),
    Missing("Warp by hand", ("warp brush", "push pixels", "smudge"), ("twirl", "pinch", "melt", "displace")),
    Missing("HDR", ("tone mapping", "exposure fusion"), ("tone", "curves")),
)  # fmt: skip
