"""Documents of steps that are damaged or meant to do harm: a sentence with the number of the step or line,
nothing lost, and an end."""

from __future__ import annotations

import json
import random
import re
import time

import pytest

from evenmark.core.construct.building import MOST_STEPS, build
from evenmark.core.construct.document import from_text, to_json, to_text
from evenmark.core.construct.sentences import renewed
from evenmark.core.formats import UnreadableDrawing, read_file, steps
from tests.catalogue import EXAMPLES
from tests.extent import seeds, size
from tests.mutated_steps import mutated


@pytest.mark.parametrize("seed", seeds(20))
def test_a_hundred_damaged_documents(seed: int) -> None:
    chance = random.Random(seed)
    for _ in range(100):
        text = chance.choice(EXAMPLES).text
        for _ in range(chance.randrange(1, 4)):
            text = mutated(text, chance) or "line 0, 0; 1, 1"
        document = from_text(text)
        built = build(document)
        for problem in built.problems:
            assert re.match(r"(step|line) \d+: .", str(problem))
            assert "Traceback" not in str(problem)
        assert len([o for o in built.evaluation.outcomes if o.broken]) == len(
            [p for p in built.problems if p.step is not None]
        )
        # nothing is lost: as text and as it is kept, what was written is there
        again = from_text(to_text(document))
        assert to_text(again) == to_text(document)
        assert [i.says for i in again.steps] == [renewed(i.says) for i in document.steps]
        assert steps.document(json.dumps(to_json(document)).encode()) == document
        _ = built.drawing


MANY = f"circle 5, 5; radius 1\nrepeat circle 1; {size(25, 100)} across 3; {size(10, 30)} up 3\n"
"""Circles in a grid, to be worked through again and again."""


@pytest.mark.parametrize(
    "text",
    {
        "ten thousand steps": "line 0, 0; 1, 1\n" * 11_000,
        "a million repeats": "circle 0, 0; radius 1\nrepeat circle 1; 1000000 across 1",
        "repeats of repeats": "circle 0, 0; radius 1\n"
        + "".join(f"repeat everything; 100 across {k}\n" for k in range(1, 40)),
        "a value that doubles": "a = 3/7\n"
        + "".join(f"a{k} = a{k - 1 or ''} * a{k - 1 or ''}\n" for k in range(1, 40))
        + "circle 0, 0; radius a39",
        "brackets": "circle " + "(" * 3000 + "0, 0; radius 5",
        "points by points": "circle " + "share 1/2 of " * 3000 + "0, 0; radius 5",
        "one long line": "line 0, 0; " + "1+" * 100_000 + "1, 2",
        "a long chain": "chain 0, 0" + "; by 1, 1" * 2000,
        "nested places": "circle 0, 0; radius 5\nkeep k; everything; at 0, 0\n"
        + "place k; 1, 1\nkeep k; everything; at 0, 0\n" * 30,
        "many hatches": "rectangle 0, 0; 9 by 9\nrepeat step 1; 60 across 10; 20 up 10\n"
        + "hatch 5, 5; 45; gap 1\n" * size(80, 400),
        "many mirrors": MANY + "mirror everything; about 0, 0; 1, 7\n" * size(60, 3000),
        "many tidies": MANY + "tidy\n" * size(60, 3000),
        "finest hatching": "rectangle 0, 0; 1000 by 1000\nhatch 5, 5; 45; gap 0.0001",
        "thin rationals": "line 0, 0; 1/3, 1/7\n"
        + "".join(
            f"line by 1/{p}, 1/{p + 2} from end of edge {n}; by 1/{p + 4}, 1\n"
            for n, p in enumerate(range(11, 4000, 6), 1)
        ),
    }.items(),
    ids=lambda item: item[0],
)
def test_what_would_never_end_ends(text: tuple[str, str]) -> None:
    before = time.process_time()
    built = build(from_text(text[1]))
    _ = built.drawing
    assert len(built.evaluation.steps) <= MOST_STEPS
    assert time.process_time() - before < 60.0  # a bound on work, not a speed


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b'{"format": "even-mark/steps", "version": 1, "lines": [', "Line 1: the JSON breaks off"),
        (b'{"format": "even-mark/steps", "version": 9, "lines": []}', "Version 9"),
        (b"line 0, 0; 5, 5\ncircle \xff\xfe 0, 0; radius 4", "Line 2 is not in UTF-8"),
    ],
)
def test_files_that_are_no_documents_say_where(data: bytes, says: str) -> None:
    with pytest.raises(UnreadableDrawing, match=says):
        read_file(data)


def test_names_with_signs_stay_what_they_are() -> None:
    text = 'layer "a;b": dashed\ntext "<b>\\"A\\" & C</b>"; 0, 0; height 5\npoint <p>; 1, 1\n'
    built = build(from_text(text))
    assert [t.wording for t in built.drawing.entities] == ['<b>"A" & C</b>']  # type: ignore[union-attr]
    assert to_text(built.document) == text


@pytest.mark.parametrize(
    ("data", "is_one"),
    [
        (b"# a remark\n\nunit mm\n", True),
        (b"\xef\xbb\xbfcircle 0, 0; radius 5", True),
        (b"R = 24\n", True),
        (b"circel 0, 0\ncircle 0, 0; radius 4", True),
        (b'{"format": "even-mark/steps", "version": 1, "lines": []}', True),
        (b"Line drawings of the mill\nby hand", False),
        (b"hello", False),
        (b'{"format": "something/else"}', False),
    ],
)
def test_documents_are_known_by_what_they_say(data: bytes, is_one: bool) -> None:
    if is_one:
        assert read_file(data).version == "steps"
    else:
        with pytest.raises(UnreadableDrawing):
            read_file(data)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (
            "".join(f"a{n} = a{n + 1} + 1\n" for n in range(5000)) + "a5000 = 1\n",
            "needs more than 100 others",
        ),
        ("".join(f"a{n} = a{n - 1} + 1\n" if n else "a0 = 1\n" for n in range(5000)), "1,000 values at most"),
        (
            "line 0, 0; 10, 0\nb0 = length of edge 1\n"
            + "".join(f"b{n} = b{n - 1} + b{n - 1}\n" for n in range(1, 40))
            + "line 0, 0; 0, b8\n",
            "",
        ),
    ],
)
def test_values_in_a_row_are_said_for_what_they_are(text: str, says: str) -> None:
    """Thousands in a row, and doublings of a measure, end: with a sentence, or right."""
    began = time.process_time()
    built = build(from_text(text))
    assert time.process_time() - began < 10
    if says:
        assert any(says in str(p) for p in built.problems)
    else:
        assert not built.problems
        assert built.drawing.entities[1].end == (0.0, 2560.0)  # type: ignore[union-attr]
