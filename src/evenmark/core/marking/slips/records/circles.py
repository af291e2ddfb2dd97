"""What circles, fillets and patterns are mistaken for."""

from __future__ import annotations

from evenmark.core.marking.slips.records.record import Slip

SLIPS = (
    Slip(
        code="radius-for-diameter",
        title="A diameter was drawn as a radius",
        means="the diameter was entered as the radius: twice too large",
        advice=(
            "Look for the diameter sign on the sheet before you type: with it, the number goes right "
            "across the circle."
        ),
    ),
    Slip(
        code="diameter-for-radius",
        title="A radius was drawn as a diameter",
        means="the radius was entered as the diameter: half as large",
        advice=(
            "An R before the number means from the centre to the rim. Check which of the two you are "
            "being asked for."
        ),
    ),
    Slip(
        code="corner-left-sharp",
        title="A corner was left sharp",
        means="a fillet was asked for and the corner was left sharp",
        advice="Follow the outline once on the sheet and count the rounded corners, then count yours.",
    ),
    Slip(
        code="wrong-fillet",
        title="Wrong fillet radius",
        means="a fillet is tangent to both neighbours, with the wrong radius",
        advice="Read the radius of each corner by itself; corners that look equal may differ.",
    ),
    Slip(
        code="pattern-start",
        title="Hole pattern starts at the wrong angle",
        means="a ring of holes starts at another angle",
        advice=("The sheet shows where the first hole is. Start there."),
    ),
    Slip(
        code="pattern-circle",
        title="Wrong pitch circle",
        means="a ring of holes is on the wrong pitch circle",
        advice=(
            "The size of a pitch circle is most often given as a diameter. Draw the circle itself "
            "first, and the holes on it."
        ),
    ),
    Slip(
        code="pattern-count",
        title="Wrong number of holes",
        means="a ring has the wrong number of holes",
        advice=(
            "Count the holes on the sheet, then yours. A full turn divided by the count is the angle "
            "from one to the next."
        ),
    ),
    Slip(
        code="free-curve",
        title="A free curve for an arc",
        means="a free curve stands where an arc, circle or edge was asked for",
        advice="A free curve only looks round. Draw an arc with its radius.",
    ),
)
