"""Mutated photos, documents, recipes, packets, figures, runs, addresses and bodies against the API: `make fuzz` (not in CI).

Nothing may end in a 5xx, take above twenty seconds, or make memory grow. Everything is drawn from a seed, so that what is found can be
found again: the report names the number of each bad input, and `--only N` does that one alone.
"""

from __future__ import annotations

import argparse
import base64
import copy
import io
import json
import logging
import os
import random
import struct
import sys
import tempfile
import time
import warnings
import zlib
from collections import Counter
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

import psutil

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
os.environ["CARACOL_VAR"] = tempfile.mkdtemp(prefix="caracol-fuzz-")
os.environ["CARACOL_TASKS"] = "django_tasks.backends.dummy.DummyBackend"
os.environ.setdefault("CARACOL_CACHE_MB", "256")
os.environ.setdefault("CARACOL_PHOTO_MB", "256")

import django

django.setup()

import numpy as np  # noqa: E402
import tifffile  # noqa: E402
from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.core.management import call_command  # noqa: E402
from django.test import Client  # noqa: E402
from PIL import Image, PngImagePlugin  # noqa: E402

from caracol.core.catalogue.describe import describe_settings  # noqa: E402
from caracol.core.catalogue.registry import KINDS, SOURCES  # noqa: E402
from caracol.core.io.xmp import PNG_KEYWORD, TRAIL  # noqa: E402
from caracol.core.piece.where import SHAPES  # noqa: E402
from caracol.core.pixels.blending import MODES  # noqa: E402

SLOW = 20.0
HOST = "localhost"
Answer = tuple[int, float]


def seeds_of_files() -> list[bytes]:
    """Return small good files of every format that is read, and of some that are not."""
    rng = np.random.default_rng(4)
    rgb = (rng.random((48, 64, 3)) * 255).astype(np.uint8)
    deep = (rng.random((48, 64, 3)) * 65535).astype(np.uint16)
    picture = Image.fromarray(rgb)
    found = []
    for kind, options in (
        ("JPEG", {"quality": 90}), ("JPEG", {"progressive": True}), ("PNG", {}), ("WEBP", {"quality": 80}), ("WEBP", {"lossless": True}),
        ("TIFF", {}), ("TIFF", {"compression": "tiff_lzw"}), ("AVIF", {"quality": 60}), ("GIF", {}), ("BMP", {}),
    ):  # fmt: skip
        out = io.BytesIO()
        picture.save(out, kind, **options)
        found.append(out.getvalue())
    for other in (picture.convert("RGBA"), picture.convert("CMYK"), picture.convert("P"), picture.convert("L"), picture.convert("1")):
        out = io.BytesIO()
        other.save(out, "TIFF" if other.mode == "CMYK" else "PNG")
        found.append(out.getvalue())
    for data, options in (
        (deep, {"photometric": "rgb"}),
        (deep[..., 0], {"photometric": "miniswhite"}),
        (rgb, {"photometric": "rgb", "tile": (16, 16)}),
    ):
        out = io.BytesIO()
        tifffile.imwrite(out, data, **options)  # type: ignore[arg-type]
        found.append(out.getvalue())
    out = io.BytesIO()
    picture.save(out, "MPO", save_all=True, append_images=[picture])
    found.append(out.getvalue())
    return found


def mutated(data: bytes, rng: random.Random) -> bytes:
    """Return a file with some of its bytes other, gone, doubled, or great numbers where numbers stand."""
    out = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 4, 16, 64))):
        if not out:
            break
        at = rng.randrange(min(len(out), rng.choice((64, 512, 1 << 30))))
        what = rng.randrange(7)
        if what == 0:
            out[at] ^= 1 << rng.randrange(8)
        elif what == 1:
            out[at] = rng.choice((0, 1, 127, 128, 255))
        elif what == 2:
            del out[at : at + rng.choice((1, 4, 64, 4096))]
        elif what == 3:
            out[at:at] = out[at : at + rng.choice((1, 4, 64))]
        elif what == 4:
            del out[at:]
        else:
            value = rng.choice((0, 1, 0xFFFF, 0x7FFFFFFF, 0xFFFFFFFF, 1 << 16, 100_000))
            out[at : at + 4] = struct.pack(rng.choice(("<I", ">I")), value)
    return bytes(out)


