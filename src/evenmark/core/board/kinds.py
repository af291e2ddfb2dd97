"""What can be done next: the kinds of sentences in groups, by what students may call them, each with an
example from which its small picture is drawn."""

# ruff: noqa: E501 (a table has long lines)

from __future__ import annotations

from typing import Any, NamedTuple

from evenmark.core.board.near import box_of_features
from evenmark.core.board.scene import piece
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.sheet.frame import Frame

SIDE = 40.0
"""Pictures are so many units wide and high."""


class Kind(NamedTuple):
    """A kind of sentence: its group, what it is called, how the sentence begins, other words for it, and an
    example: its steps one behind the other, the last of which is meant."""

    group: str
    says: str
    begins: str
    words: str
    example: str


_TABLE = """\
draw @ line @ line_ @ straight edge segment from to @ line 0, 0; 40, 26
draw @ chain of lines @ chain_ @ outline path contour several lines @ chain 0, 0; right 30; up 14; left 12; up 14; left 18; close
draw @ circle by centre and size @ circle_ @ round hole bore radius diameter @ circle 0, 0; radius 14
draw @ rectangle @ rectangle_ @ box square plate oblong @ rectangle 0, 0; 40 by 26
draw @ arc by centre @ arc centre_ @ round bow curve part of a circle @ arc centre 0, 0; from 20, 0; turn 120
draw @ arc through three points @ arc through_ @ round bow curve @ arc through 0, 0; 16, 14; 40, 0
draw @ arc by ends and radius @ arc_ @ round bow curve @ arc 0, 0; 40, 0; radius 26; left
draw @ circle across two points @ circle across_ @ diameter ends @ line 0, 0; 30, 20|circle across 0, 0; 30, 20
draw @ circle through three points @ circle through_ @ circumcircle @ circle through 0, 0; 30, 0; 12, 26
draw @ circle touching two or three @ circle touching_ @ tangent inscribed incircle fit between @ line 0, 0; 40, 0|line 0, 0; 0, 30|circle touching edge 1; edge 2; radius 11; left; right
draw @ regular polygon @ polygon_ @ hexagon pentagon triangle octagon nut @ polygon 6; centre 0, 0; inside 16
draw @ line from its middle @ line middle_ @ centred @ line middle 0, 0; 40 toward 25
draw @ line touching two circles @ line touching_ @ tangent belt common @ circle 0, 0; radius 12|circle 40, 0; radius 7|line touching circle 1; circle 2; outer left
draw @ parallel @ parallel_ @ gap at a distance copy beside @ line 0, 0; 40, 10|parallel edge 1; gap 10; left
draw @ square to a line @ square_ @ perpendicular normal right angle @ line 0, 0; 40, 10|square edge 1; at 20, 5; length 18; left
draw @ line square to two @ line square to_ @ common perpendicular @ circle 0, 0; radius 12|circle 40, 0; radius 7|line square to circle 1; circle 2
draw @ bisector @ bisector_ @ halve angle half @ line 0, 0; 40, 0|line 0, 0; 0, 30|bisector edge 1; edge 2; length 34
draw @ shortest link @ shortest_ @ distance nearest connection @ circle 0, 0; radius 12|circle 40, 0; radius 7|shortest circle 1; circle 2
draw @ named point @ point_ @ mark place name @ circle 0, 0; radius 1
change @ trim @ trim_ @ cut off shorten crop @ line 0, 0; 40, 0|line 26, -14; 26, 14|trim edge 1; at edge 2; keep 0, 0
change @ extend to @ extend_ @ reach meet longer @ line 0, 0; 18, 6|line 38, -8; 38, 26|extend edge 1; to edge 2
change @ fillet @ fillet_ @ round corner radius rounding blend @ line 0, 0; 40, 0|line 0, 0; 0, 30|fillet edge 1; edge 2; radius 12
change @ fillet all corners @ fillet corners of_ @ round corners rounding @ rectangle 0, 0; 40 by 26|fillet corners of step 1; radius 8
change @ chamfer @ chamfer_ @ bevel cut corner slope @ line 0, 0; 40, 0|line 0, 0; 0, 30|chamfer edge 1; edge 2; 12
change @ run past its ends @ run past_ @ overshoot longer both ends @ line 10, 0; 30, 0|run past edge 1; 8
change @ mirror @ mirror_ @ reflect flip symmetric @ line 20, -4; 20, 34; line chain|circle 8, 14; radius 7|mirror circle 2; about edge 1; copy
change @ move @ move_ @ shift displace @ circle 0, 0; radius 8|move circle 1; by 24, 12
change @ copy @ copy_ @ again duplicate @ circle 0, 0; radius 8|copy circle 1; by 24, 12
change @ turn @ turn_ @ rotate swing spin @ line 0, 0; 36, 0|turn edge 1; about 0, 0; 35; copy
change @ scale @ scale_ @ enlarge reduce size @ circle 0, 0; radius 8|scale circle 1; about 0, 0; 2
change @ stretch @ stretch_ @ longer part window @ rectangle 0, 0; 40 by 26|stretch 20, -5; 60, 40; by 14, 0
change @ repeat in a row or grid @ repeat_ @ pattern rows columns @ circle 0, 0; radius 4|repeat circle 1; 3 across 16; 2 up 16
change @ repeat round a point @ repeat_ @ circular pattern around @ circle 16, 0; radius 4|repeat circle 1; 6 round 0, 0
change @ join into one outline @ join_ @ connect combine unite @ line 0, 0; 40, 0|line 0, 0; 0, 30|join step 1 and step 2
change @ break up @ break up_ @ split separate apart @ rectangle 0, 0; 40 by 26|break up step 1
change @ tidy what is drawn twice @ tidy @ clean duplicates double @ line 0, 0; 40, 0|line 10, 0; 30, 0|tidy
change @ put on a layer @ layer_ @ change layer @ line 0, 0; 40, 20|layer edge 1; centre
change @ draw dashed or chain @ line_ @ line type hidden dashed @ line 0, 0; 40, 20|line edge 1; dashed
change @ erase @ erase_ @ delete remove rub out @ rectangle 0, 0; 40 by 26|circle 20, 13; radius 6|erase edge 1.1
help @ guide level @ guide level_ @ construction horizontal line @ circle 0, 0; radius 10|guide level 0, 10
help @ guide plumb @ guide plumb_ @ construction vertical line @ circle 0, 0; radius 10|guide plumb 10, 0
help @ guide at an angle @ guide_ @ construction line infinite @ circle 0, 0; radius 10|guide 30 through 0, 0
help @ mitre line @ mitre_ @ forty-five 45 transfer @ guide level 0, 0|mitre 0, 0
help @ carry to another view @ carry_ @ project transfer view @ circle 0, 0; radius 10|carry quarter of circle 1 above; level
help @ centre mark @ centre mark_ @ cross axes of a circle @ circle 0, 0; radius 12|centre mark circle 1; past 5
help @ centre line @ centre line_ @ axis symmetry @ line 0, 0; 40, 0|line 0, 20; 40, 20|centre line edge 1; edge 2; past 4
help @ pitch circle with holes @ pitch circle_ @ bolt holes flange @ pitch circle 0, 0; diameter 30; 6 holes diameter 7; first 90
help @ make hidden @ hide edges_ @ hidden dashed behind @ rectangle 0, 0; 40 by 26|hide edges edge 1.3
help @ erase all guides @ erase guides @ construction remove @ guide level 0, 0|circle 0, 0; radius 8|erase guides
annotate @ size between two points @ size_ @ dimension measure length distance @ line 0, 0; 40, 0|size 0, 0; 40, 0; across; at 20, -12
annotate @ size of an edge @ size_ @ dimension length aligned @ line 0, 0; 36, 16|size edge 1; at 14, 16
annotate @ radius @ size radius_ @ dimension radius R @ arc centre 0, 0; from 20, 0; turn 120|size radius arc 1; at 22, 22
annotate @ diameter @ size diameter_ @ dimension diameter @ circle 0, 0; radius 12|size diameter circle 1; at 24, 18
annotate @ angle @ size angle_ @ dimension degrees @ line 0, 0; 40, 0|line 0, 0; 30, 24|size angle edge 1; edge 2; at 26, 8
annotate @ sizes from one edge @ sizes from_ @ baseline dimensions datum @ line 0, 0; 40, 0|sizes from 0, 0; 18, 0; 40, 0; across; at 0, -9
annotate @ sizes in a row @ sizes in a row_ @ chain dimensions continued @ line 0, 0; 40, 0|sizes in a row 0, 0; 18, 0; 40, 0; across; at 0, -12
annotate @ lettering @ text " @ text words letters write label @ text "Aa"; 0, 0; height 14
annotate @ note with a leader @ note " @ arrow leader @ circle 0, 0; radius 8|note "R"; 6, 6; 22, 20
annotate @ hatching @ hatch_ @ section fill shade @ rectangle 0, 0; 40 by 26|hatch 20, 13; 45°; gap 5
annotate @ border with title strip @ frame_ @ sheet paper border title @ frame A4 across
keep @ keep under a name @ keep_ @ symbol reuse store @ rectangle 0, 0; 40 by 26|keep plate; step 1; at 0, 0
keep @ lay in a drawing that was opened @ lay in_ @ insert file import dxf svg place again @ drawing plate: {"layers":[["outline",null]],"styles":[[7,"continuous",0.5,0]],"rows":[["line",[0,0],[40,0],0,0,"1"],["line",[40,0],[40,26],0,0,"1"],["line",[40,26],[0,26],0,0,"1"],["line",[0,26],[0,0],0,0,"1"],["circle",[26,13],7,0,0,"2"]]}|lay in plate
keep @ place what was kept @ place_ @ symbol again @ circle 0, 0; radius 7|keep stud; circle 1; at 0, 0|place stud; 26, 10
"""
"""One kind a line: group, what it is called, how its sentence begins (``_`` is a blank), other words, example."""

