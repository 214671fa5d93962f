"""The worker: does what the web process hands out."""

import os
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser

from caracol.studio.garbage_collection import collect_tasks
from caracol.studio.requeue import requeue_stale


class Command(BaseCommand):
    """Run by `serve`. What must be done before is done by this process too: to load it once more would take longer than that."""

    help = "Work on the queue of the settings, for ever."
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--prepare-since", type=float, default=None, help="bring what is stored up to date first; as in prepare --since"
        )
        parser.add_argument("--tell", type=int, default=None, help="the open file that is told when that is done")
        parser.add_argument("--worker-died", action="store_true", help="take up first what the worker before this one left")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["prepare_since"] is not None:
            call_command("prepare", since=options["prepare_since"])
        if options["worker_died"]:
            collect_tasks()
            requeue_stale(everything=not settings.MANY)
        if options["tell"] is not None:
            os.write(options["tell"], b"ready")
            os.close(options["tell"])
        if settings.REDIS:
            call_command("rqworker", "default", worker_class="rq.SimpleWorker", job_class="django_tasks_rq.Job", verbosity=0)
        else:
            call_command("db_worker", interval=0.25, startup_delay=False)
