"""What is done with boards in a bounded process: their drawings written to files, and files read for them."""

from __future__ import annotations

from typing import Any

from evenmark.core.board.board import Board
from evenmark.core.board.made import after, deeds, start_of
from evenmark.core.construct.building import build
from evenmark.core.construct.document import Document, from_json, to_json
from evenmark.core.formats import steps
from evenmark.core.formats.errors import Unwritable
from evenmark.core.sheet.ways_out import written


def write_file(document: dict[str, Any], way: str, title: str, version: str) -> bytes | str:
    """Return the file of a board; why not, where no file can hold what is drawn."""
    try:
        return written(build(from_json(document)), way, title=title, version=version)
    except Unwritable as why:
        return " ".join(why.says)


def read_steps(data: bytes) -> Document:
    """Return a document of steps from a file. Raises UnreadableDrawing."""
    return steps.document(data)


def made(document: dict[str, Any], acts: list[dict[str, Any]]) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """Return the list that a drawing began with, and each thing that was done to it in words."""
    splices = [act["splices"] for act in acts]
    start = start_of(from_json(document), splices)
    told = [
        {**deed._asdict(), "at": act["at"], "splices": act["splices"]}
        for act, deed in zip(acts, deeds(start, splices), strict=True)
    ]
    return to_json(start), told


def made_view(document: dict[str, Any], acts: list[dict[str, Any]], count: int) -> dict[str, Any]:
    """Return what a board showed after some of what was done."""
    splices = [act["splices"] for act in acts]
    return Board(after(start_of(from_json(document), splices), splices[:count])).view()
