"""What the core tells its callers: names of files, pictures that are none, faults of its own, and what importing it changes."""

from __future__ import annotations

import logging
import os
import signal
import subprocess
import sys
import time
import unicodedata
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from caracol.core.delivery.names import HEAVIEST, names_for, stem_for
from caracol.core.errors import PictureError, PieceError
from caracol.core.io import decode
from caracol.core.io.decode import read_photo
from caracol.core.piece.recipe import check_recipe, opened
from caracol.core.pixels.pyramid import pyramid_of


@pytest.mark.parametrize(
    ("photo", "recipe", "expected"),
    [
        ("heron", "Before/After", "heron-before-after.png"),
        ("..\\up", "...hidden", "up-hidden.png"),
        ("two\nlines", "tab\there", "two-lines-tab-here.png"),
        ("/", ".", "unnamed-unnamed.png"),
        ("  ", "Dusk", "unnamed-dusk.png"),
    ],
)
def test_names_of_files_are_safe_and_readable(photo: str, recipe: str, expected: str) -> None:
    assert names_for("{photo}-{recipe}", [photo], recipe, ".png") == [expected]


@pytest.mark.parametrize("name", ["x" * 300, "🐚" * 300, "é" * 300])
def test_long_names_are_cut_and_stay_apart(name: str) -> None:
    found = names_for("{photo}-{recipe}", [f"{name}1", f"{name}2", f"{name}3"], name, ".tiff")
    assert len(set(found)) == 3
    assert all(len(one.encode()) <= HEAVIEST + 20 for one in found)
    assert found[0].startswith(name[:20])


def test_names_are_cut_between_signs_and_two_that_look_alike_are_two() -> None:
    """An e with its accent, a family of four, a hand with its colour: none is cut in two. Files of one name, however written, both come out."""
    accented, family, hand = "e\u0323\u0302", "👩\u200d👩\u200d👧\u200d👦", "👋🏽"
    for sign in (accented, family, hand):
        for before in range(8):
            stem = stem_for("x" * before + sign * 200, "piece")
            assert HEAVIEST - 30 < len(stem.encode()) <= HEAVIEST
            assert stem == unicodedata.normalize("NFC", "x" * before + sign * stem.count(unicodedata.normalize("NFC", sign)))
    composed, apart = "Łódź", unicodedata.normalize("NFD", "Łódź")
    assert names_for("{photo}", [composed, apart], "r", ".png") == ["Łódź.png", "Łódź-2.png"]
    assert stem_for("Before/After", "piece") == "before-after"
    assert stem_for("Marsh v1.2", "piece") == "marsh-v1.2"
    assert [stem_for(odd, "piece") for odd in ("...", "", "\x00")] == ["piece", "piece", "piece"]


def test_numbers_have_the_width_that_is_asked_for() -> None:
    assert names_for("{number:5}", ["a"], "r", ".png") == ["00001.png"]
    assert names_for("{number}", ["a", "b"], "r", ".png")[1] == "002.png"


@pytest.mark.parametrize(
    "pattern",
    [
        "{photo:>99999999999999}",
        "{photo[0]}",
        "{photo.real}",
        "{}",
        "{0}",
        "{number:0}",
        "{number:10}",
        "{number:-3}",
        "{x!r}",
        "{",
        "a}",
        "a/b",
        ".a",
        "  ",
    ],
)
def test_a_pattern_knows_nothing_else(pattern: str) -> None:
    with pytest.raises(PieceError, match="name "):
        names_for(pattern, ["heron"], "Dusk", ".png")


def test_pictures_of_whole_numbers_are_refused() -> None:
    with pytest.raises(TypeError, match="divide 8-bit values by 255"):
        pyramid_of(np.full((4, 4, 4), 200, np.uint8))  # type: ignore[arg-type]
    with pytest.raises(ValueError, match="red, green, blue and alpha"):
        pyramid_of(np.zeros((4, 4, 3), np.float32))


def png() -> bytes:
    from io import BytesIO

    out = BytesIO()
    Image.new("RGB", (8, 8), "red").save(out, "PNG")
    return out.getvalue()


