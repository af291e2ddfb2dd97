"""What a student is told of a mark sheet, so that a key cannot be drawn out of it: handing a single line in
gives away nothing but its own.

- *withheld*: what was asked of a feature that the student has not drawn, and where on the key anything lies.
  A place that is off is told by how far, never by where.
- Sizes of what was drawn are told with what was asked: that is what there is to learn from.
"""

from __future__ import annotations

import re

from evenmark.core.marking.marks_types import CauseJson, FindingJson, MarksJson

_NUMBER = r"[-−]?\d[\d.,]*\d|[-−]?\d"
_PLACE = rf"at (?:{_NUMBER}), (?:{_NUMBER})"
_DRAWN_AT = re.compile(rf" was drawn {_PLACE}")
_PLACES = re.compile(rf" ?\({_PLACE}[^()]*\)| {_PLACE}")
_SIZES = re.compile(r" Ø[\d.,]+")
_SAYS_ITSELF = "xnd"
"""Lettering, notes and dimensions are named by what they say."""
_NOT_DRAWN = {
    "corner-left-sharp": "A corner was left sharp where a fillet or a chamfer was asked for.",
    "lettering-as-lines": "Text was drawn as separate lines: it cannot be read from them.",
}
"""What is said instead of a sentence with the size of something that was not drawn."""


def withheld(marks: MarksJson) -> MarksJson:
    """Return a mark sheet's JSON without what its student is not told."""
    return {
        **marks,
        "findings": [_finding(f) for f in marks["findings"]],
        "causes": [_cause(c) for c in marks["causes"]],
    }


def _cause(c: CauseJson) -> CauseJson:
    return {**c, "says": _NOT_DRAWN.get(c["code"]) or placeless(c["says"])}


def _finding(f: FindingJson) -> FindingJson:
    out: FindingJson = {**f, "at": None}
    if "of" in out:
        if any(i[0] in _SAYS_ITSELF for i in f["features"]):
            del out["of"]  # the name would say the wording, or the value
        else:
            out["of"] = _SIZES.sub("", out["of"])
    if isinstance(f["expected"], list | tuple) or isinstance(f["measured"], list | tuple):
        out["expected"] = out["measured"] = None
    if f["verdict"] == "absent" or f["measured"] is None:
        out["expected"] = out["measured"] = out["deviation"] = None
    return out


def placeless(says: str) -> str:
    """Return a sentence without the places by which it tells features apart; their numbers stand beside it.

    >>> placeless("The circle at 70, 30.5 was drawn at 30.5, 70: horizontal and vertical were swapped.")
    'The circle was drawn elsewhere: horizontal and vertical were swapped.'
    >>> placeless("2 extra objects were drawn (at 1, 2; 3, 4).")
    '2 extra objects were drawn.'
    """
    return _PLACES.sub("", _DRAWN_AT.sub(" was drawn elsewhere", says))