NUMBERS = (0, 1, -1, 0.5, 1e-9, 1e9, -1e9, 1e308, 4320, 0.999999, 3, 2**53, -0.0)
WORDS = ("", "a", "\n\n", "😀" * 50, "\x00", "../../x", "A" * 300, "none", "photo", "\u202e", "e\u0301" * 40)


def setting(rng: random.Random, described: dict[str, Any]) -> Any:
    """Return a value for a setting: in its range mostly, else anything."""
    if rng.random() < 0.004:
        return rng.choice((None, True, [], {}, "x", [[0, 0]], rng.choice(NUMBERS), rng.choice(WORDS)))
    kind, low, high = described["type"], described["minimum"], described["maximum"]
    if kind in ("number", "integer"):
        low, high = (-1 if low is None else low), (1 if high is None else high)
        value = rng.choice((low, high, rng.uniform(low, high), rng.uniform(low, high)))
        return round(value) if kind == "integer" else value
    if described["choices"]:
        return rng.choice(described["choices"])
    if kind == "boolean":
        return rng.random() < 0.5
    if kind == "curve":
        return [[rng.random(), rng.uniform(-2, 2)] for _ in range(rng.choice((2, 3, 60)))]
    if kind == "corners":
        return [[rng.uniform(-2, 2), rng.uniform(-2, 2)] for _ in range(4)]
    if kind == "outline":
        return [[rng.uniform(-2, 2), rng.uniform(-2, 2)] for _ in range(rng.choice((3, 40)))]
    if kind == "bars":
        return [{"top": rng.random(), "height": rng.random(), "shift": rng.uniform(-2, 2)} for _ in range(rng.choice((1, 60)))]
    if kind == "keys":
        return [{"round": rng.randrange(1, 400), "push": rng.uniform(-0.2, 0.2)} for _ in range(rng.choice((1, 20)))]
    if kind == "string" and described["widget"] == "colour":
        return f"#{rng.randrange(1 << 24):06x}"
    if kind == "string":
        return formula(rng) if described["widget"] == "formula" else rng.choice(WORDS)
    return described["default"]


described = cache(describe_settings)


def settings_of(rng: random.Random, model: Any, share: float = 0.4) -> dict[str, Any]:
    """Return some settings of a model."""
    return {one["name"]: setting(rng, one) for one in described(model) if rng.random() < share}


def formula(rng: random.Random, depth: int = 0) -> str:
    """Return a formula, or something like one."""
    if depth > 4 or rng.random() < 0.3:
        return rng.choice(("x", "y", "rad", "ang", "pi", "a", "2", "1e300", "0.1", "", "(", "1/0", "x y", "💥"))
    pick = rng.randrange(4)
    inner = formula(rng, depth + 1)
    if pick == 0:
        return f"({inner} {rng.choice('+-*/%^<>')} {formula(rng, depth + 1)})"
    if pick == 1:
        return f"{rng.choice(('sin', 'sqrt', 'log', 'abs', 'mix', 'pow', 'nothing'))}({inner})"
    if pick == 2:
        return "(" * rng.choice((1, 40, 900)) + inner
    return f"-{inner}"


def where(rng: random.Random) -> Any:
    """Return a where, or none."""
    if rng.random() < 0.6:
        return None
    shapes = []
    for _ in range(rng.choice((1, 2, 5, 40))):
        shape = rng.choice(SHAPES)
        fields: dict[str, Any] = {
            "kind": shape.model_fields["kind"].default,
            "join": rng.choice(("add", "subtract", "intersect")),
            **settings_of(rng, shape),
        }
        if "points" in shape.model_fields:
            fields["points"] = [[rng.uniform(-1, 1), rng.uniform(-1, 1)] for _ in range(rng.choice((3, 3, 60, 400)))]
        shapes.append(fields)
    return {"shapes": shapes, "feather": rng.choice((0, 0.1, 4)), "invert": rng.random() < 0.3}


