"""What the worker does."""

from django_tasks import task

from . import exports


@task()
def run_export(export_id: str) -> None:
    """Do one export."""
    exports.work(export_id)
