"""Nothing shown or saved is another's; every edit stands, or is refused with a sentence before anything changes."""

from __future__ import annotations

import re
from collections import Counter
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, Request, expect

from tests.api import Api

from .bench import Bench, difference


def two_groups(address: str, photos: tuple[Path, Path], called: str) -> Any:
    """Make a piece of two groups, each with slices at the same draw, the upper one on the right half."""
    api = Api(address)
    names = [api.upload(photo.read_bytes(), photo.name)["file_name"] for photo in photos]
    slices = {"kind": "slices", "settings": {"seed": 1, "thin": 6, "wide": 3}}
    layers = [
        {
            "id": name,
            "name": name.capitalize(),
            "layers": [{"id": f"in-{name}", "source": {"kind": "photo", "photo": photo}}],
            "steps": [{"id": f"s-{name}", **slices}],
            **({"place": {"scale": 0.5, "x": 0.8}} if name == "upper" else {}),
        }
        for name, photo in zip(("lower", "upper"), names, strict=True)
    ]
    return api.call("POST", "pieces", {"name": called, "document": {"caracol": 3, "layers": layers}})


def step_of(document: dict[str, Any], name: str) -> dict[str, Any]:
    return dict(next(entry for entry in document["layers"] if entry["id"] == name)["steps"][0]["settings"])


def test_bars_of_two_groups_stay_their_own(page: Page, blank: Bench, ground: Path, photo: Path, address: str, called: str) -> None:
    """Both corrected with the keys, saved, opened again and seen in the delivered picture."""
    made = two_groups(address, (ground, photo), called)
    blank.open(made)
    api = Api(address)
    drawn = {
        name: api.call("POST", "analyses/bars", {"document": made["document"], "layer": name, "step": f"s-{name}"})["bars"]
        for name in ("lower", "upper")
    }
    assert drawn["lower"] != drawn["upper"]
    before = blank.picture()
    for name in ("lower", "upper"):
        page.get_by_role("button", name=f"Layer {name.capitalize()}").click()
        blank.choose("Slices")
        bar = page.get_by_role("button", name=re.compile("^Bar 1")).first
        bar.focus()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_label("Bars").get_by_text(f"{len(drawn[name])} kept")).to_be_visible()
    document = blank.saved()
    for name in ("lower", "upper"):
        first, *others = step_of(document, name)["bars"]
        assert first["shift"] > drawn[name][0]["shift"]
        assert others == drawn[name][1:], name
    page.keyboard.press("f")
    assert difference(blank.picture(), before) > 0.05
    page.reload()
    blank.settle()
    assert blank.saved() == document


def asked_for(page: Page) -> Counter[str]:
    """Return a count that grows by every request of the page, by its path."""
    found: Counter[str] = Counter()

    def heard(request: Request) -> None:
        if "/api/v1/" in request.url:
            found[request.url.split("/api/v1/")[1].split("?")[0]] += 1

    page.on("request", heard)
    return found


def test_what_is_the_same_is_asked_for_once(bench: Bench, page: Page) -> None:
    """Selecting steps that were seen asks for no small picture again; an edit of the last step only for what comes after it."""
    page.get_by_label("Search steps").wait_for(state="hidden")
    for step in ("Ring", "Close seam", "Rim"):
        bench.choose(step)
    seen = asked_for(page)
    for step in ("Ring", "Close seam", "Rim", "Ring"):
        bench.choose(step)
    assert seen["analyses/readings"] == seen["analyses/steps"] == seen["analyses/identities"] == 0


def test_the_last_layer_under_one_made_of_everything_below_stays(plain: Bench, page: Page) -> None:
    page.get_by_role("button", name="+ Layer").click()
    page.get_by_role("button", name="The picture below, as a layer").click()
    plain.settle()
    page.get_by_role("button", name="Layer Land").click()
    before = plain.saved()
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_text("Nothing would be below")).to_be_visible()
    assert plain.saved() == before
    page.get_by_role("button", name="+ Layer").click()
    page.get_by_text("Below Land").click()
    page.get_by_role("button", name="The picture below, as a layer").click()
    assert plain.saved() == before


def test_a_turn_that_acts_partly_takes_a_quarter_turn_and_is_saved(plain: Bench, page: Page) -> None:
    plain.add("Upside down")
    page.get_by_role("spinbutton", name="Opacity").fill("50")
    page.get_by_role("spinbutton", name="Opacity").press("Enter")
    plain.settle()
    page.get_by_label("Quarter turns, number").fill("1")
    page.get_by_label("Quarter turns, number").press("Enter")
    expect(page.get_by_text("Turn now reshapes the frame")).to_be_visible()
    step = next(one for one in plain.saved()["layers"][0]["steps"] if one["kind"] == "turn")
    assert (step["strength"], step["settings"]["quarters"]) == (1, 1)
    picture = plain.picture()
    assert picture.shape[0] > picture.shape[1]


def test_keys_while_a_handle_is_held_end_the_drag_and_all_is_saved(bench: Bench, page: Page) -> None:
    """Of those that take the handle off the picture: the original, comparing, other steps, the finished picture, switched off, deleted."""
    bench.choose("Ring")
    x, y = bench.at(bench.knob("Centre"))
    last = 0.0
    for moves, key in enumerate(("o", "s", "c", ".", "f", "x", "Delete"), 1):
        bench.choose("Ring")
        here = bench.at(bench.knob("Centre"))
        page.mouse.move(*here)
        page.mouse.down()
        page.mouse.move(here[0] + 6, here[1] + 2)
        page.mouse.move(x + 12 * moves, y + 4 * moves)
        page.keyboard.down(key)
        page.keyboard.up(key)
        page.mouse.move(x + 12 * moves + 3, y + 4 * moves)
        page.mouse.up()
        bench.settle()
        expect(page.locator(".stage.dragging")).to_have_count(0)
        ring = next((step for step in bench.saved()["layers"][0]["steps"] if step["kind"] == "ring"), None)
        if key == "Delete":
            assert ring is None
            break
        assert ring is not None
        assert ring["settings"]["x"] > last + 0.001, key
        last = ring["settings"]["x"]
        if key in ("s", "c", "x"):
            page.keyboard.press(key)
            bench.settle()


def test_what_is_refused_is_said_where_it_is_seen(plain: Bench, page: Page) -> None:
    """The last good picture stays, and nothing is lost: undo, or a file."""
    before = plain.picture()
    refusal = {"error": {"code": "piece", "message": "layers[0]: this is refused", "faults": ["layers[0]: this is refused"]}}

    def refuse(route: Any) -> None:
        if route.request.method in ("PUT", "POST"):
            route.fulfill(status=422, json=refusal)
        else:
            route.continue_()

    page.route(re.compile("/api/v1/(pieces/|previews|analyses/identities)"), refuse)
    page.get_by_role("button", name="Add a step at place 1").click()
    page.get_by_label("Search steps").fill("Soft twirl")
    page.get_by_role("button", name=re.compile("^Soft twirl")).first.click()
    banner = page.get_by_role("alert", name="Not saved")
    expect(banner).to_contain_text("layers[0]: this is refused")
    with page.expect_download() as downloaded:
        banner.get_by_role("button", name="Save as a file").click()
    assert '"twirl"' in Path(downloaded.value.path()).read_text()
    page.unroute(re.compile("/api/v1/(pieces/|previews|analyses/identities)"))
    banner.get_by_role("button", name="Undo").click()
    expect(banner).to_be_hidden()
    assert difference(plain.picture(), before) < 0.5
    assert plain.saved()["layers"][0]["steps"] == []
