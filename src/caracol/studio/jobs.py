"""What the worker does."""

import logging

from django.conf import settings
from django_tasks import task
from django_tasks.base import Task

from . import export_work, run_work
from .demo import loading
from .memory import give_back

log = logging.getLogger(__name__)


def tell(job: Task[..., None], *what: object) -> None:
    """Put work into the queue. Where the queue of several machines does not answer, it is told of later, by `taking_up`."""
    try:
        job.enqueue(*what)
    except _faults_of_queue() as error:
        log.warning("the queue does not answer (%s); what there is to do is handed out as soon as it does", error)


def _faults_of_queue() -> tuple[type[Exception], ...]:
    """Return what a queue of its own raises; the one in the database fails with the database."""
    if not settings.REDIS:
        return ()
    from redis.exceptions import RedisError

    return (RedisError,)


@task()
def run_export(export_id: str) -> None:
    """Do one export."""
    try:
        export_work.work(export_id)
    finally:
        give_back()


@task()
def work_on_run(run_id: str, turn: int = 0) -> None:
    """Do photos of a run for a while; what is left waits its turn behind other work, or is done by other workers."""
    try:
        run_work.work(run_id, turn, lambda: tell(work_on_run, run_id, turn))
    finally:
        give_back()


@task()
def load_demo() -> None:
    """Draw the demo's photos and make its pieces."""
    try:
        loading.load(log.info, cores=1)
    finally:
        give_back()
