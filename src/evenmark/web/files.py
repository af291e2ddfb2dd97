"""Files in and out of requests."""

from __future__ import annotations

from collections.abc import Iterator
from urllib.parse import quote

from flask import Response, request

from evenmark.services.errors import NotUsable
from evenmark.services.hand_in import clean_name


def given_file(field: str = "file") -> tuple[str, bytes]:
    """Return name and bytes of the one file of a request. Raises NotUsable when there is none."""
    found = request.files.get(field)
    if found is None or not found.filename:
        raise NotUsable("No file arrived. Choose a file, then try again.", "no-file")
    return clean_name(found.filename), found.stream.read()


def download(data: bytes, name: str, kind: str = "application/octet-stream") -> Response:
    """Return bytes to be saved under a name; never shown in the page, whatever they are."""
    response = Response(data, mimetype=kind)
    response.headers["Content-Disposition"] = _to_be_saved(name)
    return response


def _to_be_saved(name: str) -> str:
    """Return the header that has a browser save what comes under a name (RFC 6266), with one of plain letters
    for old ones."""
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "._- ") else "_" for c in name)
    return f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name, safe='')}"


def streamed(parts: Iterator[bytes], size: int, name: str, kind: str) -> Response:
    """Return a file piece by piece, to be saved under a name."""
    response = Response(parts, mimetype=kind)
    response.headers["Content-Disposition"] = _to_be_saved(name)
    response.headers["Content-Length"] = str(size)
    return response


def picture(data: bytes) -> Response:
    """Return a PNG to be shown."""
    return Response(data, mimetype="image/png")
