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
    web = [sys.executable, "-m", "gunicorn", "caracol.studio.wsgi", "--config", "python:caracol.studio.web_process"]
    started = [subprocess.Popen([*web, "--bind", f"127.0.0.1:{port}"], env={**os.environ, **MEMORY})]

    def end(number: int, frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, end)
    try:
        # While the web process is loading; nobody is told its address yet.
        subprocess.run([*django, "prepare"], check=True)
        started.append(subprocess.Popen([*django, "db_worker", "--interval", "0.1"]))
        _wait_until_up(port, started)
        print(f"\n  Caracol is open at  http://localhost:{port}\n  Stop it with Ctrl+C.\n", flush=True)
        while all(process.poll() is None for process in started):
            time.sleep(0.5)
    except KeyboardInterrupt:
        pass
    except subprocess.CalledProcessError:
        print("Caracol could not start: what is stored could not be brought up to date; the lines above say why.", file=sys.stderr)
        return 1
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
