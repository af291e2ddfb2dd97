"""The sentence being written, on the board: what is wanted, what pointing would write, what it would draw.

- *to write*: a text and its caret as they would be after pointing or choosing: what can only be so is written
  at once (``at``, ``;``).
- *preview*: what the sentence draws before it is taken, or why it cannot be built.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.board.answers import Answer, Preview, Wish, Writing, Wrong
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.names import as_name
from evenmark.core.board.scene import piece
from evenmark.core.construct.completion import Completion, Span, Wanted, answers, complete, wanted
from evenmark.core.construct.evaluation import Step
from evenmark.core.construct.layers import LAYERS
from evenmark.core.construct.points import Context
from evenmark.core.construct.reading import Expression, Reader
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.state import Broken
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.points import Point

MOST_SETTLED = 6
"""Words and signs that are written by themselves, one behind the other."""
MOST_SHOWN_ANSWERS = 8
POINTED = ("point", "feature", "things", "direction")
"""What pointing says; a number can be pointed, too."""
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
            found, _about = self.wants(says)
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

    def whole(self, says: str) -> Sentence | None:
        """Return what a sentence says; none where it is not whole or cannot be read."""
        return self.writing(HandText(says, len(says))).sentence

    def goes_on(self, says: str) -> bool:
        """Say whether a whole sentence may go on with something that is pointed: in another slot, or in a
        list of things that has begun."""
        if self.in_list(says):
            return True
        further, _ = self.wants(f"{says.rstrip()}; ")
        return any(x.kind in POINTED for x in further)

    def in_list(self, says: str) -> bool:
        """Say whether a text ends in a list of several things."""
        spans = self.writing(HandText(says, len(says))).spans
        return any(s.end == len(says.rstrip()) and _is_list(s) for s in spans)

    # what it would draw

    def preview(self, says: str) -> Preview:
        """Return what a sentence would draw: pieces that would be there, the names of those that would go or
        change; or why it cannot be built."""
        sentence = self.whole(says)
        if sentence is None:
            return {"whole": False, "pieces": [], "gone": [], "broken": ""}
        return self._drawn(sentence)

    def _drawn(self, sentence: Sentence) -> Preview:
        evaluation = self.board.evaluation
        outcome = evaluation.preview(Step(self.board.document.next_id, sentence))
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

    def said_points(self, says: str) -> list[Point]:
        """Return the points that a sentence has said so far, as far as they can be worked out."""
        w = self.writing(HandText(says, len(says)))
        board = self.board
        context = Context(board.evaluation.state, board.evaluation.values, board.built.setting)
        out: list[Point] = []
        end = -1
        for span in w.spans:
            if span.kind != "point" or span.begin < end:
                continue
            end = span.end
            try:
                r = Reader(says[span.begin : span.end], self.id_of, board.inch)
                out.append(doubles(context.point(r.point())))
            except (Broken, Unreadable, ArithmeticError, ValueError):
                continue
        return out

    # what is asked

    def state(self, text: HandText) -> Writing:
        """Return all that is said of a sentence being written: what is wanted in words, the answers there
        are, its slots, what is wrong and where, and what it would draw."""
        w = self.writing(text)
        head = text.says[: w.begin]
        found = [*answers(head, self.id_of, self.board.inch), *self._known(w)]
        stem = w.stem.casefold()
        offered = [a for a in found if a.casefold().startswith(stem)]
        whole = w.sentence is not None
        wrong: Wrong | None = None
        if w.wrong is not None and text.says.strip() and text.says[w.wrong.at :].strip():
            wrong = {"says": w.wrong.says, "at": w.wrong.at}
        frame = self.board.frame()
        return {
            "whole": whole,
            "goes_on": whole and self.goes_on(text.says),
            "about": w.about,
            "wants": [_wanted(x) for x in w.wanted],
            "needs": self._needs(w),
            "answers": self._answers(text, w, offered) or self._further_answers(text, w),
            "begin": w.begin,
            "end": w.end,
            "spans": [(s.begin, s.end, s.kind) for s in w.spans],
            "wrong": wrong,
            "preview": self.preview(text.says),
            "points": [frame.at(p) for p in self.said_points(text.says)],
        }

    def _known(self, w: Completion) -> list[str]:
        """Return the names of the document that may follow: of layers, of what is kept, of values."""
        built, out = self.board.built, []
        for x in w.wanted:
            if x.kind == "name" and "layer" in x.says:
                out += [as_name(layer) for layer in dict.fromkeys([*self.board.shown.layer_names(), *LAYERS])]
            elif x.kind == "name" and "kept" in x.says:
                out += [as_name(kept) for kept in built.evaluation.state.kept]
            elif x.kind == "name" and "opened" in x.says:
                out += [as_name(opened) for opened in built.setting.drawings]
            elif x.kind == "number":
                out += list(built.values.defined)[:MOST_SHOWN_ANSWERS]
        return out

    def _needs(self, w: Completion) -> str:
        """Return in words what is wanted next."""
        kinds = [x for x in w.wanted if x.kind not in ("word", "sign")]
        said = list(dict.fromkeys(_in_words(x) for x in kinds))
        if not said:
            return w.about[:1].lower() + w.about[1:] if w.about else ""
        joined = " or ".join(said)
        return f"{w.about[:1].lower()}{w.about[1:]}: {joined}" if w.about else joined

    def _answers(self, text: HandText, w: Completion, offered: Sequence[str]) -> list[Answer]:
        out: list[Answer] = []
        closed = not any(x.kind in (*POINTED, "number", "name", "wording") for x in w.wanted)
        for n, answer in enumerate(offered):
            says = self.settled(spaced(text.says[: w.begin]) + answer + " ")
            one: Answer = {"says": answer, "text": says.rstrip() if self.whole(says) else says}
            if closed and n < MOST_SHOWN_ANSWERS and text.says[w.end :].strip() == "":
                sentence = self.whole(says)
                if sentence is not None:
                    drawn = self._drawn(sentence)
                    one["paths"] = [p["path"] for p in drawn["pieces"]]
                    one["broken"] = drawn["broken"]
            out.append(one)
        return out

    def _further_answers(self, text: HandText, w: Completion) -> list[Answer]:
        """Return the words that may follow behind what has just been said, in its part or in the next:
        ``and``, ``keep``."""
        says = text.says
        if text.caret < len(says) or not any(s.end == len(says) > s.begin for s in w.spans):
            return []
        whole = self.whole(says) is not None
        out: dict[str, str] = {}
        for head in (f"{says} ", f"{says}; "):
            for answer in answers(head, self.id_of, self.board.inch):
                if not (whole and answer.split()[0] in TAIL):
                    out.setdefault(answer, f"{head}{answer} ")
        return [
            {"says": answer, "text": self.settled(led), "more": True}
            for answer, led in list(out.items())[:MOST_SHOWN_ANSWERS]
        ]


def _is_list(span: Span) -> bool:
    """Say whether several things are said in a slot."""
    return span.kind == "things" and isinstance(span.value, Expression) and len(span.value.parts) > 1


def spaced(says: str) -> str:
    """Return a text behind which a word can be written."""
    return says if not says or says[-1].isspace() else f"{says} "


def _wanted(x: Wanted) -> Wish:
    return {"kind": x.kind, "says": x.says, "kinds": list(x.kinds)}


def _in_words(x: Wanted) -> str:
    if x.kind == "feature":
        names = [("an " if k[0] in "aeiou" else "a ") + k for k in x.kinds]
        return " or ".join(names) if len(names) <= 4 else "something drawn"
    return {
        "point": "a point",
        "things": "what is drawn",
        "number": "a number",
        "direction": "a direction",
        "wording": "a wording in quotation marks",
    }.get(x.kind, x.says)
