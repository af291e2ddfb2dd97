"""Edits: how a document of steps changes, as plain values that are sent, kept, and taken back.

- *edit*: some lines that go and some that come in one place: ``{"at": 3, "gone": [...], "come": [...]}``,
  the lines as a kept document has them. What was done is a list of edits, one behind the other; taking it
  back is the same list the other way round.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from evenmark.core.board.answers import Edit
from evenmark.core.board.arguments import MOST_EDITS
from evenmark.core.construct.document import (
    MOST_LETTERS,
    MOST_LINES,
    Document,
    DocumentError,
    DocumentLine,
    item_of,
    letters,
    line_of,
)


class Conflict(ValueError):
    """An edit was made for other lines than stand there."""


def edit(at: int, gone: Sequence[DocumentLine], come: Sequence[DocumentLine]) -> Edit:
    """Return the edit that puts lines in the place of others."""
    return {"at": at, "gone": [line_of(i) for i in gone], "come": [line_of(i) for i in come]}


def back(edits: Sequence[Edit]) -> list[Edit]:
    """Return what takes edits back.

    >>> back([{"at": 0, "gone": [], "come": [{"kind": "blank"}]}])
    [{'at': 0, 'gone': [{'kind': 'blank'}], 'come': []}]
    """
    return [{"at": s["at"], "gone": s["come"], "come": s["gone"]} for s in reversed(edits)]


def edited(document: Document, edits: Sequence[Mapping[str, object]]) -> Document:
    """Return a document after edits. Raises Conflict, DocumentError."""
    return edited_by(document, [edits])


def edited_by(document: Document, acts: Sequence[Sequence[Mapping[str, object]]]) -> Document:
    """Return a document after acts of some edits each; every one of them has to leave a document that can be
    kept. Raises Conflict, DocumentError."""
    items = list(document.items)
    next_id = document.next_id
    ids = Counter(i.id for i in items if i.kind == "step")
    long = letters(items)
    for edits in acts:
        if len(edits) > MOST_EDITS:
            raise DocumentError(f"At most {MOST_EDITS} places can be changed at once. Reload the page.")
        before = long
        come_ids: list[int] = []
        for one in edits:
            at, gone, come = _read(one)
            if at > len(items) or items[at : at + len(gone)] != gone:
                raise Conflict("Changed in another tab. Reload, then go on.")
            items[at : at + len(gone)] = come
            next_id = max([next_id, *(i.id + 1 for i in come)])
            long += letters(come) - letters(gone)
            steps = [i.id for i in come if i.kind == "step"]
            come_ids += steps
            ids.update(steps)
            ids.subtract(i.id for i in gone if i.kind == "step")
        if len(items) > MOST_LINES:
            raise DocumentError(f"A document has {MOST_LINES:,} lines at most. Begin another drawing.")
        if long > MOST_LETTERS and long > before:
            raise DocumentError(
                f"The drawing is too long: {MOST_LETTERS:,} letters at most. Delete steps, or begin "
                "another one."
            )
        if any(ids[i] > 1 for i in come_ids):
            raise DocumentError("Two steps have the same id. Reload the page.")
    same = {i.id: i.says for i in document.items if i.kind == "step"}
    read = {
        i.id: document.read[i.id]
        for i in items
        if i.kind == "step" and i.id in document.read and same[i.id] == i.says
    }
    return Document(tuple(items), next_id, read)


def _read(one: object) -> tuple[int, list[DocumentLine], list[DocumentLine]]:
    if not isinstance(one, dict) or not isinstance(one.get("at"), int) or isinstance(one["at"], bool):
        raise DocumentError("An edit has to say at which line. Reload the page.")
    lists = [one.get("gone"), one.get("come")]
    if one["at"] < 0 or not all(isinstance(lines, list) and len(lines) <= MOST_LINES for lines in lists):
        raise DocumentError("An edit has to say which lines go and which come. Reload the page.")
    gone, come = ([item_of(line, n) for n, line in enumerate(lines or (), 1)] for lines in lists)
    return one["at"], gone, come
