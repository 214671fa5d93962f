"""Load the demo world: photos drawn by our own generator, and pieces made from them."""

import os
from concurrent.futures import ProcessPoolExecutor
from typing import Any

from django.core.management.base import BaseCommand

from caracol.studio.demo.pieces import PIECES
from caracol.studio.demo.world import SCENES, draw_photo
from caracol.studio.models import Photo, Piece
from caracol.studio.photos import add_photo
from caracol.studio.pieces import create


class Command(BaseCommand):
    """What is there already, or was once and was deleted, is left alone."""

    help = "Load the demo photos and pieces."

    def handle(self, *args: Any, **options: Any) -> None:
        known = set(Photo.objects.values_list("file_name", flat=True))
        missing = [scene for scene in SCENES if scene.file_name not in known]
        if missing:
            self.stdout.write(f"Drawing {len(missing)} demo photos …")
        with ProcessPoolExecutor(os.cpu_count()) as pool:
            for scene, content in zip(missing, pool.map(draw_photo, missing), strict=True):
                add_photo(content, scene.file_name)
                self.stdout.write(f"  {scene.name}")
        for name, document in PIECES:
            if not Piece.objects.filter(name=name).exists():
                create(name, document)
