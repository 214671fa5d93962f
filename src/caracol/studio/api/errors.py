"""The one place that turns faults into HTTP."""

from __future__ import annotations

import logging

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from ...core.errors import MissingPhoto, Overtaken, PictureError, PieceError
from ..pieces import Stale
from .schemas import PieceOut

log = logging.getLogger(__name__)


def body(code: str, message: str, faults: list[str] | None = None) -> dict[str, object]:
    """Return the shape of every error."""
    return {"error": {"code": code, "message": message, "faults": faults or []}}


def _request_fault(error: dict[str, object]) -> str:
    place = ".".join(str(p) for p in error["loc"] if p not in ("body", "payload", "query", "path"))  # type: ignore[attr-defined]
    return f"{place or 'request'}: {error['msg']}"


def install(api: NinjaAPI) -> None:
    """Register a handler for each fault the studio knows."""

    @api.exception_handler(ValidationError)
    def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        faults = [_request_fault(e) for e in error.errors]
        return api.create_response(
            request, body("invalid", "The request does not follow the rules: " + "; ".join(faults), faults), status=422
        )

    @api.exception_handler(HttpError)
    def _malformed(request: HttpRequest, error: HttpError) -> HttpResponse:
        return api.create_response(request, body("malformed", str(error)), status=error.status_code)

    @api.exception_handler(PieceError)
    def _piece(request: HttpRequest, error: PieceError) -> HttpResponse:
        return api.create_response(request, body("piece", str(error), error.faults), status=422)

    @api.exception_handler(PictureError)
    def _picture(request: HttpRequest, error: PictureError) -> HttpResponse:
        return api.create_response(request, body("picture", str(error)), status=422)

    @api.exception_handler(MissingPhoto)
    def _missing(request: HttpRequest, error: MissingPhoto) -> HttpResponse:
        return api.create_response(request, body("missing-photo", str(error)), status=404)

    @api.exception_handler(Overtaken)
    def _overtaken(request: HttpRequest, error: Overtaken) -> HttpResponse:
        return api.create_response(request, body("overtaken", str(error)), status=409)

    @api.exception_handler(Stale)
    def _stale(request: HttpRequest, error: Stale) -> HttpResponse:
        current = PieceOut.from_orm(error.current).model_dump(mode="json")
        return api.create_response(request, {**body("stale", str(error)), "current": current}, status=409)

    @api.exception_handler(Http404)
    def _gone(request: HttpRequest, error: Http404) -> HttpResponse:
        return api.create_response(request, body("not-found", "That is not here any more."), status=404)

    @api.exception_handler(OSError)
    def _disk(request: HttpRequest, error: OSError) -> HttpResponse:
        log.error("file system fault", exc_info=error)
        return api.create_response(
            request, body("disk", f"The disk refused: {error.strerror or error}. Free some room and try again."), status=507
        )
