"""What the studio keeps. Models know no pixels."""

from __future__ import annotations

import uuid
from functools import cached_property
from itertools import chain, count
from typing import Any

from django.db import models
from django.utils import timezone

from ..core.errors import PieceError
from ..core.piece.recipe import Recipe as CoreRecipe
from ..core.piece.recipe import check_recipe
from ..core.reading.reading import Reading


class Removables(models.QuerySet[Any]):
    """Rows that can be deleted and brought back."""

    def present(self) -> Removables:
        """Return what has not been deleted."""
        return self.filter(deleted_at=None)

    def gone(self) -> Removables:
        """Return what has been deleted and can be brought back, the last deleted first."""
        return self.exclude(deleted_at=None).order_by("-deleted_at")


class Removable(models.Model):
    """A row that is deleted by a date, so that deleting can be undone."""

    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = Removables.as_manager()

    class Meta:
        abstract = True

    def remove(self) -> None:
        """Delete it, for now."""
        self.deleted_at = timezone.now()
        self.save(update_fields=["deleted_at"])

    def bring_back(self) -> None:
        """Undo its deletion."""
        self.deleted_at = None
        self.save(update_fields=["deleted_at"])


def free_name(model: type[Any], name: str) -> str:
    """Return a name that nothing else of its sort on the Shelf has: the same one, or with 2, 3, … after it."""
    name = name[:190]
    taken = set(model.objects.filter(deleted_at=None, name__startswith=name).values_list("name", flat=True))
    return next(one for one in chain([name], (f"{name} {k}" for k in count(2))) if one not in taken)


def suits_of(reading: Any) -> str:
    """Return what a kept reading says a photo is good or fair for, as `Photo.suits` has it."""
    uses = reading.get("uses", []) if isinstance(reading, dict) else []
    said = [f"{use.get('use')}:{use.get('verdict')}|" for use in uses if use.get("verdict") in ("good", "fair")]
    return "|" + "".join(said) if said else ""


class Photo(Removable):
    """A photo on the Shelf. Pieces name it by `file_name`, which never changes."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255, unique=True)
    digest = models.CharField(max_length=64, db_index=True)
    suffix = models.CharField(max_length=8)
    preview = models.CharField(max_length=120)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    reading = models.JSONField()
    # Of its reading, what it is good or fair for, so that photos can be found by it: |planet:good|tunnel:fair|.
    suits = models.TextField(blank=True, default="")
    notes = models.JSONField(default=list)
    areas = models.JSONField(default=list)
    keep = models.JSONField(default=list)
    transparent = models.BooleanField(default=False)
    cut = models.JSONField(null=True, default=None)
    added_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-added_at", "name")

    def __str__(self) -> str:
        return self.name

    def save(self, *args: Any, **options: Any) -> None:
        """Keep it; what it suits goes with its reading."""
        self.suits = suits_of(self.reading)
        fields = options.get("update_fields")
        if fields is not None and "reading" in fields:
            options["update_fields"] = [*fields, "suits"]
        super().save(*args, **options)

    @property
    def read(self) -> Reading:
        """What Caracol sees in it; where that was kept by another release and could not be made anew, a reading that says so."""
        try:
            return Reading.from_data(self.reading)
        except (KeyError, TypeError, AttributeError):
            return Reading.none(self.width, self.height, "not read: its file is gone or damaged; put it on the Shelf again")


class Piece(Removable):
    """A piece; `document` is the piece file's JSON."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    document = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    # Of the save that made this revision: the same save sent again, its answer having got lost, is known by it.
    save_token = models.CharField(max_length=64, blank=True, default="")
    # Why this release cannot read the document; found out when a release starts, so that lists need not look into documents.
    faults = models.JSONField(default=list)
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-changed_at",)

    def __str__(self) -> str:
        return self.name


class PieceHistory(models.Model):
    """What was done to a piece before and after its present state, as the Bench packs it; compressed."""

    piece = models.OneToOneField(Piece, on_delete=models.CASCADE, related_name="history", primary_key=True)
    revision = models.PositiveIntegerField()
    states = models.BinaryField()

    def __str__(self) -> str:
        return f"history of {self.piece_id}"


class Version(Removable):
    """A piece as it was at one moment, kept by hand (with a name) or by itself."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="versions")
    name = models.CharField(max_length=200, blank=True, default="")
    document = models.JSONField()
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-made_at",)

    def __str__(self) -> str:
        return self.name or f"{self.made_at}"


class Formula(Removable):
    """A formula of the artist's own book; `settings` are those of a formula step."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    settings = models.JSONField()
    created_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-created_at",)

    def __str__(self) -> str:
        return self.name


