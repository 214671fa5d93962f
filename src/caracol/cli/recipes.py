"""Commands on recipes: apply, try."""

from __future__ import annotations

import argparse
import multiprocessing
import os
import signal
import sys
from collections.abc import Iterable, Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path
from typing import Any, cast

from ..core.delivery.contact_sheet import Shown, contact_sheet
from ..core.delivery.export import DeliveryOptions, Kind, deliver, renderer_for
from ..core.delivery.names import names_for
from ..core.errors import CaracolError, PieceError
from ..core.io.decode import PhotoFolder
from ..core.io.formats import FORMATS, MAPPED, SUFFIXES, Format, encode
from ..core.piece.files import parsed
from ..core.piece.fit import fit_of
from ..core.piece.model import Piece
from ..core.piece.recipe import Recipe, check_recipe, dump_recipe, opened, with_one_photo
from ..core.reading.reading import read
from ..core.render import Context, render
from . import common
from .common import Progress

ENDINGS = {".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff", ".avif"}
"""Files of a folder that are taken for photos."""


def dials_of(words: list[str]) -> dict[str, float]:
    """Return the values of `--dial name=value`."""
    found = {}
    for word in words:
        name, equals, value = word.rpartition("=")
        try:
            found[name] = float(value)
        except ValueError:
            equals = ""
        if not equals:
            raise PieceError([f"--dial {word}: write it as name=value, such as --dial Turn=0.2"])
    return found


def slots_of(words: list[str]) -> dict[str, Path]:
    """Return the photos of `--slot layer=photo`."""
    found = {}
    for word in words:
        layer, equals, path = word.partition("=")
        if not (equals and layer and path):
            raise PieceError([f"--slot {word}: write it as layer=photo, such as --slot figure=heron.png"])
        found[layer] = Path(path)
    return found


def photos_in(places: list[Path]) -> list[Path]:
    """Return the photos that are named, and those in folders that are, by name."""
    found: list[Path] = []
    for place in places:
        if place.is_dir():
            found += sorted(one for one in place.iterdir() if one.suffix.lower() in ENDINGS and not one.name.startswith("."))
        else:
            found.append(place)
    if not found:
        raise PieceError([f"{', '.join(str(place) for place in places)}: there is no photo in it"])
    return found


@dataclass(frozen=True)
class Task:
    """One photo of many: what a process is given."""

    recipe: dict[str, Any]
    photo: Path
    out: Path
    wanted: DeliveryOptions
    values: dict[str, float]
    slots: dict[str, Path]
    beside: tuple[Path, ...]
    """Folders of photos that the recipe names itself."""


def on_photo(
    recipe: Recipe, photo: Path, values: dict[str, float], slots: dict[str, Path], beside: tuple[Path, ...] = ()
) -> tuple[Piece, PhotoFolder]:
    """Return what a recipe makes of a photo, and where its photos are found: beside the photo, beside those chosen for slots, and in folders."""
    for path in slots.values():
        if path.name == photo.name and path.resolve() != photo.resolve():
            raise PieceError([f"{path} and {photo} have the same name; rename one of them"])
    piece = with_one_photo(recipe, photo.name, values, chosen={layer: path.name for layer, path in slots.items()})
    return piece, PhotoFolder(photo.parent, *(path.parent for path in slots.values()), *beside)


def make(task: Task) -> tuple[str, str]:
    """Do one photo; return what went wrong and what the file could not keep, in words, or nothing."""
    try:
        piece, folder = on_photo(check_recipe(task.recipe), task.photo, task.values, task.slots, task.beside)
        renderer, wanted = renderer_for(piece, Context(folder), task.wanted)
        found = deliver(piece, renderer, wanted)
        common.put(task.out, found.content)
    except CaracolError as error:
        return str(error), ""
    except OSError as error:
        return f"{error.filename or 'the output'}: {error.strerror or error}", ""
    return "", found.lost