KINDS: tuple[Kind, ...] = tuple(
    Kind(group, says, begins.replace("_", " "), words, example)
    for group, says, begins, words, example in (row.split(" @ ") for row in _TABLE.splitlines())
)
"""All kinds, in the order in which they are offered."""


def offered() -> list[dict[str, Any]]:
    """Return all kinds with their pictures: what stands in pale lines, what the sentence does in strong
    ones."""
    return [{**k._asdict(), "picture": picture(k)} for k in KINDS]


def picture(kind: Kind) -> dict[str, Any]:
    """Return the small picture of a kind: a box, pale and strong paths, lettering."""
    lines = kind.example.split("|")
    built = build(from_text("\n".join(lines)))
    before = build(from_text("\n".join(lines[:-1])))
    there = before.evaluation.state.features
    now = built.evaluation.state.features
    box = box_of_features([*there.values(), *now.values()]) or (0.0, 0.0, SIDE, SIDE)
    frame = Frame(box, (0.0, 0.0))
    pale: list[str] = []
    strong: list[str] = []
    texts: list[dict[str, Any]] = []
    for ref, f in {**there, **now}.items():
        made = piece(f, built.setting, frame, box)
        if made is None:
            continue
        is_new = now.get(ref) != there.get(ref) and ref in now
        (strong if is_new else pale).append(made["path"])
        texts += made["texts"]
    left, top = frame.at((box[0], box[3]))
    return {
        "box": [left, top, box[2] - box[0], box[3] - box[1]],
        "pale": "".join(pale),
        "strong": "".join(strong),
        "texts": texts,
    }


def found(says: str, recent: tuple[str, ...] = ()) -> list[Kind]:
    """Return the kinds that a word may mean: by how they begin, how they are called, and by other words; the
    recent ones first.

    >>> [k.says for k in found("round corner")][:2]
    ['fillet', 'fillet all corners']
    """
    words = says.lower().split()
    if not words:
        return [
            *(k for r in recent for k in KINDS if k.says == r),
            *(k for k in KINDS if k.says not in recent),
        ]
    scored = []
    for n, k in enumerate(KINDS):
        score = _score(k, words)
        if score is not None:
            scored.append((score, 0 if k.says in recent else 1, n, k))
    return [k for *_, k in sorted(scored, key=lambda s: s[:3])]


def _score(k: Kind, words: list[str]) -> int | None:
    """Return how well words mean a kind, 0 best; none where one of them does not at all."""
    called = k.says.lower().split()
    begins = k.begins.lower().split()
    others = k.words.lower().split()
    worst = 0
    for word in words:
        if begins and begins[0].startswith(word):
            rank = 0
        elif any(w.startswith(word) for w in called):
            rank = 1
        elif any(w.startswith(word) for w in others):
            rank = 2
        else:
            return None
        worst = max(worst, rank)
    return worst
