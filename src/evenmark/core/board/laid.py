"""Drawings from files on the board: kept with a document, laid in by a step, gone with the last such one."""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence

from evenmark.core.board.answers import Edit
from evenmark.core.board.edits import edit
from evenmark.core.board.names import as_name, free_name
from evenmark.core.construct.document import Document, DocumentLine
from evenmark.core.construct.evaluation import Step
from evenmark.core.construct.kinds.keeping import LayIn
from evenmark.core.construct.layers import layer_says
from evenmark.core.construct.laying import read_drawing
from evenmark.core.drawing.stored import StoredError

MOST_KEPT = 1_500_000
"""Letters of a drawing that is laid in."""


def laid_in(document: Document, line: int, name: str, drawing: object) -> list[Edit]:
    """Return the edits that keep a drawing at a line of a document, with the layers that it needs, and lay
    it in with a last step. Raises StoredError."""
    try:
        kept = json.dumps(drawing, ensure_ascii=False, allow_nan=False, separators=(",", ":"))
    except (ValueError, RecursionError):
        raise StoredError("The drawing has numbers that are too large. Open a part of it.") from None
    if len(kept) > MOST_KEPT:
        raise StoredError("This drawing is too large to be added. Open a part of it.")
    found = read_drawing(kept)
    known = {i.name for i in document.items if i.kind == "layer"}
    there = [layer for n, layer in found.layers.items() if n not in known]
    come = [DocumentLine("layer", layer_says(layer.style), layer.name) for layer in there]
    name = free_name(name, {i.name for i in document.items if i.kind == "drawing"})
    come.append(DocumentLine("drawing", kept, name))
    step = DocumentLine("step", f"lay in {as_name(name)}", "", document.next_id)
    return [edit(line, [], come), edit(len(document.items) + len(come), [], [step])]


def no_longer_laid_in(items: Sequence[DocumentLine], steps: Iterable[Step]) -> list[Edit]:
    """Return the edits that take drawings away from the lines that are left which no step lays in any more,
    of ``steps`` as they were."""
    left = {i.id for i in items if i.kind == "step"}
    said = [
        (step.id, step.sentence.meaning.name)
        for step in steps
        if step.sentence is not None and isinstance(step.sentence.meaning, LayIn)
    ]
    names = {name for step, name in said if step not in left} - {n for step, n in said if step in left}
    gone = [n for n, item in enumerate(items) if item.kind == "drawing" and item.name in names]
    return [edit(at, [items[at]], []) for at in reversed(gone)]
