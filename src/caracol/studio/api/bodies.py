"""How bodies of requests are read: within the bounds that all JSON from outside is held to."""

from __future__ import annotations

from typing import Any, cast

from django.http import HttpRequest
from ninja.parser import Parser

from ...core.bounds import read_json


class BoundedParser(Parser):
    """Reads a body as JSON; what is larger or deeper than anything here is written is refused before it is looked at."""

    def parse_body(self, request: HttpRequest) -> dict[str, Any]:
        """Return what a body says."""
        return cast(dict[str, Any], read_json(request.body))
