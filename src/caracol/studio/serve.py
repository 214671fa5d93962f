"""Start web process and worker together, start again what dies, and stop them together: `python -m caracol.studio.serve`."""

from __future__ import annotations

import argparse
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from types import FrameType
from urllib.error import HTTPError, URLError
from urllib.request import urlopen

from django.core.exceptions import ImproperlyConfigured

from .child_processes import bound

# Keep freed pictures' memory instead of giving it back to the system and faulting it in again, page by page, at every draft: measured
# here, that was half the time of the steps after a bend.
MEMORY = {"MALLOC_MMAP_THRESHOLD_": str(1 << 32), "MALLOC_TRIM_THRESHOLD_": str(1 << 34), "MALLOC_ARENA_MAX": "1"}
DJANGO = [sys.executable, "-m", "django"]
PAUSES = (0.5, 1.0, 2.0, 4.0, 8.0, 15.0, 30.0)
"""Seconds before something that died is started again, longer each time."""
SOUND = float(os.environ.get("CARACOL_SOUND", "60"))
"""What has run for so many seconds is sound: its next death is a first one again."""
GRACE = 10.0


class Refused(Exception):
    """It cannot be started as things are; the text says why and what to do."""


@dataclass
class Part:
    """One of the processes that make up a running Caracol.

    Parameters
    ----------
    again : list of str
        The command by which it is started again when it has died; None for the same.
    """

    name: str
    command: list[str]
    environment: dict[str, str] = field(default_factory=dict)
    again: list[str] | None = None
    process: subprocess.Popen[bytes] | None = None
    started_at: float = 0.0
    deaths: int = 0
    again_at: float | None = None

    def start(self, leave_open: tuple[int, ...] = ()) -> None:
        """Start it; files in `leave_open` stay open in it."""
        environment = {**os.environ, **self.environment}
        self.process = subprocess.Popen(self.command, env=environment, preexec_fn=bound(), pass_fds=leave_open)
        self.started_at, self.again_at = time.monotonic(), None

    def watch(self) -> None:
        """Start it again after a pause where it has died, and say so."""
        now = time.monotonic()
        if self.again_at is not None:
            if now >= self.again_at:
                self.command = self.again or self.command
                self.start()
            return
        code = None if self.process is None else self.process.poll()
        if code is None:
            return
        self.deaths = 1 if now - self.started_at > SOUND else self.deaths + 1
        pause = PAUSES[min(self.deaths, len(PAUSES)) - 1]
        self.again_at = now + pause
        told = f"was killed by {signal.Signals(-code).name}" if code < 0 else f"ended with code {code}"
        print(f"The {self.name} {told}; it is started again in {pause:g} s. Nothing that was saved is lost.", file=sys.stderr, flush=True)

    def end(self) -> None:
        """Ask it to end."""
        if self.process is not None:
            self.process.terminate()

    def wait(self, until: float) -> None:
        """Wait until it has ended; then end it by force."""
        if self.process is None:
            return
        try:
            self.process.wait(timeout=max(0.1, until - time.monotonic()))
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


