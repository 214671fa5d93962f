"""Read photos again whose reading was made by an older Caracol."""

from typing import Any

from django.core.management.base import BaseCommand

from caracol.studio.photos import refresh_readings


class Command(BaseCommand):
    """Run before the web process starts."""

    help = "Read photos again whose reading was made by an older Caracol."

    def handle(self, *args: Any, **options: Any) -> None:
        count = refresh_readings()
        if count:
            self.stdout.write(f"{count} photos were read again.")
