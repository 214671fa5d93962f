"""Power cuts: what was acknowledged is there, what was begun is finished."""

from __future__ import annotations

import time
from pathlib import Path
from urllib.request import urlopen

import numpy as np
from PIL import Image

from caracol.core.io.formats import collect, encode
from tests.pictures import detailed

from .api import Api
from .server import Server


def test_killed_at_any_moment_nothing_acknowledged_is_lost(tmp_path: Path) -> None:
    server = Server(tmp_path)
    api = Api(server.address)
    photo = api.upload(encode(collect((400, 800), [(0, detailed(400, 800, 3))]), "png"), "cut.png")
    piece = api.call("POST", "pieces", {"photo": photo["id"], "start": "planet"})
    for revision in range(1, 6):
        api.call(
            "PUT",
            f"pieces/{piece['id']}",
            {"revision": revision, "name": f"Edit {revision}", "document": piece["document"]},
        )
    export = api.call("POST", f"pieces/{piece['id']}/exports", {"size": 4000, "format": "png"})
    until = time.monotonic() + 60
    while api.call("GET", f"pieces/{piece['id']}/exports")["items"][0]["state"] != "working" and time.monotonic() < until:
        pass
    server.kill()

    again = Server(tmp_path)
    try:
        kept = Api(again.address).call("GET", f"pieces/{piece['id']}")
        assert (kept["name"], kept["revision"]) == ("Edit 5", 6)
        until = time.monotonic() + 120
        while (job := Api(again.address).call("GET", f"pieces/{piece['id']}/exports")["items"][0])[
            "state"
        ] != "done" and time.monotonic() < until:
            assert job["state"] in ("waiting", "working")
        assert job["id"] == export["id"]
        with urlopen(f"{again.address}/api/exports/{export['id']}/file", timeout=60) as answer:
            assert np.asarray(Image.open(answer)).shape == (4000, 4000, 3)
    finally:
        again.stop()
