"""What the worker does."""

from django_tasks import task

from . import exports
from .memory import give_back


@task()
def run_export(export_id: str) -> None:
    """Do one export."""
    try:
        exports.work(export_id)
    finally:
        give_back()
