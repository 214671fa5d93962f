"""What the worker does."""

import logging

from django_tasks import task

from . import delivery
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
def load_demo() -> None:
    """Draw the demo's photos and make its pieces."""
    try:
        loading.load(log.info, cores=1)
    finally:
        give_back()
