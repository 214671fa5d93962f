"""What people look for that is not there yet, by its name, so that a search can say so and lead to what comes near."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Missing:
    """A kind of step that is not in the catalogue yet.

    Parameters
    ----------
    label : str
    words : tuple of str
        What else it is looked for by.
    near : tuple of str
        Keys of kinds that go some of the way.
    """

    label: str
    words: tuple[str, ...]
    near: tuple[str, ...] = ()


MISSING: tuple[Missing, ...] = (
    Missing("Curves", ("tone curve", "gradation"), ("tone",)),
    Missing("Colour", ("hue", "saturation", "grey", "gray", "black and white", "warmth", "temperature", "vibrance"), ("ghosts",)),
    Missing("Gradient map", ("duotone", "colourise", "toning", "sepia"), ("ghosts",)),
    Missing("Light", ("vignette", "spotlight", "lamp", "dodge"), ("rim", "tone")),
    Missing("Fog", ("mist", "atmosphere"), ("tone", "blur")),
    Missing("Sharpen", ("unsharp", "clarity", "crisp")),
    Missing("Threshold", ("black and white", "bitmap", "stencil"), ("stipple", "tone")),
    Missing("Posterise", ("posterize", "flat tones", "few tones"), ("crush",)),
    Missing("Shadow", ("emboss", "drop shadow", "bevel")),
)
