"""Going back, changing and looking ahead give what evaluating everything anew gives."""

from __future__ import annotations

import random

import pytest

from evenmark.core.construct.document import from_text
from evenmark.core.construct.evaluation import Evaluation, Step
from evenmark.core.construct.sentences import Sentence
from evenmark.core.construct.state import State
from tests.catalogue import EXAMPLES
from tests.core.test_documents import DOCUMENTS
from tests.core.test_mutated_steps import mutated

TEXTS = [e.text for e in EXAMPLES] + list(DOCUMENTS.values())


def steps_of(text: str) -> list[Step]:
    return [
        Step(item.id, said) if isinstance(said, Sentence) else Step(item.id, None, said.says)
        for item, said in from_text(text).sentences()
    ]


def seen(state: State) -> tuple[object, ...]:
    return (
        list(state.features.items()),
        dict(state.points),
        state.last,
        state.layer,
        {k: v for k, v in state.corners.items() if v},
        dict(state.kept),
        {k: v for k, v in state.parts.items() if v},
    )


@pytest.mark.parametrize("seed", range(6))
def test_what_was_changed_is_as_if_it_had_been_written_so(seed: int) -> None:
    chance = random.Random(seed)
    for text in TEXTS:
        steps = steps_of(text)
        others = steps_of(mutated(text, chance) or text)
        going = Evaluation(steps)
        for _ in range(4):
            k = chance.randrange(len(steps))
            other = chance.choice(others or steps)
            ahead = seen(going.state)
            going.preview(Step(10_000, other.sentence, other.unreadable))
            assert seen(going.state) == ahead  # looking ahead changes nothing
            steps[k] = Step(steps[k].id, other.sentence, other.unreadable)
            going.change(k, steps[k])
            anew = Evaluation(steps)
            assert seen(going.state) == seen(anew.state)
            assert [o.broken for o in going.outcomes] == [o.broken for o in anew.outcomes]
        going.back_to(0)
        assert seen(going.state) == seen(State())
