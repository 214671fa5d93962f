"""Several machines at one run: PostgreSQL, Redis, a shared folder, a web process, two workers, one of which dies in the middle."""

from __future__ import annotations

import io
import os
import re
import shutil
import subprocess
import sys
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import suppress
from importlib.util import find_spec
from pathlib import Path
from urllib.request import urlopen

import numpy as np
import psutil
import pytest
from PIL import Image

from caracol.core.io.formats import collect, encode
from tests.api import Api
from tests.pictures import detailed
from tests.server import ROOT, Server, free_port, wait_until

PROGRAMS = next(iter(sorted(Path("/usr/lib/postgresql").glob("*/bin"), reverse=True)), None)
REDIS = shutil.which("redis-server")
PHOTOS = 40
SIZE = 600
OWNER = "postgres" if os.geteuid() == 0 else None
"""PostgreSQL refuses to be run by root."""

pytestmark = [
    pytest.mark.scale,
    pytest.mark.skipif(
        not (PROGRAMS and REDIS and find_spec("psycopg") and find_spec("django_rq")), reason="make test-scale installs them"
    ),
]


@pytest.fixture
def folder() -> Iterator[Path]:
    """Return a folder that PostgreSQL's owner reaches; a test's own is closed to others."""
    place = Path(tempfile.mkdtemp(prefix="caracol-scale-"))
    place.chmod(0o755)
    yield place
    shutil.rmtree(place)


def ended(process: subprocess.Popen[bytes]) -> None:
    process.terminate()
    with suppress(subprocess.TimeoutExpired):
        process.wait(timeout=10)


@pytest.fixture
def database(folder: Path) -> Iterator[str]:
    """Start PostgreSQL and return its address."""
    assert PROGRAMS is not None
    place, port = folder / "database", free_port()
    place.mkdir(mode=0o700)
    if OWNER:
        shutil.chown(place, OWNER)
    subprocess.run(
        [PROGRAMS / "initdb", "-D", place, "-U", "caracol", "--auth=trust", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync"],
        user=OWNER, check=True, stdout=subprocess.DEVNULL, cwd="/",
    )  # fmt: skip
    told = {
        "listen_addresses": "127.0.0.1",
        "port": str(port),
        "unix_socket_directories": str(place),
        "fsync": "off",
        "log_min_messages": "fatal",
    }
    server = subprocess.Popen(
        [PROGRAMS / "postgres", "-D", place, *(f"--{name}={value}" for name, value in told.items())], user=OWNER, cwd="/"
    )
    ready = [PROGRAMS / "pg_isready", "-q", "-h", "127.0.0.1", "-p", str(port)]
    wait_until(lambda: subprocess.run(ready, check=False).returncode == 0)
    yield f"postgres://caracol@127.0.0.1:{port}/postgres"
    ended(server)


@pytest.fixture
def queue(folder: Path) -> Iterator[str]:
    """Start Redis and return its address."""
    assert REDIS is not None
    port = free_port()
    server = subprocess.Popen(
        [REDIS, "--port", str(port), "--bind", "127.0.0.1", "--save", "", "--dir", folder, "--loglevel", "warning"],
        stdout=subprocess.DEVNULL,
    )
    yield f"redis://127.0.0.1:{port}/0"
    ended(server)


@pytest.mark.skipif(os.environ.get("CARACOL_SCALE") != "1", reason="make test-scale runs it; the same tests run on SQLite all the time")
def test_the_api_does_on_postgresql_what_it_does_on_sqlite(database: str) -> None:
    command = [sys.executable, "-m", "pytest", "-q", "-n", "2", "--dist", "worksteal", "tests/studio", "-p", "no:playwright"]
    run = subprocess.run(
        command,
        cwd=ROOT,
        env={**os.environ, "CARACOL_DATABASE": database, "CARACOL_CORES": "1"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert run.returncode == 0, run.stdout[-4000:] + run.stderr[-2000:]
    passed = re.search(r"(\d+) passed", run.stdout)
    assert passed is not None
    assert int(passed[1]) > 300


def test_a_run_on_two_workers_one_of_which_dies(folder: Path, database: str, queue: str) -> None:
    shared = folder / "pictures"
    settings = {
        "CARACOL_DATABASE": database,
        "CARACOL_REDIS": queue,
        "CARACOL_STORAGE_OPTIONS": f'{{"location": "{shared}"}}',
        "CARACOL_SILENT_SECONDS": "4",
        "CARACOL_CORES": "1",
    }
    web = Server(folder / "web", "--only", "web", settings=settings)
    workers = [Server(folder / name, "--only", "worker", settings=settings) for name in ("first", "second")]
    try:
        api = Api(web.address)
        photos = [
            api.upload(encode(collect((150, 300), [(0, detailed(150, 300, seed))]), "png"), f"marsh {seed}.png")["file_name"]
            for seed in range(PHOTOS)
        ]
        recipe = api.call("GET", "recipes?search=deep%20twirl")["items"][0]["id"]
        run = api.call("POST", "runs", {"recipe": recipe, "photos": photos, "options": {"size": SIZE, "format": "png"}})["id"]
        # With one core each has one photo in hand: two in hand, and both are at work.
        wait_until(lambda: api.call("GET", f"runs/{run}")["working"] == 2)
        wait_until(lambda: 0 < api.call("GET", f"runs/{run}")["done"] < PHOTOS // 2)
        workers.pop().kill()
        wait_until(lambda: api.call("GET", f"runs/{run}")["state"] == "done")
        rows = api.call("GET", f"runs/{run}/photos?limit=200")["items"]
        assert [row["state"] for row in rows] == ["done"] * PHOTOS
        again = [row["number"] for row in rows if row["times"] != 1]
        assert len(again) <= 1, "only what the dead one had in hand was begun again"
        assert max(row["times"] for row in rows) <= 2
        with urlopen(f"{web.address}/api/v1/runs/{run}/archive", timeout=60) as answer:
            archive = zipfile.ZipFile(io.BytesIO(answer.read()))
        assert archive.namelist() == [row["file_name"] for row in rows]
        pictures = [np.asarray(Image.open(io.BytesIO(archive.read(name)))) for name in archive.namelist()]
        assert {picture.shape for picture in pictures} == {(SIZE, SIZE, 3)}
        assert len({picture.tobytes() for picture in pictures}) == PHOTOS
        assert len(list((shared / "exports").rglob("*.png"))) == PHOTOS, "nothing lies there twice, and nothing half written"
        # What a worker made on one machine is what an export of the same is on another.
        assert not (folder / "first" / "exports").exists()
    finally:
        for server in (*workers, web):
            server.stop()
    assert not [one for one in psutil.process_iter(["cmdline"]) if str(folder / "web") in " ".join(one.info["cmdline"] or [])]
