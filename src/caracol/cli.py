"""The command line over the core: render, apply, roll, read, seam, cut, steps, schema."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from .core.errors import CaracolError, PieceError
from .core.io.decode import PhotoFolder
from .core.io.formats import SUFFIXES, collect, encode, to_integers
from .core.kinds.catalogue import KINDS
from .core.kinds.describe import describe_all
from .core.piece.cutting import Cut, Search, cut_out, look_for
from .core.piece.files import check_piece, dump_piece, load_piece, piece_schema
from .core.piece.model import Piece
from .core.piece.variants import roll
from .core.pixels.joining import seam_visibility
from .core.reading.reading import read
from .core.render import Context, Renderer
from .core.render.shown import told_of

FAULT = 2
MEASURED_SIZE = 8192
"""A seam is measured in the photo's own pixels, of no more than so many on its longer side."""
DRAWN_SIZE = 2048
"""Pixels on the longer side of a piece without a photo, when no size is asked for."""


class _Progress:
    """A line on standard error that counts up, on a terminal only."""

    def __init__(self) -> None:
        self.shown = -1

    def __call__(self, share: float) -> None:
        percent = int(share * 100)
        if sys.stderr.isatty() and percent != self.shown:
            self.shown = percent
            print(f"\r{percent:3d} %", end="\n" if percent >= 100 else "", file=sys.stderr, flush=True)


def _format_of(out: Path, bits: int) -> str:
    for name, suffix in {**SUFFIXES, "jpeg": ".jpg"}.items():
        if out.suffix.lower().replace(".jpeg", ".jpg") == suffix and name != "png16":
            if bits == 16 and name != "png":
                raise PieceError([f"--bits 16: only PNG holds 16 bits, not {out.suffix}"])
            return "png16" if bits == 16 else name
    raise PieceError(
        [f"{out.name}: cannot tell the format from {out.suffix or 'a name without ending'!r}; end it with .png, .jpg or .webp"]
    )


def _deliver(piece: Piece, photos: PhotoFolder, args: argparse.Namespace) -> None:
    kind = _format_of(args.output, args.bits)
    renderer = Renderer(piece, Context(photos, progress=_Progress()), args.upto, args.layer)
    size = args.size
    if size is None:
        size = renderer.longest or DRAWN_SIZE
    shape, strips = renderer.rows(size)
    pixels = collect(shape, strips, 16 if kind == "png16" else 8)
    args.output.write_bytes(encode(pixels, kind, args.quality))  # type: ignore[arg-type]


def _render(args: argparse.Namespace) -> None:
    folder = args.photos or args.piece.parent
    _deliver(load_piece(args.piece), PhotoFolder(folder), args)


def _fill_in(layers: list[dict[str, Any]], photo: str) -> None:
    """Name the photo wherever a recipe leaves it out."""
    for entry in layers:
        _fill_in(entry.get("layers", []), photo)
        source = entry.get("source", {})
        if source.get("kind") == "photo" and source["photo"] is None:
            source["photo"] = photo


def _apply(args: argparse.Namespace) -> None:
    recipe = dump_piece(load_piece(args.recipe))
    _fill_in(recipe["layers"], args.photo.name)
    _deliver(check_piece(recipe), PhotoFolder(args.photo.parent), args)


def _roll(args: argparse.Namespace) -> None:
    piece, photos = load_piece(args.piece), PhotoFolder(args.photos or args.piece.parent)
    steps = frozenset(args.step) if args.step else None
    if steps and (unknown := steps - {step.id for layer in piece.entries() for step in layer.steps}):
        raise PieceError([f"--step: the piece has no step {', '.join(map(repr, sorted(unknown)))}"])
    args.output.mkdir(parents=True, exist_ok=True)
    # Before anything is rendered all variants share one context, and so what they have in common.
    context = Context(photos)
    for number, variant in enumerate(roll(piece, args.seed, spread=args.spread, vary=args.vary, steps=steps, count=args.count), 1):
        name = f"{args.piece.stem}-{number:02d}"
        pixels = collect(*Renderer(variant.piece, context).rows(args.size))
        (args.output / f"{name}.json").write_text(json.dumps(dump_piece(variant.piece), indent=2) + "\n", encoding="utf-8")
        (args.output / f"{name}.png").write_bytes(encode(pixels, "png", 0))
        print(f"{name}: {'; '.join(variant.changes) or 'as the piece is'}")


