"""The artist's own book of gradients."""

from __future__ import annotations

from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from ninja.pagination import paginate

from ..models import Gradient
from .pages import Pages
from .schemas.books import GradientIn, GradientOut, GradientPatch
from .schemas.common import FAULTS

router = Router(tags=["gradients"])


@router.get("", response={200: list[GradientOut], **FAULTS}, operation_id="list_gradients")
@paginate(Pages)
def list_gradients(request: HttpRequest) -> QuerySet[Gradient]:
    """List the artist's own gradients, the newest first."""
    return Gradient.objects.present()


@router.post("", response={201: GradientOut, **FAULTS}, operation_id="add_gradient")
def add(request: HttpRequest, payload: GradientIn) -> Status[Gradient]:
    """Save a gradient."""
    return Status(201, Gradient.objects.create(name=payload.name.strip(), stops=[stop.dict() for stop in payload.stops]))


@router.patch("/{gradient_id}", response={200: GradientOut, **FAULTS}, operation_id="rename_gradient")
def rename(request: HttpRequest, gradient_id: UUID, payload: GradientPatch) -> Gradient:
    """Give a gradient another name."""
    gradient = get_object_or_404(Gradient, id=gradient_id)
    gradient.name = payload.name.strip()
    gradient.save(update_fields=["name"])
    return gradient


@router.delete("/{gradient_id}", response={200: GradientOut, **FAULTS}, operation_id="delete_gradient")
def delete(request: HttpRequest, gradient_id: UUID) -> Gradient:
    """Delete a gradient; `restore` brings it back."""
    gradient = get_object_or_404(Gradient, id=gradient_id)
    gradient.remove()
    return gradient


@router.post("/{gradient_id}/restore", response={200: GradientOut, **FAULTS}, operation_id="restore_gradient")
def restore(request: HttpRequest, gradient_id: UUID) -> Gradient:
    """Bring a deleted gradient back."""
    gradient = get_object_or_404(Gradient, id=gradient_id)
    gradient.bring_back()
    return gradient
