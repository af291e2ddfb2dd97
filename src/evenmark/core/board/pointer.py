"""Pointing into a sentence: what a pointer may mean where the caret stands, and what would be written.

Pointing passes over words and signs that lead to something that can be pointed: behind ``circle 0, 50`` it
says a radius, or a point that the circle goes through.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.board.answers import Pointed
from evenmark.core.board.catches import (
    Catch,
    Field,
    Pointing,
)
from evenmark.core.board.catching import CatchingHand
from evenmark.core.board.hand import POINTED, TAIL, HandText, spaced
from evenmark.core.board.live import live
from evenmark.core.board.near import distance_to
from evenmark.core.construct.completion import Completion, Span
from evenmark.core.construct.evaluation import Outcome
from evenmark.core.geometry.points import Point

MOST_LED, MOST_HEADS = 3, 12
"""Words and signs that pointing passes over, and how many ways of that."""
_LATE = {"pitch": -1, "number": 1}
"""How late kinds of what is caught are meant, where what is caught by its place is 0."""


class Choice(NamedTuple):
    """Something that a pointer may mean: a catch, a feature, a number or an answer; ``text`` is the sentence
    with it."""

    kind: str
    says: str
    text: HandText
    at: Point | None = None
    on: tuple[str, ...] = ()
    leads: bool = False
    """Whether what can only follow is written behind it; it is looked for once this choice is meant."""
    writes: str = ""
    """How the place alone is written."""
    draws: Outcome | None = None
    """What an answer draws."""
    late: int = 0
    """How late it is meant among choices of several slots: what is caught first, then numbers, then places
    that may lie anywhere."""


class Pointer(CatchingHand):
    """A hand that points."""

    def point(self, text: HandText, pointing: Pointing, which: int = 0) -> Pointed:
        """Return what a pointer would write into a sentence, all that it may mean there, and what the
        sentence then draws; ``which`` of them is meant."""
        choices = self.choices(text, pointing)
        if not choices:
            return {"choices": [], "which": 0, "text": text.says, "caret": text.caret, "preview": None}
        which %= len(choices)
        after = self._led_on(choices[which])
        frame = self.board.frame()
        points = self.said_points(after.says)
        sentence = self.whole(after.says)
        outcome = self.outcome(sentence) if sentence is not None else None
        preview = self.drawn(outcome)
        return {
            "choices": [
                {
                    "kind": c.kind,
                    "says": c.says,
                    "writes": c.writes,
                    "at": frame.at(c.at) if c.at else None,
                    "on": list(c.on),
                }
                for c in choices
            ],
            "which": which,
            "text": after.says,
            "caret": after.caret,
            "preview": preview,
            "more": preview["whole"] and self.goes_on(after.says),
            "onward": self.onward(after.says),
            "points": [frame.at(p) for p in points],
            "others": [path for n, c in enumerate(choices) if n != which for path in self._paths(c)],
            "live": live(sentence, outcome, points, self.board.unit),
        }

    def _paths(self, choice: Choice) -> list[str]:
        """Return the paths of what an answer draws."""
        if choice.draws is None:
            return []
        return [piece["path"] for piece in self.drawn(choice.draws)["pieces"] if piece["path"]]

    def choices(self, text: HandText, pointing: Pointing) -> list[Choice]:
        """Return what a pointer may mean where the caret stands: in the slot that it stands in, or behind
        what is written, over the words that lead to something that can be pointed."""
        w = self.writing(text)
        span = _slot(w, text.caret, POINTED) or _slot(w, text.caret, ("number",))
        ends = not text.says[text.caret :].strip()
        if span is not None and not (ends and self._is_said(w, span)):
            return self._here(
                text.says[: span.begin], text.says[span.end :], text.says[span.begin : span.end], pointing
            )
        if not ends:
            return []
        typed = text.says[w.begin :].strip()
        head = text.says[: w.begin] if typed and not any(s.end > w.begin for s in w.spans) else text.says
        if span is not None:
            head, typed = text.says, ""
        further = self._further(head, typed, pointing)
        if not further and span is not None:
            if self.in_list(text.says):
                return self._here(f"{text.says.rstrip()} and ", "", "", pointing)
            if self.whole(text.says) is None or span.kind != "number":
                return self._here(text.says[: span.begin], "", text.says[span.begin :], pointing)
        return further

    def _is_said(self, w: Completion, span: Span) -> bool:
        """Say whether a slot is filled, rather than being written: a lone number is no point yet."""
        return w.sentence is not None or any(s.begin > span.begin for s in w.spans) or span.kind != "number"

    def _further(self, head: str, typed: str, pointing: Pointing) -> list[Choice]:
        """Return what may be pointed behind a text: there, or after the fewest words and signs."""
        heads = [head]
        if all(x.kind == "word" for x in self.wants(head)[0]):
            answered = self._nearest_answer(head, pointing)
            if answered:
                return answered
        for _ in range(MOST_LED):
            out: list[Choice] = []
            for one in heads:
                out += self._here(one, "", typed, pointing)
            if out:
                return _once(out)
            heads = [further for one in heads for further in self._led(one)][:MOST_HEADS]
            typed = ""
        return self._nearest_answer(head, pointing)

    def _led(self, head: str) -> list[str]:
        """Return a text with the sign to the next slot, and with each word behind that; where none follows,
        with each word that may. What was said is whole: of the words that say more of it only ``and`` is
        meant."""
        onward = self.onward(head)
        found = [] if self.whole(head) is not None and not self.in_list(head) else self.meant(head)
        words = [x.says for x in found if x.kind == "word" and x.says not in TAIL]
        out = [f"{spaced(head)}{word} " for word in words if word == "and" or not onward]
        if onward:
            behind = [x.says for x in self.wants(onward)[0] if x.kind == "word" and x.says not in TAIL]
            out += [onward, *(f"{onward}{word} " for word in behind)]
        return out

    def _here(self, head: str, tail: str, typed: str, pointing: Pointing) -> list[Choice]:
        """Return what may be pointed just behind a text; ``typed`` stands there already, ``tail`` behind."""
        found, about = self.wants(head)
        kinds = {x.kind for x in found}
        board = self.board
        field = Field(board.near(), board.evaluation.state, board.numbers, board.unit)
        held = bool(typed) and not tail.strip() and self.is_length(typed)
        if held and "point" in kinds and self.is_own_length(head, typed):
            return self._here(f"{spaced(head)}{typed} toward ", "", "", pointing)
        before = self.before_by(head) if "number" in kinds else None
        if before is not None:
            head = before
        made: list[Catch] = []
        features = {k for x in found if x.kind in ("feature", "things") for k in x.kinds}
        if features:
            made += self.features(head, field, pointing, features)
        if before is not None or "point" in kinds:
            made = self.points(head, typed, field, pointing, made)
            if before is not None:
                made = self.by(head, made)
        elif "direction" in kinds:
            made = self.directions(head, field, pointing)
        elif "number" in kinds and not made:
            if held:
                return self._further(spaced(head) + typed, "", pointing)  # a typed number is held
            made += self.numbers(head, about, field, pointing)
        return [self._chosen(c, head, tail) for c in made]

    def _chosen(self, c: Catch, head: str, tail: str) -> Choice:
        late = _LATE.get(c.kind, 0 if c.fixed else 2)
        text = self._with(head, c.writes, tail)
        return Choice(
            c.kind, self._led_to(head, c), text, c.at, c.on, not tail.strip(), writes=c.writes, late=late
        )

    def _led_to(self, head: str, c: Catch) -> str:
        """Return what a choice is called: a number by the word before it."""
        word = head.replace(";", " ").split()[-1:]
        return f"{word[0]} {c.says}" if c.kind == "number" and word and word[0].isalpha() else c.says

    def _with(self, head: str, writes: str, tail: str) -> HandText:
        says = spaced(head) + writes if not head.endswith("(") else head + writes
        return HandText(says + tail if tail.strip() else says, len(says))

    def _led_on(self, choice: Choice) -> HandText:
        """Return the sentence with a choice, and with what can only follow."""
        if not choice.leads:
            return choice.text
        says = self.finished(choice.text.says)
        return HandText(says, len(says))

    def _nearest_answer(self, head: str, pointing: Pointing) -> list[Choice]:
        """Return the answers that draw something, what they draw nearest to the pointer first."""
        scored: list[tuple[float, Choice]] = []
        for says, outcome in self.all_answers(head):
            drawn = [c.after for c in outcome.changes if c.after is not None]
            far = min(distance_to(f, pointing.at) for f in drawn)
            said = says[len(head) :].strip()
            scored.append((far, Choice("answer", said, HandText(says, len(says)), draws=outcome)))
        return [c for _, c in sorted(scored, key=lambda s: s[0])]


def _once(choices: Sequence[Choice]) -> list[Choice]:
    """Return choices, each sentence once, what is caught first."""
    once: dict[str, Choice] = {}
    for c in choices:
        once.setdefault(c.text.says, c)
    return sorted(once.values(), key=lambda c: c.late)


def _slot(w: Completion, caret: int, kinds: Sequence[str]) -> Span | None:
    """Return the innermost slot of some kinds that a caret stands in or behind."""
    inside = [s for s in w.spans if s.kind in kinds and s.begin <= caret <= s.end and s.begin < s.end]
    return min(inside, key=lambda s: s.end - s.begin, default=None)