def _share(text: str) -> float:
    share = float(text)
    if not 0 <= share <= 1:
        raise argparse.ArgumentTypeError(f"{share} is not between 0 and 1")
    return share


def _read(args: argparse.Namespace) -> None:
    reading = read(PhotoFolder(args.photo.parent).pyramid(args.photo.name))
    if args.json:
        print(json.dumps(reading.as_data(), indent=2))
        return
    print(f"{args.photo.name}: {reading.width} × {reading.height}. {reading.words}")
    if reading.seam:
        print(f"  seam {reading.seam.before:.2f}, closed {reading.seam.after:.2f} ({reading.seam.method}); 1 is like everywhere")
    for use in reading.uses:
        print(f"  {use.use:<11}{use.verdict:<6}{', '.join(use.reasons)}")


def _seam(args: argparse.Namespace) -> None:
    """Say how visible the join is in the photo's own pixels, and after the least visible way of closing it."""
    photos = PhotoFolder(args.photo.parent)
    step = {"id": "seam", "kind": "close-seam", "settings": {"width": args.width, "method": args.method}}
    piece = check_piece({"caracol": 1, "layers": [{"id": "land", "source": {"kind": "photo", "photo": args.photo.name}, "steps": [step]}]})
    context = Context(photos)
    renderer = Renderer(piece, context)
    size = min(renderer.longest or DRAWN_SIZE, MEASURED_SIZE)
    before, after = (seam_visibility(one.picture(size)) for one in (Renderer(piece, context, upto=0), renderer))
    found = told_of(piece, context, "land", "seam")
    if args.json:
        print(json.dumps({"before": round(before, 3), "after": round(after, 3), "method": found["way"]}))
    else:
        print(f"{args.photo.name}: seam visibility {before:.2f}, after closing {after:.2f} ({found['way']}); 1 is like everywhere.")


def _cut(args: argparse.Namespace) -> None:
    """Cut the figure in a rough box out of a photo; the box is in shares of the photo's width and height."""
    pyramid = PhotoFolder(args.photo.parent).pyramid(args.photo.name)
    half_w, half_h = pyramid.frame.half_w, pyramid.frame.half_h
    left, top, right, bottom = args.box
    box = (2 * left - 1) * half_w, (2 * top - 1) * half_h, (2 * right - 1) * half_w, (2 * bottom - 1) * half_h
    search = Search(box=box)
    cut = Cut(photo=args.photo.name, outline=look_for(pyramid, search, args.feather), hair=args.hair, fringe=args.fringe, search=search)
    figure = cut_out(pyramid, cut)
    args.output.write_bytes(encode(to_integers(figure), "png", 0))
    print(f"{args.output.name}: {figure.shape[1]} × {figure.shape[0]}, with room round the figure.")


def _steps(args: argparse.Namespace) -> None:
    if args.json:
        print(json.dumps(describe_all(), indent=2))
        return
    family, key = (max(len(getattr(kind, name)) for kind in KINDS) + 2 for name in ("family", "key"))
    for kind in KINDS:
        print(f"{kind.family:<{family}}{kind.key:<{key}}{kind.purpose}")


def _schema(args: argparse.Namespace) -> None:
    print(json.dumps(piece_schema(), indent=2))


def _size(text: str) -> int:
    size = int(text)
    if not 1 <= size <= 32768:
        raise argparse.ArgumentTypeError(f"{size} is not between 1 and 32768 pixels")
    return size


def _output_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("-o", "--output", type=Path, required=True, help="the file to write: .png, .jpg or .webp")
    command.add_argument("--size", type=_size, help="pixels on the longer side; the photo's own when left out")
    command.add_argument("--quality", type=int, default=90, choices=range(1, 101), metavar="1-100", help="of JPEG and WebP")
    command.add_argument("--bits", type=int, default=8, choices=(8, 16), help="per channel, PNG only")
    command.add_argument("--upto", type=int, help="take only this many steps of the trail")
    command.add_argument("--layer", help="the layer --upto counts in, shown alone; the lowest when left out")


