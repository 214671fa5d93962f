"""Take the pictures of docs/screenshots from a running demo: `.venv/bin/python scripts/screenshots.py http://localhost:8765 [name …]`."""

from __future__ import annotations

import re
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


class Camera:
    """A page on the demo, and what a person does before a picture is taken."""

    def __init__(self, page: Page, address: str) -> None:
        self.page = page
        self.address = address

    def settle(self) -> None:
        """Wait for the finished picture, then for the small ones."""
        self.page.locator('.stage[data-settled="yes"]').wait_for(timeout=60_000)
        self.page.wait_for_load_state("networkidle")

    def open(self, piece: str) -> None:
        """Open a demo piece by its name."""
        rows = self.page.request.get(f"{self.address}/api/v1/pieces?limit=200").json()["items"]
        self.page.goto(f"{self.address}/bench/{next(row['id'] for row in rows if row['name'] == piece)}")
        self.settle()

    def make(self, photo: str, *steps: tuple[str, dict[str, Any]]) -> None:
        """Open a new piece of a photo with these steps."""
        trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
        document = {"caracol": 3, "layers": [{"id": "land", "name": "Land", "source": {"kind": "photo", "photo": photo}, "steps": trail}]}
        name = photo.rsplit(".", 1)[0].replace("-", " ").capitalize()
        made = self.page.request.post(f"{self.address}/api/v1/pieces", data={"name": name, "document": document}).json()
        self.page.goto(f"{self.address}/bench/{made['id']}")
        self.settle()

    def step(self, label: str) -> None:
        """Choose a step."""
        self.page.get_by_role("button", name=re.compile(rf"^Step \d+, {label}$")).first.click()
        self.settle()

    def press(self, name: str, exact: bool = True) -> None:
        """Press a button."""
        self.page.get_by_role("button", name=name, exact=exact).first.click()
        self.page.wait_for_load_state("networkidle")


def shelf(camera: Camera) -> None:
    camera.page.goto(camera.address)
    camera.page.get_by_role("button", name=re.compile("^salt-marsh-dusk")).first.click()
    camera.page.locator(".pieces img").nth(4).wait_for(timeout=60_000)
    camera.page.wait_for_timeout(2500)


def bench(camera: Camera) -> None:
    camera.open("Marsh planet, poster 1")
    camera.step("Ring")


def finder(camera: Camera) -> None:
    camera.open("Marsh planet, poster 1")
    camera.press("Add a step at place 5")
    camera.page.get_by_label("Search steps").fill("swirl")
    camera.page.wait_for_timeout(6000)


def seam(camera: Camera) -> None:
    """The join in the middle, its cut pulled in one place."""
    camera.make(
        "salt-marsh-dusk.jpg",
        ("close-seam", {"width": 0.1, "method": "cut", "pulls": [[0.6, 0.25]]}),
        ("ring", {"spread": "shape", "reach": 1.5}),
    )
    camera.step("Close seam")
    camera.page.get_by_label("Show the join in the middle").click()
    camera.page.wait_for_timeout(2500)
    camera.settle()


def export(camera: Camera) -> None:
    camera.open("Village planet, mended")
    camera.page.keyboard.press("e")
    camera.page.get_by_role("radio", name="Poster").click()
    camera.page.get_by_role("button", name=re.compile("^Export JPEG")).click()
    camera.page.get_by_role("link", name="Download").first.wait_for(timeout=60_000)


def curves(camera: Camera) -> None:
    """A curve for red over the histogram, a point of it chosen."""
    camera.open("Tiles in crossed colours")
    camera.step("Curves")
    camera.page.get_by_label("Curve", exact=True).get_by_text("Red").click()
    camera.page.get_by_role("button", name=re.compile("^Point 3 of Red")).click()
    camera.page.wait_for_timeout(1500)


def light(camera: Camera) -> None:
    """A lamp over the marsh planet, its round on the picture."""
    camera.open("Marsh planet under a lamp")
    camera.step("Light")
    camera.page.wait_for_timeout(1000)


def figure(camera: Camera) -> None:
    """The heron as it is cut out of the reeds, to be corrected."""
    camera.page.goto(f"{camera.address}/figure/Heron.png")
    camera.page.get_by_alt_text("The figure as it will be cut out").wait_for(timeout=60_000)
    camera.page.wait_for_timeout(1500)


