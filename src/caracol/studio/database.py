"""What SQLite does by itself and other databases must be asked for."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection, transaction

WRITERS = 0x0CA7AC01
"""The number of the one lock that writers of Caracol take."""


@contextmanager
def one_writer() -> Iterator[None]:
    """Be the only writer inside this block, a transaction: what is read in it holds until it is written.

    SQLite has one writer at a time (its transactions begin IMMEDIATE); on PostgreSQL a lock makes it so, until the transaction ends.
    """
    with transaction.atomic():
        if connection.vendor == "postgresql":
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_xact_lock(%s)", [WRITERS])
        yield
