"""The API, and the page for everything else (deep links into the Bench)."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.urls import path, re_path

from .api.app import api


def page(request: HttpRequest) -> HttpResponseBase:
    """Return the built page; it finds its way by the address."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The page is not built yet: run make demo.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html")
    response["Cache-Control"] = "no-cache"
    return response


urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|assets/).*$", page)]
