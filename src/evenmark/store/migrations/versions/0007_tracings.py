"""Mark sheets keep what was drawn in key units, with the numbers of its lines and arcs, instead of paths about
an origin of their own; pages make their paths of them.

Revision ID: 0007
Revises: 0006
"""

from __future__ import annotations

import math
import re
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

AT_ONCE = 50
PART = re.compile(r"([MLAZ])([^MLAZ]*)")
NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
EMPTY = [0.0, 0.0, 100.0, 70.0]
FUZZ = 4e-9
"""Of a square of a length, where places have nine decimals."""


def upgrade() -> None:
    """Write every mark sheet anew, some at a time."""
    sheets = sa.table(
        "mark_sheet", sa.column("id", sa.Integer), sa.column("sheet", postgresql.JSONB(astext_type=sa.Text()))
    )
    connection = op.get_bind()
    last = 0
    while True:
        rows = connection.execute(
            sa.select(sheets.c.id, sheets.c.sheet)
            .where(sheets.c.id > last)
            .order_by(sheets.c.id)
            .limit(AT_ONCE)
        ).all()
        if not rows:
            return
        for row in rows:
            if "scene" in row.sheet:
                connection.execute(
                    sheets.update().where(sheets.c.id == row.id).values(sheet=in_key_units(row.sheet))
                )
        last = rows[-1].id


def in_key_units(sheet: dict[str, Any]) -> dict[str, Any]:
    """Return a kept mark sheet with its drawing and its places in key units."""
    scene = sheet["scene"]
    ox, oy = scene["origin"]

    def at(p: Any) -> list[float]:
        return [ox + p[0], oy - p[1]]

    def placed(one: dict[str, Any]) -> dict[str, Any]:
        return {**one, "at": at(one["at"])}

    _, _, wide, high = scene.get("box", EMPTY)
    beside = scene.get("annotations", {"path": "", "texts": []})
    drawn = {
        "box": [ox, oy - high, ox + wide, oy],
        "features": [
            {
                **{k: v for k, v in f.items() if k not in ("path", "at")},
                "shape": whole_of(f["path"], at(f["at"]), ox, oy),
                "at": at(f["at"]),
            }
            for f in scene.get("features", [])
        ],
        "joints": [placed(j) for j in scene.get("joints", [])],
        "outlines": [placed(o) for o in scene.get("outlines", [])],
        "texts": [placed(t) for t in scene.get("texts", [])],
        "annotations": {
            "shapes": shapes_of(beside["path"], ox, oy),
            "texts": [placed(t) for t in beside["texts"]],
        },
        "unit": scene.get("unit"),
        "clutter": [placed(c) for c in scene.get("clutter", [])],
    }
    rest = {k: v for k, v in sheet.items() if k != "scene"}
    return {**rest, "drawn": drawn, "places": {i: at(p) for i, p in sheet.get("places", {}).items()}}


def whole_of(path: str, via: list[float], ox: float, oy: float) -> dict[str, list[float]]:
    """Return the one shape of a feature, which may be many straight pieces; ``via`` is the middle of an arc,
    in key units."""
    shapes = shapes_of(path, ox, oy, via)
    if len(shapes) == 1:
        return shapes[0]
    points = [shapes[0]["line"][:2], *(s["line"][2:] for s in shapes)]
    return {"points": [v for p in points for v in p]}


def shapes_of(
    path: str, ox: float, oy: float, via: list[float] | None = None
) -> list[dict[str, list[float]]]:
    """Return the lines, arcs and circles of a path as scenes wrote it (moves, lines, round arcs, closing), in
    key units; runs of straight pieces one by one."""
    out: list[dict[str, list[float]]] = []
    x = y = 0.0
    for letter, said in PART.findall(path):
        n = [float(v) for v in NUMBER.findall(said)]
        if letter == "Z":  # only whole circles were closed, which were written as two half turns
            circle = out[-2]["arc"][:3]
            out[-2:] = [{"circle": circle}]
        elif letter == "A":
            radius, large, clockwise, u, v = n[0], n[3], n[4], n[5], n[6]
            ends = ((ox + x, oy - y), (ox + u, oy - v))
            out.append({"arc": arc(ends if clockwise == 0 else ends[::-1], radius, large == 1, via)})
            x, y = u, v
        else:
            for u, v in zip(n[::2], n[1::2], strict=True):
                if letter == "L":
                    out.append({"line": [ox + x, oy - y, ox + u, oy - v]})
                x, y = u, v
    return out


def arc(ends: Any, radius: float, large: bool, via: list[float] | None) -> list[float]:
    """Return centre, radius, start and sweep of a counter-clockwise arc from its ends, and its middle where
    that is known: the centre of half a turn does not follow well from ends of nine decimals (SVG 2,
    implementation notes on elliptical arcs, here round)."""
    a, b = ends
    dx, dy = b[0] - a[0], b[1] - a[1]
    chord = math.hypot(dx, dy)
    mx, my = (a[0] + b[0]) / 2, (a[1] + b[1]) / 2
    high = math.hypot(via[0] - mx, via[1] - my) if via else 0.0
    if via and high > radius / 4:
        cx, cy = (v - radius * (v - m) / high for v, m in zip(via, (mx, my), strict=True))
    else:
        square = radius * radius - chord * chord / 4
        off = math.sqrt(square) * (-1.0 if large else 1.0) if square > FUZZ * radius else 0.0
        cx, cy = (mx - dy / chord * off, my + dx / chord * off) if chord else (mx, my)
    start = math.atan2(a[1] - cy, a[0] - cx)
    sweep = (math.atan2(b[1] - cy, b[0] - cx) - start) % (2 * math.pi)
    return [cx, cy, radius, start % (2 * math.pi), sweep]
