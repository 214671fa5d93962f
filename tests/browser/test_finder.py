"""The finder: arrows mark, the large picture shows what is marked, favourites and what was used lately stand first."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .bench import Bench, difference


def test_what_is_marked_is_seen_taken_and_found_again_first(plain: Bench, page: Page) -> None:
    before = plain.picture()
    page.keyboard.press("a")
    search = page.get_by_label("Search steps")
    page.keyboard.type("twirl")
    marked = page.locator(".find.marked")
    expect(marked).to_contain_text("Soft twirl")
    page.keyboard.press("ArrowRight")
    expect(marked).to_contain_text("Deep twirl")
    expect(search).to_be_focused()
    expect(page.get_by_role("status").filter(has_text="Trying: Deep twirl")).to_be_visible()
    tried = plain.picture()
    assert difference(tried, before) > 5
    # Nothing of what is tried is left: neither in the piece nor, behind the finder, on the picture.
    page.keyboard.press("Escape")
    assert difference(plain.picture(), before) == 0
    assert plain.saved()["layers"][0]["steps"] == []
    page.keyboard.press("a")
    page.keyboard.type("twirl")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    assert difference(plain.picture(), tried) < 1
    page.keyboard.press("a")
    finder = page.get_by_role("region", name="Add a step")
    expect(finder.get_by_role("heading", level=3).first).to_have_text("Recent")
    # Hovering shows as well; a favourite stands before all.
    finder.get_by_role("button", name=re.compile("^Grey")).first.hover()
    expect(page.get_by_role("status").filter(has_text="Trying: Grey")).to_be_visible()
    finder.get_by_role("button", name="Favourite: Grey", exact=True).first.click()
    expect(finder.get_by_role("heading", level=3).first).to_have_text("Favourites")
    expect(finder.locator(".find").first).to_contain_text("Grey")


def test_what_is_no_step_is_told_and_the_tool_of_a_part_is_kept(plain: Bench, page: Page) -> None:
    page.keyboard.press("a")
    search = page.get_by_label("Search steps")
    search.fill("title")
    expect(page.get_by_text("Text is not a step. Text is a layer: press + Layer, then Text.")).to_be_visible()
    page.keyboard.press("Enter")
    expect(search).to_be_visible()  # nothing that only sounds like it is taken
    search.fill("datamosh")
    page.get_by_role("button", name="Melt", exact=True).click()
    expect(search).to_have_value("Melt")
    page.get_by_role("button", name="Only in part of the picture…").click()
    tools = page.get_by_role("group", name="Draw the area of the step")
    tools.get_by_role("button", name="Ellipse").click()
    page.keyboard.press("Escape")
    page.keyboard.press("a")
    page.get_by_role("button", name="Only in part of the picture…").click()
    expect(tools.get_by_role("button", name="Ellipse")).to_have_attribute("aria-pressed", "true")
