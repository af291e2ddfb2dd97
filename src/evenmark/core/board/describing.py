"""What is chosen, described: its numbers, which of them can be given other values, and what can be pulled."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from evenmark.core.board.answers import AllChosen, Chosen, Grip, Told
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.correcting import Spoken, corrects, feature_named, said_by
from evenmark.core.board.figures import shown, typed
from evenmark.core.board.names import spoken
from evenmark.core.construct.measuring import Measurement, of_feature
from evenmark.core.construct.state import Feature
from evenmark.core.drawing.model import Text
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point

ANGLES = ("direction", "angle")


def describe(board: BoardDocument, names: Sequence[str]) -> AllChosen:
    """Return the numbers of what is chosen: of each feature its own, of several their length together."""
    board.up_to(None)
    features = [feature_named(board, name) for name in names]
    out = [_described(board, name, f) for name, f in zip(names, features, strict=True)]
    drawn = [f for f in features if f.drawn]
    together = shown(sum(f.shape.length for f in drawn), board.unit) if len(drawn) > 1 else ""
    return {"chosen": out, "together": together}


def _described(board: BoardDocument, name: str, f: Feature) -> Chosen:
    said = said_by(board, f)
    numbers: list[Told] = []
    for told in of_feature(f):
        can = said is not None and corrects(board, f, said, told.name)
        numbers.append(
            {"name": told.name, "shows": figures(board, told), "says": writes(board, told), "can": can}
        )
    wording = f.says.wording if isinstance(f.says, Text) else ""
    return {
        "id": name,
        "name": spoken(f.ref, board.numbers, board.evaluation.state),
        "kind": f.ref.kind,
        "layer": f.layer,
        "step": f.ref.step,
        "number": board.numbers.get(f.ref.step, 0),
        "wording": wording,
        "numbers": numbers,
        "pulled": _pulled(board, f, said),
    }


def figures(board: BoardDocument, told: Measurement) -> str:
    """Return a number as it is shown, a point as two."""
    unit = None if told.name in ANGLES else board.unit
    if isinstance(told.value, tuple):
        return ", ".join(shown(v, unit) for v in told.value)
    return shown(told.value, unit)


def writes(board: BoardDocument, told: Measurement) -> str:
    """Return a number as it would be written into a sentence."""
    values = told.value if isinstance(told.value, tuple) else (told.value,)
    return ", ".join(typed(v, board.unit) for v in values)


def _pulled(board: BoardDocument, f: Feature, said: Spoken | None) -> list[Grip]:
    """Return the points of a feature that can be pulled, with where they stand in the scene."""
    if said is None or f.says is not None or f.endless:
        return []
    frame = board.frame()
    places: Mapping[str, Point | None] = (
        {"centre": getattr(f.shape, "center", None)}
        if f.ref.kind == "circle"
        else {"start": f.start, "end": f.end}
        | ({"middle": f.shape.middle} if isinstance(f.shape, Straight) else {})
    )
    out: list[Grip] = []
    for which, at in places.items():
        if at is not None and corrects(board, f, said, which):
            out.append({"which": which, "at": frame.at(at)})
    return out