def touch_up(camera: Camera) -> None:
    """A stroke that is chosen: its line, its source, and what it is set to."""
    camera.open("Village planet, mended")
    camera.step("Touch-up")
    camera.page.get_by_role("button", name="2 · Heal").click()
    camera.page.locator(".panel").evaluate("(panel) => panel.scrollTo(0, 0)")
    camera.page.wait_for_timeout(1200)


def formula(camera: Camera) -> None:
    camera.make(
        "kelp-garden.jpg", ("refit", {"ratio": 1, "how": "cover"}), ("formula", {"first": "rad", "second": "ang + bend * (1 - rad) ^ 2"})
    )
    camera.step("Formula")


def layers(camera: Camera) -> None:
    camera.open("Vortex of kelp and tiles")
    camera.page.locator(".lane-name").first.click()
    camera.settle()


def area(camera: Camera) -> None:
    camera.open("Sorted rain on the ridge")
    camera.step("Pixel sort")
    camera.press("Area")
    camera.page.wait_for_timeout(1500)


def blends(camera: Camera) -> None:
    layers(camera)
    camera.press("Blend mode: ", exact=False)
    camera.page.wait_for_timeout(5000)


def slices(camera: Camera) -> None:
    camera.open("Station clock, torn")
    camera.step("Slices")
    camera.page.get_by_label("Bar 9", exact=True).focus()
    camera.settle()


def roll(camera: Camera) -> None:
    camera.open("Rail yard, off register")
    camera.page.keyboard.press("l")
    camera.page.wait_for_timeout(7000)


def melt(camera: Camera) -> None:
    camera.open("Melted kelp")
    camera.step("Melt")
    camera.page.locator(".panel").evaluate("(panel) => panel.scrollTo(0, 0)")


def recipes(camera: Camera) -> None:
    camera.page.goto(f"{camera.address}/recipes")
    for number in range(12):
        picture = camera.page.locator("img.card-picture").nth(number)
        picture.evaluate("(one) => one.naturalWidth > 0 || new Promise((done) => one.addEventListener('load', done, { once: true }))")


def try_on(camera: Camera) -> None:
    """A recipe on every photo, larger than it has it; two picked."""
    recipes(camera)
    camera.page.get_by_role("button", name="Planet planet").click()
    camera.press("Try it on your photos")
    camera.page.get_by_label("Size, number").fill("1.6")
    camera.page.get_by_label("Size, number").press("Enter")
    for number in (0, 2):
        camera.page.get_by_role("checkbox").nth(number).click()
    camera.page.locator(".tries img.there").nth(11).wait_for(timeout=60_000)
    camera.page.wait_for_timeout(2500)


def run(camera: Camera) -> None:
    """A recipe run on all photos."""
    recipes(camera)
    camera.page.get_by_role("button", name="Mirror flower twist").first.click()
    camera.press("Try it on your photos")
    camera.page.get_by_role("button", name=re.compile("^Select all")).click()
    camera.page.get_by_role("button", name=re.compile("^Export \d+ files")).click()
    camera.page.get_by_role("link", name=re.compile("^All .* files as a ZIP")).wait_for(timeout=120_000)
    camera.page.wait_for_function(
        "() => document.querySelector('.run-head [role=status]').textContent.match(/^(\\d+) of \\1 /)", timeout=120_000
    )
    camera.page.wait_for_load_state("networkidle")


SHOTS: dict[str, Callable[[Camera], None]] = {
    shot.__name__.replace("_", "-"): shot
    for shot in (
        *(shelf, bench, finder, seam, export, curves, light, figure, touch_up, formula, layers, area, blends),
        *(slices, roll, melt, recipes, try_on, run),
    )
}


def main() -> None:
    """Take all pictures, or those that are named."""
    address, *names = sys.argv[1:]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        for name in names or SHOTS:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            SHOTS[name](Camera(page, address))
            page.mouse.move(2, 2)
            page.wait_for_timeout(400)
            page.screenshot(path=FOLDER / f"{name}.png")
            page.close()
            print(name)
        browser.close()


if __name__ == "__main__":
    main()
