"""Small documents that would cost a machine, through the API."""

from __future__ import annotations

from typing import Any

import pytest

from caracol.core.render.limits import Limits
from caracol.studio import export_work, rendering
from caracol.studio.jobs import run_export
from caracol.studio.models import Export

from .conftest import Api

NARROW = {"kind": "pattern", "form": "rings", "ratio": 0.1}


def document(*steps: tuple[str, dict[str, Any]], source: dict[str, Any] = NARROW) -> dict[str, Any]:
    trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps)]
    return {"caracol": 1, "layers": [{"id": "a", "source": source, "steps": trail}]}


def test_a_look_that_would_cost_too_much_is_refused_with_a_sentence(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(rendering, "LIMITS", Limits(60, 2 << 30))
    answer = api.send("post", "previews", {"document": document(("pixel-sort", {"lines": 4320})), "size": 16})
    assert (answer.status_code, answer.json()["error"]["code"]) == (422, "too-large")
    assert "GB of memory; at most 2.1 GB are allowed. Most of it is pixel sort." in answer.json()["error"]["message"]


def test_a_large_look_comes_smaller_rather_than_not_at_all(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(rendering, "LIMITS", Limits(bytes=90 << 20))
    blurred = document(("blur", {"radius": 0.1}), source={**NARROW, "ratio": 1.5})
    assert api.send("post", "previews", {"document": blurred, "size": 1024})["X-Preview-Size"] == "1024x683"
    assert api.send("post", "previews", {"document": blurred, "size": 4096})["X-Preview-Size"] == "1024x683"


def test_an_export_that_would_cost_too_much_fails_with_the_reason(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(export_work, "LIMITS", Limits(bytes=10 << 20))
    piece = api.send("post", "pieces", {"document": document(("blur", {"radius": 0.1}))}).json()
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 2048, "format": "png"}).json()
    Export.objects.filter(id=export["id"]).update(state=Export.State.WAITING)
    run_export.call(export["id"])
    failed = Export.objects.get(id=export["id"])
    assert failed.state == Export.State.FAILED
    assert "GB of memory" in failed.message


@pytest.mark.parametrize("text", ["", "\n", "\n\n\n", "a\n", "😀" * 100, "A" * 300, "W\n" * 150])
def test_any_words_can_be_shown(api: Api, text: str) -> None:
    words = document(source={"kind": "lettering", "text": text, "size": 4})
    assert api.send("post", "previews", {"document": words, "size": 64}).status_code == 200


@pytest.mark.parametrize(
    ("body", "told"),
    [
        (b"[" * 100_000, "more than 64 deep"),
        (b'{"document": ' + b"[" * 70 + b"]" * 70 + b"}", "more than 64 deep"),
        (b"[" + b"{}," * 60_000 + b"{}]", "holds 60,001 lists or objects"),
        (b'{"document": {"layers": [' + b"{}," * 20_000 + b"{}]}}", "a list has 20,001 entries"),
        (b'{"document": {"caracol": 3, "layers": [' + b"1," * 500_000 + b"1]}}", "has 500,001 layers and groups in all"),
        (b"9" * 5000, "Exceeds the limit"),
        (b'{"document": NaN}', "NaN is not a number JSON knows"),
    ],
)
@pytest.mark.parametrize("path", ["pieces", "analyses/identities"])
def test_what_is_too_much_is_told_in_few_words(api: Api, path: str, body: bytes, told: str) -> None:
    answer = api.client.post(f"/api/v1/{path}", body, content_type="application/json")
    assert answer.status_code in (400, 422)
    assert told in answer.json()["error"]["message"]
    assert len(answer.content) < 2000


@pytest.mark.parametrize("path", ["pieces", "photos", "recipes", "runs", "formulas", "gradients"])
def test_no_list_is_that_long(api: Api, path: str) -> None:
    assert api.get(f"{path}?offset={'9' * 50}").status_code == 422
    assert api.get(f"{path}?offset=999999999").json()["items"] == []
