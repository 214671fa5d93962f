"""Every format that is delivered, opened by a reader that did not write it: the tools that Debian has for it."""

from __future__ import annotations

import json
import shutil
import subprocess
import zipfile
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from caracol.core.arrays import AnyArray
from caracol.core.io.colour_spaces import profile_of
from caracol.core.io.formats import FORMATS, Note, collect, encode
from tests.pictures import detailed

SAID = Note(
    space="display-p3", dpi=150, title="Über den Dächern, Łódka", author="Ana Müller", trail={"caracol": 3, "layers": [{"id": "a"}]}
)
CLOSE = {"jpeg": 6.0, "webp": 6.0, "avif": 6.0}
"""How far from what was written a format that loses something may be, of 255."""


def tool_bytes(*command: str | Path) -> bytes:
    """Return what a tool writes; a fault of it fails the test."""
    assert shutil.which(str(command[0])), f"{command[0]} is missing: make test installs it"
    done = subprocess.run([str(part) for part in command], capture_output=True, check=False)
    assert done.returncode == 0, f"{command}: {done.stdout!r} {done.stderr!r}"
    return done.stdout


def tool(*command: str | Path) -> str:
    """The same as text."""
    return tool_bytes(*command).decode()


def pixels(kind: str) -> AnyArray:
    picture = detailed(48, 64)
    return collect(picture.shape[:2], [(0, picture)], FORMATS[kind].bits)


def read_by_another(kind: str, path: Path) -> AnyArray:
    """Return the picture as another reader has it, as 8 bits."""
    out = path.with_suffix(".ppm" if kind == "jpeg" else ".png")
    if kind in ("png", "png16"):
        assert "No errors" in tool("pngcheck", "-v", path)
        out = path.with_suffix(".pnm")
        out.write_bytes(tool_bytes("pngtopnm", path))
    elif kind == "jpeg":
        tool("djpeg", "-pnm", "-outfile", out, path)
    elif kind == "webp":
        tool("webpinfo", path)
        tool("dwebp", path, "-o", out)
    elif kind == "avif":
        tool("avifdec", path, out)
    else:
        tool("tiffinfo", "-D", path)
        tool("tiffcp", "-c", "none", path, out.with_suffix(".plain.tif"))
        out = out.with_suffix(".plain.tif")
    if kind in ("png16", "tiff16"):
        import cv2

        return np.asarray(cv2.imread(str(out), cv2.IMREAD_UNCHANGED)[..., 2::-1] / 257)
    return np.asarray(Image.open(out).convert("RGB"), float)


@pytest.mark.parametrize("kind", FORMATS)
def test_another_reader_has_the_same_picture_and_no_complaint(kind: str, tmp_path: Path) -> None:
    path = tmp_path / f"picture{FORMATS[kind].suffix}"
    path.write_bytes(encode(pixels(kind), kind, 100, SAID))  # type: ignore[arg-type]
    found = read_by_another(kind, path)
    wanted = pixels(kind).astype(float)[..., :3] / (257 if FORMATS[kind].bits == 16 else 1)
    assert np.abs(found - wanted).max() <= CLOSE.get(kind, 0.01) * (4 if kind in CLOSE else 1)
    assert np.abs(found - wanted).mean() <= CLOSE.get(kind, 0.01)


@pytest.mark.parametrize("kind", FORMATS)
def test_another_reader_finds_title_author_and_profile_in_every_script(kind: str, tmp_path: Path) -> None:
    path = tmp_path / f"picture{FORMATS[kind].suffix}"
    path.write_bytes(encode(pixels(kind), kind, 90, SAID))  # type: ignore[arg-type]
    (said,) = json.loads(tool("exiftool", "-json", "-G1", "-a", "-charset", "exif=utf8", path))
    if kind not in ("tiff", "tiff16"):  # of these it takes no compression at all for right
        assert json.loads(tool("exiftool", "-json", "-validate", "-warning", path))[0]["Validate"] == "OK"
    assert said["IFD0:ImageDescription"] == SAID.title
    assert said["IFD0:Artist"] == SAID.author
    assert said["XMP-dc:Title"] == SAID.title
    assert said["XMP-dc:Creator"] == SAID.author
    assert said["IFD0:XResolution"] == SAID.dpi
    assert said["ICC_Profile:ProfileDescription"] == "Display P3"
    assert said["ICC-header:ConnectionSpaceIlluminant"] == "0.9642 1 0.82491"


def test_the_white_of_display_p3_is_written_as_the_standard_writes_it() -> None:
    profile = profile_of("display-p3")
    assert profile[68:80].hex() == "0000f6d6000100000000d32d"
    assert profile.count(bytes.fromhex("0000f6d6000100000000d32d")) == 2


def test_openraster_opens_as_a_plain_zip_of_sound_pngs(tmp_path: Path) -> None:
    from caracol.core.io.openraster import write_openraster

    path = tmp_path / "layers.ora"
    path.write_bytes(write_openraster([], pixels("png"), 64, Note(title="Łódka")))
    tool("python3", "-m", "zipfile", "-t", path)
    with zipfile.ZipFile(path) as file:
        file.extract("mergedimage.png", tmp_path)
    tool("pngcheck", tmp_path / "mergedimage.png")
