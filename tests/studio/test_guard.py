"""Other sites' pages, other hosts, bodies that are too large, and what is said where nothing else answers."""

from __future__ import annotations

import json
from typing import Any

import pytest
from django.conf import settings as studio
from django.contrib.auth.models import User
from django.core.management import CommandError, call_command
from django.test import Client

from caracol.studio.models import Piece
from caracol.studio.settings import WALL

from .conftest import Api

OWN = "http://testserver"
FILL = json.dumps({"source": {"kind": "fill"}})


def post(**headers: str) -> Any:
    """Start a piece as a page would, with these headers."""
    kind = headers.pop("content_type", "application/json")
    return Client().post("/api/v1/pieces", FILL, content_type=kind, headers=headers)


def code(answer: Any) -> str:
    """Return the code of an error, which has the one shape of all of them."""
    error = answer.json()["error"]
    assert set(error) == {"code", "message", "faults"}
    assert error["message"]
    return str(error["code"])


@pytest.mark.parametrize(
    "headers",
    [
        {"origin": "http://elsewhere.example"},
        {"origin": "null"},
        {"origin": "http://testserver.elsewhere.example"},
        {"origin": "http://testserver:8000"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
        {"sec-fetch-site": "cross-site", "origin": OWN},
    ],
)
def test_another_sites_page_writes_nothing(db: None, headers: dict[str, str]) -> None:
    answer = post(**headers)
    assert (answer.status_code, code(answer)) == (403, "origin")
    assert not Piece.objects.exists()


@pytest.mark.parametrize("headers", [{}, {"origin": OWN}, {"sec-fetch-site": "same-origin", "origin": OWN}, {"sec-fetch-site": "none"}])
def test_caracols_own_page_and_the_command_line_do(db: None, headers: dict[str, str]) -> None:
    assert post(**headers).status_code == 201


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "text/plain; application/json"])
def test_what_a_form_can_send_writes_nothing(db: None, kind: str) -> None:
    answer = post(content_type=kind)
    assert (answer.status_code, code(answer)) == (415, "content-type")
    assert not Piece.objects.exists()


def test_a_trusted_origin_may_write(db: None, settings: Any) -> None:
    settings.CARACOL_ORIGINS = ["http://localhost:5173"]
    assert post(origin="http://localhost:5173", **{"sec-fetch-site": "same-site"}).status_code == 201


def test_only_hosts_that_are_named_are_answered(db: None) -> None:
    for path in ("/api/v1/pieces", "/", "/bench/x"):
        answer = Client().get(path, headers={"host": "elsewhere.example"})
        assert (answer.status_code, code(answer)) == (400, "host")
    assert set(studio.ALLOWED_HOSTS) <= {"localhost", "127.0.0.1", "[::1]", "testserver"}  # the last is the test client's own


@pytest.mark.parametrize("path", ["/", "/bench/x", "/api/v1/catalogue", "/api/v1/nothing", "/favicon.svg"])
def test_every_answer_forbids_frames_and_foreign_scripts(db: None, path: str) -> None:
    answer = Client().get(path)
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["X-Frame-Options"] == "DENY"
    policy = answer["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "frame-ancestors 'none'" in policy
    assert "script-src" not in policy  # nothing wider than the default


def test_a_body_over_the_limit_is_told_so(db: None) -> None:
    answer = Client().post("/api/v1/pieces", b'{"name":"' + b"x" * (17 << 20) + b'"}', content_type="application/json")
    assert (answer.status_code, code(answer)) == (413, "too-large")
    assert "at most 16 MB" in answer.json()["error"]["message"]


def test_an_upload_over_the_limit_is_refused_by_its_length(db: None, settings: Any) -> None:
    settings.UPLOAD_LIMIT = 1 << 20
    answer = Api().upload(b"x" * (3 << 20))
    assert (answer.status_code, code(answer)) == (413, "too-large")


def test_errors_outside_the_api_have_the_same_shape(db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    assert code(Client().get("/api/v1/nothing")) == "not-found"
    assert code(Client().get("/api/v1/photos?search=" + "x" * 8000)) == "too-long"
    assert code(Client().post("/api/v1/photos", b"x", content_type="multipart/form-data")) == "malformed"
    assert code(Client().post("/api/v1/pieces", b"{", content_type="application/json")) == "malformed"
    monkeypatch.setattr("caracol.studio.models.Removables.present", lambda _: 1 / 0)
    answer = Client(raise_request_exception=False).get("/api/v1/pieces")
    assert (answer.status_code, code(answer)) == (500, "fault")


@pytest.fixture
def opened(db: None, settings: Any) -> Client:
    """Return a client of a Caracol that is open to a network."""
    settings.MIDDLEWARE = [*settings.MIDDLEWARE, *WALL]
    return Client()


def test_opened_to_a_network_nothing_is_answered_without_a_login(opened: Client) -> None:
    answer = opened.get("/api/v1/pieces")
    assert (answer.status_code, code(answer)) == (401, "login")
    assert code(opened.post("/api/v1/pieces", FILL, content_type="application/json")) == "login"
    assert opened.get("/bench/x?y=1")["Location"] == "/login?next=/bench/x%3Fy%3D1"
    assert opened.get("/api/v1/photos/00000000-0000-0000-0000-000000000000/preview").status_code == 401


def test_who_logs_in_works_as_at_home(opened: Client) -> None:
    User.objects.create_user("ada", password="a long sentence of her own")
    assert b"do not go together" in opened.post("/login", {"username": "ada", "password": "wrong"}).content
    answer = opened.post("/login", {"username": "ada", "password": "a long sentence of her own", "next": "/bench/x"})
    assert answer["Location"] == "/bench/x"
    assert opened.post("/api/v1/pieces", FILL, content_type="application/json").status_code == 201


def test_opened_without_a_login_it_does_not_start(db: None, settings: Any) -> None:
    settings.OPEN = True
    settings.NETWORK_HOSTS = ["studio.example"]
    with pytest.raises(CommandError, match="CARACOL_SECRET"):
        call_command("prepare")
    settings.SECRET_KEY = "one of its own, long enough to sign sessions with, drawn by chance"
    with pytest.raises(CommandError, match="createsuperuser"):
        call_command("prepare")
    User.objects.create_user("ada", password="a long sentence of her own")
    call_command("prepare")
