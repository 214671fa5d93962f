"""The one place that turns faults into HTTP."""

from __future__ import annotations

import logging
from collections.abc import Callable
from typing import Any

from django.core.exceptions import BadRequest, SuspiciousOperation
from django.db import Error as DatabaseError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from ...core.errors import MissingPhoto, PictureError, PieceError, Superseded, TooLarge, told
from ..load import Overloaded
from ..messages import UNKNOWN, error_body, of_database, of_disk
from ..pieces import Stale
from .schemas.pieces import PieceOut

log = logging.getLogger(__name__)

Answer = tuple[int, dict[str, object]]


def _request_fault(error: dict[str, Any]) -> str:
    place = ".".join(str(p)[:60] for p in error["loc"] if p not in ("body", "payload", "query", "path"))
    return f"{place or 'request'}: {error['msg']}"


def _invalid(error: ValidationError) -> Answer:
    faults = told([_request_fault(e) for e in error.errors])
    return 422, error_body("invalid", "The request does not follow the rules: " + "; ".join(faults), faults)


def _stale(error: Stale) -> Answer:
    current = PieceOut.from_orm(error.current).model_dump(mode="json")
    return 409, {**error_body("stale", str(error)), "current": current}


def _unread(error: HttpError) -> Answer:
    """A body that could not be read: the server says what for in the cause alone."""
    if isinstance(error.__cause__, PieceError):
        return 422, error_body("too-large", f"The request is not read: {error.__cause__}.", error.__cause__.faults)
    return error.status_code, error_body("malformed", f"{error}: {error.__cause__}" if error.__cause__ else str(error))


def _plain(status: int, code: str) -> Callable[[Exception], Answer]:
    return lambda error: (status, error_body(code, str(error)))


def _logged(name: str, find: Callable[[Any], tuple[int, str, str]]) -> Callable[[Exception], Answer]:
    def answer(error: Exception) -> Answer:
        log.error(name, exc_info=error)
        status, code, message = find(error)
        return status, error_body(code, message)

    return answer


def _unreadable(error: Exception) -> Answer:
    return 400, error_body("malformed", f"The request cannot be read: {error}")


ANSWERS: dict[type[Exception], Callable[[Any], Answer]] = {
    ValidationError: _invalid,
    HttpError: _unread,
    MultiPartParserError: _unreadable,
    BadRequest: _unreadable,
    SuspiciousOperation: _unreadable,
    PieceError: lambda error: (422, error_body("piece", str(error), error.faults)),
    PictureError: _plain(422, "picture"),
    TooLarge: _plain(422, "too-large"),
    MissingPhoto: _plain(404, "missing-photo"),
    Superseded: _plain(409, "superseded"),
    Overloaded: _plain(503, "busy"),
    Stale: _stale,
    Http404: lambda error: (404, error_body("not-found", "This no longer exists.")),
    OSError: _logged("file system fault", of_disk),
    DatabaseError: _logged("database fault", of_database),
    Exception: _logged("fault without a name", lambda error: (500, "fault", UNKNOWN)),
}
"""What is answered to each fault, the nearest of its classes counting: (status, body)."""


def install(api: NinjaAPI) -> None:
    """Register what is answered to each fault the studio knows."""

    def handler(answer: Callable[[Any], Answer]) -> Callable[[HttpRequest, Any], HttpResponse]:
        def respond(request: HttpRequest, error: Any) -> HttpResponse:
            status, said = answer(error)
            return api.create_response(request, said, status=status)

        return respond

    for fault, answer in ANSWERS.items():
        api.add_exception_handler(fault, handler(answer))
