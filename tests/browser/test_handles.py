"""What is under the pointer stays under the pointer: every handle of the registry, on a placed and turned layer, zoomed in."""

from __future__ import annotations

import re
from math import hypot
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from caracol.core.catalogue.registry import KINDS
from caracol.core.kinds.kind import Kind
from tests.api import Api

from .bench import Bench

WAY = (22.0, -16.0)
# They stand for a number without lying where it would: they go the way of the hand, at a pace of their own.
BY_PACE = {"Melt heading and push"}
KNOBS = 2


def with_all_handles() -> list[Kind]:
    """Return the fewest kinds, in order, that have every handle between them."""
    found: list[Kind] = []
    seen: set[str] = set()
    for kind in KINDS:
        if set(kind.handles) - seen:
            seen |= set(kind.handles)
            found.append(kind)
    return found


def piece_of(address: str, photo: Path, kinds: list[Kind]) -> dict[str, Any]:
    """Make a piece whose upper layer, placed and turned, has a step of each kind. All are off, to be switched on one by one."""
    api = Api(address)
    name = api.upload(photo.read_bytes(), photo.name)["file_name"]
    source = {"kind": "photo", "photo": name}
    steps = [
        {"id": f"s{n}", "kind": kind.key, "on": False, "settings": dict(kind.starts[0].settings) if kind.starts else {}}
        for n, kind in enumerate(kinds)
    ]
    upper = {"id": "up", "name": "Up", "source": source, "steps": steps, "place": {"x": 0.2, "y": 0.1, "scale": 0.7, "turn": 0.06}}
    document = {"caracol": 1, "layers": [{"id": "land", "source": source}, upper]}
    return dict(api.call("POST", "pieces", {"name": "handles", "document": document}))


def test_every_knob_goes_with_the_hand(page: Page, photo: Path, address: str, blank: Bench) -> None:
    kinds = with_all_handles()
    page.set_viewport_size({"width": 940, "height": 640})
    blank.open(piece_of(address, photo, kinds))
    page.get_by_role("button", name="Layer Up").click()
    blank.settle()
    stage = page.locator(".stage").bounding_box()
    assert stage is not None
    page.mouse.move(stage["x"] + stage["width"] * 0.6, stage["y"] + stage["height"] * 0.5)
    page.mouse.wheel(0, -240)
    blank.settle()
    wrong, tried, exact = [], 0, 0
    for kind in kinds:
        page.get_by_role("button", name=re.compile(rf"^Step \d+, {kind.label}$")).click()
        page.get_by_role("button", name="Switch on", exact=True).click()
        expect(page.get_by_label(f"Handles of {kind.label}", exact=True)).to_be_visible()
        count = page.locator(".handles g.knob").count()
        # Of a kind's many knobs (corners, plates, points) the first few; all of them are dragged without a browser in registry.test.tsx.
        for index in range(min(count, KNOBS)):
            knob = page.locator(".handles g.knob").nth(index)
            label = knob.get_attribute("aria-label") or ""
            x, y = blank.at(knob)
            inside = stage["x"] + 150 < x < stage["x"] + stage["width"] - 40 and stage["y"] + 40 < y < stage["y"] + stage["height"] - 40
            if not inside or knob.evaluate("(k, [x, y]) => !k.contains(document.elementFromPoint(x, y))", [x, y]):
                continue
            tried += 1
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + WAY[0] / 2, y + WAY[1] / 2)
            page.mouse.move(x + WAY[0], y + WAY[1])
            ax, ay = blank.at(page.locator(".handles g.knob").nth(index))
            page.mouse.up()
            gone, along = hypot(ax - x, ay - y), (ax - x) * WAY[0] + (ay - y) * WAY[1]
            exact += hypot(ax - x - WAY[0], ay - y - WAY[1]) < 2
            if label not in BY_PACE and (gone > hypot(*WAY) * 1.15 + 2 or along < -60):
                wrong.append(f"{kind.key}: {label} went {ax - x:.0f}, {ay - y:.0f}")
            page.keyboard.press("Control+z")
        page.get_by_role("button", name="Switch off", exact=True).click()
    assert wrong == []
    assert tried > 25
    assert exact > 16


def test_handles_wait_for_the_picture_they_lie_on(page: Page, photo: Path, address: str, blank: Bench) -> None:
    """A ring makes its layer square: until that is seen, its handles would lie where nothing of it is."""
    blank.open(piece_of(address, photo, [kind for kind in KINDS if kind.key == "ring"]))
    page.get_by_role("button", name="Layer Up").click()
    page.get_by_role("button", name=re.compile(r"^Step \d+, Ring$")).click()
    blank.settle()
    held: list[Route] = []
    page.route("**/api/v1/previews", lambda route: held.append(route))
    page.get_by_role("button", name="Switch on", exact=True).click()
    expect(page.get_by_role("button", name="Switch off", exact=True)).to_be_visible()
    expect(page.locator(".stage")).to_have_attribute("data-settled", "no")
    assert page.locator(".handles g.knob").count() == 0
    page.unroute("**/api/v1/previews")
    expect(page.get_by_label("Handles of Ring", exact=True)).to_be_visible()
    before = blank.at(blank.knob("Size"))
    blank.settle()
    assert blank.at(blank.knob("Size")) == pytest.approx(before, abs=1)
