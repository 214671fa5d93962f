"""What every request must pass before anything is read or written, and what every answer says to the browser (SECURITY.md)."""

from __future__ import annotations

import time
from collections.abc import Callable
from urllib.parse import quote, urlsplit

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.http.response import HttpResponseBase

from .messages import error_body

READING = ("GET", "HEAD", "OPTIONS")
OWN = ("same-origin", "none")
"""What a browser says of requests that come from our own page, or from the address bar."""
TYPES = ("application/json", "multipart/form-data")
POLICY = "; ".join(
    (
        "default-src 'self'",
        "img-src 'self' blob: data:",
        "style-src 'self' 'unsafe-inline'",  # the component library writes its style sheets from the page
        "font-src 'self' data:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = {"Content-Security-Policy": POLICY, "X-Frame-Options": "DENY", "Cross-Origin-Resource-Policy": "same-origin"}
LONGEST_ADDRESS = 7000
"""A picture's address holds every dial that was moved, by its name; the server itself takes 8190."""
DRAINED = 64 << 20
DRAINING = 3.0
"""So many bytes and seconds of a body that is refused are still read: a browser hears an answer only when it may go on sending."""


def refused(status: int, code: str, message: str) -> HttpResponse:
    """Return an error in the API's one shape."""
    return JsonResponse(error_body(code, message), status=status)


class Guard:
    """Middleware, before all others."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        answer = self._refusal(request) or self.get_response(request)
        if answer.status_code == 405 and request.path.startswith("/api/"):
            allowed = answer.headers.get("Allow", "")
            answer = refused(405, "method", f"This address does not take {request.method}; it takes {allowed or 'other methods'}.")
            answer.headers["Allow"] = allowed
        for name, value in HEADERS.items():
            answer.headers.setdefault(name, value)
        return answer

    def _refusal(self, request: HttpRequest) -> HttpResponse | None:
        try:
            host = request.get_host()
        except DisallowedHost:
            named = request.META.get("HTTP_HOST", "")[:100]
            return refused(
                400, "host", f"This Caracol is not reached as {named!r}; open the address it prints, or name the host in CARACOL_HOSTS."
            )
        if len(request.get_full_path()) > LONGEST_ADDRESS:
            return refused(414, "too-long", f"This address is longer than {LONGEST_ADDRESS} characters; nothing here has such a one.")
        if request.method in READING:
            return None
        if not self._is_own(request, host):
            return refused(403, "origin", "This request came from another site's page. Only Caracol's own page may change anything here.")
        length = request.META.get("CONTENT_LENGTH") or "0"
        if not length.isdigit():
            return refused(400, "malformed", "The length of the request is not a number.")
        type_ = (request.content_type or "").lower()
        is_upload = type_ == "multipart/form-data"
        most = settings.UPLOAD_LIMIT + (1 << 20) if is_upload else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        if int(length) > most:
            _drain(request, int(length))
            what = "A photo" if is_upload else "A document"
            return refused(413, "too-large", f"{what} of {int(length) / 1e6:.0f} MB is too large; at most {most >> 20} MB are taken.")
        if int(length) and type_ not in TYPES and request.path.startswith("/api/"):
            return refused(
                415, "content-type", f"Send application/json, or multipart/form-data for a photo; this was {type_ or 'of no type'}."
            )
        return None

    def _is_own(self, request: HttpRequest, host: str) -> bool:
        """Whether a request that writes comes from our own page, or from no page at all (a command line)."""
        origin = request.META.get("HTTP_ORIGIN")
        if origin in settings.CARACOL_ORIGINS:
            return True
        if request.META.get("HTTP_SEC_FETCH_SITE", "none") not in OWN:
            return False
        return origin is None or (urlsplit(origin).scheme in ("http", "https") and urlsplit(origin).netloc == host)


def _drain(request: HttpRequest, length: int) -> None:
    until, left = time.monotonic() + DRAINING, min(length, DRAINED)
    while left > 0 and time.monotonic() < until:
        part = request.environ["wsgi.input"].read(min(left, 1 << 16)) if hasattr(request, "environ") else b""
        if not part:
            return
        left -= len(part)


class LoginWall:
    """Middleware for a Caracol that is open to a network: nothing is answered to who has not logged in."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if request.user.is_authenticated or request.path == settings.LOGIN_URL:
            return self.get_response(request)
        if request.path.startswith("/api/"):
            return refused(401, "login", "Log in first.")
        return HttpResponseRedirect(f"{settings.LOGIN_URL}?next={quote(request.get_full_path())}")
