"""What a reading sees, on photos whose truth is known."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import pytest

from caracol.core.piece.files import check_piece
from caracol.core.piece.starts import PRESET_CHAINS, STARTS, PresetChain, companions_of, start_piece
from caracol.core.pixels.pyramid import pyramid_of
from caracol.core.reading.features import Feature, find_dials, find_faces, find_features, find_lettering, find_salient
from caracol.core.reading.horizon import find_horizon
from caracol.core.reading.loops import LEAST_WIDTH, best_loop
from caracol.core.reading.reading import RANK, Reading, Use, read
from caracol.core.reading.regions import nothing_of, spreads_of, stands_alone, unevenness
from tests.pictures import detailed, document, opaque, smooth

pytestmark = pytest.mark.slow


def landscape(degrees: float, hilly: bool = False, busy: bool = False) -> np.ndarray:
    """A plain sky over darker, grainy ground, leaning clockwise by `degrees`."""
    rng = np.random.default_rng(4)
    y, x = np.mgrid[0:400, 0:1024].astype(np.float32)
    line = 220 + (x - 512) * np.tan(np.radians(degrees))
    if hilly:
        line = line + 5 * np.sin(x / 33) + 3 * np.sin(x / 71 + 1) + 6 * np.sin(x / 19 + 2)
    ground = (y > line)[..., None]
    sky = 0.75 - y[..., None] / 2000 + (22.0 * cv2.GaussianBlur(rng.standard_normal((400, 1024)), (0, 0), 22)[..., None] if busy else 0)
    return opaque(np.clip(np.where(ground, 0.35 + 0.05 * rng.standard_normal((400, 1024, 3)), sky), 0, 1).astype(np.float32))


def use_of(reading: Reading, name: str) -> Use:
    return next(use for use in reading.uses if use.use == name)


@pytest.mark.parametrize("degrees", [-10, -5.5, -2.3, -0.4, 0, 0.7, 2.3, 6, 10])
@pytest.mark.parametrize("hilly", [False, True])
def test_horizon_lean(degrees: float, hilly: bool) -> None:
    horizon = find_horizon(pyramid_of(landscape(degrees, hilly)).picture(512))
    assert horizon is not None
    assert horizon.tilt * 360 == pytest.approx(degrees, abs=0.3)
    assert horizon.height == pytest.approx(0.55, abs=0.04)


def test_no_horizon_where_there_is_none() -> None:
    rng = np.random.default_rng(5)
    assert find_horizon(opaque(rng.random((200, 512, 3)).astype(np.float32))) is None
    assert find_horizon(opaque(np.full((200, 512, 3), 0.5, np.float32))) is None
    assert find_horizon(opaque(np.zeros((8, 8, 3), np.float32))) is None
    assert read(pyramid_of(detailed())).tilt is None


def test_edges_that_join_score_higher() -> None:
    joins, torn = read(pyramid_of(smooth())), read(pyramid_of(detailed()))
    assert joins.agreement > 90
    assert torn.agreement < 60


def test_words_and_verdicts() -> None:
    good = read(pyramid_of(landscape(2.3)))
    assert good.words.startswith("Ends match well; horizon tilted by 2.3°; good for planet")
    planet = use_of(good, "planet")
    assert planet.verdict == "good"
    assert planet.reasons == ("horizon tilted by 2.3°",)
    assert use_of(read(pyramid_of(detailed())), "planet").verdict == "poor"


def test_sky_share_and_plainness() -> None:
    plain, busy = read(pyramid_of(landscape(0))), read(pyramid_of(landscape(0, busy=True)))
    assert plain.sky_share == pytest.approx(0.55, abs=0.05)
    assert plain.sky_plainness > 0.7
    assert busy.sky_plainness < 0.3
    assert "a busy sky" in use_of(busy, "planet").reasons


def test_sky_without_a_horizon_is_what_is_calm_from_the_top() -> None:
    rng = np.random.default_rng(8)
    photo = np.full((300, 300, 3), 0.7, np.float32)
    jagged = (150 + 60 * np.sin(np.arange(300) / 9)).astype(int)
    for col, top in enumerate(jagged):
        photo[top:, col] = rng.random((300 - top, 3)) * 0.5
    reading = read(pyramid_of(opaque(photo)))
    assert reading.tilt is None
    assert reading.sky_share == pytest.approx(0.5, abs=0.06)


def test_surround() -> None:
    paper = np.full((300, 400, 3), (0.8, 0.7, 0.6), np.float32)
    paper[100:200, 150:250] = 0.1
    reading = read(pyramid_of(opaque(paper)))
    assert reading.surround == "#ccb399"
    assert reading.surround_plainness > 0.95
    assert use_of(reading, "inside-out").verdict == "poor"


@pytest.mark.parametrize("size", [(2, 2), (2, 900), (900, 2), (5, 7)])
def test_tiny_and_thin_photos_are_read_too(size: tuple[int, int]) -> None:
    reading = read(pyramid_of(opaque(np.full((*size, 3), 0.5, np.float32))))
    assert Reading.from_data(reading.as_data()) == reading


@pytest.mark.parametrize("key", [start.key for start in STARTS])
def test_every_start_is_a_valid_piece_and_levels_what_leans(key: str) -> None:
    data = start_piece(key, "a.jpg", read(pyramid_of(landscape(2.3))))
    piece = check_piece(data)
    levels = [step for step in piece.layer.steps if step.kind == "level"]
    assert len(levels) == (1 if key in ("planet", "sky-well", "tunnel") else 0)
    for step in levels:
        assert step.settings.angle * 360 == pytest.approx(-2.3, abs=0.3)  # type: ignore[attr-defined]


@pytest.mark.parametrize("several", PRESET_CHAINS, ids=lambda one: one.name)
def test_several_steps_are_a_valid_trail(several: PresetChain) -> None:
    check_piece(document(*several.steps))


def test_best_loop_finds_the_cuts_that_join() -> None:
    """A picture that repeats itself after two thirds of its width, with a foreign strip at each end."""
    rng = np.random.default_rng(8)
    column = rng.random((1, 240, 3)).astype(np.float32).cumsum(axis=1) * 0.01
    rows = np.linspace(0, 1, 120, dtype=np.float32)[:, None, None]
    middle = 0.3 + 0.4 * rows + 0.15 * np.sin(rows * 20 + np.linspace(0, 2 * np.pi, 240, dtype=np.float32)[None, :, None]) + 0 * column
    left, right = np.full((120, 30, 3), 0.9, np.float32), np.full((120, 50, 3), 0.1, np.float32)
    loop = best_loop(opaque(np.concatenate([left, middle, right], axis=1)))
    assert loop is not None
    assert loop.left == pytest.approx(30 / 320, abs=0.02)
    assert loop.right == pytest.approx(270 / 320, abs=0.02)
    assert loop.after > loop.before + 20
    assert loop.right - loop.left >= LEAST_WIDTH


def test_no_loop_where_the_whole_joins_or_nothing_does() -> None:
    assert best_loop(smooth()) is None
    assert best_loop(np.zeros((4, 20, 4), np.float32)) is None


def test_what_stands_out_is_found() -> None:
    picture = np.full((200, 300, 3), 0.6, np.float32)
    picture += np.random.default_rng(2).standard_normal(picture.shape).astype(np.float32) * 0.01
    cv2.circle(picture, (210, 70), 22, (0.1, 0.05, 0.4), -1)
    strongest = find_salient(opaque(picture))[0]
    assert strongest.left < 0.7 < strongest.left + strongest.width
    assert strongest.top < 0.35 < strongest.top + strongest.height


def test_a_drawn_face_is_found() -> None:
    grey = np.full((240, 320), 150, np.uint8)
    cv2.ellipse(grey, (160, 120), (52, 68), 0, 0, 360, 205, -1)
    for x in (138, 182):
        cv2.ellipse(grey, (x, 100), (12, 5), 0, 0, 360, 120, -1)
        cv2.circle(grey, (x, 102), 5, 40, -1)
        cv2.line(grey, (x - 13, 90), (x + 13, 90), 90, 4)
    cv2.line(grey, (160, 105), (156, 130), 170, 4)
    cv2.line(grey, (152, 133), (168, 133), 130, 3)
    cv2.ellipse(grey, (160, 152), (22, 6), 0, 0, 360, 110, -1)
    cv2.ellipse(grey, (160, 58), (52, 22), 0, 180, 360, 60, -1)
    faces = find_faces(cv2.GaussianBlur(grey, (0, 0), 2))
    assert len(faces) == 1
    assert faces[0].left < 0.5 < faces[0].left + faces[0].width
    assert find_faces(np.full((240, 320), 150, np.uint8)) == []


def station() -> np.ndarray:
    """Return a wall with a dial and a name under it, grey bytes."""
    rng = np.random.default_rng(3)
    wall = cv2.GaussianBlur(rng.normal(90, 26, (500, 640)).astype(np.float32), (0, 0), 5)
    wall = np.clip(wall, 0, 255).astype(np.uint8)
    cv2.circle(wall, (320, 200), 130, 235, -1, cv2.LINE_AA)
    cv2.circle(wall, (320, 200), 130, 20, 6, cv2.LINE_AA)
    cv2.line(wall, (320, 200), (260, 140), 20, 9, cv2.LINE_AA)
    cv2.line(wall, (320, 200), (400, 110), 20, 6, cv2.LINE_AA)
    cv2.putText(wall, "MAREA STATION", (150, 440), cv2.FONT_HERSHEY_DUPLEX, 1.5, 245, 4, cv2.LINE_AA)
    return wall


def test_a_dial_is_found_and_a_plain_wall_has_none() -> None:
    (dial,) = find_dials(station())
    assert (dial.left + dial.width / 2) * 640 == pytest.approx(320, abs=6)
    assert (dial.top + dial.height / 2) * 500 == pytest.approx(200, abs=6)
    assert dial.width * 640 / 2 == pytest.approx(130, abs=8)
    for empty in (detailed(400, 640), smooth(400, 640)):
        assert find_dials((empty[..., 0] * 255).astype(np.uint8)) == []


def test_lettering_is_found_and_fences_are_not() -> None:
    words = find_lettering(station())
    assert words
    # One of the two words or both, as far apart as they stand.
    assert all(120 < word.left * 640 < 360 and abs(word.top * 500 - 405) < 20 for word in words)
    fence = np.full((400, 640), 60, np.uint8)
    fence[150:200, ::6] = 220
    for empty in (fence, (detailed(400, 640)[..., 0] * 255).astype(np.uint8)):
        assert find_lettering(empty) == []


def test_features_of_one_photo_come_together() -> None:
    grey = station().astype(np.float32) / 255
    kinds = {feature.kind for feature in find_features(opaque(np.repeat(grey[..., None], 3, axis=2)))}
    assert {"dial", "lettering"} <= kinds


def test_spreads() -> None:
    grey = opaque(np.full((64, 64, 3), 0.25, np.float32))
    assert spreads_of(grey) == pytest.approx((0.75, 0, 0, 0), abs=1e-6)
    rainbow = cv2.cvtColor(
        np.dstack([np.tile(np.linspace(0, 359, 240, dtype=np.float32), (64, 1)), *np.ones((2, 64, 240), np.float32)]), cv2.COLOR_HSV2RGB
    )
    assert spreads_of(opaque(rainbow))[2] > 0.95
    red = opaque(np.broadcast_to(np.float32([0.8, 0.1, 0.1]), (64, 64, 3)))
    assert spreads_of(red)[2] < 0.05


def test_reading_survives_its_own_data() -> None:
    reading = read(pyramid_of(landscape(2.3)))
    assert Reading.from_data(reading.as_data()) == reading


def cube(see_through: bool = False) -> np.ndarray:
    """One dark thing on a plain pale ground, or on nothing."""
    rng = np.random.default_rng(6)
    photo = np.full((240, 320, 3), 0.78, np.float32) - np.linspace(0, 0.1, 320, dtype=np.float32)[None, :, None]
    photo += rng.standard_normal(photo.shape).astype(np.float32) * 0.006
    photo[90:170, 120:210] = rng.random((80, 90, 3)).astype(np.float32) * 0.4
    picture = opaque(photo)
    if see_through:
        cover = np.zeros((240, 320), np.float32)
        cover[90:170, 120:210] = 1
        picture = picture * cover[..., None]
    return picture


@pytest.mark.parametrize("see_through", [False, True])
def test_one_object_on_plain_ground(see_through: bool) -> None:
    reading = read(pyramid_of(cube(see_through)))
    assert reading.alone
    assert reading.sky_share == 0
    verdicts = {use.use: use.verdict for use in reading.uses}
    assert {use for use in ("spiral repeat", "cut-out", "layer") if verdicts[use] == "good"} == {"spiral repeat", "cut-out", "layer"}
    assert verdicts["planet"] == verdicts["sky well"] == "poor"
    assert reading.words.startswith("One object by itself; good for cut-out")
    assert not read(pyramid_of(landscape(0))).alone
    assert not read(pyramid_of(detailed())).alone


def test_corners_that_a_turned_photo_leaves_are_no_horizon() -> None:
    photo = detailed(300, 400)
    turn = cv2.getRotationMatrix2D((200, 150), 5, 1)
    turned = cv2.warpAffine(photo, turn, (400, 300), borderValue=(0, 0, 0, 1))
    assert nothing_of(turned).mean() == pytest.approx(0.04, abs=0.02)
    assert find_horizon(turned) is None


def test_a_line_that_parts_nothing_is_no_horizon() -> None:
    rng = np.random.default_rng(3)
    wall = 0.5 + 0.06 * rng.standard_normal((300, 500, 3)).astype(np.float32)
    wall[140:146] = 0.1
    assert find_horizon(opaque(wall)) is None


def test_a_photo_of_everything_round_starts_as_a_globe() -> None:
    everything = replace(read(pyramid_of(landscape(0))), ratio=2.0, horizon=0.5, agreement=90, crush_top=0.01, crush_bottom=0.02)
    (ring, *_) = start_piece("planet", "a.jpg", everything)["layers"][0]["steps"]
    assert (ring["kind"], ring["settings"]["spread"]) == ("ring", "globe")
    steps = start_piece("planet", "a.jpg", replace(everything, ratio=3.0))["layers"][0]["steps"]
    assert [step["settings"]["spread"] for step in steps if step["kind"] == "ring"] == ["shape"]


@pytest.mark.parametrize("height", [0.35, 0.5, 0.62, 0.8])
def test_a_well_keeps_its_skyline_and_a_tunnel_its_sky_in_the_frame(height: float) -> None:
    reading = replace(read(pyramid_of(landscape(0))), horizon=height)
    well = next(s["settings"] for s in start_piece("sky-well", "a.jpg", reading)["layers"][0]["steps"] if s["kind"] == "ring")
    assert height * well["reach"] == pytest.approx(0.86, abs=0.06)
    tunnel = next(s["settings"] for s in start_piece("tunnel", "a.jpg", reading)["layers"][0]["steps"] if s["kind"] == "ring")
    mouth = 1 / (1 / tunnel["hole"] - height * (1 / tunnel["hole"] - 1 / tunnel["reach"]))
    assert 0.25 < mouth < 0.62


@pytest.mark.parametrize("key", ["sky-well", "tunnel"])
def test_a_middle_is_calmed_where_it_is_crushed_texture_and_nowhere_else(key: str) -> None:
    base = replace(read(pyramid_of(landscape(0))), horizon=None, alone=False, features=(), crush_top=0.08)
    thing = Feature("salient", 0.4, 0.2, 0.1, 0.2, 1.0)

    def radius(**change: object) -> float | None:
        steps = start_piece(key, "a.jpg", replace(base, **change))["layers"][0]["steps"]  # type: ignore[arg-type]
        return next((step["settings"]["radius"] for step in steps if step["kind"] == "centre"), None)

    assert radius() is not None
    assert radius(features=(thing,) * 5) is not None
    # A clock, a bird or a skyline would be seen twice; plain sky is not crushed.
    assert radius(features=(replace(thing, kind="dial"), thing, thing, thing, thing)) is None
    assert radius(features=(thing,)) is None
    assert radius(crush_top=0.02) is None
    assert radius(horizon=0.6, crush_top=0.045) is None
    assert radius(horizon=0.6, crush_top=0.15) == (0.2 if key == "sky-well" else None)


def test_uses_come_best_first_and_three_are_named() -> None:
    for photo in (landscape(0), landscape(4, busy=True), detailed(), cube()):
        reading = read(pyramid_of(photo))
        order = [(RANK[use.verdict], -use.worth) for use in reading.uses]
        assert order == sorted(order)
        best = [use.use for use in reading.uses if use.verdict == reading.uses[0].verdict][:3]
        assert reading.words.removesuffix(".").endswith(("good for " if order[0][0] == 0 else "fair for ") + ", ".join(best))


def test_a_tunnel_wants_rows_that_are_alike_all_along() -> None:
    """A wall, and the same wall with somebody before one side of it."""
    rng = np.random.default_rng(11)
    wall = np.clip(0.5 + 0.15 * rng.standard_normal((300, 450, 3)), 0, 1).astype(np.float32)
    assert use_of(read(pyramid_of(opaque(wall))), "tunnel").verdict == "good"
    wall[60:, 40:190] = 0.04
    tunnel = use_of(read(pyramid_of(opaque(wall))), "tunnel")
    assert tunnel.verdict == "poor"
    assert "one side only" in tunnel.reasons[-1]


def test_unevenness_is_that_along_the_width() -> None:
    """Bands that lie level do not count; half black, half white has no texture, and deviates by half a whole of light."""
    level = np.repeat(np.linspace(0, 1, 12, dtype=np.float32), 12)[:, None, None] * np.ones((1, 144, 3), np.float32)
    assert unevenness(opaque(level)) == pytest.approx(0, abs=1e-4)
    upright = np.zeros((144, 144, 3), np.float32)
    upright[:, 72:] = 1
    assert unevenness(opaque(upright)) == pytest.approx(0.5, abs=0.08)


@pytest.mark.parametrize("degrees", [-6, 6])
def test_what_leans_is_levelled_before_its_unevenness_is_measured(degrees: float) -> None:
    look = pyramid_of(landscape(degrees)).picture(512)
    assert unevenness(look, degrees / 360) < 0.4 * unevenness(look)
    assert unevenness(look, -degrees / 360) > unevenness(look)
    assert read(pyramid_of(landscape(degrees))).uneven < 0.5 * unevenness(look)


def disc(cut: bool = False, square: bool = False) -> np.ndarray:
    """What is seen through an eyepiece: a mottled disc on black, cut at top and bottom or not, or a square that was turned."""
    rng = np.random.default_rng(12)
    mottled = cv2.GaussianBlur(rng.standard_normal((300, 300, 3)).astype(np.float32), (0, 0), 4) * 1.5 + 0.5
    if square:
        shown = cv2.warpAffine(np.ones((300, 300), np.float32), cv2.getRotationMatrix2D((149.5, 149.5), 20, 0.9), (300, 300))
    else:
        shown = np.zeros((300, 300), np.float32)
        cv2.circle(shown, (150, 150), 160 if cut else 140, 1.0, -1)
    shown = shown[22:278] if cut else shown
    return opaque(np.clip(mottled[: len(shown)], 0.1, 1) * shown[..., None])


def test_a_disc_on_black_stands_alone_and_a_turned_picture_does_not() -> None:
    assert stands_alone(disc())
    assert stands_alone(disc(cut=True))
    assert not stands_alone(disc(square=True))


def test_one_thing_in_focus_stands_alone() -> None:
    rng = np.random.default_rng(13)
    rough = rng.random((320, 480, 3)).astype(np.float32)
    ground = 0.5 + 6 * (cv2.GaussianBlur(rough, (0, 0), 12) - 0.5)
    thing = np.zeros((320, 480), np.float32)
    cv2.ellipse(thing, (230, 170), (90, 70), 0, 0, 360, 1.0, -1)
    focused = np.where(thing[..., None] > 0, rough, ground).astype(np.float32)
    assert stands_alone(opaque(np.clip(focused, 0, 1)))
    assert not stands_alone(opaque(np.clip(ground, 0, 1).astype(np.float32))), "nothing is in focus"
    assert not stands_alone(opaque(rough)), "everything is in focus"


def test_what_a_ring_brings_along_is_asked_of_the_picture() -> None:
    """A wall whose ends differ brings all; one that joins no seam step; and where a skyline stands, a well brings no middle."""
    rng = np.random.default_rng(14)
    wall = np.clip(0.5 + 0.2 * cv2.GaussianBlur(rng.standard_normal((300, 700, 3)), (0, 0), 3) * 6, 0, 1).astype(np.float32)
    wall[:, 350:] *= 0.55
    bottom, top = companions_of(read(pyramid_of(opaque(wall))))
    assert [kind for kind, _ in (*bottom.before, *bottom.after)] == ["close-seam", "centre", "rim"]
    assert [kind for kind, _ in top.before] == ["close-seam"]
    joined = companions_of(read(pyramid_of(smooth())))
    assert [kind for one in joined for kind, _ in one.before] == []
    _, over_land = companions_of(read(pyramid_of(landscape(0, busy=True))))
    assert over_land.after == []


def test_a_planet_of_a_narrow_photo_shows_its_ground() -> None:
    """Where shapes are kept, a photo three times as wide as high makes a planet one sees; one half as wide makes a dot."""

    def spread(width: int) -> str:
        rows = landscape(0)[:, :width]
        piece = check_piece(start_piece("planet", "a.jpg", read(pyramid_of(rows))))
        ring = next(step for step in piece.layer.steps if step.kind == "ring")
        return str(ring.settings.spread)  # type: ignore[attr-defined]

    assert spread(1024) == "shape"
    assert spread(560) == "even"
