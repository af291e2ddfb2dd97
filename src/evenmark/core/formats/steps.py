"""Documents of steps as files: JSON as they are kept, or text as people write them."""

from __future__ import annotations

import json
from typing import Any

from evenmark.core.construct.building import Built, StepProblem, build
from evenmark.core.construct.document import Document, DocumentError, from_json, from_text
from evenmark.core.drawing.model import Drawing, Oddity
from evenmark.core.formats.errors import UnreadableDrawing

MOST_BYTES = 8 * 1024 * 1024
MOST_SAID = 12
VERSION = "steps"


class NotSteps(UnreadableDrawing):
    """The file begins like a document of steps and is none; the message says where."""

    code = "damaged"
    default = "The file is damaged and cannot be read as a document of steps. Save it again."


def document(data: bytes) -> Document:
    """Return the document that a file is, JSON or text. Raises NotSteps."""
    if len(data) > MOST_BYTES:
        raise NotSteps(f"A document of steps has {MOST_BYTES // 1048576} MB at most. Split it.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as why:
        line = data[: why.start].count(b"\n") + 1
        raise NotSteps(f"Line {line} is not in UTF-8. Save the document as UTF-8 text.") from None
    try:
        if not text.lstrip().startswith("{"):
            return from_text(text)
        return from_json(_parsed(text))
    except DocumentError as why:
        raise NotSteps(str(why)) from None


def _parsed(text: str) -> Any:
    try:
        return json.loads(text)
    except json.JSONDecodeError as why:
        raise NotSteps(
            f"Line {why.lineno}: the JSON breaks off or is not as it should be ({why.msg})."
        ) from None
    except (RecursionError, ValueError):
        raise NotSteps from None


def read_steps(data: bytes) -> Drawing:
    """Read a document of steps: what its steps draw, each broken one with a word on it. Raises NotSteps."""
    built = build(document(data))
    return drawing(built)


def drawing(built: Built) -> Drawing:
    """Return the drawing of a built document, as it would be read from a file."""
    from dataclasses import replace

    return replace(built.drawing, oddities=_oddities(built.problems), version=VERSION)


def _oddities(problems: list[StepProblem]) -> tuple[Oddity, ...]:
    said = [Oddity(code="step-broken", says=_sentence(p)) for p in problems[:MOST_SAID]]
    if len(problems) > MOST_SAID:
        said.append(
            Oddity(code="step-broken", says=f"And {len(problems) - MOST_SAID} more steps are broken.")
        )
    return tuple(said)


def _sentence(p: StepProblem) -> str:
    said = str(p)
    return said[0].upper() + said[1:]
