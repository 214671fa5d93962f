"""Start web process and worker together, and stop them together: `python -m caracol.studio.serve`."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess
import sys
import time
from types import FrameType
from urllib.error import URLError
from urllib.request import urlopen

THREADS = "8"
# Keep freed pictures' memory instead of giving it back to the system and faulting it in again, page by page, at every draft: measured
# here, that was half the time of the steps after a bend.
MEMORY = {"MALLOC_MMAP_THRESHOLD_": str(1 << 32), "MALLOC_TRIM_THRESHOLD_": str(1 << 34), "MALLOC_ARENA_MAX": "1"}


def main() -> int:
    """Run until a signal or until one of the two ends."""
    parser = argparse.ArgumentParser(description="Caracol's web process and worker")
    parser.add_argument("--port", type=int, default=int(os.environ.get("PORT", "8765")))
    port = parser.parse_args().port
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
    django = [sys.executable, "-m", "django"]
    subprocess.run([*django, "requeue_exports"], check=True)
    subprocess.run([*django, "refresh_readings"], check=True)
    web = [sys.executable, "-m", "gunicorn", "caracol.studio.wsgi", "--worker-class", "gthread", "--workers", "1", "--threads", THREADS]
    started = [
        subprocess.Popen([*web, "--bind", f"127.0.0.1:{port}", "--timeout", "300", "--log-level", "warning"], env={**os.environ, **MEMORY}),
        subprocess.Popen([*django, "db_worker", "--interval", "0.1"]),
    ]

    def end(number: int, frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, end)
    try:
        _wait_until_up(port, started)
        print(f"\n  Caracol is open at  http://localhost:{port}\n  Stop it with Ctrl+C.\n", flush=True)
        while all(process.poll() is None for process in started):
            time.sleep(0.5)
    except KeyboardInterrupt:
        pass
    finally:
        for process in started:
            process.terminate()
        for process in started:
            try:
                process.wait(timeout=10)
            except subprocess.TimeoutExpired:
                process.kill()
    return 0


def _wait_until_up(port: int, started: list[subprocess.Popen[bytes]]) -> None:
    for _ in range(1800):
        if any(process.poll() is not None for process in started):
            sys.exit("Caracol could not start; the lines above say why.")
        try:
            with urlopen(f"http://127.0.0.1:{port}/api/catalogue", timeout=2):
                return
        except (URLError, OSError):
            time.sleep(0.1)
    sys.exit("Caracol did not answer within three minutes.")


if __name__ == "__main__":
    sys.exit(main())
