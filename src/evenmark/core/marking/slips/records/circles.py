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
        advice="Go round the outline once on the sheet and count the rounded corners, then count yours.",
    ),
    Slip(
        code="wrong-fillet",
        title="A fillet of another radius",
        means="a fillet touches both neighbours with another radius",
        advice="Read the radius of each corner by itself; corners that look alike may differ.",
    ),
    Slip(
        code="pattern-start",
        title="The pattern starts elsewhere",
        means="a ring of holes starts at another angle",
        advice=("Besides how many and how large, the sheet says where the first hole stands. Start there."),
    ),
    Slip(
        code="pattern-circle",
        title="Another pitch circle",
        means="a ring of holes is on another pitch circle",
        advice=(
            "The size of a pitch circle is most often given as a diameter. Draw the circle itself "
            "first, and the holes on it."
        ),
    ),
    Slip(
        code="pattern-count",
        title="Another number of holes",
        means="a ring has another number of holes",
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
