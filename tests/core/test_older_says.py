"""Sentences of mark sheets from before, read in the words of today."""

from __future__ import annotations

import pytest

from evenmark import ENGINE_VERSION
from evenmark.core.marking.marks_json import to_json
from evenmark.core.marking.older_says import SINCE, in_words_of_today, said_today
from evenmark.core.marking.withheld import placeless
from tests.architecture.test_words import RETIRED
from tests.builders import marked
from tests.core.test_causes import KEY

SAID = [
    ("1 stretch is drawn twice: one lies on top of the other (at 1, 2).",
     "1 line or arc was drawn twice: one lies on top of the other (at 1, 2)."),
    ("6 objects are drawn that was not asked for (at 1, 2; at -3, 4; at 5, 6 and 3 more).",
     "6 extra objects were drawn (at 1, 2; at −3, 4; at 5, 6 and 3 more)."),
    ("An end runs 0.5 mm past the meeting point at 4, 4.", "An end runs 0.5 mm past the junction at 4, 4."),
    ("Ends run past 3 meeting points, by 1 to 2 mm.", "Ends run past 3 junctions, by 1 to 2 mm."),
    ("The edge at 4, 5 touches the circle at 9, 9 on its other side.",
     "The edge at 4, 5 is tangent to the circle at 9, 9, on its other side."),
    ("The edge at 1, 1 touches the arc of radius 7.5 mm instead of the one of radius 9 mm.",
     "The edge at 1, 1 is tangent to the arc of radius 7.5 mm, not to the one of radius 9 mm."),
    ("2 objects on layer 0, where what has no layer of its own lands; layer outline was asked for.",
     "2 objects on layer 0, the default layer; layer outline was asked for."),
    ("The lettering reads 'A'; 'B' was asked for.", "The text reads 'A'; 'B' was asked for."),
    ("The centre of the circle at 70, -3 was drawn at -3, 70: across and up were exchanged.",
     "The centre of the circle at 70, −3 was drawn at −3, 70: horizontal and vertical were swapped."),
    ("The circle at 3, 3 and 2 more things were moved as one: they stand 2 mm to the right of their place.",
     "The circle at 3, 3 and 2 more objects were moved together: they are 2 mm to the right of their place."),
    ("What hangs together with the circle at 4, 4 is turned by 30° clockwise as one.",
     "Everything connected to the circle at 4, 4 is turned by 30° clockwise as a whole."),
    ("The whole drawing stands -20 mm across and 10 mm up from where it was asked for.",
     "The whole drawing is 20 mm to the left and 10 mm above where it was asked for."),
    ("The whole drawing stands 0 mm across and -10 mm up from where it was asked for.",
     "The whole drawing is 10 mm below where it was asked for."),
    ("The front view stands 8 mm to the left and 7 mm below its place.",
     "The front view is 8 mm to the left and 7 mm below its place."),
    ("The sizes of the edge and the arc were exchanged: each has the length of the other.",
     "The sizes of the edge and the arc were swapped: each has the length of the other."),
    ("Drawn with radius 18 mm: 18 is the diameter asked for.",
     "Drawn with radius 18 mm: 18 is the diameter asked for."),
]  # fmt: skip


@pytest.mark.parametrize(("before", "today"), SAID)
def test_a_sentence_of_before_is_read_in_the_words_of_today(before: str, today: str) -> None:
    assert said_today(before) == today
    assert said_today(today) == today  # it is said once
    assert not any(r.pattern.search(said_today(before)) for r in RETIRED)
    assert " at " not in placeless(today)


def test_only_sheets_from_before_are_read_so_and_nothing_but_words_changes() -> None:
    marks = to_json(marked(KEY, KEY), "a.dxf")
    assert in_words_of_today(marks, ENGINE_VERSION) is marks
    old = {**marks, "causes": [{"id": 1, "code": "drawn-twice", "explains": [1], "says": SAID[0][0]}]}
    read = in_words_of_today(old, "3.5")  # type: ignore[arg-type]
    assert read["causes"][0]["says"] == SAID[0][1]
    assert {**read, "causes": []} == {**old, "causes": []}
    assert tuple(int(n) for n in ENGINE_VERSION.split(".")) >= SINCE
