"""Web process and worker killed at random moments while pieces are saved, photos uploaded and exports made: `make kills` (not in CI).

What was acknowledged must be there afterwards, every export must have ended once with a file that opens, and nothing half written may stay.
"""

from __future__ import annotations

import argparse
import io
import os
import random
import sys
import tempfile
import threading
import time
from http.client import HTTPException
from pathlib import Path
from typing import Any
from urllib.error import HTTPError
from urllib.request import urlopen

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
os.environ["CARACOL_SOUND"] = "0"  # every death counts as a first one: else a hundred of them would take an hour of pauses

import numpy as np
from PIL import Image
from tests.api import Api
from tests.server import Server

PATIENCE = 60.0


class Actors:
    """A saver, an uploader and an exporter, each remembering what was acknowledged."""

    def __init__(self, address: str, seed: int) -> None:
        self.api = Api(address)
        self.rng = random.Random(seed)
        self.over = threading.Event()
        self.faults: list[str] = []
        first = self.picture(0)
        photo = self.api.upload(first, "first.png")
        self.piece = self.api.call("POST", "pieces", {"photo": photo["id"], "start": "planet"})
        self.photos = {photo["id"]}
        self.saved = (1, self.piece["name"])
        self.exports: list[str] = []
        self.threads = [threading.Thread(target=self._go_on, args=(act,)) for act in (self.save, self.upload, self.export)]

    @staticmethod
    def picture(number: int) -> bytes:
        """Return a small photo, another for each number."""
        out = io.BytesIO()
        Image.fromarray((np.random.default_rng(number).random((90, 180, 3)) * 255).astype(np.uint8)).save(out, "PNG")
        return out.getvalue()

    def insist(self, call: Any) -> Any:
        """Ask again until there is an answer, as the page does."""
        until = time.monotonic() + PATIENCE
        while True:
            try:
                return call()
            except HTTPError as error:
                if error.code not in (503, 507) or time.monotonic() > until:
                    self.faults.append(f"{error.code}: {error.read()[:200]!r}")
                    raise
            except (OSError, HTTPException, ValueError):  # no answer, or only the beginning of one
                if time.monotonic() > until:
                    raise
            time.sleep(0.1)

    def save(self, n: int) -> None:
        """Save once, under one token however often it is sent."""
        body = {"revision": self.saved[0], "name": f"Edit {n}", "document": self.piece["document"], "token": f"t{n}"}
        answer = self.insist(lambda: self.api.call("PUT", f"pieces/{self.piece['id']}", body))
        self.saved = (answer["revision"], answer["name"])

    def upload(self, n: int) -> None:
        """Upload a photo that is not there yet."""
        self.photos.add(self.insist(lambda: self.api.upload(self.picture(n + 1), f"p{n}.png"))["id"])

    def export(self, n: int) -> None:
        """Ask for an export; one whose answer was lost may be there twice, which is fair."""
        options = {"size": random.Random(n).choice((300, 900, 1800)), "format": random.Random(n).choice(("png", "jpeg", "webp"))}
        path = f"pieces/{self.piece['id']}/exports"
        self.exports.append(self.insist(lambda: self.api.call("POST", path, options))["id"])
        time.sleep(0.7)

    def _go_on(self, act: Any) -> None:
        n = 0
        while not self.over.is_set():
            n += 1
            act(n)
            time.sleep(0.05)


def all_exports(api: Api, piece: str) -> dict[str, Any]:
    """Return all exports of a piece by id."""
    found: dict[str, Any] = {}
    while True:
        page = api.call("GET", f"pieces/{piece}/exports?limit=200&offset={len(found)}")
        found |= {job["id"]: job for job in page["items"]}
        if len(found) >= page["count"] or not page["items"]:
            return found


def what_is_wrong(actors: Actors, address: str) -> tuple[list[str], dict[str, Any]]:
    """Return what was acknowledged and is not there, in words, and all exports."""
    api = actors.api
    until = time.monotonic() + 600
    while any(j["state"] in ("waiting", "working") for j in all_exports(api, actors.piece["id"]).values()) and time.monotonic() < until:
        time.sleep(0.5)
    faults = list(actors.faults)
    kept = api.call("GET", f"pieces/{actors.piece['id']}")
    if (kept["revision"], kept["name"]) != actors.saved:
        faults.append(f"saved {actors.saved}, kept {(kept['revision'], kept['name'])}")
    photos: set[str] = set()
    while page := api.call("GET", f"photos?limit=200&offset={len(photos)}")["items"]:
        photos |= {photo["id"] for photo in page}
    if actors.photos - photos:
        faults.append(f"{len(actors.photos - photos)} uploads lost")
    jobs = all_exports(api, actors.piece["id"])
    for export in actors.exports:
        if jobs.get(export, {}).get("state") != "done":
            faults.append(f"export {export}: {jobs.get(export, {}).get('state')} {jobs.get(export, {}).get('message')}")
    if len({job["number"] for job in jobs.values()}) != len(jobs):
        faults.append("two exports of one number")
    for job in jobs.values():
        with urlopen(f"{address}/api/v1/exports/{job['id']}/file", timeout=60) as answer:
            Image.open(io.BytesIO(answer.read())).load()
    return faults, jobs


def main() -> int:
    """Kill, then look what is there."""
    parser = argparse.ArgumentParser(description="Parts killed at random moments")
    parser.add_argument("--kills", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    chosen = parser.parse_args()
    var = Path(tempfile.mkdtemp(prefix="caracol-kills-"))
    server = Server(var)
    actors = Actors(server.address, chosen.seed)
    for thread in actors.threads:
        thread.start()
    back: list[float] = []
    for n in range(chosen.kills):
        time.sleep(actors.rng.uniform(0.2, 3.0))
        part = actors.rng.choice(("gunicorn", "django work"))
        server.kill_part(part)
        begun = time.monotonic()
        if part == "gunicorn":
            actors.insist(lambda: actors.api.call("GET", "formulas"))
            back.append(time.monotonic() - begun)
        if n % 10 == 9:
            print(f"{n + 1} kills, {actors.saved[0]} saves, {len(actors.photos)} uploads, {len(actors.exports)} exports", flush=True)
    actors.over.set()
    for thread in actors.threads:
        thread.join()
    faults, jobs = what_is_wrong(actors, server.address)
    server.stop()
    Server(var).stop()
    left = [path.name for path in var.rglob(".part-*")]
    faults += [f"left behind: {left}"] * bool(left)
    files = sum(path.is_file() for path in (var / "exports").rglob("*")), sum(path.is_file() for path in (var / "photos").rglob("*"))
    print(
        f"{chosen.kills} kills; {actors.saved[0]} saves, {len(actors.photos)} uploads, {len(actors.exports)} exports acknowledged ({len(jobs)} made); "
        f"web process back in {np.median(back):.1f} s (at most {max(back):.1f}); files of exports and photos: {files}; {len(faults)} faults"
    )
    for fault in faults:
        print("  ", fault)
    return bool(faults)


if __name__ == "__main__":
    sys.exit(main())
