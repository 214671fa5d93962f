"""One running Caracol under requests that cost their utmost: everybody else is answered meanwhile."""

from __future__ import annotations

import base64
import io
import json
import struct
import time
import zlib
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from http.client import HTTPConnection
from statistics import median
from typing import Any

import pytest
from PIL import Image

from caracol.core.io.xmp import TRAIL
from tests.server import Server

from .conftest import png

LENSES = [
    {"id": f"l{n}", "source": {"kind": "below"}, "opacity": 0.5, "steps": [{"id": "s", "kind": "lens", "settings": {}}]} for n in range(16)
]
BOUNDARY = "caracol-test"


@pytest.fixture(scope="module")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    started = Server(tmp_path_factory.mktemp("steady"))
    yield started
    started.stop()


def ask(server: Server, method: str, path: str, body: Any = None, kind: str = "application/json") -> tuple[int, dict[str, str], bytes]:
    connection = HTTPConnection(server.address.removeprefix("http://"), timeout=120)
    connection.request(method, path, body, {"Content-Type": kind} if body is not None else {})
    answer = connection.getresponse()
    found = answer.status, dict(answer.getheaders()), answer.read()
    connection.close()
    return found


def send(server: Server, path: str, content: bytes, name: str = "x.png") -> tuple[int, dict[str, str], bytes]:
    head = f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\nContent-Type: image/png\r\n\r\n'
    return ask(
        server, "POST", path, head.encode() + content + f"\r\n--{BOUNDARY}--\r\n".encode(), f"multipart/form-data; boundary={BOUNDARY}"
    )


def carrying(document: Any, filling: str = "") -> bytes:
    """Return a picture file that carries a piece, and more in its packet."""
    packed = base64.b64encode(zlib.compress(json.dumps(document).encode())).decode()
    out = io.BytesIO()
    xml = f'<x xmlns:c="{TRAIL}">{filling}<c:trail>{packed}</c:trail></x>'
    Image.new("RGB", (4, 4)).save(out, "WEBP", xmp=xml.encode())
    return out.getvalue()


def utmost(server: Server, photo: str) -> list[Any]:
    """Return calls that each cost as much as a small or a large request may."""
    tag = struct.pack("<HHII", 700, 1, 4_000_000_000, 26)
    look = {"document": {"caracol": 3, "layers": [{"id": "a", "source": {"kind": "photo", "photo": photo}}, *LENSES]}, "size": 1024}
    wrong = [{"x": n} for n in range(200_000)]
    return [
        lambda: ask(server, "POST", "/api/v1/previews", json.dumps(look)),
        lambda: ask(server, "POST", "/api/v1/pieces", json.dumps({"document": {"caracol": 3, "layers": wrong}})),
        lambda: ask(server, "POST", "/api/v1/pieces", b'{"document": {"layers": [' + b"1," * 4_000_000 + b"1]}}"),
        lambda: ask(server, "POST", "/api/v1/pieces", b"[" * 4_000_000),
        lambda: send(server, "/api/v1/pieces/imports", carrying({"caracol": 3, "layers": wrong})),
        lambda: send(server, "/api/v1/pieces/imports", carrying({}, "<b/>" * 2_000_000)),
        lambda: send(server, "/api/v1/photos", b"II*\0" + struct.pack("<IH", 8, 1) + tag + b"\0" * 124, "x.tif"),
    ]


def test_others_are_answered_within_a_second(server: Server) -> None:
    status, _, body = send(server, "/api/v1/photos", png(3), "marsh.png")
    assert status == 201, body
    calls = utmost(server, json.loads(body)["file_name"])
    waited: list[float] = []
    with ThreadPoolExecutor(len(calls)) as pool:
        asked = [pool.submit(call) for call in calls]
        while not all(one.done() for one in asked) or not waited:
            begun = time.monotonic()
            assert ask(server, "GET", "/api/v1/runs")[0] == 200
            waited.append(time.monotonic() - begun)
        answers = [one.result() for one in asked]
    assert [status for status, _, _ in answers] == [200, 422, 422, 422, 422, 422, 422]
    # All of it is told in few words.
    assert max(len(body) for _, _, body in answers[1:]) < 8000
    assert median(waited) < 1


def test_what_is_here_is_for_its_own_page_alone(server: Server) -> None:
    for path in ("/", "/api/v1/runs", "/assets/none.js"):
        _, headers, _ = ask(server, "GET", path)
        assert "Access-Control-Allow-Origin" not in headers, path
        assert headers["Cross-Origin-Resource-Policy"] == "same-origin", path
