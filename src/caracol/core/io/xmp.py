"""What a delivered file says of itself (XMP, ISO 16684-1): title, author, and the trail it was made by."""

from __future__ import annotations

import base64
import io
import zlib
from typing import Any
from xml.etree.ElementTree import ParseError
from xml.sax.saxutils import escape

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from PIL import Image

from ..bounds import SPACED, read_json, written
from ..errors import PictureError, PieceError
from .tags import TIFF_MARKS, bytes_of_tag

TRAIL = "urn:caracol:piece#"
"""The namespace of the one property that is ours: `trail`, a piece's JSON, deflated, in base 64."""
RDF = "http://www.w3.org/1999/02/22-rdf-syntax-ns#"
DC = "http://purl.org/dc/elements/1.1/"
XMP_NOTE = "http://ns.adobe.com/xmp/note/"
EXTENSION = b"http://ns.adobe.com/xmp/extension/\0"
"""These are identifiers that the standard fixes; nothing is ever fetched from there."""
XMP_TAG = 700
PNG_KEYWORD = "XML:com.adobe.xmp"
LARGEST_PACKET = 16 << 20
MOST_ELEMENTS = 10_000
"""In a packet; a photo's own have some hundreds."""


def packed(document: dict[str, Any]) -> str:
    """Return a piece's document as the text that travels; PieceError where it is larger than what is opened again."""
    return base64.b64encode(zlib.compress(written(document).encode())).decode()


def _unpacked(text: str, name: str) -> dict[str, Any]:
    try:
        reader = zlib.decompressobj()
        data = reader.decompress(base64.b64decode("".join(text.split()), validate=True), SPACED + 1)
        document = read_json(data)
    except PieceError as error:
        raise PieceError([f"{name}: the piece inside is not opened: {fault}" for fault in error.faults]) from error
    except (ValueError, zlib.error) as error:
        raise PieceError([f"{name}: the piece inside is damaged ({error}); ask for the original file again"]) from error
    if not isinstance(document, dict):
        raise PieceError([f"{name}: the piece inside is damaged (it is no JSON object); ask for the original file again"])
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
    if content[:4] in TIFF_MARKS:
        return [packet for packet in (bytes_of_tag(content, XMP_TAG),) if packet]
    try:
        with Image.open(io.BytesIO(content)) as image:
            found = image.info.get("xmp") or image.info.get(PNG_KEYWORD) or b""
            parts: list[tuple[int, bytes]] = []
            for marker, data in getattr(image, "applist", ()):
                if marker == "APP1" and data.startswith(EXTENSION):
                    rest = data[len(EXTENSION) + 32 :]
                    parts.append((int.from_bytes(rest[4:8], "big"), rest[8:]))
    except Exception as error:  # whatever the library stumbles over in a foreign file
        raise PictureError("This is not a picture file that can be read, or it is damaged.") from error
    whole = found.encode("utf-8", "replace") if isinstance(found, str) else bytes(found)
    return [one for one in (whole, b"".join(data for _, data in sorted(parts))) if one]


def _trail_of(xml: bytes, name: str) -> str | None:
    """Return the text of a packet's trail, the packet read element by element so that it is never held as a tree."""
    if len(xml) > LARGEST_PACKET:
        raise PieceError([f"{name}: its XMP metadata has {len(xml) >> 20} MB; at most {LARGEST_PACKET >> 20} MB are read"])
    if xml.count(b"<") > 2 * MOST_ELEMENTS:
        raise PieceError([f"{name}: its XMP metadata has {xml.count(b'<'):,} marks; at most {2 * MOST_ELEMENTS:,} are read"])
    text = xml.decode("utf-8", "replace").strip("\0 \n\r\t\ufeff")
    try:
        tree = fromstring(text, forbid_dtd=True)
    except (ParseError, DefusedXmlException, ValueError) as error:
        raise PieceError([f"{name}: its XMP metadata is damaged ({error})"]) from error
    for one in tree.iter(f"{{{TRAIL}}}trail"):
        if one.text:
            return str(one.text)
    return next((found for one in tree.iter(f"{{{RDF}}}Description") if (found := one.get(f"{{{TRAIL}}}trail"))), None)


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
        text = _trail_of(xml, name) if TRAIL.encode() in xml else None
        if text is not None:
            return _unpacked(text, name)
    return None
