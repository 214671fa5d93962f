"""Caracol as users start it: web process and worker, in a folder and on a port of its own."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Mapping
from pathlib import Path
from threading import Event

import psutil

ROOT = Path(__file__).resolve().parents[1]
# Asked without a breath between, the web process would take the core that the worker needs.
BREATH = Event()


def free_port() -> int:
    """Return a port of this machine that nothing listens at."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return int(free.getsockname()[1])


def wait_until(holds: Callable[[], bool]) -> None:
    """Wait until something holds; nobody may answer meanwhile."""
    until = time.monotonic() + 120
    while time.monotonic() < until:
        try:
            if holds():
                return
        except OSError:
            pass
        BREATH.wait(0.1)
    raise AssertionError("it never came to be so")


class Server:
    """A running Caracol."""

    def __init__(self, var: Path, *options: str, settings: Mapping[str, str] | None = None) -> None:
        """Start it with a folder of its own, options of `serve` and settings from the environment."""
        port = free_port()
        environment = {**os.environ, "CARACOL_VAR": str(var), "CARACOL_WARM": "0", "DJANGO_SETTINGS_MODULE": "caracol.studio.settings"}
        environment.pop("CARACOL_TASKS", None)
        command = [sys.executable, "-m", "caracol.studio.serve", "--port", str(port), *options]
        self.process = subprocess.Popen(command, cwd=ROOT, env=environment | (settings or {}), stdout=subprocess.PIPE, text=True)
        self.address = f"http://127.0.0.1:{port}"
        assert self.process.stdout is not None
        if not any("Stop it with" in line for line in self.process.stdout):
            raise RuntimeError("Caracol did not start")

    def stop(self) -> None:
        """End it politely."""
        self.process.terminate()
        self.process.wait(timeout=30)

    def kill_part(self, named: str) -> None:
        """End one part at once: the process whose command holds this word, and what it has started."""
        children = psutil.Process(self.process.pid).children(recursive=True)
        for process in [child for child in children if named in " ".join(child.cmdline())]:
            process.send_signal(signal.SIGKILL)

    def kill(self) -> None:
        """End it and all its children at once, as a power cut would."""
        for process in [*psutil.Process(self.process.pid).children(recursive=True), psutil.Process(self.process.pid)]:
            process.send_signal(signal.SIGKILL)
        self.process.wait(timeout=30)
