"""Commands on pieces: render, roll, map, open."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from ..core.delivery.export import DRAWN_SIZE, deliver, renderer_for
from ..core.errors import PieceError
from ..core.io.decode import PhotoFolder
from ..core.io.formats import collect, encode
from ..core.io.xmp import trail_in
from ..core.piece.files import check_piece, dump_piece, load_piece
from ..core.piece.variants import roll
from ..core.render import Context, Renderer
from ..core.render.mapping import coordinate_map, map_file
from . import common
from .common import Progress


def _render(args: argparse.Namespace) -> None:
    piece, kind = load_piece(args.piece), common.kind_of(args.output, args.bits)
    context = Context(PhotoFolder(args.photos or args.piece.parent), progress=Progress())
    renderer, wanted = renderer_for(piece, context, common.wanted(args, kind), upto=args.upto, layer=args.layer)
    found = deliver(piece, renderer, wanted)
    common.put(args.output, found.content)
    if found.lost:
        print(found.lost, file=sys.stderr)


def _map(args: argparse.Namespace) -> None:
    """Write where the points of a piece come from, as TIFF: u, v and coverage, 16 bits each."""
    if args.output.suffix.lower() not in (".tif", ".tiff"):
        raise PieceError([f"{args.output.name}: a coordinate map is a TIFF; end its name with .tif"])
    piece = load_piece(args.piece)
    context = Context(PhotoFolder(args.photos or args.piece.parent))
    size = args.size or Renderer(piece, context).longest or DRAWN_SIZE
    found = coordinate_map(piece, context, size, args.layer)
    common.put(args.output, map_file(found.samples))
    if found.left_out:
        print(f"Not geometry, and so no part of the map: {', '.join(found.left_out)}.", file=sys.stderr)


def _open(args: argparse.Namespace) -> None:
    """Write the piece that travels in a delivered file."""
    found = trail_in(args.file.read_bytes(), args.file.name)
    if found is None:
        raise PieceError([f"{args.file.name}: there is no piece in this file"])
    common.put(args.output, (json.dumps(dump_piece(check_piece(found)), indent=2, ensure_ascii=False) + "\n").encode())


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


def add(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add these commands to the command line."""
    command = commands.add_parser("render", help="render a piece to a file")
    command.add_argument("piece", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True, help="the file to write: .png, .jpg, .webp, .avif, .tif or .ora")
    command.add_argument("--photos", type=Path, help="folder of the photos; beside the piece when left out")
    common.file_options(command)
    command.add_argument("--upto", type=int, help="take only this many steps of the trail")
    command.add_argument("--layer", help="the layer --upto counts in, shown alone; the lowest when left out")
    command.set_defaults(do=_render)
    command = commands.add_parser(
        "map", help="write where every point of a piece comes from, for other tools: a 16-bit TIFF of u, v and coverage"
    )
    command.add_argument("piece", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True, help="the file to write, .tif")
    command.add_argument("--photos", type=Path, help="folder of the photos; beside the piece when left out")
    command.add_argument("--size", type=common.size, help="pixels on the longer side; the photo's own when left out")
    command.add_argument("--layer", help="whose photo is mapped; the lowest when left out")
    command.set_defaults(do=_map)
    command = commands.add_parser("open", help="get the piece back that travels in a delivered file")
    command.add_argument("file", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True, help="the piece file to write, .json")
    command.set_defaults(do=_open)
    command = commands.add_parser("roll", help="write variants of a piece: pictures, and piece files to go on with")
    command.add_argument("piece", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True, help="the folder to write to")
    command.add_argument("--photos", type=Path, help="folder of the photos; beside the piece when left out")
    command.add_argument("--size", type=common.size, default=512, help="pixels on the longer side of each picture")
    command.add_argument("--count", type=int, default=12, choices=range(1, 101), metavar="1-100", help="how many")
    command.add_argument("--seed", type=int, default=1, help="another one gives other variants")
    command.add_argument("--spread", type=common.share, default=0.25, metavar="0-1", help="how far settings are moved")
    command.add_argument("--vary", default="both", choices=("seeds", "settings", "both"), help="random numbers, settings, or both")
    command.add_argument("--step", action="append", help="the id of a step that may vary, in place of all; may be given again")
    command.set_defaults(do=_roll)