def main() -> int:
    """Run until a signal."""
    parser = argparse.ArgumentParser(description="Caracol's web process and worker")
    parser.add_argument("--port", type=int, default=int(os.environ.get("PORT", "8765")))
    parser.add_argument("--only", choices=("web", "worker"), help="start one part alone: docs/scale.md")
    parser.add_argument(
        "--bind", default=os.environ.get("CARACOL_BIND", "127.0.0.1"), help="the address to listen at; others need CARACOL_HOSTS"
    )
    chosen = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")

    def end(number: int, frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    for number in (signal.SIGTERM, signal.SIGHUP):
        # Started so that it outlives its terminal (nohup), it does.
        if signal.getsignal(number) is not signal.SIG_IGN:
            signal.signal(number, end)
    try:
        check_folder()
        if chosen.only != "worker":
            check_place(chosen.bind, chosen.port)
        run(chosen.bind, chosen.port, chosen.only)
    except KeyboardInterrupt:
        return 0
    except Refused as error:
        print(f"Caracol could not start: {error}", file=sys.stderr)
        return 1
    return 0


def check_folder() -> None:
    """Make sure that the settings make sense and that there is a folder to write to.

    Raises
    ------
    Refused
        There is not.
    """
    try:
        from django.conf import settings

        with tempfile.TemporaryFile(dir=settings.VAR):
            pass
    except ImproperlyConfigured as error:
        raise Refused(str(error)) from error
    except OSError as error:
        raise Refused(
            f"its folder cannot be written to ({error.strerror}: {error.filename}). Make it writable, or name another in CARACOL_VAR."
        ) from error


def check_place(bind: str, port: int) -> None:
    """Make sure that there is an address to listen at.

    Raises
    ------
    Refused
        There is not.
    """
    from django.conf import settings

    if not bind.startswith("127.") and bind not in ("localhost", "::1") and not settings.OPEN:
        raise Refused(f"listening at {bind} opens it to a network; name the hosts it is reached by in CARACOL_HOSTS (see SECURITY.md).")
    with socket.socket(socket.AF_INET6 if ":" in bind else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((bind, port))
        except OSError as error:
            raise Refused(
                f"port {port} is taken ({error.strerror}), perhaps by another Caracol. Stop that, or choose another port: PORT={port + 1} make demo"
            ) from error


def run(bind: str, port: int, only: str | None = None) -> None:
    """Start the parts and watch over them; returns only by an exception.

    Parameters
    ----------
    only : "web", "worker" or None
        The one part that is started here; None for both.
    """
    since = f"{time.time():.3f}"
    listen = f"[{bind}]:{port}" if ":" in bind else f"{bind}:{port}"
    gunicorn = [sys.executable, "-m", "gunicorn", "caracol.studio.wsgi", "--config", "python:caracol.studio.web_process", "--bind", listen]
    web = Part("web process", gunicorn, MEMORY)
    work = [*DJANGO, "work"]
    worker = Part("worker", work, again=[*work, "--worker-died"])
    parts = {"web": [web], "worker": [worker], None: [web, worker]}[only]
    try:
        if only != "worker":
            web.start()
        # While the web process is loading; nobody is told its address yet.
        if only == "web":
            ready = subprocess.run([*DJANGO, "prepare", "--since", since], check=False).returncode == 0
        elif only == "worker":
            worker.start()
            ready = True
        else:
            ready = _start_and_prepare(worker, since)
        if not ready:
            raise Refused("what is stored could not be brought up to date; the lines above say why.")
        if only != "worker":
            _wait_until_up(bind, port, lambda: any(part.process is None or part.process.poll() is not None for part in parts))
        what = "A worker of Caracol is at work." if only == "worker" else f"Caracol is open at  http://localhost:{port}"
        print(f"\n  {what}\n  Stop it with Ctrl+C.\n", flush=True)
        while True:
            time.sleep(0.2)
            for part in parts:
                part.watch()
    finally:
        for part in parts:
            part.end()
        for part in parts:
            part.wait(time.monotonic() + GRACE)


def _start_and_prepare(worker: Part, since: str) -> bool:
    """Start the worker, which brings what is stored up to date first; return whether it could."""
    told, tell = os.pipe()
    try:
        worker.command = [*worker.command, "--prepare-since", since, "--tell", str(tell)]
        worker.start(leave_open=(tell,))
        os.close(tell)
        return os.read(told, 16) != b""
    finally:
        os.close(told)


def _wait_until_up(bind: str, port: int, is_dead: Callable[[], bool]) -> None:
    host = {"0.0.0.0": "127.0.0.1", "::": "[::1]"}.get(bind, bind)
    for _ in range(1800):
        if is_dead():
            raise Refused("a part of it ended at once; the lines above say why.")
        try:
            with urlopen(f"http://{host}:{port}/api/v1/catalogue", timeout=2):
                return
        except HTTPError:
            return  # it answers; opened to a network it asks for a login
        except (URLError, OSError):
            time.sleep(0.1)
    raise Refused("it did not answer within three minutes.")


if __name__ == "__main__":
    sys.exit(main())
