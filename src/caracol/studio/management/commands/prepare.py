"""Bring what is stored up to date before web process and worker serve it."""

from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from caracol.studio.exports import requeue
from caracol.studio.photos import refresh_readings
from caracol.studio.pieces import check_all


class Command(BaseCommand):
    """Run by `serve` before the worker starts."""

    help = "Bring the database to this release, read photos again whose reading is old, put unfinished exports back in the queue."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("migrate", verbosity=0)
        if settings.OPEN:
            _check_login()
        read, left, unread = refresh_readings(), requeue(), check_all()
        if read:
            self.stdout.write(f"{read} photos were read again.")
        if unread:
            self.stdout.write(f"{unread} pieces cannot be read by this release; the Shelf says which and why.")
        if left:
            self.stdout.write(f"{left} unfinished exports were put back in the queue.")


def _check_login() -> None:
    """Refuse to open Caracol to a network where anybody could come in."""
    hosts = ", ".join(settings.NETWORK_HOSTS)
    if settings.SECRET_KEY == settings.UNSIGNED:
        raise CommandError(f"CARACOL_HOSTS opens Caracol to {hosts}: set CARACOL_SECRET to a long random text of your own first.")
    if not User.objects.filter(is_active=True).exists():
        raise CommandError(f"CARACOL_HOSTS opens Caracol to {hosts}, and nobody can log in yet: run manage.py createsuperuser first.")
