"""Slips of lettering and annotation: `text-case`, `text-height`, `text-anchor`, `typed-over`."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from evenmark.core.drawing.annotations import Dimension
from evenmark.core.geometry.points import distance
from evenmark.core.linework.model import TextFeature
from evenmark.core.linework.wording import counted, number, place, size
from evenmark.core.marking.explain import Evidence, Hypothesis
from evenmark.core.marking.model import Finding
from evenmark.core.marking.slips.common import token
from evenmark.core.marking.strokes import strokes_of


def words(e: Evidence) -> Iterator[Hypothesis]:
    """Right letters in the wrong case: `text-case`; another wording is told as it is."""
    for f in e.failing("wording"):
        if f.verdict != "missed":
            continue
        asked, drawn = str(f.expected), str(f.measured)
        if asked.casefold() == drawn.casefold():
            says = (
                f"The text reads {drawn!r}; it was asked for as {asked!r}, with these upper and lower "
                "case letters."
            )
            yield Hypothesis(code="text-case", tokens=token(f), says=says)
        else:
            says = f"The text reads {drawn!r}; {asked!r} was asked for."
            yield Hypothesis(code="unexplained", tokens=token(f), says=says)


def heights(e: Evidence) -> Iterator[Hypothesis]:
    """Lettering of another height: `text-height`; one slip for all that was to be of one height and got
    another one."""
    groups: dict[tuple[str, str], list[Finding]] = defaultdict(list)
    for f in e.failing("text-height"):
        if isinstance(f.measured, float) and isinstance(f.expected, float):
            groups[number(f.measured), number(f.expected)].append(f)
    for (drawn, asked), found in groups.items():
        which = (
            f"The text {place(e.exam.key.by_id[found[0].features[0]])} is"
            if len(found) == 1
            else f"{counted(len(found), 'text')} are"
        )
        says = f"{which} {drawn} {e.unit} high; {asked} was asked for."
        yield Hypothesis(code="text-height", tokens=frozenset((f.id, -1) for f in found), says=says)


def anchors(e: Evidence) -> Iterator[Hypothesis]:
    """Lettering put by another of its corners on the point that was asked for: `text-anchor`."""
    for f in e.failing("text-anchor"):
        if f.verdict == "absent":
            continue
        text, drawn = e.exam.key.by_id[f.features[0]], e.exam.partner(f.features[0])
        if not isinstance(text, TextFeature) or not isinstance(drawn, TextFeature):
            continue
        if drawn.anchor != text.anchor and distance(drawn.at, text.at) <= max(e.exact, f.tolerance or 0.0):
            says = (
                f"The text {place(text)} is placed by its {drawn.anchor} on the point where its "
                f"{text.anchor} belongs."
            )
            yield Hypothesis(code="text-anchor", tokens=token(f), says=says)
        else:
            says = f"The text {place(text)} is {size(f.deviation or 0.0, e.unit)} from its place."
            yield Hypothesis(code="unexplained", tokens=token(f), says=says)


def dimensions(e: Evidence) -> Iterator[Hypothesis]:
    """A dimension's text says another number than it measures: `typed-over`."""
    for f in e.failing("dimension"):
        drawn = e.exam.partner(f.features[0])
        if f.verdict == "absent" or not isinstance(drawn, Dimension):
            continue
        unit = "°" if drawn.kind == "angular" else f" {e.unit}"
        if drawn.typed is not None:
            says = (
                f"The dimension {place(drawn)} says {drawn.typed}, typed over its value; it measures "
                f"{number(drawn.shown)}{unit}."
            )
            yield Hypothesis(code="typed-over", tokens=token(f), says=says)
        else:
            asked = f.expected if isinstance(f.expected, str) else number(f.expected)  # type: ignore[arg-type]
            says = (
                f"The dimension {place(drawn)} measures {number(drawn.shown)}{unit}; {asked} was asked for."
            )
            yield Hypothesis(code="unexplained", tokens=token(f), says=says, free=9)


def notes(e: Evidence) -> Iterator[Hypothesis]:
    """A leader that ends off its feature, or a region filled wrongly: told in numbers, no slip named."""
    for f in e.failing("note", "hatch", "text-turn"):
        if f.verdict == "absent" or f.deviation is None:
            continue
        feature = e.exam.key.by_id[f.features[0]]
        if f.kind == "note":
            says = (
                f"The leader of the note {place(feature)} ends {size(f.deviation, e.unit)} off the feature "
                "that it is about."
            )
        elif f.kind == "hatch":
            says = (
                f"The hatching {place(feature)} differs from the region asked for by {number(f.deviation)} "
                f"{e.unit}²."
            )
        else:
            says = f"The text {place(feature)} is turned by {number(f.deviation)}° from how it should run."
        yield Hypothesis(code="unexplained", tokens=token(f), says=says)


def lettering_as_lines(e: Evidence) -> Iterator[Hypothesis]:
    """Lettering is missing where a drawing has its strokes: `lettering-as-lines`."""
    strokes = strokes_of(e.exam, e.exam.pairing.spare)
    absent = [f for f in e.open if f.verdict == "absent" and f.features and f.features[0] in strokes]
    if not absent:
        return
    led = {g.features[0] for f in absent for g in e.following.get(f.id, ()) if g.features}
    ids = [i for i in strokes if i in led or any(f.features[0] == i for f in absent)]
    lines = sum(len(strokes[i]) for i in ids)
    text = e.exam.key.by_id[ids[0]]
    assert isinstance(text, TextFeature)
    what = f"The text “{text.wording}” was" if len(ids) == 1 else f"{len(ids)} texts were"
    says = f"{what} drawn as {lines} separate lines: no text, height or place can be read from them."
    tokens = frozenset((f.id, -1) for f in absent)
    yield Hypothesis(code="lettering-as-lines", tokens=tokens, says=says)


ALL = (lettering_as_lines, words, heights, anchors, dimensions, notes)
