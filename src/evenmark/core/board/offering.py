"""What is said of a sentence being written, and what is offered behind it: words, ways of saying a point,
names of the document.

- *answer*: a word that may follow, with the sentence as it then stands and what that draws.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress

from evenmark.core.board.answers import Answer, Wish, Writing, Wrong
from evenmark.core.board.hand import HOW_MANY, POINTED, TAIL, Hand, HandText, spaced
from evenmark.core.board.names import as_name
from evenmark.core.board.view import outline_layer
from evenmark.core.construct.completion import Completion, Wanted, answers
from evenmark.core.construct.drawn import name_of
from evenmark.core.construct.kinds import KINDS, WORDS
from evenmark.core.construct.layers import LAYERS
from evenmark.core.construct.meant import begun_by, both_ways, kind_named, separated
from evenmark.core.construct.reading import AXES, Reader
from evenmark.core.construct.references import Ref
from evenmark.core.construct.state import Broken
from evenmark.core.construct.words import Unreadable

MOST_SHOWN_ANSWERS = 8
MOST_BEGINS = 4
COUNTED = ("2", "3", "4", "5", "6", "8")
FURTHER = ("toward", "along", "perpendicular to")
"""Where a length leads that is said first."""
OF_FEATURES = ("end of", "middle of", "centre of", "crossing of", "horizontal with")
"""How a point is said by what is drawn; there are more."""


class OfferingHand(Hand):
    """A hand that says what may follow."""

    # what is asked

    def state(self, text: HandText, layer: str = "", own: str = "") -> Writing:
        """Return all that is said of a sentence being written: what is wanted in words, the answers there
        are, its slots, what is wrong and where, and what it would draw."""
        if text.caret == len(text.says):
            says = separated(text.says, self.id_of, self.board.inch)
            text = HandText(says, len(says))
        w = self.writing(text)
        onward = self.onward(text.says) if text.caret == len(text.says) else ""
        ahead = text
        if onward and text.says[-1:].isspace():
            ahead = HandText(onward, len(onward))  # behind a blank the next slot is offered
            w = self.writing(ahead)
        filled = any(s.kind in ("feature", "things") and s.end == len(text.says) for s in w.spans)
        whole = self.whole(text.says) is not None
        goes_to = onward and ahead is text and (filled or whole)
        follows = self.writing(HandText(onward, len(onward))) if goes_to else None
        wrong: Wrong | None = None
        readings: list[str] = []
        if w.wrong is not None and text.says.strip() and text.says[w.wrong.at :].strip():
            readings = self.board.readings(text.says, self.before)
            if len(readings) != 1:
                wrong = {"says": _first_word(text.says, w.wrong), "at": w.wrong.at}
        elif whole and both_ways(text.says) is not None:
            readings, whole = self.board.readings(text.says, self.before), False
        meant = readings[0] if len(readings) == 1 else text.says
        frame = self.board.frame()
        return {
            "text": text.says,
            "onward": onward,
            "readings": readings,
            "named": self._named(w),
            "layer": self._layer(meant, layer, own),
            "whole": whole or len(readings) == 1,
            "goes_on": whole and self.goes_on(text.says),
            "about": w.about,
            "wants": [_wanted(x) for x in w.wanted],
            "follows": [_wanted(x) for x in follows.wanted] if follows else [],
            "needs": self._needs(follows or w),
            "answers": self.offered(ahead, w),
            "begin": w.begin,
            "end": w.end,
            "spans": [(s.begin, s.end, s.kind) for s in w.spans],
            "wrong": wrong,
            "preview": self.preview(meant),
            "points": [frame.at(p) for p in self.said_points(text.says)],
        }

    def _named(self, w: Completion) -> list[str]:
        """Return the pieces that a sentence names."""
        state = self.board.evaluation.state
        out: dict[str, None] = {}
        for span in w.spans:
            parts = span.value.parts if span.kind == "things" else (span.value,)
            for ref in parts:
                if not isinstance(ref, Ref):
                    continue
                with suppress(Broken):
                    found = state.of_step(ref.step) if ref.kind == "step" else [state.find(ref)]
                    out.update({name_of(f): None for f in found})
        return list(out)

    def offered(self, text: HandText, w: Completion) -> list[Answer]:
        """Return all that may follow: words, names of the document, ways of saying a point; else what may
        follow behind what stands there."""
        found = [*answers(text.says[: w.begin], self.id_of, self.board.inch), *self._known(w), *_counts(w)]
        stem = w.stem.casefold()
        offered = [a for a in found if a.casefold().startswith(stem)]
        offered += [p for p in self._ways_to_say(text, w) if p not in offered]
        offered.sort(key=lambda a: a.split()[0] in TAIL)  # how it looks comes last
        return self._answers(text, w, offered) or self._further_answers(text, w)

    def _ways_to_say(self, text: HandText, w: Completion) -> list[str]:
        """Return how a point may be said that is wanted: along an axis or by so much from the one before it,
        and by what is drawn; with a number that stands there already, where it may lead."""
        if not any(x.kind == "point" for x in w.wanted) or text.says[w.end :].strip():
            return []
        state = self.board.evaluation.state
        from_one = bool(state.last is not None or self.said(text.says[: w.begin]))
        number = w.stem.strip()
        if number:
            if not from_one or not any(s.kind == "number" and s.begin == w.begin for s in w.spans):
                return []
            if self.is_own_length(text.says[: w.begin], number):
                return [f"{number} toward"]
            return [*(f"{way} {number}" for way in AXES), *(f"{number} {way}" for way in FURTHER)]
        drawn = any(f.says is None for f in state.standing())
        return [*((*AXES, "by") if from_one else ()), *(OF_FEATURES if drawn else ())]

    def _layer(self, says: str, layer: str, own: str) -> str:
        """Return on which layer a sentence draws, as far as it is written; nothing where it changes what
        stands."""
        sentence = self.whole(says)
        if sentence is not None and sentence.layer is not None:
            return sentence.layer
        outlines = layer or outline_layer(self.board.evaluation)
        first = WORDS.get(Reader(says, self.id_of).peek())
        kinds = [KINDS[type(sentence.meaning)]] if sentence is not None else first.kinds if first else []
        found = {k.layer_by_itself(outlines) for k in kinds}
        if own and found != {""}:
            return own
        return found.pop() if len(found) == 1 else outlines

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
        if w.about.startswith(HOW_MANY):
            return w.about[:1].lower() + w.about[1:]
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
                    drawn = self.drawn(self.outcome(sentence))
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
        heads = (f"{says} ", f"{says}; ")
        typing = any(s.kind == "number" and s.end == len(says) for s in w.spans)  # it may have more digits
        for head in heads if whole else heads[::-1]:
            further = self.writing(HandText(head, len(head)))
            counts = [] if typing else _counts(further)
            for answer in [*counts, *answers(head, self.id_of, self.board.inch)]:
                if not (whole and answer.split()[0] in TAIL):
                    out.setdefault(answer, f"{head}{answer} ")
        return [
            {"says": answer, "text": self.settled(led), "more": True}
            for answer, led in list(out.items())[:MOST_SHOWN_ANSWERS]
        ]


def _first_word(says: str, wrong: Unreadable) -> str:
    """Return why a sentence cannot be read; where it begins with another word of the trade, how it may
    begin."""
    word = says.split()[0].rstrip(";,")
    begins = begun_by(word) if wrong.at <= len(says) - len(says.lstrip()) else []
    if not begins:
        kind = kind_named(says)
        named = kind is not None and not says.lstrip().startswith(kind.begins)
        return f"{wrong.says} Write “{kind.begins.strip()} …”." if kind and named else wrong.says
    ways = [f"“{begin.strip(' ;')} …”" for begin in begins[:MOST_BEGINS]]
    return f"No step begins with “{word}”. Write {' or '.join(ways)}."


def _counts(w: Completion) -> list[str]:
    """Return how many there may be, where that is wanted: no place says it."""
    wanted = w.about.startswith(HOW_MANY) and any(x.kind == "number" for x in w.wanted)
    return list(COUNTED) if wanted else []


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
        "shift": "how far, as from one point to another",
        "wording": "text in quotation marks",
    }.get(x.kind, x.says)
