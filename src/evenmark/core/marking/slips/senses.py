"""Slips of sides and senses that no size tells: `wrong-side`, and else what differs, told by where it is."""

from __future__ import annotations

from collections.abc import Iterator

from evenmark.core.linework.wording import noun, place
from evenmark.core.marking.explain import Evidence, Hypothesis

MOST_TOLD = 3


def differs(e: Evidence) -> Iterator[Hypothesis]:
    """Something lies elsewhere than in the key, and nothing that is asked says so."""
    for f in e.failing("differs"):
        features = [e.exam.key.by_id[i.feature] for i in f.items if i.feature is not None]
        told = [f"the {noun(x, e.centre)} {place(x)}" for x in features[:MOST_TOLD]]
        if len(features) > MOST_TOLD:
            told.append(f"{len(features) - MOST_TOLD} more")
        words = " and ".join((", ".join(told[:-1]), told[-1])) if len(told) > 1 else told[0]
        many = "differ" if len(features) > 1 else "differs"
        says = f"T{words[1:]} {many} from the key: every size is right, but the shape is not."
        yield Hypothesis(code="unexplained", tokens=frozenset({(f.id, -1)}), says=says)


ALL = (differs,)