@pytest.mark.parametrize(
    ("fault", "says", "logged"),
    [
        (MemoryError(), "not enough memory here to read it.png. The file may be fine", True),
        (AttributeError("no such thing"), "a fault of its own", True),
        (OSError("image file is truncated"), "damaged or cut short", False),
    ],
)
def test_a_fault_is_told_as_what_it_is(
    fault: Exception, says: str, logged: bool, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    source = "def fails(*_):\n    raise fault"
    there: dict[str, Any] = {"fault": fault}
    exec(compile(source, str(decode.PACKAGE / "core/io/decode.py"), "exec"), there)
    monkeypatch.setattr(decode, "_samples", there["fails"])
    with caplog.at_level(logging.ERROR), pytest.raises(PictureError, match=says):
        read_photo(png(), "it.png")
    assert bool(caplog.records) == logged


ELSEWHERE = """
import numba
@numba.njit(cache=True)
def twice(x):
    return 2 * x
"""


def test_importing_the_core_changes_nothing_of_the_process(tmp_path: Path) -> None:
    """Other packages compile and keep their kernels as ever; OpenCV's threads are theirs until something is rendered."""
    (tmp_path / "elsewhere.py").write_text(ELSEWHERE)
    code = (
        "import os, threading, cv2; before = cv2.getNumThreads(), dict(os.environ), threading.active_count();"
        "import caracol.core, caracol.core.render, caracol.core.catalogue.registry;"
        "assert before == (cv2.getNumThreads(), dict(os.environ), threading.active_count());"
        "import elsewhere; assert elsewhere.twice(4) == 8; print(elsewhere.twice._cache.cache_path)"
    )
    environment = {**os.environ, "PYTHONPATH": str(tmp_path)}
    environment.pop("NUMBA_CACHE_LOCATOR_CLASSES", None)
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, env=environment, check=False)
    assert done.returncode == 0, done.stderr
    assert str(tmp_path) in done.stdout


def test_a_command_that_is_stopped_says_so_in_a_line(tmp_path: Path) -> None:
    """Ctrl+C while it works: no traceback, nothing half written."""
    piece = '{"caracol": 3, "layers": [{"id": "a", "source": {"kind": "pattern"}, "steps": [{"id": "s", "kind": "melt", "settings": {"rounds": 60}}]}]}'
    (tmp_path / "p.json").write_text(piece)
    command = [sys.executable, "-m", "caracol.cli", "render", str(tmp_path / "p.json"), "-o", str(tmp_path / "o.png"), "--size", "4096"]
    # As from a terminal: what is begun in the background is deaf to Ctrl+C.
    hear = partial(signal.signal, signal.SIGINT, signal.SIG_DFL)
    started = subprocess.Popen(command, stderr=subprocess.PIPE, text=True, preexec_fn=hear)
    # It is stopped once it computes: its pool is there then.
    until = time.monotonic() + 60
    while time.monotonic() < until and len(list(Path(f"/proc/{started.pid}/task").iterdir())) < 3:
        os.sched_yield()
    started.send_signal(signal.SIGINT)
    _, said = started.communicate(timeout=60)
    assert (started.returncode, said.strip()) == (130, "Stopped.")
    assert [one.name for one in tmp_path.iterdir()] == ["p.json"]


def layer(name: str, photo: str | None = "p.png", kind: str = "photo") -> dict[str, Any]:
    return {"id": name, "source": {"kind": kind, "photo": photo} if kind == "photo" else {"kind": kind}}


def test_a_piece_is_a_recipe_whose_slot_is_the_photo_of_its_lowest_layer() -> None:
    recipe = opened(check_recipe({"caracol": 3, "layers": [layer("land"), layer("over", "o.png")]}))
    assert [slot.layer for slot in recipe.openings] == ["land"]
    both = opened(check_recipe({"caracol": 3, "layers": [layer("land"), layer("over", "o.png")]}), ["over"])
    assert [slot.layer for slot in both.openings] == ["land", "over"]
    # What has slots says itself where photos go.
    named = check_recipe({"caracol": 3, "layers": [layer("land"), layer("over", None)]})
    assert opened(named) is named
    with pytest.raises(PieceError, match="its bottom layer 'sky' is made of fill"):
        opened(check_recipe({"caracol": 3, "layers": [layer("sky", kind="fill"), layer("over")]}))
