"""Tables to be taken away as CSV."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence

from evenmark.core.plain import shown

_STARTS_A_FORMULA = ("=", "+", "-", "@", "＝", "＋", "－", "＠", "\t", "\r", "\n", "%", "|")


def table(rows: Sequence[Sequence[object]]) -> bytes:
    """Return rows as CSV, every cell of words quoted and none of them a formula to any spreadsheet, wherever
    it parts the columns.

    A cell begins with an apostrophe where it would begin a formula by itself or after one of the signs at
    which columns may be parted (OWASP, CSV injection); characters that cannot be seen are shown as what they
    are.
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
