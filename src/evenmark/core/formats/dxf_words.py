"""Wordings as DXF writes them: lettering of one line, and paragraphs with their codes."""

from __future__ import annotations

import re

from ezdxf.tools.text import fast_plain_mtext, plain_text

_SIGNS = (("%%c", "Ø"), ("%%C", "Ø"), ("%%d", "°"), ("%%D", "°"), ("%%p", "±"), ("%%P", "±"))


_CODES = (("\\", "\\\\"), ("{", "\\{"), ("}", "\\}"), ("^", "^ "), ("\n", "\\P"))


def line_code(wording: str) -> str:
    """Return a wording of one line so that nothing in it is read as a code."""
    if "%%" in wording:
        wording = wording.replace("%", "%%%")
    return wording.replace("^", "^ ")


def line_text(text: str) -> str:
    """Return the wording of lettering of one line without its codes.

    >>> line_text("%%c12"), line_text("to the power ^ ")
    ('Ø12', 'to the power ^')
    """
    # a caret at the end would be taken for half a code
    return plain_text(f"{text}.")[:-1] if text.endswith("^ ") else plain_text(text)


def paragraph_code(wording: str) -> str:
    """Return a wording so that nothing in it is read as a code of a paragraph, its line breaks as such."""
    for sign, code in _CODES:
        wording = wording.replace(sign, code)
    return re.sub("%(?=%)", "%{}", wording)  # two of them begin a code


def paragraph(text: str) -> str:
    """Return the wording of a dimension or note without its codes.

    >>> paragraph("{\\\\H2.5;%%c32}"), paragraph("\\\\A1;R5"), paragraph(paragraph_code("5% {x}\\n^ %%%"))
    ('Ø32', 'R5', '5% {x}\\n^ %%%')
    """
    for code, sign in _SIGNS:
        text = text.replace(code, sign)
    return str(fast_plain_mtext(text))
