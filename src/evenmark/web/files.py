"""Files in and out of requests."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from typing import Any

from flask import Response, request

from evenmark.core.plain import shown
from evenmark.services.errors import NotUsable
from evenmark.services.hand_in import clean_name


def given_file(field: str = "file") -> tuple[str, bytes]:
    """Return name and bytes of the one file of a request. Raises NotUsable when there is none."""
    found = request.files.get(field)
    if found is None or not found.filename:
        raise NotUsable("No file came along. Choose a file, then try again.", "no-file")
    return clean_name(found.filename), found.stream.read()


def download(data: bytes, name: str, kind: str = "application/octet-stream") -> Response:
    """Return bytes to be saved under a name; never shown in the page, whatever they are."""
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "._- ") else "_" for c in name)
    response = Response(data, mimetype=kind)
    response.headers["Content-Disposition"] = f'attachment; filename="{plain}"'
    return response


_STARTS_A_FORMULA = ("=", "+", "-", "@", "＝", "＋", "－", "＠", "\t", "\r", "\n", "%", "|")


def table(rows: Sequence[Sequence[Any]]) -> bytes:
    """Return rows as CSV, every cell of words quoted and none of them a formula to any spreadsheet, wherever it parts the columns.

    A cell begins with an apostrophe where it would begin a formula by itself or after one of the signs at which columns may be parted
    (OWASP, CSV injection); characters that cannot be seen are shown as what they are.
    """
    out = io.StringIO()
    writer = csv.writer(out, quoting=csv.QUOTE_NONNUMERIC, lineterminator="\r\n")
    for row in rows:
        writer.writerow([_cell(c) if isinstance(c, str) else "" if c is None else c for c in row])
    return out.getvalue().encode("utf-8-sig")


def _cell(words: str) -> str:
    plain = " ".join(shown(words).split())
    # also where columns are parted at semicolons, tabs or bars, and quotation marks are not understood
    plain = re.sub(r"([;,|\t])(\s*)(?=[=+\-@＝＋－＠])", r"\1\2'", plain)
    return f"'{plain}" if plain.startswith(_STARTS_A_FORMULA) else plain


def picture(data: bytes) -> Response:
    """Return a PNG to be shown."""
    return Response(data, mimetype="image/png", headers={"Cache-Control": "private, max-age=60"})
