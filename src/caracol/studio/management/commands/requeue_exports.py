"""Put exports back in the queue that a killed worker left unfinished."""

from typing import Any

from django.core.management.base import BaseCommand

from caracol.studio.exports import requeue


class Command(BaseCommand):
    """Run before the worker starts."""

    help = "Put exports back in the queue that a killed worker left unfinished."

    def handle(self, *args: Any, **options: Any) -> None:
        count = requeue()
        if count:
            self.stdout.write(f"{count} unfinished exports were put back in the queue.")
