"""Power cuts: what was acknowledged is there, what was begun is finished."""

from __future__ import annotations

import io
import json
import socket
import time
import zipfile
from pathlib import Path
from typing import Any
from urllib.request import Request, urlopen

import numpy as np
from PIL import Image

from caracol.core.io.formats import collect, encode
from tests.api import Api
from tests.pictures import detailed
from tests.server import BREATH, Server, wait_until


def job(api: Api, piece: str) -> Any:
    """Return the newest export of a piece; waits while nobody answers."""
    until = time.monotonic() + 60
    while True:
        try:
            return api.call("GET", f"pieces/{piece}/exports")["items"][0]
        except OSError:
            if time.monotonic() > until:
                raise
            BREATH.wait(0.1)


def wait_for(api: Api, piece: str, *states: str) -> Any:
    """Return the newest export once it is in one of these states."""
    until = time.monotonic() + 120
    while (found := job(api, piece))["state"] not in states and time.monotonic() < until:
        assert found["state"] in ("waiting", "working")
        BREATH.wait(0.1)
    return found


def shape_of(address: str, export: str) -> tuple[int, ...]:
    with urlopen(f"{address}/api/v1/exports/{export}/file", timeout=60) as answer:
        return np.asarray(Image.open(answer)).shape


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
    options = {"size": 900, "format": "png"}
    # The worker alone: it is started again, and goes on with what it had begun. Then the web process alone.
    first = api.call("POST", f"pieces/{piece['id']}/exports", options)
    wait_for(api, piece["id"], "working")
    server.kill_part("django work")
    assert wait_for(api, piece["id"], "done")["id"] == first["id"]
    server.kill_part("gunicorn")
    assert job(api, piece["id"])["id"] == first["id"]
    assert shape_of(server.address, first["id"]) == (900, 900, 3)

    names = [
        api.upload(encode(collect((150, 300), [(0, detailed(150, 300, seed))]), "png"), f"run {seed}.png")["file_name"] for seed in range(5)
    ]
    recipe = api.call("GET", "recipes?search=deep%20twirl")["items"][0]["id"]
    run = api.call("POST", "runs", {"recipe": recipe, "photos": names, "options": {"size": 800, "format": "png"}})["id"]
    wait_until(lambda: api.call("GET", f"runs/{run}")["done"] > 0)
    server.kill_part("django work")
    wait_until(lambda: api.call("GET", f"runs/{run}")["done"] > 1)
    export = api.call("POST", f"pieces/{piece['id']}/exports", options)
    server.kill()

    again = Server(tmp_path)
    try:
        after = Api(again.address)
        kept = after.call("GET", f"pieces/{piece['id']}")
        assert (kept["name"], kept["revision"]) == ("Edit 5", 6)
        assert wait_for(after, piece["id"], "done")["id"] == export["id"]
        assert shape_of(again.address, export["id"]) == (900, 900, 3)
        wait_until(lambda: after.call("GET", f"runs/{run}")["state"] == "done")
        rows = after.call("GET", f"runs/{run}/photos")["items"]
        assert [row["state"] for row in rows] == ["done"] * 5
        with urlopen(f"{again.address}/api/v1/runs/{run}/archive", timeout=60) as answer:
            archive = zipfile.ZipFile(io.BytesIO(answer.read()))
        assert archive.namelist() == [row["file_name"] for row in rows]
        for name in archive.namelist():
            assert np.asarray(Image.open(io.BytesIO(archive.read(name)))).shape == (800, 800, 3)
        assert not list(tmp_path.rglob(".part-*"))
    finally:
        again.stop()


def test_a_client_that_has_gone_is_not_worked_for(address: str) -> None:
    """Pictures nobody waits for any more keep nobody else waiting; all else is answered while pictures wait for a seat."""
    api = Api(address)
    steps = [{"id": f"s{n}", "kind": "brushwork", "settings": {"length": 0.4, "lines": 2000 + n}} for n in range(4)]
    source = {"kind": "pattern", "form": "cells"}
    body = {"document": {"caracol": 1, "layers": [{"id": "a", "source": source, "steps": steps}]}, "size": 2048}
    data = json.dumps(body).encode()
    host, port = address.removeprefix("http://").split(":")
    head = f"POST /api/v1/previews HTTP/1.1\r\nHost: {host}:{port}\r\nContent-Type: application/json\r\nContent-Length: {len(data)}\r\n\r\n"
    waiting = [socket.create_connection((host, int(port))) for _ in range(12)]
    for connection in waiting:
        connection.sendall(head.encode() + data)
    assert api.call("GET", "pieces")["count"] >= 0
    for connection in waiting:
        connection.close()
    small = {"document": {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "fill"}}]}, "size": 64}
    request = Request(f"{address}/api/v1/previews", json.dumps(small).encode(), {"Content-Type": "application/json"})
    with urlopen(request, timeout=20) as answer:  # one of the others alone takes longer
        assert answer.headers["X-Preview-Size"] == "64x43"
