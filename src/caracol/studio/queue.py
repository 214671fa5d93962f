"""What waits behind what, in words."""

from __future__ import annotations

from django.db.models import Q

from .models import Export, Run

_OPEN = (Export.State.WAITING, Export.State.WORKING)


def behind_of(work: Export | Run) -> str:
    """Return what a waiting export or run waits for: the exports asked for before it, and the runs at work; empty where it waits for nothing.

    A run takes turns with what comes after it, so every run that is at work counts; exports are done in the order they were asked for.
    """
    before = Q(asked_at__lt=work.asked_at)
    exports = Export.objects.filter(before, state__in=_OPEN)
    runs = Run.objects.filter(state=Run.State.WORKING)
    if isinstance(work, Export):
        if work.state != Export.State.WAITING:
            return ""
    else:
        if work.state != Run.State.WORKING or work.told["working"]:
            return ""
        exports, runs = Export.objects.filter(state__in=_OPEN), runs.filter(before).exclude(id=work.id)
    names = [_counted(exports.count(), "export"), *(f"the run “{run.name}”" for run in runs.order_by("asked_at")[:2])]
    return " and ".join(name for name in names if name)


def _counted(count: int, what: str) -> str:
    return "" if count == 0 else f"1 {what}" if count == 1 else f"{count} {what}s"
