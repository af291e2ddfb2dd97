"""What was understood of a drawing, and whether it can be handed in at all."""

from __future__ import annotations

from dataclasses import dataclass

from evenmark.core.drawing.model import Drawing


@dataclass(frozen=True, kw_only=True, slots=True)
class Refusal:
    """Why a drawing cannot be examined, and how to put it right."""

    code: str
    says: str


def refuse(drawing: Drawing, examines: str = "model") -> Refusal | None:
    """Return why a drawing has nothing that could be examined; None when it has.

    ``examines`` is "model", or "sheet" for exercises of which the sheet layout counts.
    """
    if examines == "sheet" and drawing.on_layouts:
        return None
    if examines == "sheet" and drawing.entities:
        return Refusal(
            code="no-sheet-layout",
            says="Nothing is drawn on a sheet layout, and this exercise is marked there. Draw on the "
            "sheet layout, then export again.",
        )
    if drawing.entities:
        return None
    if drawing.solids:
        return Refusal(
            code="three-dimensional",
            says="The drawing is three-dimensional: it holds solids or surfaces and no flat lines. Draw or "
            "project the view "
            "on the flat drawing plane, then export that as DXF.",
        )
    if drawing.on_layouts:
        return Refusal(
            code="sheet-layout-only",
            says="Everything is drawn on a sheet layout, and nothing in the model. Draw at full size in the "
            "model, then export again.",
        )
    hidden = sum(o.count for o in drawing.oddities if o.code == "switched-off")
    if hidden:
        return Refusal(
            code="all-switched-off",
            says="Every object is on a layer that is switched off. Switch the layers on, then export again.",
        )
    left_out = sum(o.count for o in drawing.oddities)
    if left_out:
        return Refusal(
            code="nothing-understood",
            says="The drawing holds no lines, arcs, circles or texts, only objects of unknown kinds. "
            "Convert them into lines and arcs, then export again.",
        )
    return Refusal(
        code="empty",
        says="The drawing is empty: there is nothing in it. Check that you chose the right file, then "
        "export again.",
    )
