"""How a drawing was made: what was done, one thing after the other, in words, and the list as it was then."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple, TypedDict

from evenmark.core.board.answers import Edit
from evenmark.core.board.edits import back, edited
from evenmark.core.construct.document import GONE, Document, DocumentLine

DoneWord = Literal["wrote", "corrected", "away", "moved", "value", "back", "other"]


class KeptAct(TypedDict):
    """One thing that was done to a board, and when."""

    at: str
    splices: list[Edit]


class Deed(NamedTuple):
    """Something that was done: of which kind, said in words; what stood there before, where something was
    corrected; the ids of the steps that it was about, and how many steps the list had after it."""

    kind: DoneWord
    says: str
    was: str
    steps: tuple[int, ...]
    length: int


def after(start: Document, acts: Sequence[Sequence[Edit]]) -> Document:
    """Return the list after some acts. Raises Conflict, DocumentError."""
    for edits in acts:
        start = edited(start, edits)
    return start


def deeds(start: Document, acts: Sequence[Sequence[Edit]]) -> list[Deed]:
    """Return what each act did. One that takes back what was done before it says so. Raises Conflict,
    DocumentError."""
    out: list[Deed] = []
    open_: list[tuple[int, Sequence[Edit]]] = []
    now = start
    for n, edits in enumerate(acts):
        then = edited(now, edits)
        if open_ and list(edits) == back(open_[-1][1]):
            undone = out[open_.pop()[0]]
            out.append(Deed("back", undone.says, "", undone.steps, len(then.steps)))
        else:
            open_.append((n, edits))
            out.append(_deed(now, then))
        now = then
    return out


def _deed(now: Document, then: Document) -> Deed:
    before, behind = ({i.id: i for i in d.steps} for d in (now, then))
    numbers, old_numbers = ({i: n for n, i in enumerate(ids, 1)} for ids in (behind, before))
    count = len(behind)
    come = [i for i in behind if i not in before]
    gone = [i for i in before if i not in behind]
    other = [i for i in behind if i in before and behind[i].says != before[i].says]
    if come and gone:
        return Deed("other", f"replaced {len(gone)} by {_steps(len(come))}", "", tuple(come), count)
    if come:
        if len(come) > 1:
            return Deed("wrote", f"wrote {_steps(len(come))}", "", tuple(come), count)
        says = _as_read(behind[come[0]], numbers)
        return Deed("wrote", f"{numbers[come[0]]}  {says}", "", tuple(come), count)
    if gone:
        says = ", ".join(f"{old_numbers[i]}  {_as_read(before[i], old_numbers)}" for i in gone[:3])
        return Deed("away", f"deleted {says}{' and more' if len(gone) > 3 else ''}", "", tuple(gone), count)
    if other:
        says = "; ".join(f"{numbers[i]}  {_as_read(behind[i], numbers)}" for i in other[:3])
        was = "; ".join(_as_read(before[i], old_numbers) for i in other[:3])
        return Deed("corrected", says, was, tuple(other), count)
    if list(before) != list(behind):
        moved = [i for i in behind if numbers[i] != old_numbers[i]]
        return Deed("moved", "changed the order of steps", "", tuple(moved), count)
    return _line_deed(now, then, count)


def _line_deed(now: Document, then: Document, count: int) -> Deed:
    """Return what was done to values, layers, bookmarks."""
    before, behind = (_named_lines(d) for d in (now, then))
    for key, item in behind.items():
        old = before.get(key)
        if old is None:
            kind: DoneWord = "value" if item.kind == "value" else "other"
            return Deed(kind, _line_says(item), "", (), count)
        if old.says != item.says:
            return Deed("value" if item.kind == "value" else "other", _line_says(item), old.says, (), count)
    for key, item in before.items():
        if key not in behind:
            return Deed("other", f"deleted {_line_says(item)}", "", (), count)
    return Deed("other", "changed the list", "", (), count)


def _named_lines(document: Document) -> dict[tuple[str, str, int], DocumentLine]:
    out: dict[tuple[str, str, int], DocumentLine] = {}
    unnamed = 0
    for item in document.items:
        if item.kind not in ("step", "blank"):
            unnamed += not item.name
            out[(item.kind, item.name, 0 if item.name else unnamed)] = item
    return out


def _line_says(item: DocumentLine) -> str:
    if item.kind == "value":
        return f"{item.name} = {item.says}"
    if item.kind == "drawing":
        return f"drawing {item.name}"
    return f"{item.kind} {item.name}: {item.says}" if item.name else f"{item.kind} {item.says}".strip()


def _steps(count: int) -> str:
    return f"{count} step{'' if count == 1 else 's'}"


def _as_read(item: DocumentLine, numbers: Mapping[int, int]) -> str:
    """Return a sentence with the numbers of the steps that it names, where it has their ids."""
    parts = re.split(r'("(?:[^"\\]|\\.)*")', item.says)
    parts[::2] = [
        re.sub(r"#(\d+)", lambda m: str(numbers.get(int(m[1]), GONE)), p).replace("; ", " · ")
        for p in parts[::2]
    ]
    return "".join(parts)
