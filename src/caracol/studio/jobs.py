"""What the worker does."""

from django_tasks import task

from . import delivery
from .memory import give_back


@task()
def run_export(export_id: str) -> None:
    """Do one export."""
    try:
        delivery.work(export_id)
    finally:
        give_back()
