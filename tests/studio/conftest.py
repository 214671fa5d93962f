"""What the studio's tests share: a client of the API and photos on the Shelf."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from caracol.core.io.formats import collect
from tests.pictures import detailed


def png(seed: int = 1) -> bytes:
    """Return a small photo as a file; another one for each seed."""
    out = io.BytesIO()
    Image.fromarray(collect((128, 256), [(0, detailed(128, 256, seed))])).save(out, "PNG")
    return out.getvalue()


def file_of(stored: str) -> Path:
    """Return where a stored file lies."""
    return Path(default_storage.path(stored))


class Api:
    """The API as a browser would call it."""

    def __init__(self) -> None:
        self.client = Client()

    def get(self, path: str) -> Any:
        return self.client.get(f"/api/v1/{path}")

    def rows(self, path: str) -> list[dict[str, Any]]:
        """Return the first page of a list."""
        return list(self.get(path).json()["items"])

    def send(self, method: str, path: str, body: Any = None) -> Any:
        return getattr(self.client, method)(f"/api/v1/{path}", data=body, content_type="application/json")

    def upload(self, content: bytes, name: str = "marsh.png") -> Any:
        return self.client.post("/api/v1/photos", {"file": SimpleUploadedFile(name, content)})

    def photo(self, seed: int = 1) -> dict[str, Any]:
        answer = self.upload(png(seed), f"marsh {seed}.png")
        assert answer.status_code in (200, 201), answer.content
        return dict(answer.json())

    def piece(self, start: str = "planet", seed: int = 1) -> dict[str, Any]:
        answer = self.send("post", "pieces", {"photo": self.photo(seed)["id"], "start": start})
        assert answer.status_code == 201, answer.content
        return dict(answer.json())


@pytest.fixture
def api(db: None) -> Api:
    return Api()


@pytest.fixture
def pixels() -> Any:
    def read(content: bytes) -> np.ndarray:
        return np.asarray(Image.open(io.BytesIO(content)).convert("RGB"))

    return read
