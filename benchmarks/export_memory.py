"""Export 8192 × 8192 in a process of its own and print its peak memory in MB and its time in seconds."""

from __future__ import annotations

import sys
import time
from pathlib import Path

import psutil
from tests.pictures import piece

from caracol.core.io.decode import PhotoFolder
from caracol.core.io.formats import collect, encode
from caracol.core.render import Context, Renderer


def main() -> None:
    """Measure everything from the photo's file to the finished file's bytes."""
    photo = Path(sys.argv[1])
    trail = piece(
        ("close-seam", {}),
        ("ring", {"spread": "shape", "reach": 1.5, "fold": 0.2}),
        ("rim", {}),
        ("tone", {"contrast": 0.1}),
        photo=photo.name,
    )
    before = psutil.Process().memory_info().rss / 1e6
    start = time.perf_counter()
    content = encode(collect(*Renderer(trail, Context(PhotoFolder(photo.parent))).rows(int(sys.argv[2]))), "jpeg", 90)
    seconds = time.perf_counter() - start
    # Not getrusage: its peak is inherited from the process that started this one.
    status = Path("/proc/self/status").read_text()
    peak = int(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM"))) * 1024 / 1e6
    print(peak, before, seconds, len(content))


if __name__ == "__main__":
    main()
