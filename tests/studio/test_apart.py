"""Foreign bytes are opened apart: what takes too long is stopped, what dies takes nothing with it."""

from __future__ import annotations

import os
import time

import pytest

from caracol.core.errors import PictureError, PieceError
from caracol.studio.sandbox import Sandbox

from .conftest import Api, png


def ends(content: bytes) -> None:
    """Stand in for a reader that a file kills."""
    os._exit(11)


def goes_on(content: bytes) -> None:
    """Stand in for a reader that never comes to an end, and holds the interpreter while it is at it."""
    while True:
        content = content[1:] + content[:1]


def refuses(content: bytes) -> None:
    """Stand in for a reader that finds faults."""
    raise PieceError(["first", "second"])


def test_what_never_ends_is_stopped_and_what_dies_is_told() -> None:
    apart = Sandbox()
    with pytest.raises(PictureError, match=r"x\.png is not opened: reading it takes longer than 0\.3 seconds"):
        apart.call(goes_on, b"abc", seconds=0.3, name="x.png")
    with pytest.raises(PictureError, match=r"x\.png is damaged in a way that its reader does not survive"):
        apart.call(ends, b"abc", seconds=60, name="x.png")
    with pytest.raises(PieceError) as told:
        apart.call(refuses, b"abc", seconds=60, name="x.png")
    assert told.value.faults == ["first", "second"]
    assert apart.call(len, b"abc", seconds=60, name="x.png") == 3


def test_processes_end_when_nothing_is_to_be_opened(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("caracol.studio.sandbox.REST", 0.06)
    apart = Sandbox()
    pid = apart.call(os.getpid, seconds=60, name="x")
    assert pid != os.getpid()
    until = time.monotonic() + 60
    while time.monotonic() < until and os.path.exists(f"/proc/{pid}/cmdline"):
        os.sched_yield()
    assert not os.path.exists(f"/proc/{pid}/cmdline")
    # And come back when there is.
    assert apart.call(os.getpid, seconds=60, name="x") != pid


def test_a_photo_is_read_in_another_process(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("caracol.studio.photos.inspect_file", lambda *_: pytest.fail("read here"))
    assert api.upload(png(5), "marsh.png").status_code == 201
    refused = api.upload(b"hello", "marsh.png")
    assert (refused.status_code, "not a picture" in refused.json()["error"]["message"]) == (422, True)
