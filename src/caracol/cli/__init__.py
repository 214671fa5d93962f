"""The command line over the core: render, apply, try, roll, map, open, read, seam, cut, steps, schema."""

from __future__ import annotations

import sys

STOPPED = 130
"""What shells expect of a command that Ctrl+C ended."""


def main(argv: list[str] | None = None) -> int:
    """Run the command line; return the exit code: 0; 2 with one line per fault on standard error; 130 where it was stopped."""
    try:
        # Loading the core takes a while, in which one may think better of it, too.
        from .commands import run

        return run(argv)
    except KeyboardInterrupt:
        print("Stopped.", file=sys.stderr)
        return STOPPED
