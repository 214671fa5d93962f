"""Faults in words: the one shape of every error, and what the file system and the database mean by theirs."""

from __future__ import annotations

import errno

from django.db import DataError, OperationalError
from django.db import Error as DatabaseError

FULL = (errno.ENOSPC, errno.EDQUOT)
CLOSED = (errno.EROFS, errno.EACCES, errno.EPERM)
NO_ROOM = "The disk is full. Free some room and try again; nothing that was saved is lost."
NO_ENTRY = "Caracol's folder cannot be written to. Make it writable and try again; nothing that was saved is lost."
BUSY = "The database is busy with something else. It is tried again; nothing that was saved is lost."
AWAY = "The database does not answer. It is tried again; nothing that was saved is lost."
TOO_LONG = "The database cannot keep a text as long as this. Shorten it and try again."
CONTROL = "The database cannot keep a control character that is in this text. Take it out and try again."
UNKNOWN = "Caracol stumbled over something it has no words for. Nothing that was saved is lost; its log says what it was."


def error_body(code: str, message: str, faults: list[str] | None = None) -> dict[str, object]:
    """Return the shape of every error."""
    return {"error": {"code": code, "message": message, "faults": faults or []}}


def of_disk(error: OSError) -> tuple[int, str, str]:
    """Return (status, code, message) of a fault of the file system."""
    if error.errno in FULL:
        return 507, "disk", NO_ROOM
    if error.errno in CLOSED:
        return 507, "disk", NO_ENTRY
    if isinstance(error, FileNotFoundError):
        return 404, "not-found", "The file is not there any more."
    return 507, "disk", f"The disk refused: {error.strerror or error}. Try again; if it stays, look whether the disk is sound."


def of_database(error: DatabaseError) -> tuple[int, str, str]:
    """Return (status, code, message) of a fault of the database."""
    told = str(error).lower()
    if "connection" in told and isinstance(error, OperationalError):
        return 503, "busy", AWAY
    if isinstance(error, DataError):
        return 422, "invalid", TOO_LONG if "too long" in told else CONTROL
    if "full" in told or "disk i/o" in told:
        return 507, "disk", NO_ROOM
    if "readonly" in told or "unable to open" in told:
        return 507, "disk", NO_ENTRY
    if "locked" in told or "busy" in told:
        return 503, "busy", BUSY
    if "no such table" in told or "no such column" in told:
        return 503, "not-ready", "The database is of another release. Start Caracol with make demo, which brings it up to date."
    return 500, "database", "The database refused this. Nothing was changed; Caracol's log says why."
