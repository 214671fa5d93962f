"""What the commands share: progress, the options of a delivered file, and writing it."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from ..core.delivery.export import DeliveryOptions, Kind
from ..core.errors import PieceError
from ..core.io.formats import FORMATS, MAPPED, SUFFIXES


class Progress:
    """A line on standard error that counts up, on a terminal only."""

    def __init__(self) -> None:
        self.shown = -1

    def __call__(self, share: float) -> None:
        percent = int(share * 100)
        if sys.stderr.isatty() and percent != self.shown:
            self.shown = percent
            print(f"\r{percent:3d} %", end="\n" if percent >= 100 else "", file=sys.stderr, flush=True)


def kind_of(out: Path, bits: int) -> Kind:
    """Return the file format that a name asks for."""
    ending = {".jpeg": ".jpg", ".tiff": ".tif"}.get(out.suffix.lower(), out.suffix.lower())
    for kind, suffix in SUFFIXES.items():  # a map is asked for by its own command
        if ending != suffix or (kind in FORMATS and FORMATS[kind].bits == 16):
            continue
        if bits == 16 and f"{kind}16" not in FORMATS:
            raise PieceError([f"--bits 16: only PNG and TIFF hold 16 bits, not {out.suffix}"])
        return f"{kind}16" if bits == 16 else kind  # type: ignore[return-value]
    *most, last = dict.fromkeys(suffix for kind, suffix in SUFFIXES.items() if kind != MAPPED)
    raise PieceError(
        [f"{out.name}: cannot tell the format from {out.suffix or 'a name without ending'!r}; end it with {', '.join(most)} or {last}"]
    )


def share(text: str) -> float:
    """Read a number from 0 to 1."""
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError(f"{value} is not between 0 and 1")
    return value


def size(text: str) -> int:
    """Read a number of pixels."""
    value = int(text)
    if not 1 <= value <= 32768:
        raise argparse.ArgumentTypeError(f"{value} is not between 1 and 32768 pixels")
    return value


def file_options(command: argparse.ArgumentParser) -> None:
    """Add what a delivered file may be."""
    command.add_argument("--size", type=size, help="pixels on the longer side; the photo's own when left out")
    command.add_argument("--quality", type=int, default=90, choices=range(1, 101), metavar="1-100", help="of JPEG, WebP and AVIF")
    command.add_argument("--bits", type=int, default=8, choices=(8, 16), help="per channel, PNG and TIFF only")
    command.add_argument("--space", default="srgb", choices=("srgb", "display-p3"), help="the colour space of the file")
    command.add_argument("--packing", default="deflate", choices=("lzw", "deflate"), help="of TIFF")
    command.add_argument("--dpi", type=float, help="dots per inch, said in the file")
    command.add_argument("--title", default="", help="written into the file")
    command.add_argument("--author", default="", help="written into the file")
    command.add_argument("--no-trail", action="store_true", help="leave the piece out of the file; else `open` gives it back")


def wanted(args: argparse.Namespace, kind: Kind) -> DeliveryOptions:
    """Return what the options ask for; the size is 0 where it is left out."""
    if args.dpi is not None and not 1 <= args.dpi <= 10000:
        raise PieceError([f"--dpi: {args.dpi:g} is not between 1 and 10000"])
    return DeliveryOptions(
        kind, args.size or 0, args.quality, args.space, args.packing, args.dpi, args.title, args.author, not args.no_trail
    )


def put(path: Path, content: bytes) -> None:
    """Write a file so that it is there whole or not at all."""
    aside = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        aside.write_bytes(content)
        aside.replace(path)
    finally:
        aside.unlink(missing_ok=True)
