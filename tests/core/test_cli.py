"""The command line, as a script would use it."""

from __future__ import annotations

import json
import shutil
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
import tifffile
from PIL import Image

from caracol.cli import main
from caracol.core.io.decode import PhotoFolder
from caracol.core.io.formats import collect
from caracol.core.piece.files import load_piece
from caracol.core.render import Context, Renderer
from tests.pictures import detailed, document


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    Image.fromarray(collect((512, 1024), [(0, detailed())])).save(tmp_path / "marsh.png")
    (tmp_path / "piece.json").write_text(json.dumps(document(("ring", {"spread": "shape"}), ("tone", {"gamma": 1.2}), photo="marsh.png")))
    (tmp_path / "recipe.json").write_text(json.dumps(document(("ring", {}), photo=None)))
    return tmp_path


def test_render_writes_what_the_core_renders(folder: Path) -> None:
    assert main(["render", str(folder / "piece.json"), "-o", str(folder / "out.png"), "--size", "200"]) == 0
    renderer = Renderer(load_piece(folder / "piece.json"), Context(PhotoFolder(folder)))
    assert np.array_equal(np.asarray(Image.open(folder / "out.png")), collect(*renderer.rows(200)))


def test_size_is_the_photos_own_when_left_out(folder: Path) -> None:
    assert main(["render", str(folder / "piece.json"), "-o", str(folder / "out.jpg")]) == 0
    assert Image.open(folder / "out.jpg").size == (1024, 1024)


def test_apply_runs_a_recipe_on_a_photo_elsewhere(folder: Path) -> None:
    assert main(["apply", str(folder / "recipe.json"), str(folder / "marsh.png"), "-o", str(folder / "out.webp"), "--size", "96"]) == 0
    assert Image.open(folder / "out.webp").size == (96, 96)


def test_photos_folder_and_upto(folder: Path, tmp_path: Path) -> None:
    elsewhere = tmp_path / "deep"
    elsewhere.mkdir()
    (elsewhere / "piece.json").write_text((folder / "piece.json").read_text())
    target = str(elsewhere / "out.png")
    assert main(["render", str(elsewhere / "piece.json"), "--photos", str(folder), "-o", target, "--size", "64", "--upto", "0"]) == 0
    assert Image.open(target).size == (64, 32)