def layer(rng: random.Random, number: int, photo: str) -> dict[str, Any]:
    """Return a layer of random steps, sometimes very many."""
    steps = []
    for n in range(rng.choice((0, 1, 2, 4, 8)) if rng.random() < 0.97 else 150):
        kind = rng.choice(KINDS)
        step: dict[str, Any] = {"id": f"s{n}", "kind": kind.key, "settings": settings_of(rng, kind.settings, 0.3)}
        if rng.random() < 0.3 and not kind.reshapes(kind.settings()) and not kind.cuts:
            step |= {"strength": rng.random(), "blend": rng.choice(list(MODES)), "where": where(rng)}
        steps.append(step)
    pick = rng.random()
    source: dict[str, Any] = {"kind": "photo", "photo": photo, "fit": rng.choice(("cover", "contain", "tile"))}
    if pick < 0.25:
        drawn = rng.choice(SOURCES)
        source = {"kind": drawn.model_fields["kind"].default, **settings_of(rng, drawn)}
    elif pick < 0.4 and number:
        source = {"kind": "below"}
    return {
        "id": f"l{number}",
        "source": source,
        "steps": steps,
        "opacity": rng.random(),
        "blend": rng.choice(list(MODES)),
        "where": where(rng),
    }


def spoilt(value: Any, rng: random.Random) -> Any:
    """Return a document with something in it replaced, somewhere."""
    out = copy.deepcopy(value)
    for _ in range(rng.choice((0, 0, 0, 0, 0, 0, 1, 2))):
        node = out
        while True:
            keys: list[Any] = list(node) if isinstance(node, dict) else list(range(len(node))) if isinstance(node, list) else []
            if not keys:
                break
            key = rng.choice(keys)
            if rng.random() < 0.3:
                node[key] = rng.choice((None, [], {}, "x", -1, 1e400, True, [[[[]]]], {"a": {}}, rng.choice(WORDS)))
                break
            node = node[key]
    return out


def document(rng: random.Random, photo: str) -> Any:
    """Return a random document, mostly one that follows the rules."""
    layers = [layer(rng, n, photo) for n in range(rng.choice((1, 1, 1, 2, 3, 8)) if rng.random() < 0.98 else 40)]
    frame = {"ratio": rng.choice((None, None, 1, 0.05, 20, 1.5))}
    return spoilt({"caracol": 3, "frame": frame, "layers": layers}, rng)


ADDRESSES = (
    "pieces", "pieces/{id}", "pieces/{id}/history", "pieces/{id}/file", "pieces/{id}/thumbnail", "photos", "photos/{id}/preview", "recipes", "recipes/{id}",
    "recipes/{id}/picture", "recipes/{id}/tries", "recipes/on/{id}", "runs", "runs/{id}/zip", "runs/{id}/photos/{n}/file", "exports/{id}/file", "catalogue",
    "pieces/{id}/versions", "formulas", "gradients", "openapi.json", "{id}", "photos/{id}",
)  # fmt: skip


def deep(rng: random.Random) -> Any:
    """Return a piece of groups in groups."""
    entry: dict[str, Any] = {"id": "a"}
    for n in range(rng.choice((5, 17, 60, 300))):
        entry = {"id": f"g{n}", "layers": [entry]}
    return {"caracol": 3, "layers": [entry]}


def _itxt(xml: bytes) -> PngImagePlugin.PngInfo:
    info = PngImagePlugin.PngInfo()
    info.add_itxt(PNG_KEYWORD, xml.decode("utf-8", "replace"))
    return info


