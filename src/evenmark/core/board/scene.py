"""A drawing in the making as a scene: every piece under its name, in coordinates that stay what they are.

The origin is given and does not move when something is drawn, and a piece's name is that of the step that
made it (``edge 3.1``, ``size 10.1``, with the step's id): what did not change has the same id and path in the
next scene.
"""

from __future__ import annotations

import math
from typing import TypedDict

from evenmark.core.board.answers import Piece
from evenmark.core.construct.drawn import drawing_of, name_of, style_of
from evenmark.core.construct.evaluation import Evaluation
from evenmark.core.construct.setting import DocumentSetting
from evenmark.core.construct.state import Feature
from evenmark.core.drawing.annotations import Dimension, Hatch
from evenmark.core.drawing.hatching import picture_of_hatches
from evenmark.core.drawing.model import Entity, FreeCurve, Text
from evenmark.core.drawing.picture import picture_of, picture_of_note
from evenmark.core.drawing.shown import all_shown, box_shown, within
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Box, Point
from evenmark.core.sheet.frame import EMPTY_BOX, Frame, SceneBox, ScenePoint

ROOM = 0.5
"""How far guides run past the drawing, as a share of its longer side."""


class Scene(TypedDict):
    """What steps have drawn: pieces, and the box of it all in the drawing's units."""

    origin: ScenePoint
    box: SceneBox
    pieces: list[Piece]


def scene_of(evaluation: Evaluation, origin: Point = (0.0, 0.0)) -> Scene:
    """Return what steps have drawn: pieces, lettering, and the pictures of sizes, notes and hatching, each
    with its name, layer, line and weight; the box of it all in the drawing's units."""
    drawing = drawing_of(evaluation.state, evaluation.setting)
    box = box_shown(all_shown(drawing)) or EMPTY_BOX
    frame = Frame(box, origin)
    pieces = [piece(f, evaluation.setting, frame, box) for f in evaluation.state.standing()]
    return {"origin": list(origin), "box": box_in(frame, box), "pieces": [p for p in pieces if p is not None]}


def box_in(frame: Frame, box: Box) -> SceneBox:
    """Return a box of the drawing in the scene: its upper left corner, how wide and how high."""
    left, top = frame.at((box[0], box[3]))
    return [left, top, box[2] - box[0], box[3] - box[1]]


def roomy(box: Box) -> Box:
    """Return the box up to which guides are drawn: as it stays while a drawing grows a little.

    >>> roomy((0.0, 0.0, 90.0, 30.0))
    (-128.0, -128.0, 256.0, 128.0)
    """
    side = 2.0 ** math.ceil(math.log2(max(box[2] - box[0], box[3] - box[1], 1.0)))
    left, bottom = (math.floor(v / side - ROOM) * side for v in box[:2])
    right, top = (math.ceil(v / side + ROOM) * side for v in box[2:])
    return (left, bottom, right, top)


def piece(f: Feature, setting: DocumentSetting, frame: Frame, box: Box) -> Piece | None:
    """Return one piece of a scene; none where a guide passes the box by."""
    style = style_of(f, setting)
    out: Piece = {
        "id": name_of(f),
        "kind": f.ref.kind,
        "step": f.ref.step,
        "layer": f.layer,
        "line_type": style.line_type,
        "weight": style.weight,
        "path": "",
        "texts": [],
    }
    if f.says is not None:
        shown = _shown(f, inch=setting.unit.imperial)
    elif f.endless and isinstance(f.shape, Straight):
        ends = within(f.shape.start, f.shape.unit, roomy(box))
        if ends is None:
            return None
        out["path"] = frame.line(*ends)
        return out
    else:
        out["path"] = frame.curve(f.shape)
        return out
    out["path"] = "".join(frame.curve(e) for e in shown if not isinstance(e, Text))
    out["texts"] = [frame.text(e) for e in shown if isinstance(e, Text)]
    return out


def _shown(f: Feature, *, inch: bool) -> list[Entity]:
    if isinstance(f.says, Text | FreeCurve):
        return [f.says]
    if isinstance(f.says, Dimension):
        return list(picture_of(f.says, inch=inch))
    if isinstance(f.says, Hatch):
        return list(picture_of_hatches([f.says]))
    assert f.says is not None
    return list(picture_of_note(f.says, inch=inch))
