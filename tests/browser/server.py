"""Caracol as users start it: web process and worker, in a folder and on a port of its own."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
from pathlib import Path

import psutil

ROOT = Path(__file__).resolve().parents[2]


class Server:
    """A running Caracol."""

    def __init__(self, var: Path) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        environment = {**os.environ, "CARACOL_VAR": str(var), "CARACOL_WARM": "0", "DJANGO_SETTINGS_MODULE": "caracol.studio.settings"}
        environment.pop("CARACOL_TASKS", None)
        command = [sys.executable, "-m", "caracol.studio.serve", "--port", str(port)]
        self.process = subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True)
        self.address = f"http://127.0.0.1:{port}"
        assert self.process.stdout is not None
        if not any("Caracol is open" in line for line in self.process.stdout):
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
