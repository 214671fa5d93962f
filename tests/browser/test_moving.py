"""Looking about: Space, the middle button, two fingers, the wheel; what leads where by one press; a shape that stays."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, CDPSession, Page, expect

from tests.api import Api

from .bench import Bench, difference
from .test_layers import add_layer, trace


def corner(bench: Bench) -> tuple[float, float]:
    box = bench.place()
    return box["x"], box["y"]


def carried(bench: Bench, page: Page) -> tuple[float, float]:
    """Drag by 60 right and 40 down from the middle of the picture; return how far the picture went."""
    x, y = corner(bench)
    box = bench.place()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    trace(page, middle, (middle[0] + 60, middle[1] + 40))
    after = corner(bench)
    return after[0] - x, after[1] - y


def test_space_and_the_middle_button_pan_over_whatever_lies_there(blank: Bench, page: Page, ground: Path, address: str) -> None:
    plain = blank.open(Api(address).piece(ground, ("touch-up", {})))
    plain.choose("Touch-up")
    before = plain.saved()
    for button in ("Space", "middle"):
        # The brush of the touch-up is in the hand: without Space it would paint.
        if button == "Space":
            page.keyboard.down("Space")
            assert carried(plain, page) == pytest.approx((60, 40), abs=1)
            page.keyboard.up("Space")
        else:
            x, y = corner(plain)
            page.mouse.move(400, 300)
            page.mouse.down(button="middle")
            page.mouse.move(450, 290)
            page.mouse.up(button="middle")
            assert corner(plain) == pytest.approx((x + 50, y - 10), abs=1)
    assert plain.saved() == before
    # A layer's face, and a button that was pressed last: Space does not press it again.
    page.keyboard.press("0")
    page.get_by_role("button", name=re.compile("^Layer")).first.click()
    page.get_by_role("button", name="Split line", exact=True).click()
    page.keyboard.down("Space")
    assert carried(plain, page) == pytest.approx((60, 40), abs=1)
    page.keyboard.up("Space")
    expect(page.get_by_role("button", name="Split line", exact=True)).to_have_attribute("aria-pressed", "true")
    assert plain.saved() == before


def wheel(page: Page, **what: Any) -> None:
    """A wheel event as a browser sends it; Playwright's own has no notches."""
    page.evaluate(
        """({ dx, dy, notches, ctrl, at, later }) => {
          const event = new WheelEvent('wheel', { deltaX: dx, deltaY: dy, ctrlKey: ctrl, bubbles: true, cancelable: true, ...at });
          Object.defineProperty(event, 'wheelDeltaY', { value: notches });
          Object.defineProperty(event, 'timeStamp', { value: performance.now() + later });
          document.querySelector('.stage').dispatchEvent(event);
        }""",
        {"dx": 0, "dy": 0, "notches": 0, "ctrl": False, "at": {"clientX": 300, "clientY": 200}, "later": 0} | what,
    )


def test_a_wheel_zooms_two_fingers_pan_and_a_pinch_is_true(plain: Bench, page: Page) -> None:
    box = plain.place()
    wheel(page, dy=-100, notches=120)
    larger = plain.place()
    assert larger["width"] > 1.1 * box["width"]
    # What lay under the pointer lies there still.
    assert (300 - larger["x"]) / larger["width"] == pytest.approx((300 - box["x"]) / box["width"], abs=0.003)
    wheel(page, dx=12, dy=-30, notches=90, later=1000)
    panned = plain.place()
    assert (panned["x"] - larger["x"], panned["y"] - larger["y"]) == pytest.approx((-12, 30), abs=1)
    # Fingers that spread to 1.5 times on a pad: a hundred times the logarithm.
    wheel(page, dy=-40.5465, notches=121.6, ctrl=True, later=2000)
    assert plain.place()["width"] == pytest.approx(1.5 * panned["width"], rel=0.01)


@pytest.fixture
def touched(chromium: Browser, address: str) -> Iterator[Page]:
    """Return a page that is touched with fingers."""
    context = chromium.new_context(
        base_url=address, viewport={"width": 1024, "height": 700}, has_touch=True, is_mobile=True, reduced_motion="reduce", bypass_csp=True
    )
    yield context.new_page()
    context.close()


def touch(session: CDPSession, kind: str, *fingers: tuple[float, float]) -> None:
    points = [{"x": x, "y": y, "id": n} for n, (x, y) in enumerate(fingers)]
    session.send("Input.dispatchTouchEvent", {"type": f"touch{kind}", "touchPoints": points})


