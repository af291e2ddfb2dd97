"""The sentence being written, on the board: what is wanted, what pointing would write, what it would draw.

- *to write*: a text and its caret as they would be after pointing or choosing: what can only be so is written
  at once (``at``, ``;``).
- *preview*: what the sentence draws before it is taken, or why it cannot be built.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.board.answers import Preview
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.catches import TrackingPoint
from evenmark.core.board.figures import plain
from evenmark.core.board.scene import piece
from evenmark.core.construct.completion import Completion, Span, Wanted, complete, wanted
from evenmark.core.construct.evaluation import Outcome, Step
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.references import Expression
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.state import Broken
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.points import Point

MOST_SETTLED = 6
"""Words and signs that are written by themselves, one behind the other."""
POINTED = ("point", "feature", "things", "direction")
"""What pointing says; a number can be pointed, too."""
WAYS = ("by", "axis", "toward", "along", "square")
"""Points that are said from the one before them."""
HOW_MANY = "How many"
"""What is said of a slot begins so where it is a count."""
MODIFIERS = ("from", "nearest")
"""Words that say more of a point that is said already."""
TAIL = ("layer", "line")
"""What may stand behind every sentence; pointing leads nowhere there."""


class HandText(NamedTuple):
    """A sentence with its caret."""

    says: str
    caret: int


class Hand:
    """Writes a sentence on a board: at its end, or before a step or in the place of one."""

    def __init__(self, board: BoardDocument, before: int | None = None) -> None:
        board.up_to(before)
        self.board, self.before = board, before
        self.id_of = board.ids_before(before)
        self._wants: dict[str, tuple[tuple[Wanted, ...], str]] = {}
        self._writings: dict[HandText, Completion] = {}
        self._answered: dict[str, list[tuple[str, Outcome]]] = {}
        """Of a text all its answers (`all_answers`)."""

    # what is wanted

    def writing(self, text: HandText) -> Completion:
        """Return how the sentence stands."""
        if text not in self._writings:
            self._writings[text] = complete(text.says, text.caret, self.id_of, self.board.inch)
        return self._writings[text]

    def wants(self, says: str) -> tuple[tuple[Wanted, ...], str]:
        """Return what may follow a text."""
        if says not in self._wants:
            self._wants[says] = wanted(says, self.id_of, self.board.inch)
        return self._wants[says]

    def settled(self, says: str) -> str:
        """Return a text with what can only follow: a word that has to stand there, a sign between slots."""
        for _ in range(MOST_SETTLED):
            found = self.meant(says)
            if len(found) != 1 or found[0].kind not in ("word", "sign"):
                break
            if self.whole(says) is not None:
                break
            word = found[0].says
            if found[0].kind == "sign":
                says = says.rstrip() + word + " "
            else:
                says = f"{says}{'' if says[-1:].isspace() else ' '}{word} "
        return says

    def meant(self, says: str) -> Sequence[Wanted]:
        """Return what may follow a text; behind what is said, words that would say more of it only where
        nothing else follows."""
        found, _about = self.wants(says)
        if unended(says) != says.rstrip():
            return found
        return [x for x in found if x.says not in MODIFIERS] or found

    def whole(self, says: str) -> Sentence | None:
        """Return what a sentence says, with or without a sign to a next slot behind it; none where it is not
        whole or cannot be read."""
        bare = unended(says)
        found = self.writing(HandText(says, len(says))).sentence
        return found or (self.writing(HandText(bare, len(bare))).sentence if bare != says else None)

    def is_own_length(self, head: str, typed: str) -> bool:
        """Say whether a number behind a text is how long all of what is drawn is, not how far its end lies
        from another place."""
        sentence = self.whole(f"{head} {typed} toward 0")
        return sentence is not None and all(hasattr(sentence.meaning, x) for x in ("length", "toward"))

    def goes_on(self, says: str) -> bool:
        """Say whether a whole sentence may go on with something that is pointed: in another slot, or in a
        list of things that has begun; or with how many there are the other way."""
        if self.in_list(says):
            return True
        further, about = self.wants(f"{unended(says)}; ")
        return about.startswith(HOW_MANY) or any(x.kind in POINTED for x in further)

    def onward(self, says: str) -> str:
        """Return a text whose last slot is filled with the sign to the next one; nothing where none follows
        that says more than how it looks."""
        bare = says.rstrip()
        if not any(x.says == ";" for x in self.wants(bare)[0]):
            return ""
        further = f"{bare}; "
        more = any(x.kind != "word" or x.says.split()[0] not in TAIL for x in self.wants(further)[0])
        return further if more else ""

    def finished(self, says: str) -> str:
        """Return a text behind which something was pointed, ready for what comes next: with what can only
        follow, and with the sign to the next slot, unless it stands in a list or is whole."""
        says = self.settled(says)
        if self.whole(says) is not None and not self.goes_on(says):
            return says
        in_list = any(x.says == "and" for x in self.wants(says)[0])
        return says if in_list else self.settled(self.onward(says) or says)

    def in_list(self, says: str) -> bool:
        """Say whether a text ends in a list of several things."""
        spans = self.writing(HandText(says, len(says))).spans
        return any(s.end == len(says.rstrip()) and _is_list(s) for s in spans)

    # what it would draw

    def preview(self, says: str) -> Preview:
        """Return what a sentence would draw: pieces that would be there, the names of those that would go or
        change; or why it cannot be built."""
        sentence = self.whole(says)
        return self.drawn(self.outcome(sentence) if sentence is not None else None)

    def outcome(self, sentence: Sentence) -> Outcome:
        """Return what would become of a sentence."""
        return self.board.evaluation.preview(Step(self.board.document.next_id, sentence))

    def drawn(self, outcome: Outcome | None) -> Preview:
        """Return what would be drawn of a sentence; nothing of one that is not whole."""
        if outcome is None:
            return {"whole": False, "pieces": [], "gone": [], "broken": ""}
        setting = self.board.built.setting
        frame = self.board.frame()
        box = frame.box
        pieces = [piece(c.after, setting, frame, box) for c in outcome.changes if c.after is not None]
        gone = [f"{c.ref.kind} {c.ref.step}.{c.ref.part}" for c in outcome.changes if c.before is not None]
        return {
            "whole": True,
            "pieces": [p for p in pieces if p is not None],
            "gone": gone,
            "broken": outcome.broken,
        }

    def said(self, says: str) -> list[TrackingPoint]:
        """Return the points that a sentence has said so far, as far as they can be worked out, each as it may
        be written again."""
        w = self.writing(HandText(says, len(says)))
        board = self.board
        context = Context(board.evaluation.state, board.evaluation.values, board.built.setting)
        out: list[TrackingPoint] = []
        end = -1
        for span in w.spans:
            if span.kind != "point" or span.begin < end:
                continue
            end = span.end
            text = says[span.begin : span.end].strip()
            try:
                point = Reader(text, self.id_of, board.inch).point()
                at = doubles(context.point(point))
            except (Broken, Unreadable, ArithmeticError, ValueError):
                continue
            again = f"{plain(at[0])}, {plain(at[1])}" if point.how in WAYS else text
            out.append(TrackingPoint(again, at, f"corner {len(out) + 1}" if out else "the start"))
        return out

    def said_points(self, says: str) -> list[Point]:
        """Return where the points are that a sentence has said so far."""
        return [one.at for one in self.said(says)]


def _is_list(span: Span) -> bool:
    """Say whether several things are said in a slot."""
    return span.kind == "things" and isinstance(span.value, Expression) and len(span.value.parts) > 1


def unended(says: str) -> str:
    """Return a text without a sign to a next slot, behind which nothing stands."""
    return says.rstrip().rstrip(";·").rstrip()


def spaced(says: str) -> str:
    """Return a text behind which a word can be written."""
    return says if not says or says[-1].isspace() else f"{says} "
