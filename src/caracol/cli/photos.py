"""Commands on photos: read, seam, cut."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from ..core.io.decode import PhotoFolder
from ..core.io.formats import Note, encode, to_integers
from ..core.piece.cutting import Cut, Search, cut_out, look_for
from ..core.piece.files import check_piece
from ..core.reading.reading import read
from ..core.render import Context
from ..core.render.analyses import step_analysis_of
from . import common


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
    """Say how much an eye finds of the join, as it is and closed one way or the least visible one."""
    step = {"id": "seam", "kind": "close-seam", "settings": {"width": args.width, "method": args.method}}
    piece = check_piece({"caracol": 3, "layers": [{"id": "land", "source": {"kind": "photo", "photo": args.photo.name}, "steps": [step]}]})
    found = step_analysis_of(piece, Context(PhotoFolder(args.photo.parent)), "land", "seam")
    if args.json:
        print(json.dumps({"before": found["before"], "after": found["after"], "method": found["way"]}))
    else:
        before, after = found["before"], found["after"]
        print(
            f"{args.photo.name}: seam visibility {before:.2f}, after closing {after:.2f} ({found['way']}); 1 is like everywhere, 2 is found."
        )


def _cut(args: argparse.Namespace) -> None:
    """Cut the figure in a rough box out of a photo; the box is in shares of the photo's width and height."""
    pyramid = PhotoFolder(args.photo.parent).pyramid(args.photo.name)
    half_w, half_h = pyramid.frame.half_w, pyramid.frame.half_h
    left, top, right, bottom = args.box
    box = (2 * left - 1) * half_w, (2 * top - 1) * half_h, (2 * right - 1) * half_w, (2 * bottom - 1) * half_h
    search = Search(box=box)
    cut = Cut(photo=args.photo.name, outline=look_for(pyramid, search, args.feather), hair=args.hair, fringe=args.fringe, search=search)
    figure = cut_out(pyramid, cut)
    args.output.write_bytes(encode(to_integers(figure), "png", 0, Note(space=pyramid.space)))
    print(f"{args.output.name}: {figure.shape[1]} × {figure.shape[0]}, with room round the figure.")


def add(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add these commands to the command line."""
    command = commands.add_parser("read", help="say what a photo is good for")
    command.add_argument("photo", type=Path)
    command.add_argument("--json", action="store_true", help="print JSON")
    command.set_defaults(do=_read)
    command = commands.add_parser("seam", help="say how visible the join of a photo's edges is, before and after it is closed")
    command.add_argument("photo", type=Path)
    command.add_argument("--method", default="auto", choices=("auto", "cut", "blend", "crossfade", "none"), help="the way it is closed")
    command.add_argument("--width", type=common.share, default=0.08, metavar="0-1", help="how far from the join, as a share of the width")
    command.add_argument("--json", action="store_true", help="print JSON")
    command.set_defaults(do=_seam)
    command = commands.add_parser("cut", help="cut a figure out of a photo, as a transparent PNG")
    command.add_argument("photo", type=Path)
    command.add_argument("-o", "--output", type=Path, required=True)
    command.add_argument(
        "--box", type=common.share, nargs=4, required=True, metavar=("LEFT", "TOP", "RIGHT", "BOTTOM"), help="a rough box, in shares"
    )
    command.add_argument("--feather", type=common.share, default=0.004, metavar="0-1", help="how soft the edge is, in units")
    command.add_argument(
        "--hair", type=common.share, default=0.004, metavar="0-1", help="how far from the edge fine strands are followed, in units"
    )
    command.add_argument(
        "--fringe", type=common.share, default=0.8, metavar="0-1", help="how much background colour is removed at the edge"
    )
    command.set_defaults(do=_cut)
