"""The page that is shipped: light enough, and with everything it needs."""

from __future__ import annotations

import gzip
import re

from caracol.studio.settings import WEB_DIST

MOST_SCRIPT_KB = 450
"""Compressed, all scripts together; what is measured is a tenth below."""


def test_the_page_stays_light() -> None:
    scripts = list(WEB_DIST.glob("assets/*.js"))
    assert scripts, "build the page first: make web/dist/index.html"
    assert sum(len(gzip.compress(script.read_bytes())) for script in scripts) / 1024 < MOST_SCRIPT_KB


def test_nothing_is_fetched_from_elsewhere() -> None:
    index = (WEB_DIST / "index.html").read_text(encoding="utf-8")
    assert re.findall(r'(?:src|href)="(?!/|data:)([^"]+)"', index) == []
    for sheet in WEB_DIST.glob("assets/*.css"):
        assert re.findall(r"url\((?!/|data:|\.|#)([^)]+)\)", sheet.read_text(encoding="utf-8")) == []
