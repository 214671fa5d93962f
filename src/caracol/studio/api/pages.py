"""Lists come in pages."""

from __future__ import annotations

from ninja import Schema
from ninja.conf import settings
from ninja.pagination import LimitOffsetPagination
from pydantic import Field

FARTHEST = 10**9
"""Rows that are passed over at most: the database counts no further than 2⁶³."""


class Pages(LimitOffsetPagination):
    """So many rows after so many others."""

    class Input(Schema):
        """What is asked for."""

        limit: int = Field(settings.PAGINATION_PER_PAGE, ge=1, le=int(settings.PAGINATION_MAX_LIMIT))
        offset: int = Field(0, ge=0, le=FARTHEST)