def test_by_touch(touched: Page, ground: Path, var: Path, address: str) -> None:
    bench = Bench(touched, var).open(Api(address).piece(ground, ("touch-up", {}), ("ring", {"inside": "top"}), called="By touch"))
    session = touched.context.new_cdp_session(touched)
    touched.get_by_role("button", name="Step 1, Touch-up").tap()
    bench.settle()
    before, box = bench.saved(), bench.place()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    # The first finger begins a stroke; with the second both look about, and nothing was painted.
    touch(session, "Start", (x - 40, y))
    touch(session, "Move", (x - 44, y))
    touch(session, "Start", (x - 44, y), (x + 44, y))
    touch(session, "Move", (x - 88 + 20, y), (x + 88 + 20, y))
    touch(session, "End")
    larger = bench.place()
    assert larger["width"] == pytest.approx(2 * box["width"], rel=0.03)
    assert larger["x"] + larger["width"] / 2 == pytest.approx(x + 20, abs=3)
    assert bench.saved() == before
    touched.get_by_role("button", name="Fit").tap()
    # A handle is caught from beside it, and follows the finger.
    touched.get_by_role("button", name="Step 2, Ring").tap()
    bench.settle()
    reach = bench.at(bench.knob("Size"))
    touch(session, "Start", (reach[0] + 15, reach[1] + 14))
    for far in (10, 20, 30):
        touch(session, "Move", (reach[0] + 15, reach[1] + 14 + far))
    touch(session, "End")
    assert bench.settings("ring") != before["layers"][0]["steps"][1]["settings"]
    name = touched.get_by_role("button", name="Name of the piece: By touch. Rename")
    expect(name).to_be_in_viewport(ratio=1)
    small = touched.evaluate(
        """() => [...document.querySelectorAll('button, [role=radio], [role=slider], [role=switch], input')]
          .filter((one) => one.offsetParent && !one.matches('.visually-hidden, .skips *, .ant-segmented-item-input, [aria-hidden=true]'))
          .map((one) => [one.ariaLabel ?? one.textContent, (one.closest('.ant-slider, .ant-input-number') ?? one).getBoundingClientRect()])
          .filter(([, box]) => box.width && Math.min(box.width, box.height) < 43.5)
          .map(([name, box]) => `${name} ${box.width.toFixed()}×${box.height.toFixed()}`)"""
    )
    assert small == []


def test_the_figure_page_is_zoomed_and_panned_with_its_brush_as_large_as_before(page: Page, photo: Path, var: Path) -> None:
    Bench(page, var).upload(photo)
    page.get_by_role("button", name="Cut a figure out of it").click()
    picture = page.get_by_role("img", name=photo.stem)
    expect(picture).to_be_visible()
    page.get_by_label("Tool").get_by_text("Add").click()

    def brush() -> float:
        page.mouse.move(500, 401)
        page.mouse.move(500, 400)
        return float(page.locator(".figure-stage circle").first.get_attribute("r") or 0)

    size, box = brush(), picture.bounding_box()
    assert box is not None
    for _ in range(4):
        page.keyboard.press("+")
    larger = picture.bounding_box()
    assert larger is not None
    assert larger["width"] == pytest.approx(1.25**4 * box["width"], rel=0.01)
    assert brush() == pytest.approx(size, rel=0.01)
    page.keyboard.down("Space")
    trace(page, (400, 300), (440, 330))
    page.keyboard.up("Space")
    panned = picture.bounding_box()
    assert panned is not None
    assert (panned["x"] - larger["x"], panned["y"] - larger["y"]) == pytest.approx((40, 30), abs=1)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.get_by_role("button", name="Fit").click()
    expect(page.get_by_role("status", name="Zoom")).to_have_text("fits")


def test_one_press_leads_there(bench: Bench, page: Page, called: str) -> None:
    # All of a card opens its piece.
    page.goto("/")
    card = page.locator("section[aria-label=Pieces] .card").filter(has_text=called)
    box = card.get_by_text("3 steps").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + 4, box["y"] + 4)
    bench.settle()
    name = bench.saved()["layers"][0]["source"]["photo"]
    add_layer(bench, page, f"Layer from {name.rsplit('.', 1)[0]}")
    # A step of a lane that is folded.
    page.get_by_role("button", name="Rim of Land").click()
    expect(page.get_by_role("status", name="Selected")).to_have_text("Rim, step 3 of 3")
    # A step that was added far to the right is in sight.
    for place, step in ((4, "Soft twirl"), (5, "Deep twirl"), (6, "Soft twirl"), (7, "Deep twirl")):
        bench.add(step, place)
    expect(page.get_by_role("button", name=re.compile("^Step 7, "))).to_be_in_viewport(ratio=0.9)


def test_a_layer_below_does_not_change_the_shape(bench: Bench, page: Page) -> None:
    before = bench.place()
    name = bench.saved()["layers"][0]["source"]["photo"]
    page.get_by_role("button", name="+ Layer").click()
    page.get_by_text("Below Land").click()
    page.get_by_role("button", name=f"Layer from {name.rsplit('.', 1)[0]}", exact=True).click()
    bench.settle()
    page.keyboard.press("f")
    picture = bench.picture()
    after = bench.place()
    assert after["width"] / after["height"] == pytest.approx(before["width"] / before["height"], rel=0.005)
    assert bench.saved()["frame"]["ratio"] == pytest.approx(1, abs=1e-4)
    page.keyboard.press("Control+z")
    assert bench.saved().get("frame", {}).get("ratio") is None
    assert difference(bench.picture(), picture) < 30
