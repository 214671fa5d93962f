"""What the worker does."""

import logging

from django_tasks import task

from . import delivery, run_work
from .demo import loading
from .memory import give_back

log = logging.getLogger(__name__)


@task()
def run_export(export_id: str) -> None:
    """Do one export."""
    try:
        delivery.work(export_id)
    finally:
        give_back()


@task()
def work_on_run(run_id: str, turn: int = 0) -> None:
    """Do photos of a run for a while; what is left waits its turn behind other work, or is done by other workers."""
    try:
        run_work.work(run_id, turn, lambda: work_on_run.enqueue(run_id, turn))
    finally:
        give_back()


@task()
def load_demo() -> None:
    """Draw the demo's photos and make its pieces."""
    try:
        loading.load(log.info, cores=1)
    finally:
        give_back()
