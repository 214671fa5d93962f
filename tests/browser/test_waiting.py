"""What waits says so: an export at the foot of its panel, a draft on the stage; and sizes say what they change."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from tests.api import Api

from .bench import Bench


def test_an_export_is_told_at_the_foot_and_a_smaller_poster_keeps_its_centimetres(bench: Bench, page: Page) -> None:
    page.keyboard.press("e")
    panel = page.get_by_role("complementary", name="Export")
    panel.get_by_role("radio", name="Poster").click()
    foreseen = panel.locator(".foreseen")
    # At once, whatever is weighed meanwhile.
    expect(foreseen).to_contain_text("3937 × 5512 px · 50 × 70 cm at 200 dots per inch")
    note = panel.get_by_role("note")
    note.hover()
    expect(page.locator(".veil.soft")).to_be_visible()
    note.get_by_role("button", name=re.compile(r"^Use \d+, \d+ dpi")).click()
    size = int(re.sub(r"\D", "", str(foreseen.text_content()).split("·")[0].split("×")[1]))
    assert 100 < size < 2000
    expect(foreseen).to_contain_text(f"50 × 70 cm at {round(200 * size / 5512)} dots per inch")
    page.mouse.move(300, 300)
    expect(page.locator(".veil.soft")).to_be_hidden()
    with page.expect_download():
        panel.get_by_role("button", name="Export JPEG").click()
    download = panel.get_by_role("link", name=re.compile("^Download"))
    expect(download.first).to_be_in_viewport(ratio=1)
    expect(panel.get_by_role("button", name="Export JPEG")).to_be_hidden()
    panel.get_by_role("button", name="Export another").click()
    expect(panel.get_by_role("button", name="Export JPEG")).to_be_visible()


def test_what_waits_says_behind_what_and_is_stopped_at_the_foot(bench: Bench, page: Page, address: str, ground: Path) -> None:
    api = Api(address)
    other = api.piece(ground, ("ring", {}), ("blur", {"radius": 0.2}), called="In the way")
    first = [api.call("POST", f"pieces/{other['id']}/exports", {"size": 6000, "format": "png"}) for _ in range(2)]
    page.keyboard.press("e")
    panel = page.get_by_role("complementary", name="Export")
    panel.get_by_role("button", name="Export JPEG").click()
    expect(panel.get_by_text(re.compile("^Waiting: [12] exports? before it$"))).to_be_visible()
    panel.get_by_role("button", name=re.compile("^Cancel ")).first.click()
    expect(panel.get_by_text(re.compile("was cancelled"))).to_be_visible()
    for one in first:
        api.call("POST", f"exports/{one['id']}/cancel")


def test_a_draft_says_that_it_is_one_and_its_picture_can_be_given_up(bench: Bench, page: Page) -> None:
    held: list[Route] = []

    def hold(route: Route) -> None:
        if (route.request.post_data_json or {}).get("draft"):
            route.continue_()
        else:
            held.append(route)

    page.route("**/api/v1/previews", hold)
    bench_switch = page.get_by_role("switch", name="Rim on")
    bench_switch.click()
    badge = page.get_by_role("status").filter(has_text="Draft")
    expect(badge).to_contain_text("sharp")
    page.get_by_role("button", name="Stop", exact=True).click()
    page.unroute("**/api/v1/previews")
    expect(page.locator('.stage[data-settled="no"]')).to_be_visible()
    page.get_by_role("button", name="Make it sharp").click()
    bench.settle()
    expect(badge).to_be_hidden()
