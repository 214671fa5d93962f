"""The demo: asked for from an empty Shelf."""

from __future__ import annotations

from django.http import HttpRequest
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult
from ninja import Router, Status

from ...world.photos import SCENES
from ..jobs import load_demo
from .schemas.common import FAULTS
from .schemas.pieces import DemoOut

router = Router(tags=["demo"])
UNDONE = (TaskResultStatus.READY, TaskResultStatus.RUNNING)


def _state() -> DemoOut:
    loading = DBTaskResult.objects.filter(task_path=load_demo.module_path, status__in=UNDONE).exists()
    return DemoOut(loading=loading, photos=len(SCENES))


@router.get("", response={200: DemoOut, **FAULTS}, operation_id="get_demo")
def get(request: HttpRequest) -> DemoOut:
    """Say whether the demo is being loaded, and how many photos it has."""
    return _state()


@router.post("", response={202: DemoOut, **FAULTS}, operation_id="load_demo")
def load(request: HttpRequest) -> Status[DemoOut]:
    """Begin to load the demo; while it is being loaded nothing more is begun."""
    if not _state().loading:
        load_demo.enqueue()
    return Status(202, _state())
