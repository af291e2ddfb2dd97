"""Hatching, and borders of papers.

Borders are drawn after ISO 5457 and ASME Y14.1 (from memory).
"""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from evenmark.core.construct.change_set import ChangeSet
from evenmark.core.construct.kinds.record import FRAMES, SECTIONS, FirstWord, Offer, SentenceKind
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression, Ref
from evenmark.core.construct.slots import slot
from evenmark.core.construct.state import XY, Broken, plain
from evenmark.core.construct.words import Renewal, Unreadable
from evenmark.core.conventions.papers import PAPERS
from evenmark.core.drawing.annotations import Hatch, Vertex
from evenmark.core.drawing.model import FreeCurve
from evenmark.core.geometry import arcs, regions
from evenmark.core.geometry.arcs import Curve, Round
from evenmark.core.geometry.ellipses import thinned
from evenmark.core.geometry.lines import Straight
from evenmark.core.geometry.numbers import Typed

FRAME = "frame"
FILING_EDGE, EDGE = 20.0, 10.0
INCH_EDGE = 12.7
MOST_FREE = 15_000
"""Curves with which chords of free curves are still looked through for what they enclose."""


class Hatching(NamedTuple):
    """Hatching of the region round a point."""

    at: Expression
    angle: Typed
    gap: Typed


class PaperFrame(NamedTuple):
    """The border of a paper, landscape or portrait."""

    paper: str
    way: str


_OLDER_WAYS = {"across": "landscape", "upright": "portrait"}


def _read_hatch(r: Reader) -> Hatching:
    r.first("A place inside the region")
    at = r.point()
    r.another("The angle of its lines")
    angle = r.number()
    slot(r, "The gap of its lines", "gap")
    return Hatching(at, angle, r.number())


def _read_frame(r: Reader) -> PaperFrame:
    r.skip()
    begins = r.at
    word = r.name("a paper and landscape or portrait, as A4 landscape").split()
    way = word[1].lower() if len(word) == 2 else ""
    if way in _OLDER_WAYS:
        at = r.text.lower().index(way, begins + len(word[0]))
        r.renewals.append(Renewal(at, at + len(way), _OLDER_WAYS[way]))
        way = _OLDER_WAYS[way]
    if way not in ("landscape", "portrait"):
        raise Unreadable("Expected a paper and landscape or portrait, as A4 landscape.", r.at)
    return PaperFrame(word[0].upper(), way)


def _hatch(c: Context, s: Hatching, made: ChangeSet) -> None:
    """Hatch the region round a point: what drawn lines that are continuous enclose."""
    p, angle, gap = c.place(s.at), float(c.number(s.angle)), float(c.length(s.gap, "gap"))
    region = faces_of(c).region_round(p)
    if region is None:
        raise Broken("Nothing encloses that point. Close the outline around it.")
    loops = tuple(_vertices(loop) for loop in (region.outside, *region.inside))
    hatch = Hatch(loops=loops, angle_deg=angle % 180.0, gap=gap, layer=made.layer)
    made.note("hatch", hatch, loops[0][0].at)


def faces_of(c: Context) -> regions.Faces:
    """Return what the continuous lines of a drawing enclose; found anew where something was drawn since.
    Raises Broken where too much was looked at."""
    bounding = _bounding(c)
    c.spend(len(c.state.places))
    if c.setting.faces is None or c.setting.faces[0] != bounding:
        c.spend(50 * len(bounding))
        c.setting.faces = (bounding, regions.Faces(bounding))
    return c.setting.faces[1]


def _bounding(c: Context) -> list[Curve]:
    """Return the curves that can bound hatching: what is drawn continuously, but for construction."""
    out: list[Curve] = []
    for f in c.state.standing():
        free = f.says if isinstance(f.says, FreeCurve) else None
        if not (f.drawn or free) or f.layer.lower() == "construction":
            continue
        if (f.line or c.setting.layer(f.layer).style.line_type) == "continuous":
            out += [f.shape] if free is None else _chords(free, MOST_FREE - len(out))
    return out


def _chords(curve: FreeCurve, most: int) -> list[Curve]:
    """Return a free curve as the chords by which it encloses something; none where there are too many."""
    chords = pairwise(thinned(curve.points))
    found: list[Curve] = [Straight(p, q) for p, q in chords if p != q]
    return found if len(found) <= most else []


def _vertices(loop: regions.Loop) -> tuple[Vertex, ...]:
    out = []
    for curve, back in loop:
        x, y = regions.ends_of(curve, back)[0]
        bulge = arcs.bulge_of(curve.sweep_rad) * (-1 if back else 1) if isinstance(curve, Round) else 0.0
        out.append(Vertex(x, y, bulge))
    return tuple(out)


def _frame(c: Context, s: PaperFrame, made: ChangeSet) -> None:
    """Draw the border of a paper whose lower left corner is the origin: bottom, right, top, left."""
    name = s.paper if s.paper in PAPERS else f"ANSI {s.paper}"
    if name not in PAPERS:
        raise Broken(f"There is no paper {s.paper}. Use one of: {', '.join(PAPERS)}.")
    wide, high = PAPERS[name] if s.way == "landscape" else PAPERS[name][::-1]
    mm = c.setting.unit.mm
    left, edge = (INCH_EDGE, INCH_EDGE) if name.startswith("ANSI") else (FILING_EDGE, EDGE)
    x0, y0, x1, y1 = (v / mm for v in (left, edge, wide - edge, high - edge))
    corners: list[XY] = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    layer, made.group = made.said_layer or FRAME, made.next_group()
    for k in range(4):
        a, b = corners[k], corners[(k + 1) % 4]
        made.add(Straight(plain(a), plain(b)), (a, b), layer=layer)
    made.corners = [(Ref("edge", made.step, k), 0) for k in (1, 2, 3, 4)]
    made.layer = made.state.layer if made.said_layer is None else made.layer


# fmt: off
WORDS: tuple[FirstWord, ...] = (
    FirstWord("hatch", _read_hatch, (
        SentenceKind("hatch", Hatching, _hatch, SECTIONS, (
            Offer("annotate", 10, "hatching", "hatch ",
                  "rectangle 0, 0; 40 by 26|hatch 20, 13; 45°; gap 5"),
        )),
    )),
    FirstWord("frame", _read_frame, (
        SentenceKind("frame", PaperFrame, _frame, FRAMES, (
            Offer("annotate", 11, "border with title block", "frame ",
                  "frame A4 landscape"),
        )),
    )),
)
# fmt: on
"""Sentences that begin with ``hatch`` or ``frame``."""
