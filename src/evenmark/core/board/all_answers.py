"""All answers of a construction: every way in which a sentence that wants words may be finished, with what it
then draws.

Words may stand in several slots one behind the other (``left; outside; first``); they are gone through as
far as the sentence is whole. Two ways that draw the same are one answer, said in the fewest words."""

from __future__ import annotations

from collections.abc import Iterator

from evenmark.core.board.answers import Answer
from evenmark.core.board.hand import TAIL, HandText, spaced
from evenmark.core.board.offering import MOST_SHOWN_ANSWERS, OfferingHand
from evenmark.core.construct.completion import Completion, answers
from evenmark.core.construct.evaluation import Outcome

MOST_TRIED, MOST_SLOTS = 260, 5
AllAnswers = list[tuple[str, Outcome]]


class AnsweringHand(OfferingHand):
    """A hand that knows all answers of a construction."""

    def all_answers(self, head: str) -> AllAnswers:
        """Return the whole sentences that a text may become by words alone, with what they draw."""
        if head not in self._answered:
            drawn: dict[object, tuple[str, Outcome]] = {}
            for says, outcome in self._tried(head):
                key = tuple((c.ref, c.after and c.after.shape) for c in outcome.changes)
                if any(c.after is not None for c in outcome.changes):
                    drawn.setdefault(key, (says, outcome))
            self._answered[head] = list(drawn.values())
        return self._answered[head]

    def offered(self, text: HandText, w: Completion) -> list[Answer]:
        """Return all that may follow; where words alone finish the sentence, its answers with what each
        draws."""
        words = w.wanted and all(x.kind == "word" for x in w.wanted)
        if not words or w.stem.strip() or text.says[w.end :].strip():
            return super().offered(text, w)
        head = text.says[: w.begin]
        drawn = self.all_answers(head)[:MOST_SHOWN_ANSWERS]
        if len(drawn) < 2:
            return super().offered(text, w)
        paths = [[p["path"] for p in self.drawn(outcome)["pieces"]] for _, outcome in drawn]
        return [
            {"says": says[len(head) :].strip(), "text": says, "paths": one}
            for (says, _), one in zip(drawn, paths, strict=True)
        ]

    def _tried(self, head: str) -> Iterator[tuple[str, Outcome]]:
        """Yield each way to finish a text, those with the fewest words first; what is whole may be said
        further by another word. Not more than so many are tried, whole or not."""
        heads, left = [head], MOST_TRIED
        for _ in range(MOST_SLOTS):
            further: list[str] = []
            for one in heads:
                for answer in answers(one, self.id_of, self.board.inch):
                    if answer.split()[0] in TAIL:
                        continue
                    left -= 1
                    if left < 0:
                        return
                    says = spaced(one) + answer
                    sentence = self.whole(says)
                    if sentence is not None:
                        yield says, self.outcome(sentence)
                    onward = self.onward(says)
                    if onward and all(x.kind == "word" for x in self.wants(onward)[0]):
                        further.append(onward)
            heads = further