def test_cut_takes_a_figure_out_of_its_box(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    rng = np.random.default_rng(4)
    photo = np.clip(np.array([60, 110, 50]) + rng.normal(0, 6, (120, 180, 3)), 0, 255).astype(np.uint8)
    y, x = np.mgrid[:120, :180]
    photo[np.hypot(x - 90, y - 60) < 30] = (190, 60, 50)
    Image.fromarray(photo).save(tmp_path / "bird.png")
    ask = ["cut", str(tmp_path / "bird.png"), "-o", str(tmp_path / "out.png"), "--box"]
    assert main([*ask, "0.25", "0.15", "0.75", "0.85"]) == 0
    figure = np.asarray(Image.open(tmp_path / "out.png"))
    middle = figure[figure.shape[0] // 2, figure.shape[1] // 2]
    assert middle[3] == 255
    assert middle[0] > middle[1] + 80
    assert figure[2, 2, 3] == 0
    assert main([*ask, "0.1", "0.1", "0.101", "0.101"]) == 2
    assert "Nothing in this box" in capsys.readouterr().err


def test_seam_says_how_visible_a_join_is(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    photo = np.asarray(Image.open(folder / "marsh.png"), float)[..., :3] / 255
    assert main(["seam", str(folder / "marsh.png"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    steps, usual = np.abs(photo[:, -1] - photo[:, 0]).mean(axis=1), np.abs(np.diff(photo, axis=1)).mean(axis=(1, 2))
    assert told["before"] == pytest.approx(np.minimum(steps, 0.35).mean() / (usual.mean() + 0.01), rel=0.02)
    assert told["after"] < 0.4 * told["before"]
    assert told["method"] in ("cut", "blend")
    assert main(["seam", str(folder / "marsh.png"), "--method", "none"]) == 0
    assert "(none)" in capsys.readouterr().out
    assert main(["seam", str(folder / "gone.png"), "--json"]) == 2
    assert "gone.png" in capsys.readouterr().err


@pytest.mark.slow
def test_steps_and_read_print_json(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["steps", "--json"]) == 0
    assert "ring" in [kind["key"] for kind in json.loads(capsys.readouterr().out)]
    assert main(["read", str(folder / "marsh.png"), "--json"]) == 0
    reading = json.loads(capsys.readouterr().out)
    assert reading["ratio"] == 2
    assert reading["seam"]["after"] <= reading["seam"]["before"]
    assert main(["read", str(folder / "marsh.png")]) == 0
    assert "planet" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "message"),
    [
        (["render", "gone.json", "-o", "a.png"], "gone.json: cannot be read"),
        (["render", "piece.json", "-o", "a.xyz"], "a.xyz: cannot tell the format from '.xyz'"),
        (["render", "recipe.json", "-o", "a.png"], "this is a recipe; name a photo to render it"),
        (["render", "piece.json", "-o", "no/such/a.png", "--size", "32"], "No such file or directory"),
        (["render", "piece.json", "-o", "a.jpg", "--bits", "16"], "only PNG and TIFF hold 16 bits"),
        (["render", "piece.json", "--photos", "no", "-o", "a.png"], "photo 'marsh.png' is not in no"),
        (["apply", "recipe.json", "gone.png", "-o", "a.png"], "photo 'gone.png' is not in"),
        (["read", "piece.json"], "piece.json is not a picture that can be read"),
    ],
)
def test_faults_go_to_standard_error_with_code_two(
    folder: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str], arguments: list[str], message: str
) -> None:
    monkeypatch.chdir(folder)
    assert main(arguments) == 2
    printed = capsys.readouterr()
    assert message in printed.err
    assert printed.out == ""


def test_one_line_per_fault(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (folder / "bad.json").write_text(json.dumps(document(("ring", {"seam": 9, "reach": 99}), {"kind": "nope"})))
    assert main(["render", str(folder / "bad.json"), "-o", "a.png"]) == 2
    assert len(capsys.readouterr().err.strip().splitlines()) == 3


@pytest.mark.slow
def test_installed_command_knows_bad_usage() -> None:
    done = subprocess.run([sys.executable, "-m", "caracol.cli", "render"], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    assert "required" in done.stderr


@pytest.mark.slow
def test_roll_writes_pictures_and_pieces_to_go_on_with(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    (folder / "torn.json").write_text(json.dumps(document(("slices", {}), ("grain", {"lines": 240}), photo="marsh.png")))
    asked = ["roll", str(folder / "torn.json"), "-o", str(folder / "tries"), "--count", "3", "--size", "64", "--step", "s1"]
    assert main(asked) == 0
    told = capsys.readouterr().out.splitlines()
    assert [line.split(":")[0] for line in told] == ["torn-01", "torn-02", "torn-03"]
    assert all("Slices: " in line and "Grain" not in line for line in told)
    second = folder / "tries" / "torn-02.json"
    assert main(["render", str(second), "-o", str(folder / "again.png"), "--photos", str(folder), "--size", "64"]) == 0
    assert np.array_equal(np.asarray(Image.open(folder / "again.png")), np.asarray(Image.open(folder / "tries" / "torn-02.png")))
    assert main([*asked, "--step", "s7"]) == 2
    assert "no step 's7'" in capsys.readouterr().err


def test_a_delivered_file_gives_its_piece_back_and_the_same_bytes(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    for ending in (".png", ".jpg", ".webp", ".tif", ".avif"):
        out, again = folder / f"out{ending}", folder / f"again{ending}"
        asked = ["--size", "120", "--title", "Marsh", "--space", "display-p3"]
        assert main(["render", str(folder / "piece.json"), "-o", str(out), *asked]) == 0
        assert main(["open", str(out), "-o", str(folder / "back.json")]) == 0
        assert main(["render", str(folder / "back.json"), "-o", str(again), *asked]) == 0
        assert out.read_bytes() == again.read_bytes()
    assert main(["render", str(folder / "piece.json"), "-o", str(folder / "bare.png"), "--size", "20", "--no-trail"]) == 0
    assert main(["open", str(folder / "bare.png"), "-o", str(folder / "back.json")]) == 2
    assert "bare.png: there is no piece in this file" in capsys.readouterr().err


def test_map_writes_places_as_a_tiff(folder: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["map", str(folder / "piece.json"), "-o", str(folder / "map.tif"), "--size", "64"]) == 0
    samples = tifffile.imread(folder / "map.tif")
    assert (samples.shape, samples.dtype) == ((64, 64, 3), np.uint16)
    assert "Tone" in capsys.readouterr().err
    assert main(["map", str(folder / "piece.json"), "-o", str(folder / "map.png")]) == 2


@pytest.fixture
def many(folder: Path) -> Path:
    photos = folder / "photos"
    photos.mkdir()
    for seed in range(3):
        Image.fromarray(collect((64, 128), [(0, detailed(64, 128, seed))])).save(photos / f"p{seed}.png")
    Image.fromarray(collect((64, 128), [(0, detailed(64, 128, 9))])).save(photos / "p1.jpg")
    (photos / "broken.jpg").write_bytes(b"no picture")
    (photos / "notes.txt").write_text("no photo")
    dial = {"name": "Reach", "settings": [["land", "s1", "reach"]], "low": 0.5, "high": 2, "value": 1}
    (folder / "dialled.json").write_text(
        json.dumps({**document(("ring", {"reach": 1}), photo=None), "name": "Small world", "dials": [dial]})
    )
    return photos


def test_a_folder_is_done_photo_by_photo(folder: Path, many: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = folder / "out"
    ask = ["apply", str(folder / "dialled.json"), str(many), "-o", str(out), "--size", "48", "--format", "png", "--dial", "Reach=1.5"]
    assert main([*ask, "--jobs", "2"]) == 2
    said = capsys.readouterr().err
    assert "broken.jpg: " in said
    assert "4 of 5 done; 1 failed" in said
    assert {one.name for one in out.iterdir()} == {"p0-small-world.png", "p1-small-world.png", "p1-small-world-2.png", "p2-small-world.png"}
    alone = folder / "alone.png"
    assert main(["apply", str(folder / "dialled.json"), str(many / "p2.png"), "-o", str(alone), "--size", "48", "--dial", "Reach=1.5"]) == 0
    assert alone.read_bytes() == (out / "p2-small-world.png").read_bytes()
    kept = (out / "p0-small-world.png").stat().st_mtime_ns
    (out / "p2-small-world.png").unlink()
    assert main([*ask, "--resume", "--jobs", "1"]) == 2
    assert (out / "p2-small-world.png").exists()
    assert (out / "p0-small-world.png").stat().st_mtime_ns == kept


def test_a_slot_is_given_another_photo(folder: Path, many: Path, capsys: pytest.CaptureFixture[str]) -> None:
    recipe = document(("turn", {"angle": 0.1}), photo=None)
    over = {"id": "over", "source": {"kind": "photo", "photo": None}, "place": {"scale": 0.5}}
    (folder / "two.json").write_text(json.dumps({**recipe, "layers": [*recipe["layers"], over], "name": "Two"}))
    Image.new("RGB", (40, 20), (255, 0, 0)).save(folder / "red.png")
    asked = ["apply", str(folder / "two.json"), str(many / "p0.png"), "-o", str(folder / "two.png"), "--size", "40"]
    assert main([*asked, "--slot", f"over={folder / 'red.png'}"]) == 0
    assert np.asarray(Image.open(folder / "two.png"))[10, 20, :3].tolist() == [255, 0, 0]
    for wrong, says in (("over", "write it as layer=photo"), (f"sky={folder / 'red.png'}", "has no slot 'sky'")):
        assert main([*asked, "--slot", wrong]) == 2
        assert says in capsys.readouterr().err
    shutil.copy(folder / "red.png", folder / "p0.png")
    assert main([*asked, "--slot", f"over={folder / 'p0.png'}"]) == 2
    assert "have the same name" in capsys.readouterr().err


def test_what_the_files_of_a_folder_cannot_keep_is_told_of_each(folder: Path, many: Path, capsys: pytest.CaptureFixture[str]) -> None:
    over = {"id": "over", "name": "Veil", "source": {"kind": "fill"}, "blend": "lighter-pixel"}
    recipe = document(("turn", {"angle": 0.1}), photo=None)
    (folder / "veiled.json").write_text(json.dumps({**recipe, "layers": [*recipe["layers"], over], "name": "Veiled"}))
    photos = [str(many / "p0.png"), str(many / "p2.png")]
    out = folder / "out"
    assert (
        main(["apply", str(folder / "veiled.json"), *photos, "-o", str(out), "--size", "32", "--format", "openraster", "--jobs", "1"]) == 0
    )
    said = capsys.readouterr().err
    for name in ("p0-veiled.ora", "p2-veiled.ora"):
        assert f"{name}: OpenRaster has no such blend mode, so it was laid plainly: Veil" in said


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (["--dial", "Reach"], "write it as name=value"),
        (["--dial", "Speed=1"], "has no dial 'Speed'; it has 'Reach'"),
        (["--dial", "Reach=7"], "7 is not between 0.5 and 2"),
        (["--name", "{artist}"], "{artist} is not filled in; there are {photo}, {recipe} and {number}"),
        (["--name", "../{photo}"], "no plain file name"),
    ],
)
def test_what_is_asked_wrongly_is_said_before_anything_is_made(
    folder: Path, many: Path, capsys: pytest.CaptureFixture[str], more: list[str], says: str
) -> None:
    assert main(["apply", str(folder / "dialled.json"), str(many), "-o", str(folder / "out"), *more]) == 2
    assert says in capsys.readouterr().err
    assert not (folder / "out").exists() or not list((folder / "out").iterdir())


def test_try_shows_a_recipe_on_many_photos(folder: Path, many: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["try", str(folder / "dialled.json"), str(many), "-o", str(folder / "sheet.png"), "--size", "96"]) == 0
    said = capsys.readouterr().out.splitlines()
    assert len(said) == 5
    assert said[-1].startswith("broken.jpg: ")
    assert "planet" in said[0]
    assert Image.open(folder / "sheet.png").width > 3 * 96
    (many / "recipes").mkdir()
    (many / "recipes" / "a.json").write_text((folder / "dialled.json").read_text())
    (many / "recipes" / "b.json").write_text((folder / "recipe.json").read_text())
    assert main(["try", str(many / "recipes"), str(many / "p0.png"), "-o", str(folder / "one.jpg"), "--size", "64", "--columns", "2"]) == 0
    assert len(capsys.readouterr().out.splitlines()) == 2


def test_apply_makes_each_photo_of_a_folder_its_own_picture(folder: Path, many: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """The piece names a photo that lies in the folder: it is the slot, not what every file shows."""
    (many / "broken.jpg").unlink()
    named = "p0.png"
    piece = document(("twirl", {}), photo=named)
    (folder / "named.json").write_text(json.dumps(piece))
    assert main(["apply", str(folder / "named.json"), str(many), "-o", str(folder / "out"), "--size", "64", "--jobs", "1"]) == 0
    made = [path.read_bytes() for path in sorted((folder / "out").iterdir())]
    assert len(made) == len(set(made)) > 1
    # A photo that another layer names lies beside the piece, or where it is said to.
    over = {"id": "over", "source": {"kind": "photo", "photo": "marsh.png"}, "opacity": 0.5}
    (many / "deep.json").write_text(json.dumps({**piece, "layers": [*piece["layers"], over]}))
    asked = ["apply", str(many / "deep.json"), str(many / named), "-o", str(folder / "one.png"), "--size", "64"]
    assert main(asked) == 2
    assert "--photos" in capsys.readouterr().err
    assert main([*asked, "--photos", str(folder)]) == 0