def _all(tasks: list[Task], jobs: int) -> Iterator[tuple[Task, str, str]]:
    if jobs == 1 or len(tasks) < 2:
        for task in tasks:
            yield task, *make(task)
        return
    # Each process has its share of the cores for itself.
    os.environ["CARACOL_CORES"] = str(max(1, (os.cpu_count() or 1) // jobs))
    with ProcessPoolExecutor(jobs, mp_context=multiprocessing.get_context("spawn"), initializer=_leave_stopping) as pool:
        waiting = {pool.submit(make, task): task for task in tasks}
        try:
            for done in as_completed(waiting):
                yield waiting[done], *done.result()
        except KeyboardInterrupt:
            # What is being made ends by itself, whole; nothing more is begun.
            pool.shutdown(wait=False, cancel_futures=True)
            raise


def _leave_stopping() -> None:
    """In a process of many: the one that began it is told to stop, and says so."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)


def _loaded(path: Path, slots: Iterable[str] = ()) -> Recipe:
    """Read a recipe, or a piece as one; one without a name is called like its file."""
    data = parsed(path)
    named = {"name": path.stem, **data} if isinstance(data, dict) else data
    return opened(check_recipe(named), slots)


def _beside(args: argparse.Namespace) -> tuple[Path, ...]:
    """Return the folders in which photos are found that a recipe names itself: beside it, unless they are said."""
    return tuple(args.photo_folders) or ((args.recipe if args.recipe.is_dir() else args.recipe.parent),)


def _apply(args: argparse.Namespace) -> None:
    values, slots = dials_of(args.dial), slots_of(args.slot)
    recipe = _loaded(args.recipe, slots)
    beside = _beside(args)
    if len(args.photos) == 1 and not args.photos[0].is_dir() and args.output.suffix and not args.output.is_dir():
        wanted = common.wanted(args, common.kind_of(args.output, args.bits))
        photo = args.photos[0]
        piece, folder = on_photo(recipe, photo, values, slots, beside)
        renderer, wanted = renderer_for(piece, Context(folder, progress=Progress()), wanted)
        found = deliver(piece, renderer, wanted)
        common.put(args.output, found.content)
        if found.lost:
            print(found.lost, file=sys.stderr)
        return
    kind = f"{args.format}16" if args.bits == 16 else args.format
    if kind not in SUFFIXES:
        raise PieceError([f"--bits 16: only PNG and TIFF hold 16 bits, not {args.format}"])
    photos = photos_in(args.photos)
    on_photo(recipe, photos[0], values, slots, beside)  # what is wrong with the recipe or its dials is told before anything is made
    args.output.mkdir(parents=True, exist_ok=True)
    wanted = common.wanted(args, cast(Kind, kind))
    stems = [photo.stem for photo in photos]
    outs = [args.output / name for name in names_for(args.name, stems, recipe.name, wanted.suffix)]
    tasks = [Task(dump_recipe(recipe), photo, out, wanted, values, slots, beside) for photo, out in zip(photos, outs, strict=True)]
    left = [task for task in tasks if not (args.resume and task.out.exists())]
    if len(left) < len(tasks):
        print(f"{len(tasks) - len(left)} of {len(tasks)} are there already.", file=sys.stderr)
    failed, told = [], []
    for done, (task, fault, lost) in enumerate(_all(left, args.jobs), 1):
        if fault:
            failed.append(f"{task.photo.name}: {fault}")
        if lost:
            told.append(f"{task.out.name}: {lost}")
        _bar(done, len(left), task.photo.name)
    for words in told:
        print(words, file=sys.stderr)
    if failed:
        raise PieceError([*failed, f"{len(left) - len(failed)} of {len(left)} done; {len(failed)} failed"])


def _bar(done: int, count: int, name: str) -> None:
    if sys.stderr.isatty():
        full = round(24 * done / count)
        print(
            f"\r[{'█' * full}{'·' * (24 - full)}] {done}/{count} {name[:40]:<40}",
            end="\n" if done == count else "",
            file=sys.stderr,
            flush=True,
        )


def _try(args: argparse.Namespace) -> None:
    """Write one recipe on many photos, or many recipes on one photo, as a contact sheet, best fit first."""
    kind = common.kind_of(args.output, 8)
    if kind not in FORMATS:
        raise PieceError([f"{args.output.name}: a contact sheet is one picture; end its name with .jpg or .png"])
    values, slots = dials_of(args.dial), slots_of(args.slot)
    recipes = [_loaded(path, slots) for path in (sorted(args.recipe.glob("*.json")) if args.recipe.is_dir() else [args.recipe])]
    if not recipes:
        raise PieceError([f"{args.recipe}: there is no recipe in it; recipes end in .json"])
    photos = photos_in(args.photos)
    found = []
    for photo in photos:
        folder = PhotoFolder(photo.parent)
        try:
            reading = read(folder.pyramid(photo.name))
        except CaracolError as error:
            found.append((-1, Shown(None, photo.name, str(error))))
            continue
        for recipe in recipes:
            named = {name: value for name, value in values.items() if name in {dial.name for dial in recipe.dials} or len(recipes) == 1}
            fit = fit_of(recipe, reading)
            piece, around = on_photo(recipe, photo, named, slots if len(recipes) == 1 else {}, _beside(args))
            picture = render(piece, args.size, around)
            found.append((fit.worth, Shown(picture, photo.stem if len(recipes) == 1 else f"{recipe.name} · {photo.stem}", fit.reason)))
    found.sort(key=lambda one: -one[0])
    sheet = contact_sheet([one for _, one in found], args.size, args.columns)
    common.put(args.output, encode(sheet, cast(Format, kind), 92))
    for _, one in found:
        print(f"{one.name}: {one.words}")


def _photos_option(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--photos", type=Path, action="append", default=[], dest="photo_folders", metavar="FOLDER",
        help="where photos lie that the recipe names itself; beside it when left out",
    )  # fmt: skip


def add(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add these commands to the command line."""
    command = commands.add_parser("apply", help="apply a recipe to one photo, or to many")
    command.add_argument("recipe", type=Path)
    command.add_argument("photos", type=Path, nargs="+", metavar="photo", help="photos, or folders of them")
    command.add_argument("-o", "--output", type=Path, required=True, help="the file to write, or the folder where there are several photos")
    common.file_options(command)
    command.add_argument("--dial", action="append", default=[], metavar="NAME=VALUE", help="turn a dial of the recipe; may be given again")
    command.add_argument("--slot", action="append", default=[], metavar="LAYER=PHOTO", help="put another photo into one of its layers")
    _photos_option(command)
    command.add_argument(
        "--format",
        default="jpeg",
        choices=[kind for kind in SUFFIXES if not kind.endswith("16") and kind != MAPPED],
        help="of files in a folder",
    )
    command.add_argument(
        "--name", default="{photo}-{recipe}", help="of files in a folder, from {photo}, {recipe} and {number} ({number:4}: four digits)"
    )
    command.add_argument("--jobs", type=int, default=os.cpu_count() or 1, choices=range(1, 65), metavar="1-64", help="photos at a time")
    command.add_argument("--resume", action="store_true", help="leave files that are there already")
    command.set_defaults(do=_apply)
    command = commands.add_parser("try", help="see a recipe on many photos, or a folder of recipes on one, as a contact sheet")
    command.add_argument("recipe", type=Path, help="a recipe, or a folder of them")
    command.add_argument("photos", type=Path, nargs="+", metavar="photo", help="photos, or folders of them")
    command.add_argument("-o", "--output", type=Path, required=True, help="the sheet, .jpg or .png")
    command.add_argument("--size", type=common.size, default=384, help="pixels of each picture on its longer side")
    command.add_argument("--columns", type=int, choices=range(1, 41), metavar="1-40", help="pictures side by side")
    command.add_argument("--dial", action="append", default=[], metavar="NAME=VALUE", help="turn a dial; may be given again")
    command.add_argument("--slot", action="append", default=[], metavar="LAYER=PHOTO", help="put another photo into one of its layers")
    _photos_option(command)
    command.set_defaults(do=_try)
