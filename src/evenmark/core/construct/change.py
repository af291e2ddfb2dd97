"""Steps that change what is drawn: trims, fillets, motions, copies, repeats."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from evenmark.core.construct.directions import unit_between
from evenmark.core.construct.making import Build, Making
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Ref
from evenmark.core.construct.state import XY, Broken, Feature, edge_between, plain
from evenmark.core.construct.things import (
    Way,
    ends_of,
    laid,
    lies_in,
    mirror,
    scale,
    shift,
    stretched,
    things,
    turn,
    window_between,
    with_says,
)
from evenmark.core.geometry import trims
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.exact import share
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.points import Box, Point

MOST_COPIES = 10_000


def _exact_of(f: Feature, shape: Curve) -> tuple[XY, ...]:
    """Return the ends of what became of an edge as exactly as they are known: those that it had before."""
    if isinstance(shape, Round):
        return f.exact
    known = {plain(p): p for p in ends_of(f)}
    return tuple(known.get(p, p) for p in shape)


def _reshape(made: Making, f: Feature, shape: Curve) -> None:
    made.replace(f, shape, _exact_of(f, shape))


def _trim(c: Context, s: dict[str, Any], made: Making) -> None:
    f = c.feature(s["of"])
    cuts = trims.cuts_of(f.shape, [c.curve(ref) for ref in s["at"]])
    pieces = trims.divided(f.shape, cuts)
    if not cuts or (len(pieces) == 1 and not (isinstance(f.shape, Round) and f.shape.whole)):
        raise Broken("Nothing cuts it there.")
    at = trims.piece_at(pieces, c.place(s["keep"] if "keep" in s else s["drop"]))
    if "keep" in s:
        _reshape(made, f, pieces[at])
        return
    first, last = trims.joined(pieces[:at]), trims.joined(pieces[at + 1 :])
    if isinstance(f.shape, Round) and f.shape.whole:
        if len(pieces) == 1:
            raise Broken("A circle that is cut once is still one piece.")
        rest = trims.joined([*pieces[at + 1 :], *pieces[:at]])
        assert rest is not None
        _reshape(made, f, rest)
        return
    kept = [p for p in ((last, first) if f.back else (first, last)) if p is not None]
    if not kept:
        raise Broken("Nothing of it would be left: erase it.")
    _reshape(made, f, kept[0])
    if len(kept) > 1:
        made.add(kept[1], _exact_of(f, kept[1]), layer=f.layer, line=f.line, begins=_begins(f, kept[1]))


def _begins(f: Feature, piece: Curve) -> Point:
    """Return where a piece of a feature begins, as that runs."""
    return piece.end if f.back else piece.start


def _extend(c: Context, s: dict[str, Any], made: Making) -> None:
    f = c.feature(s["of"])
    found = trims.extended(f.shape, c.curve(s["to"]))
    if found is None:
        raise Broken("Run on, it never meets that.")
    _reshape(made, f, found)


def _join_corner(f: Feature, g: Feature, corner: trims.Corner, made: Making) -> None:
    _reshape(made, f, corner.first)
    _reshape(made, g, corner.second)
    if corner.between is not None:
        made.group = f.group if f.group == g.group else None
        made.add(corner.between, layer=f.layer, line=f.line)


def _fillet(c: Context, s: dict[str, Any], made: Making) -> None:
    f, g, radius = c.feature(s["of"]), c.feature(s["and"]), c.number(s["radius"])
    if radius < 0:
        raise Broken("A radius is not less than 0.")
    if f.ref == g.ref:
        raise Broken("A corner has two pieces.")
    corner = trims.fillet(f.shape, g.shape, float(radius))
    if corner is None:
        raise Broken(f"No arc of radius {float(radius):g} joins their far pieces.")
    _join_corner(f, g, corner, made)


def _fillet_corners(c: Context, s: dict[str, Any], made: Making) -> None:
    """Round every corner of what a step drew, in its order: the arcs are those of this step, from the corner
    after the first edge on."""
    radius = float(c.length(s["radius"], "radius"))
    edges = [f for f in c.state.of_step(s["of"].step) if isinstance(f.shape, Straight) and not f.endless]
    shapes: dict[Ref, Straight] = {f.ref: f.shape for f in edges if isinstance(f.shape, Straight)}
    joined = [(f, g) for f, g in zip(edges, [*edges[1:], edges[0]] if edges else [], strict=True)]
    arcs: list[tuple[Feature, Curve]] = []
    for f, g in joined:
        a, b = shapes[f.ref], shapes[g.ref]
        if f.ref == g.ref or not ({f.shape.start, f.shape.end} & {g.shape.start, g.shape.end}):
            continue
        corner = trims.fillet(a, b, radius)
        if corner is None or corner.between is None or not _within(corner, a, b):
            raise Broken(f"A radius of {radius:g} is too large for one of its corners.")
        assert isinstance(corner.first, Straight)
        assert isinstance(corner.second, Straight)
        shapes[f.ref], shapes[g.ref] = corner.first, corner.second
        arcs.append((f, corner.between))
    if not arcs:
        raise Broken("The step has no corners between edges.")
    for f in edges:
        if shapes[f.ref] != f.shape:
            _reshape(made, f, shapes[f.ref])
    for f, arc in arcs:
        made.group = f.group
        made.add(arc, layer=f.layer, line=f.line)


def _within(corner: trims.Corner, a: Straight, b: Straight) -> bool:
    return corner.first.length <= a.length and corner.second.length <= b.length


def _chamfer(c: Context, s: dict[str, Any], made: Making) -> None:
    f, g = c.feature(s["of"]), c.feature(s["and"])
    first, second = (float(c.length(s[k], "bevel")) for k in ("first", "second"))
    corner = trims.chamfer(c.straight(s["of"]), c.straight(s["and"]), first, second)
    if corner is None:
        raise Broken("The edges are parallel, or shorter than what would be cut off.")
    _join_corner(f, g, corner, made)


def _run_past(c: Context, s: dict[str, Any], made: Making) -> None:
    f, by = c.feature(s["of"]), c.length(s["by"], "length")
    start, end = (by if s["end"] in (None, which) else 0 for which in ("start", "end"))
    if isinstance(f.shape, Straight):
        (ax, ay), (bx, by_) = ends_of(f)
        ux, uy = unit_between((ax, ay), (bx, by_))
        ends = ((ax - ux * start, ay - uy * start), (bx + ux * end, by_ + uy * end))
        made.replace(f, edge_between(*ends), ends)
    else:
        start, end = (end, start) if f.back else (start, end)
        _reshape(made, f, trims.run_past(f.shape, float(start), float(end)))


# motions


def _put(c: Context, s: dict[str, Any], way: Way, made: Making, *, copy: bool) -> None:
    """Move things, or draw copies of them elsewhere."""
    what = things(c, s["what"])
    if copy:
        made.copies(laid(f, way) for f in what)
        return
    for f in what:
        made.change(f, laid(f, way))


def _way(c: Context, s: dict[str, Any]) -> XY:
    """Return the shift that a point says: a way is one from nowhere."""
    last, c.last = c.last, (0, 0)
    by = c.point(s["by"])
    c.last = last
    return by


def _mirror(c: Context, s: dict[str, Any], made: Making) -> None:
    about = s["about"]
    a, b = ends_of(c.feature(about)) if isinstance(about, Ref) else (c.point(p) for p in about)
    _put(c, s, mirror(a, b), made, copy=s["copy"])


def _move(c: Context, s: dict[str, Any], made: Making) -> None:
    _put(c, s, shift(_way(c, s)), made, copy=False)


def _copy(c: Context, s: dict[str, Any], made: Making) -> None:
    _put(c, s, shift(_way(c, s)), made, copy=True)


def _turn(c: Context, s: dict[str, Any], made: Making) -> None:
    _put(c, s, turn(c.point(s["about"]), c.number(s["by"])), made, copy=s["copy"])


def _scale(c: Context, s: dict[str, Any], made: Making) -> None:
    about, by = c.point(s["about"]), c.length(s["by"], "length")
    if s["becomes"] is not None:
        becomes = c.length(s["becomes"], "length")
        by = share(becomes, by)
    _put(c, s, scale(about, by), made, copy=False)


def _stretch(c: Context, s: dict[str, Any], made: Making) -> None:
    window, (dx, dy) = window_between(*(c.point(p) for p in s["window"])), _way(c, s)
    way = shift((dx, dy))
    c.spend(len(c.state.places))
    touched = 0
    for f in list(c.state.standing()):
        if f.endless:
            continue
        if f.says is not None:
            says = stretched(f.says, lambda p: _in(p, window), plain((dx, dy)))
            if says == f.says:
                continue
            made.change(f, with_says(f, says))
        elif lies_in(f.shape, window) or (
            isinstance(f.shape, Round) and f.shape.whole and _in(f.shape.center, window)
        ):
            made.change(f, laid(f, way))
        elif isinstance(f.shape, Straight) and any(_in(p, window) for p in f.shape):
            ends = tuple((p[0] + dx, p[1] + dy) if _in(plain(p), window) else p for p in ends_of(f))
            made.replace(f, edge_between(*ends), ends)
        else:
            continue
        touched += 1
    if not touched:
        raise Broken("The window holds no end of anything.")


def _in(p: Point, window: Box) -> bool:
    return window[0] <= p[0] <= window[2] and window[1] <= p[1] <= window[3]


# repeats


def _times(c: Context, number: Any, what: Sequence[Feature]) -> int:
    return c.count(number, "times", 1, max(1, MOST_COPIES // max(1, len(what))))


def _repeat(c: Context, s: dict[str, Any], made: Making) -> None:
    what = things(c, s["what"])
    across, up = s["across"], s["up"]
    columns, wide = (_times(c, across[0], what), c.number(across[1])) if across else (1, 0)
    rows, tall = (_times(c, up[0], what), c.number(up[1])) if up else (1, 0)
    if columns * rows * len(what) > MOST_COPIES:
        raise Broken(f"That would be {columns * rows * len(what)} pieces; {MOST_COPIES} at most.")
    for row in range(rows):
        for column in range(columns):
            if row or column:
                _copies(what, shift((column * wide, row * tall)), made)


def _repeat_round(c: Context, s: dict[str, Any], made: Making) -> None:
    what, about = things(c, s["what"]), c.point(s["about"])
    times = _times(c, s["times"], what)
    over = c.number(s["over"]) if s["over"] is not None else 360
    # over a full turn the last would fall on the first
    parts = times if over % 360 == 0 else times - 1
    for k in range(1, times):
        _copies(what, turn(about, share(over * k, parts)), made)


def _copies(what: Sequence[Feature], way: Way, made: Making) -> None:
    made.copies(laid(f, way) for f in what)


# looks, and what goes


def _layer(c: Context, s: dict[str, Any], made: Making) -> None:
    for f in things(c, s["what"]):
        made.change(f, f._replace(layer=s["layer"]))


def _line(c: Context, s: dict[str, Any], made: Making) -> None:
    for f in things(c, s["what"]):
        made.change(f, f._replace(line=s["line"]))


def _erase(c: Context, s: dict[str, Any], made: Making) -> None:
    for f in things(c, s["what"]):
        made.change(f, None)


def _erase_guides(c: Context, _s: dict[str, Any], made: Making) -> None:
    c.spend(len(c.state.places))
    for f in list(c.state.standing()):
        if f.endless:
            made.change(f, None)


KINDS: dict[str, Build] = {
    "trim": _trim,
    "extend": _extend,
    "fillet": _fillet,
    "fillet corners": _fillet_corners,
    "chamfer": _chamfer,
    "run past": _run_past,
    "mirror": _mirror,
    "move": _move,
    "copy": _copy,
    "turn": _turn,
    "scale": _scale,
    "stretch": _stretch,
    "repeat": _repeat,
    "repeat round": _repeat_round,
    "change layer": _layer,
    "change line": _line,
    "erase": _erase,
    "erase guides": _erase_guides,
}
"""How each kind of step is built."""
