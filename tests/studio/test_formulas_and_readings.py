"""The book of formulas, readings of stages, and pieces without a photo, through the API."""

from __future__ import annotations

import pytest

from caracol.studio.models import Photo
from caracol.studio.photos import refresh_readings

from .conftest import Api

LINES = {"system": "polar", "first": "rad ^ power", "second": "ang", "knobs": {"power": {"value": 2, "low": 0.5, "high": 4}}}


def test_a_formula_is_kept_renamed_deleted_restored_and_exported(api: Api) -> None:
    kept = api.send("post", "formulas", {"name": " Deep eye ", "settings": LINES}).json()
    assert kept["name"] == "Deep eye"
    assert kept["settings"]["knobs"] == LINES["knobs"]
    path = f"formulas/{kept['id']}"
    assert api.send("patch", path, {"name": "Deeper eye"}).json()["name"] == "Deeper eye"
    told = api.get(f"{path}/file")
    assert (told.json()["formula"], told.json()["settings"]["first"]) == ("Deeper eye", "rad ^ power")
    assert 'filename="deeper-eye.formula.json"' in told["Content-Disposition"]
    api.send("delete", path)
    assert api.rows("formulas") == []
    api.send("post", f"{path}/restore")
    assert [f["name"] for f in api.rows("formulas")] == ["Deeper eye"]


def test_a_formula_that_cannot_be_read_is_not_kept(api: Api) -> None:
    answer = api.send("post", "formulas", {"name": "Broken", "settings": {"first": "x +"}})
    assert answer.status_code == 422
    assert "settings.first: column 4: expected a number" in answer.json()["error"]["message"]
    assert api.rows("formulas") == []


def test_lines_are_checked_with_columns_and_knobs(api: Api) -> None:
    told = api.send("post", "formulas/checks", {"lines": ["x + sine(k)", "y * h + k"]}).json()
    assert told["faults"] == [{"line": 0, "column": 5, "length": 4, "message": told["faults"][0]["message"]}]
    assert told["knobs"] == ["h", "k"]


def test_a_stage_is_read_as_a_photo_is(api: Api) -> None:
    piece = api.piece()
    whole = api.send("post", "analyses/readings", {"document": piece["document"], "upto": 0}).json()
    assert whole["ratio"] == pytest.approx(2, abs=0.01)
    assert {use["use"] for use in whole["uses"]} == {"planet", "sky well", "tunnel", "inside-out", "twirl", "breaking"}
    ringed = api.send("post", "analyses/readings", {"document": piece["document"]}).json()
    assert ringed["ratio"] == pytest.approx(1)


def test_an_older_reading_is_made_anew(api: Api) -> None:
    photo = api.photo()
    Photo.objects.filter(id=photo["id"]).update(reading={"words": "old"})
    assert refresh_readings() == 1
    assert refresh_readings() == 0
    row = api.rows("photos")[0]
    assert row["reading"]["detail"] > 0
    # A reading with every field, made when readings said other things.
    Photo.objects.filter(id=photo["id"]).update(reading={**row["reading"], "version": 0, "words": "old"})
    assert refresh_readings() == 1
    assert api.rows("photos")[0]["reading"]["words"] == row["reading"]["words"]


def test_a_piece_without_a_photo(api: Api) -> None:
    piece = api.send("post", "pieces", {"source": {"kind": "pattern", "form": "plasma"}}).json()
    assert piece["name"] == "Plasma"
    assert piece["document"]["layers"][0]["source"]["seed"] == 1
    look = api.send("post", "previews", {"document": piece["document"], "size": 64})
    assert (look.status_code, look["X-Preview-Size"]) == (200, "64x43")
    assert api.rows("pieces")[0]["photo"] is None
    wrong = api.send("post", "pieces", {"source": {"kind": "pattern", "form": "clouds"}})
    assert "layers[0].source.form: got 'clouds'" in wrong.json()["error"]["message"]
    assert "expected fill, shape or pattern" in api.send("post", "pieces", {"source": {"kind": "photo"}}).json()["error"]["message"]
