"""What a delivered file says of itself (XMP, ISO 16684-1): title, author, and the trail it was made by."""

from __future__ import annotations

import base64
import io
import json
import zlib
from typing import Any
from xml.etree import ElementTree
from xml.sax.saxutils import escape

import tifffile
from PIL import Image

from ..errors import PictureError, PieceError

TRAIL = "urn:caracol:piece#"
"""The namespace of the one property that is ours: `trail`, a piece's JSON, deflated, in base 64."""
RDF = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
DC = "http://purl.org/dc/elements/1.1/"
XMP_NOTE = "http://ns.adobe.com/xmp/note/"
EXTENSION = b"http://ns.adobe.com/xmp/extension/\0"
"""These are identifiers that the standard fixes; nothing is ever fetched from there."""
XMP_TAG = 700
PNG_KEYWORD = "XML:com.adobe.xmp"
MOST_TRAIL = 64 * 1024 * 1024
"""Bytes of a piece's JSON that are read at most: no file is to fill the memory."""


def packed(document: dict[str, Any]) -> str:
    """Return a piece's document as the text that travels."""
    text = json.dumps(document, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return base64.b64encode(zlib.compress(text.encode(), 9)).decode()


def _unpacked(text: str, name: str) -> dict[str, Any]:
    try:
        reader = zlib.decompressobj()
        data = reader.decompress(base64.b64decode("".join(text.split()), validate=True), MOST_TRAIL)
        if reader.unconsumed_tail:
            raise PieceError([f"{name}: the piece inside is larger than {MOST_TRAIL // 1024 // 1024} MB; it is not opened"])
        document = json.loads(data)
    except (ValueError, zlib.error, RecursionError) as error:
        raise PieceError([f"{name}: the piece inside is damaged ({error}); ask for the file again as it was delivered"]) from error
    if not isinstance(document, dict):
        raise PieceError([f"{name}: the piece inside is damaged (it is no JSON object); ask for the file again as it was delivered"])
    return document


def packet(title: str = "", author: str = "", trail: dict[str, Any] | None = None, more: str = "") -> bytes:
    """Return an XMP packet; empty where there is nothing to say. `more` are further attributes of its description."""
    said = ""
    if title:
        said += f'<dc:title><rdf:Alt><rdf:li xml:lang="x-default">{escape(title)}</rdf:li></rdf:Alt></dc:title>'
    if author:
        said += f"<dc:creator><rdf:Seq><rdf:li>{escape(author)}</rdf:li></rdf:Seq></dc:creator>"
    if trail is not None:
        said += f"<caracol:trail>{packed(trail)}</caracol:trail>"
    if not said and not more:
        return b""
    return (
        '<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/">'
        f'<rdf:RDF xmlns:rdf="{RDF}"><rdf:Description rdf:about="" xmlns:dc="{DC}" xmlns:caracol="{TRAIL}"{more}>{said}'
        '</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="r"?>'
    ).encode()


def _packets_in(content: bytes) -> list[bytes]:
    """Return the XMP packets of a picture file, a JPEG's extended one put together (ISO 16684-3)."""
    try:
        with Image.open(io.BytesIO(content)) as image:
            if image.format == "TIFF":
                with tifffile.TiffFile(io.BytesIO(content)) as file:
                    tag = file.pages[0].tags.get(XMP_TAG)  # type: ignore[union-attr]
                    return [] if tag is None else [bytes(tag.value)]
            found = image.info.get("xmp") or image.info.get(PNG_KEYWORD) or b""
            parts: list[tuple[int, bytes]] = []
            for marker, data in getattr(image, "applist", ()):
                if marker == "APP1" and data.startswith(EXTENSION):
                    rest = data[len(EXTENSION) + 32 :]
                    parts.append((int.from_bytes(rest[4:8], "big"), rest[8:]))
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError, tifffile.TiffFileError) as error:
        raise PictureError("This is not a picture file that can be read, or it is damaged.") from error
    whole = found.encode() if isinstance(found, str) else bytes(found)
    return [one for one in (whole, b"".join(data for _, data in sorted(parts))) if one]


def trail_in(content: bytes, name: str) -> dict[str, Any] | None:
    """Return the document of the piece that travels in a delivered file; None where there is none.

    Raises
    ------
    PictureError
        It is no picture.
    PieceError
        There is one, and it is damaged.
    """
    for xml in _packets_in(content):
        # Nothing of ours declares a type; what does could swell without end.
        if b"<!" in xml or TRAIL.encode() not in xml:
            continue
        try:
            tree = ElementTree.fromstring(xml.decode("utf-8", "replace").strip("\0 \n\r\t\ufeff"))
        except ElementTree.ParseError as error:
            raise PieceError([f"{name}: what it says of itself is damaged ({error})"]) from error
        text = next((one.text for one in tree.iter(f"{{{TRAIL}}}trail") if one.text), None)
        if text is None:
            text = next((one.get(f"{{{TRAIL}}}trail") for one in tree.iter(f"{{{RDF}}}Description") if one.get(f"{{{TRAIL}}}trail")), None)
        if text is not None:
            return _unpacked(text, name)
    return None