class Gradient(Removable):
    """A gradient of the artist's own book; `stops` are those of a gradient map."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    stops = models.JSONField()
    created_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-created_at",)

    def __str__(self) -> str:
        return self.name


class Recipe(Removable):
    """A recipe of the book; `data` is the recipe file's JSON. Those that come with Caracol have a key."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    key = models.CharField(max_length=64, blank=True, default="")
    name = models.CharField(max_length=200)
    tags = models.JSONField(default=list)
    data = models.JSONField()
    # File name of the photo that its picture is made of, where that is on the Shelf.
    photo = models.CharField(max_length=255, blank=True, default="")
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-created_at", "name")

    def __str__(self) -> str:
        return self.name

    @cached_property
    def read(self) -> CoreRecipe | None:
        """The recipe; None where this release cannot read it: then `faults` say why."""
        try:
            return check_recipe(self.data)
        except PieceError as error:
            self._faults = error.faults
            return None

    @property
    def faults(self) -> list[str]:
        """Why it cannot be read."""
        return [] if self.read is not None else self._faults


class Export(models.Model):
    """One delivered file, or the work on it."""

    class State(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="exports")
    number = models.PositiveIntegerField()
    file_name = models.CharField(max_length=255)
    document = models.JSONField()
    options = models.JSONField()
    state = models.CharField(max_length=12, choices=State.choices, default=State.WAITING)
    share = models.FloatField(default=0)
    # When it was last put into the queue, or the worker that has it was last heard of.
    heard_at = models.DateTimeField(null=True, blank=True)
    message = models.TextField(blank=True, default="")
    stored = models.CharField(max_length=120, blank=True, default="")
    size_bytes = models.PositiveBigIntegerField(default=0)
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    asked_at = models.DateTimeField(default=timezone.now)
    done_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("-number",)
        constraints = (models.UniqueConstraint(fields=("piece", "number"), name="export_number_once"),)

    def __str__(self) -> str:
        return self.file_name


class Run(models.Model):
    """A recipe on many photos, as it was when that was asked for, and how the files are to be."""

    class State(models.TextChoices):
        WORKING = "working"
        PAUSED = "paused"
        DONE = "done"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=200)
    recipe = models.JSONField()
    dials = models.JSONField(default=dict)
    slots = models.JSONField(default=dict)
    options = models.JSONField()
    state = models.CharField(max_length=12, choices=State.choices, default=State.WORKING)
    # Counts how often it was handed to the workers: what was handed out before the last time is worked on no more.
    turn = models.PositiveIntegerField(default=0)
    # When it was last handed out, or a worker took a photo of it.
    heard_at = models.DateTimeField(null=True, blank=True)
    asked_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ("-asked_at",)

    def __str__(self) -> str:
        return self.name

    @cached_property
    def told(self) -> dict[str, float]:
        """How many of its photos are in which state, the share of its work that is done, and the bytes of its files."""
        rows = (
            self.photos.values("state").annotate(n=models.Count("id"), share=models.Sum("share"), bytes=models.Sum("size_bytes")).order_by()
        )
        found: dict[str, float] = dict.fromkeys(RunPhoto.State.values, 0)
        shared = 0.0
        size = 0
        for row in rows:
            found[row["state"]] = row["n"]
            over = row["state"] in (RunPhoto.State.FAILED, RunPhoto.State.CANCELLED)
            shared += row["n"] if over else row["share"]
            size += row["bytes"]
        return found | {"share": shared / max(1.0, sum(found.values())), "size_bytes": size}


class RunPhoto(models.Model):
    """One photo of a run: its file, or the work on it."""

    class State(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="photos")
    number = models.PositiveIntegerField()
    photo = models.CharField(max_length=255)
    file_name = models.CharField(max_length=255)
    state = models.CharField(max_length=12, choices=State.choices, default=State.WAITING)
    share = models.FloatField(default=0)
    # When the worker that has it was last heard of, so that another may take it up where that one died.
    heard_at = models.DateTimeField(null=True, blank=True)
    times = models.PositiveIntegerField(default=0)
    message = models.TextField(blank=True, default="")
    stored = models.CharField(max_length=120, blank=True, default="")
    small = models.CharField(max_length=120, blank=True, default="")
    size_bytes = models.PositiveBigIntegerField(default=0)
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=("run", "number"), name="run_number_once"),)
        indexes = (models.Index(fields=("run", "state")),)

    def __str__(self) -> str:
        return self.file_name
