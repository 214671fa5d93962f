"""Nothing moves that should not: the document never scrolls, no word of a panel is cut, whatever is opened in whichever window."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from caracol.core.catalogue.registry import KINDS
from tests.api import Api

from .bench import Bench

# What is cut: words that their box clips, figures that are wider than their box, buttons over the panel's edge.
MEASURE = """() => {
  const page = document.scrollingElement;
  const grown = [page.scrollWidth - innerWidth, page.scrollHeight - innerHeight, window.scrollX, window.scrollY];
  const panel = document.querySelector('.bench-side > aside, .bench-side > section');
  const edge = panel.getBoundingClientRect().right;
  const seen = [...panel.querySelectorAll('h2, h3, button, label, dt, strong, .name, .small, input:not([type=radio])')].filter(
    (one) => one.offsetParent !== null && !one.matches('.visually-hidden, [readonly]'));
  const cut = seen.filter((one) => {
    const hides = !one.matches('.clip') && (one instanceof HTMLInputElement || getComputedStyle(one).overflow !== 'visible');
    return (hides && one.scrollWidth > one.clientWidth + 1) || one.getBoundingClientRect().right > edge + 1;
  });
  const name = (one) => `${one.tagName} ${one.ariaLabel ?? one.textContent ?? ''} ${one.value ?? ''}`.trim().slice(0, 60);
  return { grown: grown.filter((by) => by > 0), wide: panel.scrollWidth - panel.clientWidth, cut: cut.map(name) };
}"""
# Every step by the key that selects the next, each when its panel is there; what is wrong with which.
ALL = """async ([measure, count]) => {
  const look = eval(measure);
  const told = () => document.querySelector('[aria-label=Selected]').textContent;
  const faults = {};
  for (let number = 1; number <= count; number += 1) {
    window.dispatchEvent(new KeyboardEvent('keydown', { key: '.', code: 'Period' }));
    while (!told().includes(`step ${number} of ${count}`)) await new Promise(requestAnimationFrame);
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    const found = look();
    if (found.grown.length || found.wide || found.cut.length) faults[told()] = found;
  }
  return faults;
}"""


@pytest.mark.parametrize("window", [(1280, 800), (1024, 700), (640, 400)])
def test_every_panel_fits_its_frame(page: Page, ground: Path, var: Path, address: str, window: tuple[int, int]) -> None:
    # Switched off, they cost nothing to look at.
    piece = Api(address).piece(ground, *((kind.key, {}) for kind in KINDS), called="Every kind")
    piece["document"]["layers"][0]["steps"] = [dict(step, on=False) for step in piece["document"]["layers"][0]["steps"]]
    Api(address).call("PUT", f"pieces/{piece['id']}", {"revision": piece["revision"], "name": "Every kind", "document": piece["document"]})
    page.set_viewport_size({"width": window[0], "height": window[1]})
    bench = Bench(page, var).open(piece)
    faults = page.evaluate(ALL, [MEASURE, len(KINDS)])
    expect(page.get_by_role("status", name="Selected")).to_have_text(f"{KINDS[-1].label}, step {len(KINDS)} of {len(KINDS)}, off")
    page.keyboard.press("f")
    for key in "ev":
        page.keyboard.press(key)
        bench.settle()
        found = page.evaluate(MEASURE)
        if any(found.values()):
            faults[key] = found
    # The longest that is said of saving, with all that can be pressed beside it.
    page.keyboard.press("Escape")
    page.route("**/api/v1/pieces/*", lambda route: route.abort() if route.request.method == "PUT" else route.continue_())
    page.keyboard.press(".")
    page.keyboard.press("x")
    expect(page.get_by_role("status").filter(has_text="Not saved")).to_be_visible()
    found = page.evaluate(MEASURE)
    if found["grown"]:
        faults["not saved"] = found
    assert not faults, json.dumps(faults, indent=1)
