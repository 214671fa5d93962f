"""A run of many photos, and a try-on of 24 pictures, against a running Caracol: photos a minute, cores busy, memory; first picture, all pictures.

python -m benchmarks.runs FOLDER [--photos 50] [--recipe "deep twirl"]
"""

from __future__ import annotations

import argparse
import io
import json
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from urllib.parse import quote
from urllib.request import urlopen

import numpy as np
import psutil
from PIL import Image

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from tests.api import Api
from tests.server import Server

AT_ONCE = 6
"""Requests that a browser has on their way to one address."""


def photos(folder: Path, count: int) -> list[bytes]:
    """Return so many photos of 3000 pixels, each another part or mirror of those in a folder."""
    files = sorted(folder.glob("*.jpg"))
    found = []
    for number in range(count):
        with Image.open(files[number % len(files)]) as image:
            whole = image.convert("RGB")
        shift = number // len(files)
        turned = Image.fromarray(np.roll(np.asarray(whole), 137 * shift, axis=1))
        turned.thumbnail((3000, 3000))
        out = io.BytesIO()
        turned.save(out, "JPEG", quality=90)
        found.append(out.getvalue())
    return found


def worker_of(server: Server) -> psutil.Process:
    """Return the worker's process."""
    return next(one for one in psutil.Process(server.process.pid).children(recursive=True) if "django work" in " ".join(one.cmdline()))


def measure_run(server: Server, api: Api, recipe: str, names: list[str], size: int) -> dict[str, float]:
    """Return photos a minute, cores busy, and the worker's memory over the run."""
    worker = worker_of(server)
    before, begun = sum(worker.cpu_times()[:2]), time.perf_counter()
    run = api.call("POST", "runs", {"recipe": recipe, "photos": names, "options": {"size": size, "format": "jpeg"}})["id"]
    memory: list[tuple[int, float]] = []
    while (state := api.call("GET", f"runs/{run}"))["state"] == "working":
        memory.append((state["done"], worker.memory_info().rss / 1e6))
        time.sleep(0.5)
    seconds = time.perf_counter() - begun
    busy = (sum(worker.cpu_times()[:2]) - before) / seconds
    half = len(memory) // 2
    early, late = (max(mb for _, mb in part) for part in (memory[: half or 1], memory[half:]))
    return {
        "photos": state["done"], "failed": state["failed"], "seconds": round(seconds, 1), "photos_a_minute": round(60 * len(names) / seconds, 1),
        "cores_busy": round(busy, 2), "peak_mb_first_half": round(early), "peak_mb_second_half": round(late),
    }  # fmt: skip


def measure_tries(address: str, recipe: str, names: list[str]) -> dict[str, float]:
    """Return the seconds until the first and the last of 24 pictures are there."""
    begun = time.perf_counter()

    def ask(name: str) -> float:
        with urlopen(f"{address}/api/v1/recipes/{recipe}/preview?photo={quote(name)}&size=384", timeout=60) as answer:
            answer.read()
        return time.perf_counter() - begun

    with ThreadPoolExecutor(AT_ONCE) as pool:
        times = list(pool.map(ask, names[:24]))
    return {"first": round(min(times), 2), "all_24": round(max(times), 2)}


def main() -> None:
    """Measure, and print JSON."""
    parser = argparse.ArgumentParser()
    parser.add_argument("folder", type=Path)
    parser.add_argument("--photos", type=int, default=50)
    parser.add_argument("--recipe", default="deep twirl")
    parser.add_argument("--size", type=int, default=2048)
    args = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        try:
            api = Api(server.address)
            names = [
                api.upload(content, f"photo {number}.jpg")["file_name"] for number, content in enumerate(photos(args.folder, args.photos))
            ]
            recipe = api.call("GET", f"recipes?search={quote(args.recipe)}")["items"][0]["id"]
            tries = [measure_tries(server.address, recipe, names) for _ in range(2)]
            run = measure_run(server, api, recipe, names, args.size)
        finally:
            server.stop()
    print(json.dumps({"recipe": args.recipe, "try_cold": tries[0], "try_warm": tries[1], "run": run}, indent=1))


if __name__ == "__main__":
    main()
