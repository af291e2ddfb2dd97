"""What is chosen, described: its numbers, which of them can be given other values, and what can be pulled."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

from evenmark.core.board.answers import AllChosen, Chosen, Grip, Told, Touched
from evenmark.core.board.as_said import as_said
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.correcting import Spoken, corrects, feature_named, place_said, said_by
from evenmark.core.board.figures import shown, tidied, typed
from evenmark.core.board.names import spoken
from evenmark.core.construct.measuring import Measurement, of_feature
from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.drawing.model import Text
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Point

ANGLES = ("direction", "angle")


def describe(board: BoardDocument, names: Sequence[str]) -> AllChosen:
    """Return the numbers of what is chosen: of each feature its own, of several their length together."""
    board.up_to(None)
    features = [feature_named(board, name) for name in names]
    by = _touched(board, features)
    out = [_described(board, name, f, by[f.ref]) for name, f in zip(names, features, strict=True)]
    drawn = [f for f in features if f.drawn]
    together = shown(sum(f.shape.length for f in drawn), board.unit) if len(drawn) > 1 else ""
    return {"chosen": out, "together": together}


def _described(board: BoardDocument, name: str, f: Feature, by: list[Touched]) -> Chosen:
    said = said_by(board, f)
    numbers: list[Told] = []
    for told in of_feature(f):
        can = said is not None and corrects(board, f, said, told.name)
        says = (as_said(said, f, told.name) if said is not None and can else None) or writes(board, told)
        numbers.append({"name": told.name, "shows": figures(board, told), "says": says, "can": can})
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
        "by": by,
    }


def _touched(board: BoardDocument, features: Sequence[Feature]) -> dict[Ref, list[Touched]]:
    """Return the steps that made features and changed them since, by their names."""
    out: dict[Ref, list[Touched]] = {f.ref: [] for f in features}
    evaluation = board.evaluation
    for step, outcome in zip(evaluation.steps, evaluation.outcomes, strict=True):
        number = board.numbers.get(step.id, 0)
        for ref in {c.ref for c in outcome.changes} & out.keys():
            how: Literal["made", "changed"] = "changed" if out[ref] else "made"
            out[ref].append({"step": step.id, "number": number, "how": how})
    return out


def figures(board: BoardDocument, told: Measurement) -> str:
    """Return a number as it is shown, a point as two."""
    unit = None if told.name in ANGLES else board.unit
    if isinstance(told.value, tuple):
        return ", ".join(shown(v, unit) for v in told.value)
    return shown(told.value, unit)


def writes(board: BoardDocument, told: Measurement) -> str:
    """Return a number as it would be written into a sentence, without what arithmetic has left behind it."""
    values = told.value if isinstance(told.value, tuple) else (told.value,)
    return ", ".join(typed(tidied(v), board.unit) for v in values)


def _lettered_at(board: BoardDocument, said: Spoken) -> Point | None:
    """Return where a sentence puts an annotation that can be put elsewhere; none where it says no place."""
    place = place_said(said.sentence.meaning)
    try:
        return board.evaluation.context().place(place) if place is not None else None
    except Broken:
        return None


def _pulled(board: BoardDocument, f: Feature, said: Spoken | None) -> list[Grip]:
    """Return the points of a feature that can be pulled, with where they stand in the scene."""
    if said is None or f.endless:
        return []
    frame = board.frame()
    places: Mapping[str, Point | None]
    if f.says is not None:
        places = {"at": _lettered_at(board, said)}
    elif f.ref.kind == "circle":
        places = {"centre": getattr(f.shape, "center", None)}
    else:
        middle = {"middle": f.shape.middle} if isinstance(f.shape, Straight) else {}
        places = {"start": f.start, "end": f.end} | middle
    out: list[Grip] = []
    for which, at in places.items():
        if at is not None and corrects(board, f, said, which):
            out.append({"which": which, "at": frame.at(at)})
    return out
