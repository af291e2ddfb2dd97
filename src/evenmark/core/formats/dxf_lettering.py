"""Takers of lettering: lines and paragraphs of it."""

from __future__ import annotations

import math
from typing import Any, Literal

from ezdxf.math import OCS, Vec3

from evenmark.core.drawing.look import Style
from evenmark.core.drawing.model import Text
from evenmark.core.formats.bounds import FARTHEST
from evenmark.core.formats.collected import Collected
from evenmark.core.formats.dxf_look import Attributes
from evenmark.core.formats.dxf_words import line_text
from evenmark.core.geometry.points import Point

Belongs = tuple[str, Style, str]

_HORIZONTAL = {0: "left", 1: "centre", 2: "right", 3: "left", 4: "centre", 5: "left"}
Fits = Literal["", "width", "size"]
SPREAD: dict[int, Fits] = {3: "size", 5: "width"}
"""Codes of lettering between two points (DXF reference, TEXT, group code 72): aligned and fit."""
_VERTICAL = {0: "baseline", 1: "bottom", 2: "middle", 3: "top"}
ATTACHED = (
    "left top",
    "centre top",
    "right top",
    "left middle",
    "centre middle",
    "right middle",
    "left bottom",
    "centre bottom",
    "right bottom",
)


def take_text(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """TEXT, and attributes of blocks: aligned text stands at its second point."""
    across, up = int(stated.get("halign", 0)), int(stated.get("valign", 0))
    at, second = Vec3(stated.get("insert", (0, 0, 0))), Vec3(stated.get("align_point", (0, 0, 0)))
    if (across or up) and "align_point" in stated and across not in SPREAD:
        at = second
    ocs = OCS(stated.get("extrusion", (0, 0, 1)))
    at, second = ocs.to_wcs(at), ocs.to_wcs(second)
    add_text(
        r,
        line_text(str(stated.get("text", ""))),
        r.point(at.x, at.y),
        text_anchor(across, up),
        float(stated.get("height", 1.0)),
        float(stated.get("rotation", 0.0)),
        belongs,
        face_of(stated.get("style", "")),
        r.point(second.x, second.y) if across in SPREAD and "align_point" in stated else None,
        SPREAD.get(across, ""),
    )


def face_of(style: str) -> str:
    """Return the lettering face that a text style names; nothing for the usual one."""
    return "" if style.lower() in ("", "standard") else style


def text_anchor(across: int, up: int) -> str:
    """Return which place of a text its point is, from the codes of its justification (DXF reference, TEXT, 72
    and 73)."""
    vertical = "middle" if across == 4 else _VERTICAL.get(up, "baseline")
    return f"{_HORIZONTAL.get(across, 'left')} {vertical}"


def take_mtext(r: Collected, entity: Any, stated: Attributes, belongs: Belongs) -> None:
    """MTEXT: paragraph text with its codes decoded."""
    at = Vec3(stated.get("insert", (0, 0, 0)))
    attached = int(stated.get("attachment_point", 1))
    anchor = ATTACHED[attached - 1] if 1 <= attached <= 9 else ATTACHED[0]
    add_text(
        r,
        entity.plain_text(),
        r.point(at.x, at.y),
        anchor,
        float(stated.get("char_height", 1.0)),
        float(entity.get_rotation()),
        belongs,
        face_of(stated.get("style", "")),
    )


def add_text(
    r: Collected,
    wording: str,
    at: Point,
    anchor: str,
    height: float,
    turn_deg: float,
    belongs: Belongs,
    face: str = "",
    second: Point | None = None,
    fits: Fits = "",
) -> None:
    """Add lettering; blanks alone are none."""
    if not wording.strip():
        return
    if not (0.0 < height <= FARTHEST and math.isfinite(turn_deg)):
        raise ValueError("text must have a height and a direction")
    layer, style, source = belongs
    fits = fits if second is not None else ""
    r.out.append(
        Text(wording.strip(), at, anchor, height, turn_deg, layer, style, source, face, second, fits)
    )
