"""The API, the page for everything else (deep links into the Bench), and what is said where neither can answer."""

from typing import Any

from django.conf import settings
from django.contrib.auth.views import LoginView, LogoutView
from django.http import FileResponse, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.urls import path, re_path
from django.views.generic import RedirectView

from .api.app import api
from .guard import refused
from .messages import UNKNOWN


def page(request: HttpRequest) -> HttpResponseBase:
    """Return the built page; it finds its way by the address."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The page is not built yet: run make demo.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html")
    response["Cache-Control"] = "no-cache"
    return response


def handler400(request: HttpRequest, exception: Exception, *args: Any) -> HttpResponse:
    """Answer a request that cannot be understood."""
    return refused(400, "malformed", "The request cannot be understood.")


def handler404(request: HttpRequest, exception: Exception, *args: Any) -> HttpResponse:
    """Answer for an address at which nothing lies."""
    return refused(404, "not-found", "There is nothing at this address.")


def handler500(request: HttpRequest) -> HttpResponse:
    """Answer where everything else has failed; the log has the reason."""
    return refused(500, "fault", UNKNOWN)


urlpatterns = [
    path("api/v1/", api.urls),
    # Addresses of files from before the version stood in them.
    re_path(
        r"^api/(?!v1/)(?P<rest>.*)$", RedirectView.as_view(url="/api/v1/%(rest)s", query_string=True, http_method_names=["get", "head"])
    ),
    path("login", LoginView.as_view(template_name="login.html"), name="login"),
    path("logout", LogoutView.as_view(), name="logout"),
    re_path(r"^(?!api/|assets/).*$", page),
]
