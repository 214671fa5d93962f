"""Worker, web process, or both killed at random moments of a run: afterwards every photo is done exactly once, and every file opens.

python -m scripts.run_kills [--kills 20] [--photos 40] [--seed 1]
"""

from __future__ import annotations

import argparse
import io
import os
import random
import sys
import tempfile
import time
import zipfile
from pathlib import Path
from typing import Any
from urllib.error import URLError
from urllib.request import urlopen

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
os.environ["CARACOL_SOUND"] = "0"  # every death counts as a first one: else twenty of them would take minutes of pauses

import numpy as np
from PIL import Image
from tests.api import Api
from tests.server import Server


def picture(number: int) -> bytes:
    """Return a small photo, another for each number."""
    out = io.BytesIO()
    Image.fromarray((np.random.default_rng(number).random((120, 240, 3)) * 255).astype(np.uint8)).save(out, "PNG")
    return out.getvalue()


def patiently(call: Any, seconds: float = 60.0) -> Any:
    """Ask again until there is an answer: a part that was killed is started again."""
    until = time.monotonic() + seconds
    while True:
        try:
            return call()
        except (URLError, OSError):
            if time.monotonic() > until:
                raise
            time.sleep(0.2)


def main() -> None:
    """Start a run, kill while it goes, and look at what is there in the end."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--kills", type=int, default=20)
    parser.add_argument("--photos", type=int, default=70)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    rng = random.Random(args.seed)
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        api = Api(server.address)
        names = [api.upload(picture(number), f"photo {number}.png")["file_name"] for number in range(args.photos)]
        recipe = api.call("GET", "recipes?search=deep%20twirl")["items"][0]["id"]
        run = api.call("POST", "runs", {"recipe": recipe, "photos": names, "options": {"size": 1400, "format": "png"}})["id"]
        killed = {"django work": 0, "gunicorn": 0, "both": 0}
        for _ in range(args.kills):
            time.sleep(rng.uniform(0.2, 2.5))
            if patiently(lambda api=api: api.call("GET", f"runs/{run}"))["state"] == "done":
                break
            part = rng.choice(list(killed))
            killed[part] += 1
            if part == "both":
                server.kill()
                server = Server(Path(folder))
                api = Api(server.address)
            else:
                server.kill_part(part)
        until = time.monotonic() + 300
        while (state := patiently(lambda: api.call("GET", f"runs/{run}")))["state"] != "done" and time.monotonic() < until:
            time.sleep(0.5)
        rows = [
            row for offset in range(0, args.photos, 60) for row in api.call("GET", f"runs/{run}/photos?limit=60&offset={offset}")["items"]
        ]
        with urlopen(f"{server.address}/api/v1/runs/{run}/archive", timeout=60) as answer:
            archive = zipfile.ZipFile(io.BytesIO(answer.read()))
        assert state["done"] == args.photos, state
        assert len(rows) == len({row["file_name"] for row in rows}) == args.photos
        assert sorted(archive.namelist()) == sorted(row["file_name"] for row in rows)
        for name in archive.namelist():
            Image.open(io.BytesIO(archive.read(name))).load()
        again = sum(row["times"] - 1 for row in rows)
        server.stop()
        half = [path.name for path in Path(folder).rglob(".part-*")]
        print(
            f"{sum(killed.values())} kills ({killed}): {args.photos} photos done once, every file opens; {again} begun again; half files: {half}"
        )


if __name__ == "__main__":
    main()
