"""Leaving, closing, losing the connection, reloading: nothing that was done is lost, and it can still be undone."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import Page, Route, expect

from tests.api import Api

from .bench import Bench, difference


def stored(page: Page, address: str) -> dict[str, Any]:
    """Return the piece as the server has it."""
    return dict(Api(address).call("GET", f"pieces/{page.url.rsplit('/', 1)[1]}"))


def steps_on(piece: dict[str, Any]) -> list[bool]:
    return [step.get("on", True) for step in piece["document"]["layers"][0]["steps"]]


def wait_for(page: Page, address: str, piece: str, revision: int) -> dict[str, Any]:
    """Wait until the server has a revision of a piece, and return it."""
    for _ in range(100):
        found = dict(Api(address).call("GET", f"pieces/{piece}"))
        if found["revision"] >= revision:
            return found
        page.wait_for_timeout(50)
    raise AssertionError(f"revision {revision} never came; there is {found['revision']}")


def test_an_edit_right_before_leaving_for_the_shelf_is_saved(bench: Bench, page: Page, address: str) -> None:
    piece = page.url.rsplit("/", 1)[1]
    page.get_by_role("switch", name="Rim on").click()
    page.get_by_role("link", name="Shelf", exact=True).click()
    assert steps_on(wait_for(page, address, piece, 2)) == [True, True, False]
    page.get_by_role("link", name=re.compile("^Open photo-")).first.click()
    bench.settle()
    expect(page.get_by_role("switch", name="Rim on")).not_to_be_checked()
    expect(page.get_by_role("alertdialog")).to_have_count(0)


def test_two_quick_edits_while_a_save_is_on_its_way_are_no_quarrel(bench: Bench, page: Page, address: str) -> None:
    """The first save is held up; two more wait for it. Nothing was changed elsewhere, and nothing says so."""
    piece, held = page.url.rsplit("/", 1)[1], []

    def hold(route: Route) -> None:
        if route.request.method == "PUT" and not held:
            held.append(route)
        else:
            route.continue_()

    page.route("**/api/v1/pieces/*", hold)
    page.get_by_role("switch", name="Rim on").click()
    expect(page.get_by_role("status").filter(has_text="Saving")).to_be_visible()
    page.get_by_role("switch", name="Close seam on").click()
    page.get_by_role("button", name="Versions").click()
    page.get_by_label("Name of the version").fill("While it is saved")
    page.keyboard.press("Enter")
    page.get_by_role("switch", name="Ring on").click()
    held[0].continue_()
    expect(page.get_by_role("button", name="Compare with While it is saved")).to_be_visible()
    bench.saved()
    expect(page.get_by_role("alertdialog")).to_have_count(0)
    assert steps_on(stored(page, address)) == [False, False, False]
    assert piece == page.url.rsplit("/", 1)[1]


def test_a_page_closed_without_a_connection_gives_its_edits_to_the_next(bench: Bench, page: Page, address: str) -> None:
    bench.saved()
    page.route("**/api/v1/pieces/*", lambda route: route.abort() if route.request.method == "PUT" else route.continue_())
    page.get_by_role("switch", name="Rim on").click()
    expect(page.get_by_role("status").filter(has_text="Not saved")).to_have_attribute("title", re.compile("does not answer"))
    banner = page.get_by_role("alert", name="Not saved yet")
    expect(banner).to_contain_text("does not answer")
    with page.expect_download() as download:
        banner.get_by_role("button", name="Save as a file").click()
    assert steps_on({"document": json.loads(Path(download.value.path()).read_text())}) == [True, True, False]
    there = page.url
    page.goto("about:blank")
    page.unroute("**/api/v1/pieces/*")
    page.goto(there)
    bench.settle()
    expect(page.get_by_role("switch", name="Rim on")).not_to_be_checked()
    bench.saved()
    assert steps_on(stored(page, address)) == [True, True, False]
    page.keyboard.press("Control+z")
    expect(page.get_by_role("switch", name="Rim on")).to_be_checked()


def test_an_answer_that_got_lost_is_no_quarrel(bench: Bench, page: Page, address: str) -> None:
    """The server took the save, its answer never came: the same save is sent again and known."""
    bench.saved()
    lost: list[int] = []

    def lose(route: Route) -> None:
        if route.request.method == "PUT" and not lost:
            lost.append(route.fetch().status)
            route.abort()
        else:
            route.continue_()

    page.route("**/api/v1/pieces/*", lose)
    page.get_by_role("switch", name="Rim on").click()
    expect(page.get_by_role("status").filter(has_text="Not saved")).to_have_attribute("title", re.compile("does not answer"))
    assert lost == [200]
    bench.saved()
    expect(page.get_by_role("alertdialog")).to_have_count(0)
    assert stored(page, address)["revision"] == 2


def test_undo_and_history_are_there_after_a_reload(bench: Bench, page: Page) -> None:
    start = bench.picture()
    page.get_by_role("switch", name="Rim on").click()
    off = bench.picture()
    bench.choose("Ring")
    page.get_by_label("Size, number").fill("0.9")
    page.get_by_label("Size, number").press("Enter")
    assert bench.settings("ring")["reach"] == 0.9
    small = bench.picture()
    page.keyboard.press("Control+z")
    assert bench.settings("ring")["reach"] == 1.5
    page.reload()
    bench.settle()
    page.get_by_role("button", name="History").click()
    expect(page.get_by_label("History").get_by_role("listitem")).to_have_count(3)
    assert difference(bench.picture(), off) < 0.01
    page.keyboard.press("Control+Shift+z")
    assert bench.settings("ring")["reach"] == 0.9
    assert difference(bench.picture(), small) < 0.01
    for _ in range(2):
        page.keyboard.press("Control+z")
    assert bench.settings("ring")["reach"] == 1.5
    assert difference(bench.picture(), start) < 0.01
    assert not np.array_equal(start, small)


def test_resets_one_after_the_other_are_undone_one_by_one(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    for name, value in (("Size", "0.8"), ("Seam", "90")):
        page.get_by_label(f"{name}, number").fill(value)
        page.get_by_label(f"{name}, number").press("Enter")
    bench.settle()
    bench.knob("Seam").locator("circle").first.dblclick()
    bench.knob("Size").locator("circle").first.dblclick()
    assert (bench.settings("ring")["seam"], bench.settings("ring")["reach"]) == (None, 1)
    page.keyboard.press("Control+z")
    assert (bench.settings("ring")["seam"], bench.settings("ring")["reach"]) == (None, 0.8)


def test_the_reach_goes_with_the_hand(bench: Bench, page: Page) -> None:
    """The planet's reach of 1.5 lies outside the picture: forty pixels outwards make it as much larger as the hand went, no more."""
    bench.choose("Ring")
    box = bench.place()
    x, y = bench.at(bench.knob("Size"))
    middle = box["x"] + box["width"] / 2
    way = 40 if x > middle else -40
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + way / 2, y)
    page.mouse.move(x + way, y)
    now = bench.at(bench.knob("Size"))
    assert abs(now[0] - (x + way)) < 1.5
    page.mouse.up()
    bench.settle()
    reach = bench.settings("ring")["reach"]
    assert abs(reach - 1.5 * (abs(x - middle) + 40) / abs(x - middle)) < 0.02


def test_a_piece_that_cannot_be_read_says_so_and_the_others_open(plain: Bench, page: Page, address: str) -> None:
    import json
    import sqlite3

    piece = page.url.rsplit("/", 1)[1]
    name = stored(page, address)["name"]
    with sqlite3.connect(plain.var / "caracol.sqlite3", timeout=20) as database:
        document = {"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "rign"}]}]}
        database.execute("update studio_piece set document = ? where id = ?", (json.dumps(document), piece.replace("-", "")))
    page.goto("/")
    page.goto(f"/bench/{piece}")
    expect(page.get_by_role("heading", name=re.compile("cannot be read by this version"))).to_be_visible()
    expect(page.get_by_text("unknown kind 'rign'; did you mean ring")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Download its file").click()
    assert "rign" in download.value.path().read_text()
    page.get_by_role("button", name="To the Shelf").click()
    page.get_by_role("button", name=f"Delete {name}").click()
    expect(page.get_by_text("was deleted")).to_be_visible()
    assert piece not in [row["id"] for row in Api(address).call("GET", "pieces")["items"]]
