"""The running Caracol's API, for what a test needs but is not about."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from urllib.request import Request, urlopen


class Api:
    """Requests to one address; an answer that is no success raises."""

    def __init__(self, address: str) -> None:
        self.address = address

    def call(self, method: str, path: str, body: Any = None) -> Any:
        """Send JSON and return the JSON that comes back."""
        data = None if body is None else json.dumps(body).encode()
        return self._answer(Request(f"{self.address}/api/v1/{path}", data, {"Content-Type": "application/json"}, method=method))

    def upload(self, content: bytes, name: str) -> Any:
        """Put a picture file on the Shelf."""
        border = "caracol-test"
        head = f'--{border}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n\r\n'
        body = head.encode() + content + f"\r\n--{border}--\r\n".encode()
        return self._answer(Request(f"{self.address}/api/v1/photos", body, {"Content-Type": f"multipart/form-data; boundary={border}"}))

    def piece(self, photo: Path, *steps: tuple[str, dict[str, Any]], called: str | None = None) -> Any:
        """Make a piece of these steps from a photo file, called like it unless told otherwise."""
        name = self.upload(photo.read_bytes(), photo.name)["file_name"]
        trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
        land = {"id": "land", "name": "Land", "source": {"kind": "photo", "photo": name}, "steps": trail}
        return self.call("POST", "pieces", {"name": called or photo.stem, "document": {"caracol": 1, "layers": [land]}})

    @staticmethod
    def _answer(request: Request) -> Any:
        with urlopen(request, timeout=60) as answer:
            return json.load(answer)