def build_parser() -> argparse.ArgumentParser:
    """Return the parser of the command line."""
    parser = argparse.ArgumentParser(prog="caracol", description="Bends photographs by rules for coordinates.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    command = commands.add_parser("render", help="render a piece to a file")
    command.add_argument("piece", type=Path)
    command.add_argument("--photos", type=Path, help="folder of the photos; beside the piece when left out")
    _output_options(command)
    command.set_defaults(run=_render)
    command = commands.add_parser("apply", help="run a recipe on a photo")
    command.add_argument("recipe", type=Path)
    command.add_argument("photo", type=Path)
    _output_options(command)
    command.set_defaults(run=_apply)
    command = commands.add_parser("roll", help="write variants of a piece: pictures, and piece files to go on with")
    command.add_argument("piece", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True, help="the folder to write to")
    command.add_argument("--photos", type=Path, help="folder of the photos; beside the piece when left out")
    command.add_argument("--size", type=_size, default=512, help="pixels on the longer side of each picture")
    command.add_argument("--count", type=int, default=12, choices=range(1, 101), metavar="1-100", help="how many")
    command.add_argument("--seed", type=int, default=1, help="another one gives other variants")
    command.add_argument("--spread", type=_share, default=0.25, metavar="0-1", help="how far settings are moved")
    command.add_argument("--vary", default="both", choices=("seeds", "settings", "both"), help="draws, settings, or both")
    command.add_argument("--step", action="append", help="the id of a step that may vary, in place of all; may be given again")
    command.set_defaults(run=_roll)
    command = commands.add_parser("read", help="say what a photo is good for")
    command.add_argument("photo", type=Path)
    command.add_argument("--json", action="store_true", help="print JSON")
    command.set_defaults(run=_read)
    command = commands.add_parser("seam", help="say how visible the join of a photo's edges is, before and after it is closed")
    command.add_argument("photo", type=Path)
    command.add_argument("--method", default="auto", choices=("auto", "cut", "blend", "crossfade", "none"), help="the way it is closed")
    command.add_argument("--width", type=_share, default=0.08, metavar="0-1", help="how far from the join, as a share of the width")
    command.add_argument("--json", action="store_true", help="print JSON")
    command.set_defaults(run=_seam)
    command = commands.add_parser("cut", help="cut a figure out of a photo, as a transparent PNG")
    command.add_argument("photo", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True)
    command.add_argument(
        "--box", type=_share, nargs=4, required=True, metavar=("LEFT", "TOP", "RIGHT", "BOTTOM"), help="a rough box, in shares"
    )
    command.add_argument("--feather", type=_share, default=0.004, metavar="0-1", help="how soft the edge is, in units")
    command.add_argument(
        "--hair", type=_share, default=0.004, metavar="0-1", help="how far from the edge fine strands are followed, in units"
    )
    command.add_argument("--fringe", type=_share, default=0.8, metavar="0-1", help="how much of what shines in from behind is taken away")
    command.set_defaults(run=_cut)
    command = commands.add_parser("steps", help="list the kinds of step")
    command.add_argument("--json", action="store_true", help="print JSON, with all settings")
    command.set_defaults(run=_steps)
    command = commands.add_parser("schema", help="print the JSON Schema of pieces and recipes")
    command.set_defaults(run=_schema)
    return parser


def main(argv: list[str] | None = None) -> int:
    """Run the command line; return the exit code: 0, or 2 with one line per fault on standard error."""
    args = build_parser().parse_args(argv)
    try:
        args.run(args)
    except CaracolError as error:
        print(error, file=sys.stderr)
        return FAULT
    except OSError as error:
        print(f"{error.filename or 'the output'}: {error.strerror or error}", file=sys.stderr)
        return FAULT
    return 0


if __name__ == "__main__":
    sys.exit(main())
