"""Power cuts: what was acknowledged is there, what was begun is finished."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any
from urllib.request import Request, urlopen

import numpy as np
from PIL import Image

from caracol.core.formats import collect, encode
from tests.pictures import detailed

from .server import Server


def call(address: str, method: str, path: str, body: Any = None) -> Any:
    request = Request(
        f"{address}/api/{path}", None if body is None else json.dumps(body).encode(), {"Content-Type": "application/json"}, method=method
    )
    with urlopen(request, timeout=60) as answer:
        return json.load(answer)


def upload(address: str, content: bytes) -> Any:
    border = "caracol-test"
    body = (
        f'--{border}\r\nContent-Disposition: form-data; name="file"; filename="cut.png"\r\n\r\n'.encode()
        + content
        + f"\r\n--{border}--\r\n".encode()
    )
    request = Request(f"{address}/api/photos", body, {"Content-Type": f"multipart/form-data; boundary={border}"})
    with urlopen(request, timeout=60) as answer:
        return json.load(answer)


def test_killed_at_any_moment_nothing_acknowledged_is_lost(tmp_path: Path) -> None:
    server = Server(tmp_path)
    photo = upload(server.address, encode(collect((400, 800), [(0, detailed(400, 800, 3))]), "png"))
    piece = call(server.address, "POST", "pieces", {"photo": photo["id"], "start": "planet"})
    for revision in range(1, 6):
        call(
            server.address,
            "PUT",
            f"pieces/{piece['id']}",
            {"revision": revision, "name": f"Edit {revision}", "document": piece["document"]},
        )
    export = call(server.address, "POST", f"pieces/{piece['id']}/exports", {"size": 6000, "format": "png"})
    until = time.monotonic() + 60
    while call(server.address, "GET", f"pieces/{piece['id']}/exports")[0]["state"] != "working" and time.monotonic() < until:
        pass
    server.kill()

    again = Server(tmp_path)
    try:
        kept = call(again.address, "GET", f"pieces/{piece['id']}")
        assert (kept["name"], kept["revision"]) == ("Edit 5", 6)
        until = time.monotonic() + 120
        while (job := call(again.address, "GET", f"pieces/{piece['id']}/exports")[0])["state"] != "done" and time.monotonic() < until:
            assert job["state"] in ("waiting", "working")
        assert job["id"] == export["id"]
        with urlopen(f"{again.address}/api/exports/{export['id']}/file", timeout=60) as answer:
            assert np.asarray(Image.open(answer)).shape == (6000, 6000, 3)
    finally:
        again.stop()
