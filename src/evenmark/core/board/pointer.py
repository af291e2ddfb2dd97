"""Pointing into a sentence: what a pointer may mean where the caret stands, and what would be written.

Pointing passes over words and signs that lead to something that can be pointed: behind ``circle 0, 50`` it
says a radius, or a point that the circle goes through.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from evenmark.core.board.answers import Pointed
from evenmark.core.board.board import BoardDocument
from evenmark.core.board.catches import SURE, Catch, Field, Pointing, along, catches
from evenmark.core.board.figures import plain, rounded
from evenmark.core.board.figures import shown as figure
from evenmark.core.board.hand import POINTED, TAIL, Hand, HandText, spaced
from evenmark.core.board.names import spoken
from evenmark.core.board.near import box_of, distance_to
from evenmark.core.construct.completion import Completion, Span, answers
from evenmark.core.construct.evaluation import Step
from evenmark.core.construct.reading import Reader
from evenmark.core.construct.state import Broken, Feature
from evenmark.core.construct.state import plain as doubles
from evenmark.core.construct.words import Unreadable
from evenmark.core.geometry.deterministic import turn_of
from evenmark.core.geometry.points import Box, Point, distance

ROUND_DEG = 5.0
"""Directions are pointed in steps of so many degrees."""
TURNS = ("turned", "turn", "at", "over", "first", "toward")
"""Words before a number that is a direction or a turn, where points have been said."""
MOST_LED, MOST_HEADS = 3, 12
"""Words and signs that pointing passes over, and how many ways of that."""


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


class Pointer(Hand):
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
        preview = self.preview(after.says.rstrip().rstrip(";"))
        return {
            "choices": [
                {"kind": c.kind, "says": c.says, "at": frame.at(c.at) if c.at else None, "on": list(c.on)}
                for c in choices
            ],
            "which": which,
            "text": after.says,
            "caret": after.caret,
            "preview": preview,
            "more": preview["whole"] and self.goes_on(after.says),
            "points": [frame.at(p) for p in points],
            "live": self._live(points),
        }

    def _live(self, points: Sequence[Point]) -> str:
        """Return how long and in which direction the last way goes."""
        unit = self.board.unit
        if len(points) < 2 or points[-1] == points[-2]:
            return ""
        (ax, ay), (bx, by) = points[-2:]
        turn = math.degrees(turn_of(by - ay, bx - ax)) % 360.0
        return f"{figure(distance(points[-2], points[-1]), unit)} {unit.symbol} toward {figure(turn)}°"

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
                once: dict[str, Choice] = {}
                for c in out:
                    once.setdefault(c.text.says, c)
                return sorted(once.values(), key=_by_kind)
            heads = [further for one in heads for further in self._led(one)][:MOST_HEADS]
            typed = ""
        return self._nearest_answer(head, pointing)

    def _led(self, head: str) -> list[str]:
        """Return a text with each word that may follow, and with the sign between slots and each word behind
        that; a whole sentence goes on behind the sign alone."""
        found = [] if self.whole(head) is not None else self.wants(head)[0]
        out = [f"{spaced(head)}{x.says} " for x in found if x.kind == "word" and x.says not in TAIL]
        if any(x.says == ";" for x in self.wants(head)[0]):
            further = f"{head.rstrip()}; "
            words = [x.says for x in self.wants(further)[0] if x.kind == "word" and x.says not in TAIL]
            out += [further, *(f"{further}{word} " for word in words)]
        return out

    def _here(self, head: str, tail: str, typed: str, pointing: Pointing) -> list[Choice]:
        """Return what may be pointed just behind a text; ``typed`` stands there already, ``tail`` behind."""
        found, about = self.wants(head)
        kinds = {x.kind for x in found}
        board = self.board
        field = Field(board.near(), board.evaluation.state, board.numbers, board.unit)
        made: list[Catch] = []
        features = {k for x in found if x.kind in ("feature", "things") for k in x.kinds}
        if features:
            made += self._features(head, field, pointing, features)
        if "point" in kinds or "direction" in kinds:
            made = self._points(head, typed, field, pointing, made)
        elif "number" in kinds and not made:
            made += self._numbers(head, about, field, pointing)
        return [
            Choice(
                c.kind,
                self._led_to(head, c),
                self._with(head, c.writes, tail),
                c.at,
                c.on,
                leads=not tail.strip(),
            )
            for c in made
        ]

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
        says = self.settled(choice.text.says)
        return HandText(says, len(says))

    def _features(self, head: str, field: Field, pointing: Pointing, kinds: set[str]) -> list[Catch]:
        """Return what is drawn within reach that a sentence has not named yet."""
        out = []
        named = {
            head[s.begin : s.end]
            for s in self.writing(HandText(head, len(head))).spans
            if s.kind == "feature"
        }
        state, numbers = field.state, field.numbers
        steps: dict[int, Catch] = {}
        for _, f in field.near.at(pointing.at, pointing.reach):
            name = field.name(f)
            if name in named:
                continue
            if f.ref.kind in kinds or name.split()[0] in kinds:
                out.append(Catch("feature", name, name, pointing.at, (_id(f),)))
            if "step" in kinds:
                n = numbers.get(f.ref.step, 0)
                on = tuple(_id(g) for g in state.of_step(f.ref.step))
                said = Catch("feature", f"step {n}, all of it", f"step {n}", pointing.at, on)
                steps.setdefault(f.ref.step, said)
        return [*out, *steps.values()]

    def _points(
        self, head: str, typed: str, field: Field, pointing: Pointing, features: list[Catch]
    ) -> list[Catch]:
        said = self.said_points(head)
        last = self.board.evaluation.state.last
        base = said[-1] if said else None
        found = catches(field, pointing, base)
        if base is None and last is not None:
            base = doubles(last)
        if typed and base is not None and self._is_length(typed):
            found = along(typed, pointing, base, found)
        sure = [c for c in found if c.kind in SURE]
        return [*sure, *features, *(c for c in found if c.kind not in SURE)]

    def _is_length(self, typed: str) -> bool:
        r = Reader(typed, self.id_of, self.board.inch)
        try:
            r.number()
        except Unreadable:
            return False
        return r.all_read

    def _numbers(self, head: str, about: str, field: Field, pointing: Pointing) -> list[Catch]:
        """Return what a pointer says of a number: how far it is from the last point, or from the feature that
        was named last; twice that for a diameter; a direction in steps of a few degrees."""
        said = self.said_points(head)
        word = (head.lower().replace(";", " ").split()[-1:] or [""])[0]
        turns = word in TURNS or (about == "By how much" and head.lower().startswith("turn"))
        if said and turns:
            center, start = (said[0], said[1]) if word == "turn" and len(said) > 1 else (said[-1], None)
            begins = _direction_deg(center, start) if start is not None else 0.0
            degrees = _direction_deg(center, pointing.at) - begins
            turn = round(degrees / ROUND_DEG) * ROUND_DEG % 360.0
            return [Catch("number", f"{plain(turn)}°", plain(turn), pointing.at)]
        feature = self._last_feature(head)
        if feature is not None and (not said or word in ("gap", "radius", "past")):
            far = distance_to(feature, pointing.at)
        elif said:
            far = distance(said[-1], pointing.at)
        else:
            return []
        value = rounded(far * 2 if word == "diameter" else far, pointing.pixel, field.unit)
        said_so = f"{plain(value)} {field.unit.symbol}"
        return [Catch("number", said_so, plain(value), pointing.at)] if value > 0.0 else []

    def _last_feature(self, head: str) -> Feature | None:
        w = self.writing(HandText(head, len(head)))
        for span in reversed([s for s in w.spans if s.kind == "feature"]):
            try:
                r = Reader(head[span.begin : span.end], self.id_of, self.board.inch)
                return self.board.evaluation.context().feature(r.feature())
            except (Broken, Unreadable):
                continue
        return None

    def _nearest_answer(self, head: str, pointing: Pointing) -> list[Choice]:
        """Return the answers that draw something, what they draw nearest to the pointer first."""
        scored: list[tuple[float, Choice]] = []
        for answer in answers(head, self.id_of, self.board.inch):
            says = spaced(head) + answer
            sentence = self.whole(says)
            if sentence is None:
                continue
            outcome = self.board.evaluation.preview(Step(self.board.document.next_id, sentence))
            drawn = [c.after for c in outcome.changes if c.after is not None]
            if drawn:
                far = min(distance_to(f, pointing.at) for f in drawn)
                scored.append((far, Choice("answer", answer, HandText(says, len(says)))))
        return [c for _, c in sorted(scored, key=lambda s: s[0])]


def _direction_deg(a: Point, b: Point) -> float:
    return math.degrees(turn_of(b[1] - a[1], b[0] - a[0]))


def _by_kind(c: Choice) -> int:
    """Return how soon a choice is meant: what is caught first, then numbers, then bare places."""
    return 0 if c.kind in SURE or c.kind == "feature" else 1 if c.kind == "number" else 2


def _slot(w: Completion, caret: int, kinds: Sequence[str]) -> Span | None:
    """Return the innermost slot of some kinds that a caret stands in or behind."""
    inside = [s for s in w.spans if s.kind in kinds and s.begin <= caret <= s.end and s.begin < s.end]
    return min(inside, key=lambda s: s.end - s.begin, default=None)


def _id(f: Feature) -> str:
    return f"{f.ref.kind} {f.ref.step}.{f.ref.part}"


def window(board: BoardDocument, box: Box) -> list[str]:
    """Return the names of what lies in a window, as things of a sentence."""
    state, numbers = board.evaluation.state, board.numbers
    out = []
    for _, f in board.near().at(((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), distance(box[:2], box[2:])):
        (a, b, c, d) = box_of(f)
        if not f.endless and box[0] <= a and box[1] <= b and c <= box[2] and d <= box[3]:
            out.append(spoken(f.ref, numbers, state))
    return out
