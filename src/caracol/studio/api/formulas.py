"""The artist's own book of formulas, and what is wrong with a line while it is typed."""

from __future__ import annotations

import json
from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from ninja.pagination import paginate

from ...core.delivery.names import stem_for
from ...core.formulas.language import FormulaError, Node, knobs_of, read_formula
from ...core.piece.files import check_piece, dump_piece
from ..models import Formula
from .described import DOWNLOAD, binary
from .pages import Pages
from .schemas.books import FormulaCheckIn, FormulaCheckOut, FormulaFaultOut, FormulaIn, FormulaOut, FormulaPatch
from .schemas.common import FAULTS
from .serving import download

router = Router(tags=["formulas"])


@router.get("", response={200: list[FormulaOut], **FAULTS}, operation_id="list_formulas")
@paginate(Pages)
def list_formulas(request: HttpRequest) -> QuerySet[Formula]:
    """List the artist's own formulas, the newest first."""
    return Formula.objects.present()


@router.post("", response={201: FormulaOut, **FAULTS}, operation_id="add_formula")
def add(request: HttpRequest, payload: FormulaIn) -> Status[Formula]:
    """Save a formula."""
    step = {"id": "f", "kind": "formula", "settings": payload.settings}
    piece = dump_piece(check_piece({"caracol": 3, "layers": [{"id": "f", "steps": [step]}]}))
    return Status(201, Formula.objects.create(name=payload.name.strip(), settings=piece["layers"][0]["steps"][0]["settings"]))


@router.post("/checks", response={200: FormulaCheckOut, **FAULTS}, operation_id="check_formula")
def check(request: HttpRequest, payload: FormulaCheckIn) -> FormulaCheckOut:
    """Check the lines of a formula: faults with their place, and the names that become sliders."""
    trees: list[Node] = []
    faults: list[FormulaFaultOut] = []
    for number, line in enumerate(payload.lines):
        try:
            trees.append(read_formula(line))
        except FormulaError as error:
            faults.append(FormulaFaultOut(line=number, column=error.column, length=error.length, message=error.told))
    return FormulaCheckOut(faults=faults, knobs=knobs_of(*trees))


@router.patch("/{formula_id}", response={200: FormulaOut, **FAULTS}, operation_id="rename_formula")
def rename(request: HttpRequest, formula_id: UUID, payload: FormulaPatch) -> Formula:
    """Give a formula another name."""
    formula = get_object_or_404(Formula, id=formula_id)
    formula.name = payload.name.strip()
    formula.save(update_fields=["name"])
    return formula


@router.delete("/{formula_id}", response={200: FormulaOut, **FAULTS}, operation_id="delete_formula")
def delete(request: HttpRequest, formula_id: UUID) -> Formula:
    """Delete a formula; `restore` brings it back."""
    formula = get_object_or_404(Formula, id=formula_id)
    formula.remove()
    return formula


@router.post("/{formula_id}/restore", response={200: FormulaOut, **FAULTS}, operation_id="restore_formula")
def restore(request: HttpRequest, formula_id: UUID) -> Formula:
    """Bring a deleted formula back."""
    formula = get_object_or_404(Formula, id=formula_id)
    formula.bring_back()
    return formula


@router.get(
    "/{formula_id}/file",
    operation_id="get_formula_file",
    response={200: None, **FAULTS},
    openapi_extra=binary("The formula as JSON.", "application/json", headers=DOWNLOAD),
)
def file(request: HttpRequest, formula_id: UUID) -> HttpResponse:
    """Return a formula as a JSON file, to be given away or taken in elsewhere."""
    formula = get_object_or_404(Formula, id=formula_id)
    text = json.dumps({"formula": formula.name, "settings": formula.settings}, indent=2)
    return download(text, "application/json", f"{stem_for(formula.name, 'formula')}.formula.json")
