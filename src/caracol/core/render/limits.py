"""How much one render may cost: found from its plan, before any of it is begun."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import TooLarge
from .plan import Plan


@dataclass(frozen=True)
class Limits:
    """What one render may cost at most.

    Parameters
    ----------
    seconds : float
        Of one core, by the plan's rough costs.
    bytes : int
        Held at one time, besides the cache and the photos.
    """

    seconds: float = float("inf")
    bytes: float = float("inf")

    def check(self, plan: Plan, besides: int = 0) -> None:
        """Let a plan pass.

        Parameters
        ----------
        besides : int
            Bytes that are needed on top of it, such as for writing a file.

        Raises
        ------
        TooLarge
            It would take too long or too much memory; the sentence says how much, how much is allowed, and what costs most.
        """
        seconds, room = plan.cost / 1e9, plan.peak + besides
        if seconds > self.seconds:
            dearest = max((*plan.order, *plan.flowing), key=lambda node: node.cost).name
            raise TooLarge(
                f"This would take about {_time(seconds)} of one core's work; at most {_time(self.seconds)} are allowed. "
                f"Most of it is {dearest}. Ask for a smaller size, or make that simpler."
            )
        if room > self.bytes:
            largest = max((*plan.order, *plan.flowing), key=lambda node: node.size + node.room).name
            raise TooLarge(
                f"This would take about {room / 1e9:.1f} GB of memory; at most {self.bytes / 1e9:.1f} GB are allowed. "
                f"Most of it is {largest}. Ask for a smaller size, or make that simpler."
            )


def _time(seconds: float) -> str:
    return f"{seconds:.0f} seconds" if seconds < 100 else f"{seconds / 60:.0f} minutes"
