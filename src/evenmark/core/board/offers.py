"""What can be done next: what the kinds of sentences offer, found by what students may call it, each with a
small picture that is drawn from its example."""

from __future__ import annotations

from evenmark.core.board.answers import Kind, Picture
from evenmark.core.board.near import box_of_features
from evenmark.core.board.scene import piece
from evenmark.core.construct.building import build
from evenmark.core.construct.document import from_text
from evenmark.core.construct.kinds import OFFERS
from evenmark.core.construct.kinds.record import Offer
from evenmark.core.sheet.frame import Frame, SceneText

SIDE = 40.0
"""Pictures are so many units wide and high."""


def offered() -> list[Kind]:
    """Return all kinds with their pictures: what stands in pale lines, what the sentence does in strong
    ones."""
    return [
        {
            "group": o.group,
            "says": o.says,
            "begins": o.begins,
            "words": " ".join(o.words),
            "example": o.example,
            "picture": picture(o),
        }
        for o in OFFERS
    ]


def picture(kind: Offer) -> Picture:
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
    texts: list[SceneText] = []
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


def found(says: str, recent: tuple[str, ...] = ()) -> list[Offer]:
    """Return the kinds that a word may mean: by how they begin, how they are called, and by other words; the
    recent ones first.

    >>> [k.says for k in found("round corner")][:2]
    ['fillet', 'fillet all corners']
    """
    words = says.lower().split()
    if not words:
        return [
            *(k for r in recent for k in OFFERS if k.says == r),
            *(k for k in OFFERS if k.says not in recent),
        ]
    scored = []
    for n, k in enumerate(OFFERS):
        score = _score(k, words)
        if score is not None:
            scored.append((score, 0 if k.says in recent else 1, n, k))
    return [k for *_, k in sorted(scored, key=lambda s: s[:3])]


def _score(k: Offer, words: list[str]) -> int | None:
    """Return how well words mean a kind, 0 best; none where one of them does not at all."""
    called = k.says.lower().split()
    begins = k.begins.lower().split()
    others = k.words
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
