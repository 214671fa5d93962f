"""What is seen while a hand drags: pictures keep coming, in the order of the moves, and the last one is the settled truth."""

from __future__ import annotations

import time
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from caracol.core.io.decode import PhotoFolder
from caracol.core.piece.files import check_piece
from caracol.core.render import render
from tests.api import Api

from .bench import Bench

WATCH = """() => {
  window.asked = new Map();
  window.seen = [];
  const fetched = window.fetch;
  window.fetch = async (...asked) => {
    const answer = await fetched(...asked);
    if (!String(asked[0]).endsWith('/api/v1/previews')) return answer;
    const { document, draft, bench } = JSON.parse(asked[1].body);
    if (!bench.endsWith('-stage')) return answer;
    const blob = answer.blob.bind(answer);
    const seam = document.layers[0].steps.find((step) => step.kind === 'ring').settings.seam;
    answer.blob = async () => {
      const made = await blob();
      window.asked.set(made, { seam, draft });
      return made;
    };
    return answer;
  };
  const named = URL.createObjectURL.bind(URL);
  const urls = new Map();
  URL.createObjectURL = (blob) => {
    const url = named(blob);
    if (window.asked.has(blob)) urls.set(url, window.asked.get(blob));
    return url;
  };
  const look = () => {
    const image = [...document.querySelectorAll('.stage > .picture-side img')].at(-1);
    const what = urls.get(image?.src);
    if (what && window.seen.at(-1)?.url !== image.src) {
      window.seen.push({ ...what, url: image.src });
    }
    requestAnimationFrame(look);
  };
  look();
}"""


def test_two_seconds_of_dragging(bench: Bench, page: Page, ground: Path) -> None:
    bench.choose("Ring")
    knob = bench.knob("Seam")
    x, y = bench.at(knob)
    middle = bench.place()
    unit = middle["width"] / 2
    cx, cy = middle["x"] + unit, middle["y"] + unit
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    page.mouse.down()
    # As a hand does: on, for two seconds, whatever is shown meanwhile.
    began, step = time.monotonic(), 0
    while time.monotonic() - began < 2:
        step += 1
        angle = np.pi / 2 + 0.008 * step
        page.mouse.move(cx + 0.8 * unit * float(np.cos(angle)), cy + 0.8 * unit * float(np.sin(angle)))
    page.mouse.up()
    bench.settle()
    # What is on the stage is written down once a frame: the frame in which it settled has passed when the next but one comes.
    seen = page.evaluate("() => new Promise((told) => requestAnimationFrame(() => requestAnimationFrame(() => told(window.seen))))")
    drafts = [one for one in seen if one["draft"]]
    assert len(drafts) >= 4, "hardly any picture came while it was dragged"
    seams = [one["seam"] for one in seen]
    turned = np.diff(np.unwrap(np.array(seams) * 2 * np.pi))
    assert (turned >= -1e-9).all() or (turned <= 1e-9).all(), "a picture came after one of a later move"
    # The last one is no draft, and shows what was set, turned by nothing.
    assert not seen[-1]["draft"]
    assert seen[-1]["seam"] == bench.settings("ring")["seam"]
    shown = bench.picture()
    truth = render(check_piece(bench.saved()), shown.shape[1], PhotoFolder(ground.parent))[..., :3] * 255
    assert np.abs(shown - truth).mean() < 1.5
    expect(page.locator(".stage img.under")).to_have_count(0)


def test_what_only_turns_is_turned_at_once(bench: Bench, page: Page) -> None:
    """The picture follows the hand while no draft comes; when one does, it lies as it was made."""
    bench.choose("Ring")
    bench.drag(bench.knob("Seam"), (bench.place()["x"] + bench.place()["width"] * 0.9, bench.place()["y"] + bench.place()["height"] / 2))
    held: list[object] = []
    page.route("**/api/v1/previews", lambda route: held.append(route))
    x, y = bench.at(bench.knob("Seam"))
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 10, y + 80)
    page.mouse.move(x - 30, y + 150)
    image = page.locator(".stage > .picture-side img").last
    before = 0.25
    turns = float((image.evaluate("(i) => i.style.rotate") or "0turn").removesuffix("turn"))
    assert 0.01 < turns < 0.3
    expect(page.locator(".stage img.under")).to_have_count(1)
    page.unroute("**/api/v1/previews")
    page.mouse.move(x - 31, y + 151)
    page.mouse.up()
    bench.settle()
    assert abs(bench.settings("ring")["seam"] - before - turns) < 0.02
    assert image.evaluate("(i) => i.style.rotate") == ""


def test_a_moved_layer_is_moved_at_once(page: Page, blank: Bench, ground: Path, address: str) -> None:
    """A layer on top moves over the others while no draft comes, and lies in the finished picture where it was seen."""
    api = Api(address)
    name = api.upload(ground.read_bytes(), ground.name)["file_name"]
    spot = {
        "id": "spot",
        "name": "Spot",
        "source": {"kind": "fill", "form": "plain", "first": "#ff2020", "ratio": 1},
        "place": {"scale": 0.2},
    }
    document = {"caracol": 1, "layers": [{"id": "land", "source": {"kind": "photo", "photo": name}}, spot]}
    blank.open(api.call("POST", "pieces", {"name": "moved", "document": document}))
    asked = [
        lambda answer, part=part: part in (answer.request.post_data or "")
        for part in ('"layer":"spot","size":768', '"layer":null,"size":768')
    ]
    with page.expect_response(asked[0]), page.expect_response(asked[1]):
        page.get_by_role("button", name="Layer Spot").click()
    blank.settle()
    held: list[object] = []
    page.route("**/api/v1/previews", lambda route: held.append(route))
    box = blank.place()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 40, y)
    page.mouse.move(x + 120, y + 30)
    moved = page.locator(".moved-picture img").last
    seen = moved.bounding_box()
    assert seen is not None
    assert abs(seen["x"] + seen["width"] / 2 - x - 120) < 2
    assert abs(seen["y"] + seen["height"] / 2 - y - 30) < 2
    page.unroute("**/api/v1/previews")
    page.mouse.up()
    picture = blank.picture()
    expect(page.locator(".moved-picture")).to_have_count(0)
    rows, cols = np.nonzero(np.abs(picture - (255, 32, 32)).sum(axis=-1) < 12)
    scale = picture.shape[1] / box["width"]
    assert abs(cols.mean() / scale - (seen["x"] + seen["width"] / 2 - box["x"])) < 3
    assert abs(rows.mean() / scale - (seen["y"] + seen["height"] / 2 - box["y"])) < 3
