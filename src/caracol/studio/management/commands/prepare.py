"""Bring what is stored up to date before web process and worker serve it."""

import time
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import OperationalError

from caracol.studio.garbage_collection import collect_files, collect_tasks
from caracol.studio.photos import refresh_readings
from caracol.studio.pieces import check_all
from caracol.studio.recipes import load_builtin_recipes
from caracol.studio.requeue import requeue_stale

HOUR = 3600.0


class Command(BaseCommand):
    """Run by `serve`, or by the worker, before anything is worked on."""

    help = "Bring the database to this release, read photos again whose reading is old, put unfinished exports back in the queue."
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--since", type=float, default=None, help="what is older than this (seconds since 1970) and named by nothing is swept away"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            call_command("migrate", verbosity=0)
        except OperationalError as error:
            raise CommandError(f"The database cannot be used: {error}") from error
        if settings.OPEN:
            _check_login()
        collect_tasks()
        an_hour_ago = time.time() - HOUR
        # Other machines may be writing a file whose row comes in a moment.
        since = an_hour_ago if options["since"] is None or settings.MANY else options["since"]
        swept, read, unread = collect_files(since), refresh_readings(), check_all()
        load_builtin_recipes()
        self._tell(swept, "files that nothing names were put away (swept/, for thirty days).")
        self._tell(read, "photos were read again.")
        self._tell(unread, "pieces cannot be read by this release; the Shelf says which and why.")
        left, gone_on = requeue_stale(everything=not settings.MANY)
        self._tell(left, "unfinished exports were put back in the queue.")
        self._tell(gone_on, "unfinished runs go on.")

    def _tell(self, count: int, what: str) -> None:
        if count:
            self.stdout.write(f"{count} {what}")


def _check_login() -> None:
    """Refuse to open Caracol to a network where anybody could come in."""
    hosts = ", ".join(settings.NETWORK_HOSTS)
    if settings.SECRET_KEY == settings.UNSIGNED:
        raise CommandError(f"CARACOL_HOSTS opens Caracol to {hosts}: set CARACOL_SECRET to a long random text of your own first.")
    if not User.objects.filter(is_active=True).exists():
        raise CommandError(f"CARACOL_HOSTS opens Caracol to {hosts}, and nobody can log in yet: run manage.py createsuperuser first.")
