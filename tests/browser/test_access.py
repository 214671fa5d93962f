"""The main views: nothing that axe finds, all of it at 200 % and on a small screen, and by the keyboard."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect

from tests.api import Api

from .bench import Bench

AXE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN = """async () => {
  const { violations } = await axe.run(document, { resultTypes: ['violations'] });
  return violations.map((found) => `${found.id}: ${found.nodes.slice(0, 3).map((node) => node.html.slice(0, 160)).join(' | ')}`);
}"""


def faults(page: Page) -> Any:
    """Return what axe finds wrong with what is on the screen."""
    if not page.evaluate("'axe' in window"):
        page.add_script_tag(path=str(AXE))
    return page.evaluate(RUN)


def test_axe_finds_nothing_on_the_main_views(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    found = {"step": faults(page)}
    views = {"Add a step at place 4": "finder", "+ Layer": "layers", "Roll": "roll"}
    for button, view in views.items():
        page.get_by_role("button", name=button, exact=True).click()
        page.wait_for_load_state("networkidle")
        found[view] = faults(page)
        page.get_by_role("button", name="Close", exact=True).click()
    for button in ("History", "Versions", "Export", "Shortcuts"):
        page.get_by_role("button", name=button, exact=True).click()
        page.wait_for_load_state("networkidle")
        found[button] = faults(page)
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Shelf", exact=True).click()
    expect(page.get_by_role("complementary", name=re.compile("^Photo "))).to_be_visible()
    found["shelf"] = faults(page)
    assert {view: told for view, told in found.items() if told} == {}


def test_axe_finds_nothing_where_tones_are_set_and_figures_cut(blank: Bench, page: Page, ground: Path, address: str, called: str) -> None:
    trail: list[tuple[str, dict[str, Any]]] = [
        ("tone", {}),
        ("curves", {}),
        ("gradient-map", {}),
        ("ghosts", {"tints": ["#ff7a5c", "#0b86a8"]}),
    ]
    bench = blank.open(Api(address).piece(ground, *trail, called=called))
    found = {}
    for label in ("Tone", "Curves", "Gradient map", "Ghosts"):
        bench.choose(label)
        page.wait_for_load_state("networkidle")
        found[label] = faults(page)
    photo = bench.saved()["layers"][0]["source"]["photo"]
    page.get_by_role("button", name="The whole piece").click()
    page.get_by_role("button", name="Crop and turn").click()
    bench.settle()
    found["box"] = faults(page)
    page.goto(f"/figure/{photo}")
    page.get_by_role("button", name="Search the whole photo").click()
    expect(page.locator('.figure-stage[data-busy="no"]')).to_be_visible()
    found["figure"] = faults(page)
    assert {view: told for view, told in found.items() if told} == {}


def test_twice_as_large_and_on_a_small_screen_all_is_in_reach(bench: Bench, page: Page) -> None:
    """640 × 400 is a screen of 1280 × 800 at 200 %; what is not in sight is scrolled to, never cut off."""
    for width, height in ((640, 400), (1024, 700)):
        page.set_viewport_size({"width": width, "height": height})
        bench.choose("Ring")
        for name in ("Export", "Fit", "Add a step at place 4", "The whole piece"):
            button = page.get_by_role("button", name=name, exact=True).first
            button.scroll_into_view_if_needed()
            expect(button).to_be_in_viewport(ratio=0.9)
        reach = page.get_by_label("Size, number")
        reach.scroll_into_view_if_needed()
        expect(reach).to_be_in_viewport(ratio=0.9)
        page.locator(".stage").scroll_into_view_if_needed()
        assert min(bench.place()["width"], bench.place()["height"]) >= 180
        assert page.evaluate("document.documentElement.scrollWidth") <= width


def test_a_step_is_found_added_set_and_removed_by_keyboard(plain: Bench, page: Page) -> None:
    before = plain.picture()
    page.keyboard.press("a")
    page.keyboard.type("whirlpool")
    page.keyboard.press("Enter")
    plain.settle()
    reach = page.get_by_role("slider", name="Radius")
    for _ in range(40):
        if reach.evaluate("(field) => field === document.activeElement"):
            break
        page.keyboard.press("Tab")
    expect(reach).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.type("0.5")
    page.keyboard.press("Enter")
    assert plain.settings("twirl")["reach"] == 0.5
    page.keyboard.press("Delete")
    assert (plain.picture() == before).all()