class Fuzz:
    """One family of inputs after the other, with what was answered."""

    def __init__(self, seed: int, only: int | None) -> None:
        self.seed, self.only = seed, only
        self.client = Client(raise_request_exception=False, headers={"host": HOST})
        self.bad: list[str] = []

    def run(self, family: str, count: int, one: Callable[[random.Random], Any]) -> None:
        """Ask with `count` inputs of a family and tell what came of it."""
        process = psutil.Process()
        before, most, slowest = process.memory_info().rss, 0, (0.0, -1)
        codes: Counter[int] = Counter()
        begun = time.monotonic()
        for number in range(count) if self.only is None else [self.only]:
            asked = time.monotonic()
            answer = one(random.Random(f"{self.seed}-{family}-{number}"))
            took = time.monotonic() - asked
            codes[answer.status_code] += 1
            slowest = max(slowest, (took, number))
            most = max(most, process.memory_info().rss)
            if (
                answer.status_code >= 500
                or took > SLOW
                or ("json" not in answer.headers.get("Content-Type", "json") and answer.status_code >= 400)
            ):
                self.bad.append(f"{family} {number}: {answer.status_code} in {took:.1f} s: {answer.content[:300]!r}")
                print("   ", self.bad[-1], flush=True)
        told = ", ".join(f"{code}: {n}" for code, n in sorted(codes.items()))
        memory = f"memory {before >> 20} MB before, {most >> 20} MB at most, {process.memory_info().rss >> 20} MB after"
        print(
            f"{family}: {sum(codes.values())} in {time.monotonic() - begun:.0f} s ({told}); slowest {slowest[0]:.1f} s (number {slowest[1]}); {memory}",
            flush=True,
        )


FAMILIES = ("recipes", "packets", "maps", "figures", "runs", "addresses", "bodies", "uploads", "looks", "documents", "formulas")


