"""Documents of steps: text and what is kept turn into each other without loss; ids outlive insertion."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

import pytest

from evenmark.core.construct.building import build
from evenmark.core.construct.document import (
    Document,
    DocumentError,
    DocumentLine,
    from_json,
    from_text,
    shown,
    to_json,
    to_text,
)
from evenmark.core.construct.sentences import renewed
from tests.core.test_sentences import SENTENCES

LINK = """unit mm
layer outline: colour 7, continuous, 0.5
R = 24
reach from 60 to 96 by 2, now 82

# a crank link
circle 0, 0; radius R                                        # this is step 1
circle reach toward 0 from centre of circle 1; radius R - 11
line touching circle 1; circle 2; outer left
line touching circle 1; circle 2; outer right
--- before the bores
circle centre of circle 1; diameter 28; layer outline
text "No. #5; \\"A\\""; 0, 0; height 5  # lettering
draw something that nobody knows
"""


def test_a_document_is_read_line_by_line() -> None:
    found = from_text(LINK)
    assert [i.kind for i in found.items][:7] == ["unit", "layer", "value", "value", "blank", "remark", "step"]
    assert found.unit == "mm"
    assert found.items[2][:3] == ("value", "24", "R")
    assert found.items[3][:3] == ("value", "from 60 to 96 by 2, now 82", "reach")
    assert [i.id for i in found.steps] == [1, 2, 3, 4, 5, 6, 7]
    assert found.steps[1].says == "circle reach toward 0 from centre of circle #1; radius R - 11"
    assert shown(found)[5] == 'text "No. #5; \\"A\\""; 0, 0; height 5'


def test_text_comes_back_as_it_was() -> None:
    assert to_text(from_text(LINK)) == LINK.replace("touching", "tangent to")
    everything = "line 0, 0; 9, 9\n" * 99 + SENTENCES.strip() + "\n"
    assert to_text(from_text(everything)).splitlines() == [renewed(x) for x in everything.splitlines()]


def test_what_is_kept_comes_back_as_it_was() -> None:
    found = from_text(LINK)
    assert from_json(json.loads(json.dumps(to_json(found)))) == found


def test_references_follow_a_step_that_is_put_in_before() -> None:
    found = from_text("circle 0, 0; radius 5\nline centre of circle 1; 9, 9\n")
    more = DocumentLine("step", "circle 50, 50; radius 3", id=found.next_id)
    changed = replace(found, items=(more, *found.items), next_id=found.next_id + 1)
    assert shown(changed) == [
        "circle 50, 50; radius 3",
        "circle 0, 0; radius 5",
        "line centre of circle 2; 9, 9",
    ]
    assert from_text(to_text(changed)).steps[2].says == "line centre of circle #2; 9, 9"


KEPT: dict[str, Any] = {"format": "even-mark/steps", "version": 1}


@pytest.mark.parametrize(
    ("data", "says"),
    [
        ([], "no document of steps"),
        (KEPT | {"version": 9}, "Version 9"),
        (KEPT | {"lines": 3}, "'lines'"),
        (KEPT | {"lines": [{"kind": "huh"}]}, "Line 1: 'kind'"),
        (KEPT | {"lines": [{"kind": "step", "says": "x"}]}, "needs an id"),
        (KEPT | {"lines": [{"kind": "step", "id": 1, "says": 4}]}, "text"),
        (KEPT | {"lines": [{"kind": "step", "id": 1}] * 2}, "Two steps have the same id"),
    ],
)
def test_what_is_no_document_says_so(data: Any, says: str) -> None:
    with pytest.raises(DocumentError, match=says):
        from_json(data)


def test_units_that_are_not_known_and_documents_without_end() -> None:
    built = build(from_text("circle 0, 0; radius 5\nunit ells\n"))
    assert [(p.line, p.says[:24]) for p in built.problems] == [(2, "The unit 'ells' is not k")]
    with pytest.raises(DocumentError, match="at most"):
        from_text("line 0, 0; 1, 1\n" * 20_000)
    assert from_text("") == Document()
