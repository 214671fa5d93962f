"""Load the demo world: photos drawn by our own generator, and pieces made from them."""

from typing import Any

from django.core.management.base import BaseCommand

from caracol.studio.demo.loading import load


class Command(BaseCommand):
    """What is there already, or was once and was deleted, is left alone."""

    help = "Load the demo photos and pieces."

    def handle(self, *args: Any, **options: Any) -> None:
        load(self.stdout.write)