class Inputs:
    """All families: each method asks with one input of its own."""

    def __init__(self, client: Client) -> None:
        self.client = client
        self.files = seeds_of_files()
        self.good = client.post("/api/v1/photos", {"file": SimpleUploadedFile("marsh.png", self.files[2])}).json()["file_name"]

    def post(self, path: str, body: Any) -> Any:
        """Send JSON."""
        return self.client.post(f"/api/v1/{path}", json.dumps(body), content_type="application/json")

    def uploads(self, rng: random.Random) -> Any:
        name = rng.choice(("a.jpg", "b.png", "../c.tif", "\u202ex.webp", "d" * 300, ""))
        return self.client.post("/api/v1/photos", {"file": SimpleUploadedFile(name or "x", mutated(rng.choice(self.files), rng))})

    def looks(self, rng: random.Random) -> Any:
        body = {"document": document(rng, self.good), "size": rng.choice((16, 64, 128)), "draft": rng.random() < 0.5}
        return self.post("previews", body)

    def documents(self, rng: random.Random) -> Any:
        body: dict[str, Any] = {"document": document(rng, self.good), "name": rng.choice(WORDS)}
        data = json.dumps(spoilt(body, rng)).encode()
        return self.client.post("/api/v1/pieces", mutated(data, rng) if rng.random() < 0.3 else data, content_type="application/json")

    def formulas(self, rng: random.Random) -> Any:
        lines = [formula(rng) for _ in range(rng.choice((1, 2)))]
        if rng.random() < 0.5:
            return self.post("formulas/checks", {"lines": lines})
        body = {"name": "f", "settings": {"first": lines[0], "second": lines[-1]}}
        return self.post("formulas", body)

    def recipes(self, rng: random.Random) -> Any:
        """A recipe with dials and slots, kept, and tried on a photo with values and photos of any sort."""
        layers = [layer(rng, n, self.good) for n in range(rng.choice((1, 2)))]
        for one in layers:
            if rng.random() < 0.6 and one["source"]["kind"] == "photo":
                one["source"] = {"kind": rng.choice(("photo", "cut-out")), "photo": None}
        steps = [(one["id"], step["id"]) for one in layers for step in one["steps"]]
        dials = [
            {"name": rng.choice(("a", "b", *WORDS)), "low": 0, "high": 1, "value": rng.random(), "settings": [[*rng.choice(steps), rng.choice(("strength", "amount", "turns"))]]}
            for _ in range(rng.choice((0, 1, 3))) if steps
        ]  # fmt: skip
        data = spoilt({"caracol": 3, "name": "r", "layers": layers, "dials": dials, "slots": []}, rng)
        made = self.post("recipes/imports", {"name": "r", "data": data})
        if made.status_code != 201:
            return made
        values = rng.choice((
            "", "{}", '{"a": 1e400}', '{"a": ' + "1" + "0" * 400 + "}", "[" * 2000, '{"a": NaN}', '{"a": []}', "[]", "x", json.dumps({name["name"]: rng.choice(NUMBERS) for name in dials}),
        ))  # fmt: skip
        slots = rng.choice(("", "{}", '{"l0": "gone.png"}', json.dumps({"l0": self.good}), "[[" * 900, '{"l0": {}}'))
        asked = {"photo": self.good, "dials": values, "slots": slots, "size": rng.choice((32, 64, -5, 10**30))}
        return self.client.get(f"/api/v1/recipes/{made.json()['id']}/preview", asked)

    def packets(self, rng: random.Random) -> Any:
        """A delivered file whose packet, or the tag that has it, is not what it should be."""
        trail = document(rng, self.good)
        trail = rng.choice((trail, deep(rng), [], {"layers": [{}] * rng.choice((10, 5000))}))
        packed = base64.b64encode(zlib.compress(json.dumps(trail).encode())).decode()
        filling = rng.choice(("", "<b/>" * rng.choice((10, 30_000)), "<b>" * 500, "&amp;" * 9000, "<!DOCTYPE x>"))
        xml = f'<x xmlns:c="{TRAIL}">{filling}<c:trail>{packed}</c:trail></x>'.encode()
        out = io.BytesIO()
        if rng.random() < 0.4:
            tag = struct.pack(
                "<HHII", 700, rng.choice((1, 2, 3, 7, 11, 12, 99)), rng.choice((0, 5, 4_000_000_000, len(xml))), rng.choice((26, 0, 2**31))
            )
            out.write(b"II*\0" + struct.pack("<IH", 8, rng.choice((1, 60_000))) + tag + b"\0" * 4 + xml)
        else:
            kind = rng.choice(("WEBP", "PNG", "JPEG"))
            options = {"PNG": {"pnginfo": _itxt(xml)}, "WEBP": {"xmp": xml}, "JPEG": {"xmp": xml[:65000]}}[kind]
            Image.new("RGB", (4, 4)).save(out, kind, **options)
        data = out.getvalue()
        data = mutated(data, rng) if rng.random() < 0.5 else data
        return self.client.post("/api/v1/pieces/imports", {"file": SimpleUploadedFile("x.png", data)})

    def maps(self, rng: random.Random) -> Any:
        """A piece delivered as a map: how large, in what shape."""
        kept = self.post("pieces", {"document": document(rng, self.good)})
        if kept.status_code != 201:
            return kept
        options = {
            "format": rng.choice(("map", "png", "avif", "x")),
            "size": rng.choice((0, 64, 10**9, -1)),
            "shape": rng.choice(("own", "typed")),
            "ratio": rng.choice(NUMBERS),
        }
        return self.client.post(
            f"/api/v1/pieces/{kept.json()['id']}/exports", json.dumps(spoilt(options, rng)), content_type="application/json"
        )

    def figures(self, rng: random.Random) -> Any:
        hints = [
            {"points": [[rng.uniform(-2, 2), rng.uniform(-2, 2)]] * rng.choice((1, 900)), "radius": rng.choice((0.01, 2)), "add": True}
        ]
        search = {"box": [rng.uniform(-3, 3) for _ in range(4)], "hints": hints if rng.random() < 0.5 else []}
        if rng.random() < 0.4:
            return self.client.post(
                "/api/v1/figures/outlines",
                json.dumps(spoilt({"photo": self.good, "search": search, "feather": 0.1}, rng)),
                content_type="application/json",
            )
        cut = {
            "photo": self.good,
            "outline": where(rng) or {"shapes": []},
            "hair": rng.choice((0, 0.2, 9)),
            "fringe": rng.random(),
            "search": search,
        }
        return self.post("figures/previews", spoilt(cut, rng))

    def runs(self, rng: random.Random) -> Any:
        """A run whose files are to be called anything."""
        pattern = "".join(
            rng.choice(
                (
                    "{photo}",
                    "{recipe}",
                    "{number:4}",
                    "{photo[x]}",
                    "{photo:>100000000}",
                    "{",
                    "}",
                    "{}",
                    "{number:99}",
                    "a",
                    "/",
                    "..",
                    "😀" * 60,
                    "\x00",
                    "e\u0301",
                )
            )
            for _ in range(rng.choice((1, 2, 5)))
        )
        recipes = self.client.get("/api/v1/recipes").json()["items"]
        body = {
            "recipe": recipes[0]["id"] if recipes else "none",
            "photos": [self.good] * rng.choice((0, 1, 3)),
            "name": pattern,
            "options": {"format": "png", "size": 64},
        }
        return self.post("runs", spoilt(body, rng))

    def addresses(self, rng: random.Random) -> Any:
        """An address that nobody wrote."""
        found = rng.choice(ADDRESSES)
        for part in ("{id}", "{n}"):
            found = found.replace(part, rng.choice(("0", "x", "..", "%00", "9" * 40, "00000000-0000-0000-0000-000000000000", "\u202e")))
        words = "&".join(
            f"{name}={rng.choice(('', '1', '-1', '1e999', '9' * 50, '%F0%9F', '[[[', 'null'))}"
            for name in ("limit", "offset", "size", "search", "use", "photo", "dials")
        )
        return self.client.get(f"/api/v1/{found}?{words}")

    def bodies(self, rng: random.Random) -> Any:
        """What every address that takes a body may be sent: very many parts, very deep ones, very long ones."""
        data = rng.choice((
            b"[" * rng.choice((10, 5000, 500_000)), b'{"a":' * 3000, b"[" + b"{}," * 49_000 + b"{}]", b'{"layers": [' + b"1," * 200_000 + b"1]}",
            json.dumps({"document": deep(rng), "name": "x", "size": 16}).encode(), json.dumps({"document": {"caracol": 3, "layers": [{"x": n} for n in range(9000)]}}).encode(),
            json.dumps({"document": {"caracol": 3, "layers": [{"id": "a", **{f"k{n}": n for n in range(900)}}]}}).encode(), b"9" * 5000, b'"' + b"x" * 3_000_000 + b'"', b"\xff\xfe",
        ))  # fmt: skip
        return self.client.post(
            f"/api/v1/{rng.choice(('pieces', 'previews', 'analyses/identities', 'recipes', 'recipes/imports', 'runs', 'figures', 'formulas', 'previews/area', 'gradients'))}",
            data,
            content_type="application/json",
        )


def main() -> int:
    """Run all families, or one."""
    parser = argparse.ArgumentParser(description="Mutated photos, documents and formulas against the API")
    parser.add_argument("--count", type=int, default=10_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--family")
    parser.add_argument("--only", type=int, help="one input alone, by its number")
    chosen = parser.parse_args()
    warnings.simplefilter("ignore")
    logging.disable(logging.CRITICAL)
    call_command("migrate", verbosity=0)
    fuzz = Fuzz(chosen.seed, chosen.only)
    inputs = Inputs(fuzz.client)
    for family in FAMILIES:
        if chosen.family in (None, family):
            fuzz.run(family, chosen.count, getattr(inputs, family))
    print(f"{len(fuzz.bad)} bad answers")
    return bool(fuzz.bad)


if __name__ == "__main__":
    sys.exit(main())
