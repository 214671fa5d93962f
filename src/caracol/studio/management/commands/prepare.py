"""Bring what is stored up to date before web process and worker serve it."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from caracol.studio.exports import requeue
from caracol.studio.photos import refresh_readings
from caracol.studio.pieces import check_all


class Command(BaseCommand):
    """Run by `serve` before the worker starts."""

    help = "Bring the database to this release, read photos again whose reading is old, put unfinished exports back in the queue."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        read, left, unread = refresh_readings(), requeue(), check_all()
        if read:
            self.stdout.write(f"{read} photos were read again.")
        if unread:
            self.stdout.write(f"{unread} pieces cannot be read by this release; the Shelf says which and why.")
        if left:
            self.stdout.write(f"{left} unfinished exports were put back in the queue.")
