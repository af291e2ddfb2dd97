"""What is done with boards in a bounded process: their drawings written to files, and files read for them."""

from __future__ import annotations

from pathlib import PurePath
from typing import TypedDict

from evenmark.core.board.answers import View
from evenmark.core.board.board import BoardDocument, NotDone
from evenmark.core.board.made import DoneWord, KeptAct, after, deeds
from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, DocumentLine, KeptDocument, from_json, to_json
from evenmark.core.construct.laying import ready
from evenmark.core.drawing.model import layout_of
from evenmark.core.drawing.refusal import refuse
from evenmark.core.drawing.stored import MOST_ROWS, Packed, packed
from evenmark.core.formats import read_file, steps
from evenmark.core.formats.errors import UnreadableDrawing, Unwritable
from evenmark.core.formats.sniff import kind_of
from evenmark.core.geometry.units import BY_SYMBOL
from evenmark.core.sheet.ways_out import written


def write_file(document: KeptDocument, way: str, title: str, version: str) -> bytes | str:
    """Return the file of a board; why not, where no file can hold what is drawn."""
    try:
        return written(build(from_json(document)), way, title=title, version=version)
    except Unwritable as why:
        return " ".join(why.says)


class Opened(TypedDict, total=False):
    """What a board takes from a file."""

    document: KeptDocument
    drawing: Packed
    name: str
    says: list[str]


class ActInWords(KeptAct):
    """One thing that was done, in words (`made.Deed`)."""

    kind: DoneWord
    says: str
    was: str
    steps: tuple[int, ...]
    length: int


def opened(data: bytes, name: str, unit: str) -> Opened:
    """Return what a board takes from a file: a document of steps, or a drawing (plain values, in a unit) to
    be laid in, with what was left out of it. Raises UnreadableDrawing."""
    if kind_of(data) == "steps":
        return {"document": to_json(steps.document(data))}
    drawing = read_file(data)
    refusal = refuse(drawing)
    if refusal is not None and refusal.code == "sheet-layout-only":
        drawing, refusal = layout_of(drawing), None
    if refusal is not None:
        raise UnreadableDrawing(refusal.says)
    drawing, says = ready(drawing, BY_SYMBOL[unit])
    kept = packed(drawing)
    if len(kept["rows"]) > MOST_ROWS:
        raise UnreadableDrawing(
            f"This drawing has {len(kept['rows']):,} objects; {MOST_ROWS:,} at most can be added. "
            "Open a part of it."
        )
    return {"drawing": kept, "name": PurePath(name).stem, "says": says}


def begun(data: bytes, name: str, unit: str) -> KeptDocument:
    """Return the document that a board begins with from a file: its steps, or a drawing that is laid in.
    Raises UnreadableDrawing."""
    found = opened(data, name, unit)
    if "document" in found:
        return found["document"]
    board = BoardDocument(Document((DocumentLine("unit", unit),)))
    try:
        board.lay_in(found["name"], found["drawing"])
    except NotDone as why:
        raise UnreadableDrawing(why.says) from why
    return board.kept()


def made(start: KeptDocument, acts: list[KeptAct]) -> list[ActInWords]:
    """Return each thing in words that was done to a list."""
    edits = [act["splices"] for act in acts]
    return [
        {
            "kind": deed.kind,
            "says": deed.says,
            "was": deed.was,
            "steps": deed.steps,
            "length": deed.length,
            "at": act["at"],
            "splices": act["splices"],
        }
        for act, deed in zip(acts, deeds(from_json(start), edits), strict=True)
    ]


def made_view(start: KeptDocument, acts: list[KeptAct]) -> View:
    """Return what a board showed after what was done to a list."""
    return BoardDocument(after(from_json(start), [act["splices"] for act in acts])).view()
