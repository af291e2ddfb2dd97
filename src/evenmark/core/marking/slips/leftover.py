"""Slips of layers and of what is left over: `wrong-layer`, `default-layer`, `layer-misnamed`,
`left-on-construction`, `edges-exchanged`, `wrong-line-type`, `dashes-too-long`, `drawn-twice`,
`construction-left`, `chords`, `debris`, `not-drawn`."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from evenmark.core.geometry.points import Point, distance
from evenmark.core.linework.model import AnyFeature, Corner, Edge, Tee, View
from evenmark.core.linework.wording import counted, noun, number, place, size, view_name
from evenmark.core.marking.explain import Evidence, Hypothesis, Token
from evenmark.core.marking.kinds.looks import dashes_show, drawn_length, drawn_otherwise
from evenmark.core.marking.kinds.views import is_drawn
from evenmark.core.marking.model import Finding
from evenmark.core.marking.slips.common import far_tokens, token
from evenmark.core.marking.views import inside

DEFAULT = "0"
"""The layer that every DXF drawing has (DXF reference, LAYER)."""
MOST_TOLD = 12
"""More absent features than this are told in one sentence a kind."""


def layers(e: Evidence) -> Iterator[Hypothesis]:
    """Right shape on another layer: left on the default layer or on construction, on a misnamed layer, or
    simply on another."""
    groups: dict[tuple[str, str], list[Finding]] = defaultdict(list)
    for f in e.failing("layer"):
        if f.verdict == "missed":
            groups[str(f.expected), str(f.measured)].append(f)
    known = {e.exam.layer_key(name) for name in e.exam.key.layers}
    yield from _on_default(groups)
    for (asked, drawn), group in sorted(groups.items()):
        many = counted(len(group), "object") + (" is" if len(group) == 1 else " are")
        if drawn == DEFAULT:
            continue
        if e.exam.role(drawn) == "construction":
            code = "left-on-construction"
            says = f"{many} left on the construction layer {drawn}; layer {asked} was asked for."
        elif e.exam.layer_key(drawn) not in known and _misnamed(asked, drawn):
            code, says = "layer-misnamed", f"{many} on a layer named {drawn!r}; {asked!r} was asked for."
        else:
            code, says = "wrong-layer", f"{many} on layer {drawn}; layer {asked} was asked for."
        yield Hypothesis(code=code, tokens=frozenset((f.id, -1) for f in group), says=says)
    yield from _exchanged(groups, e)


def _on_default(groups: dict[tuple[str, str], list[Finding]]) -> Iterator[Hypothesis]:
    """Yield that layers were not chosen at all, whichever they should have been: one habit."""
    found = {asked: group for (asked, drawn), group in sorted(groups.items()) if drawn == DEFAULT}
    tokens = frozenset((f.id, -1) for group in found.values() for f in group)
    if tokens:
        many = counted(len(tokens), "object") + (" is" if len(tokens) == 1 else " are")
        names = [*found]
        layers = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
        asked = f"layer {layers} was" if len(names) == 1 else f"layers {layers} were"
        says = f"{many} on layer 0, the default layer; {asked} asked for."
        yield Hypothesis(code="default-layer", tokens=tokens, says=says)


def _misnamed(asked: str, drawn: str) -> bool:
    """Say whether a layer's name is the one asked for but for letter case, blanks and the like, or one
    letter."""
    a, b = ("".join(c for c in name.casefold() if c.isalnum()) for name in (asked, drawn))
    return a == b or (min(len(a), len(b)) > 2 and _one_letter_apart(a, b))


def _one_letter_apart(a: str, b: str) -> bool:
    """Say whether one letter changed, added, left out, or two neighbours exchanged make one word the
    other."""
    if len(a) > len(b):
        a, b = b, a
    n = next((i for i, (x, y) in enumerate(zip(a, b, strict=False)) if x != y), len(a))
    if len(a) < len(b):
        return len(b) - len(a) == 1 and a[n:] == b[n + 1 :]
    return a[n + 1 :] == b[n + 1 :] or (a[n : n + 2] == b[n : n + 2][::-1] and a[n + 2 :] == b[n + 2 :])


def _exchanged(groups: dict[tuple[str, str], list[Finding]], e: Evidence) -> Iterator[Hypothesis]:
    """Two edges beside each other have each other's layer: `edges-exchanged`."""
    for (asked, drawn), group in sorted(groups.items()):
        roles = {e.exam.role(asked), e.exam.role(drawn)}
        if asked > drawn or roles != {"outline", "hidden"}:
            continue
        others = list(groups.get((drawn, asked), ()))
        for f in group:
            one = e.exam.key.by_id[f.features[0]]
            near = min(others, key=lambda g: _apart(one, e.exam.key.by_id[g.features[0]]), default=None)
            if near is None:
                break
            others.remove(near)
            other = e.exam.key.by_id[near.features[0]]
            says = (
                f"The {noun(one, e.centre)} {place(one)} and the {noun(other, e.centre)} {place(other)} "
                "were swapped: each is on the other's layer, so that hidden edges look visible."
            )
            yield Hypothesis(code="edges-exchanged", tokens=token(f) | token(near), says=says)


def _apart(a: AnyFeature, b: AnyFeature) -> float:
    """Return how far apart two features are; others of its kind come first."""
    return distance(a.at, b.at) + (0.0 if type(a) is type(b) else 1e12)


def clutter(e: Evidence) -> Iterator[Hypothesis]:
    """Things that should not be there: `drawn-twice`, `construction-left`, `debris`; other spare geometry is
    unexplained."""
    words = {
        "drawn-twice": ("line or arc", "lines or arcs", "drawn twice: one lies on top of the other"),
        "construction-left": ("construction line", "construction lines", "left in the drawing"),
        "chords": ("arc", "arcs", "drawn as short straight lines"),
        "debris": ("object", "objects", "too short to be seen"),
        "spare": ("extra object", "extra objects", "drawn"),
        "given-changed": ("given object", "given objects", "changed from the start drawing"),
    }
    for f in e.failing("clean"):
        groups: dict[str, list[int]] = defaultdict(list)
        for n, item in enumerate(f.items):
            if item.charged:
                groups[item.code].append(n)
        for code, numbers in groups.items():
            one, more, what = words[code]
            where = f" ({_places([f.items[n].at for n in numbers])})"
            head = f"1 {one} was" if len(numbers) == 1 else f"{len(numbers)} {more} were"
            tokens = frozenset((f.id, n) for n in numbers)
            yield Hypothesis(
                code="unexplained" if code in ("spare", "given-changed") else code,
                tokens=tokens,
                says=f"{head} {what}{where}.",
            )


def _places(points: list[Point]) -> str:
    shown = "; ".join(f"at {number(x, 2)}, {number(y, 2)}" for x, y in points[:3])
    return shown if len(points) <= 3 else f"{shown} and {len(points) - 3} more"


def not_drawn(e: Evidence) -> Iterator[Hypothesis]:
    """Nothing was drawn for a feature: `not-drawn`."""
    lacking: dict[str, list[Finding]] = defaultdict(list)
    for f in e.open:
        if f.verdict == "absent" and f.features and f.features[0] not in e.exam.pairing.partners:
            lacking[f.features[0]].append(f)
    whole = [f for f in e.failing("whole") if f.verdict == "absent"]
    if whole:
        tokens = frozenset((f.id, -1) for f in e.open if f.verdict == "absent")
        yield Hypothesis(code="not-drawn", tokens=tokens, says="Nothing of what was asked for was drawn.")
        return
    for view in _views_not_drawn(e):
        members = [i for i in lacking if i != view.id and _lies_in(view, i, e)]
        tokens = frozenset((f.id, -1) for i in members for f in lacking.pop(i)) | {
            (f.id, -1) for f in e.open if view.id in f.features
        }
        yield Hypothesis(code="not-drawn", tokens=tokens, says=f"The {view_name(view.name)} was not drawn.")
    lacking = {i: found for i, found in lacking.items() if i in e.exam.key.by_id}
    curves = [i for i in lacking if i in e.exam.key.curves or i[0] in "xdnh"]
    by_kind: dict[str, list[str]] = defaultdict(list)
    for i in curves:
        by_kind[noun(e.exam.key.by_id[i], e.centre)].append(i)
    joints = [i for i in lacking if i not in curves]
    for word, ids in by_kind.items():
        together = [ids] if len(ids) > MOST_TOLD else [[i] for i in ids]
        for group in together:
            absent = {(f.id, -1) for i in group for f in lacking[i]} | _joints_of(group, joints, lacking, e)
            first = e.exam.key.by_id[group[0]]
            behind = _missing_with([f for i in group for f in lacking[i]], e)
            says = (
                f"{len(group)} {word}s were not drawn."
                if len(group) > 1
                else f"The {word} {place(first)} was not drawn."
                if not behind
                else f"The {word} {place(first)} {_and_others(word, behind, e)} were not drawn."
            )
            # what says why it is missing is told before that it is
            yield Hypothesis(code="not-drawn", tokens=frozenset(absent), says=says, free=1)
    for f in e.failing("layer-style"):
        if f.verdict == "absent":
            yield Hypothesis(
                code="not-drawn", tokens=token(f), says=f"There is no layer {f.layer} in the drawing."
            )


def _missing_with(found: list[Finding], e: Evidence) -> list[str]:
    """Return the curves that are missing with what findings are about, as one."""
    led = [i for f in found for g in e.following.get(f.id, ()) for i in g.features]
    there = e.exam.pairing.partners
    own = {i for f in found for i in f.features}
    return [i for i in dict.fromkeys(led) if i in e.exam.key.curves and i not in there and i not in own]


def _and_others(word: str, others: list[str], e: Evidence) -> str:
    """Return what else is missing with a thing, counted: ``, 5 more circles and 6 centre lines``."""
    counts: dict[str, int] = {}
    for i in others:
        name = noun(e.exam.key.curves[i], e.centre)
        counts[name] = counts.get(name, 0) + 1
    said = [counted(n, f"more {name}" if name == word else name) for name, n in counts.items()]
    return f"and {said[0]}" if len(said) == 1 else f"with {', '.join(said[:-1])} and {said[-1]}"


def partly_drawn(e: Evidence) -> Iterator[Hypothesis]:
    """An edge was drawn from one of its ends to where another edge meets it: the rest of it, a member of its
    own, is missing: `not-drawn`."""
    for f in e.off("length"):
        edge = e.exam.key.by_id[f.features[0]]
        ends = e.exam.ends_for.get(edge.id)
        if not isinstance(edge, Edge) or ends is None or not isinstance(f.measured, float):
            continue
        for which in (0, 1):
            if not e.same(ends[1 - which], edge.ends[1 - which]) or f.measured > edge.length:
                continue
            if any(t.on == edge.id and e.same(t.at, ends[which]) for t in e.exam.key.tees):
                rest = size(edge.length - f.measured, e.unit)
                says = (
                    f"The edge {place(edge)} is drawn in part: {rest} of {number(edge.length)} are missing."
                )
                explains = far_tokens(edge, which, e) | token(f)
                yield Hypothesis(code="not-drawn", tokens=explains, says=says, about=f.id)


def _views_not_drawn(e: Evidence) -> list[View]:
    """Return the views of the key of which nothing was drawn; none where the key has no other."""
    views = e.exam.rules.views or ()
    return [v for v in views if len(views) > 1 and not is_drawn(v, e.exam)]


def _lies_in(view: View, feature: str, e: Evidence) -> bool:
    there = e.exam.key.by_id.get(feature)
    return there is not None and inside(there.at, view.box, 0.0)


def _joints_of(
    group: list[str], joints: list[str], lacking: dict[str, list[Finding]], e: Evidence
) -> set[Token]:
    """Return the absent findings of corners and outlines that belong to absent features."""
    mine = set(group)
    out: set[Token] = set()
    for i in joints:
        feature = e.exam.key.by_id[i]
        members = {
            m
            for m, _ in (
                feature.ends if isinstance(feature, Corner | Tee) else getattr(feature, "members", ())
            )
        }
        if members & mine:
            out |= {(f.id, -1) for f in lacking[i]}
    return out


def wrong_style(e: Evidence) -> Iterator[Hypothesis]:
    """Another look than was asked for: `wrong-line-type`, `dashes-too-long`; anything else is told in
    numbers, no slip named."""
    seen = [f for f in e.failing("line-type") if f.verdict == "missed"]
    for f in e.failing("layer-style"):
        if f.verdict == "missed":
            code = "wrong-line-type" if _only_line_type(f) else "unexplained"
            says = f"Layer {f.layer} is set to {f.measured}; {f.expected} was asked for."
            own = [g for g in seen if any(e.exam.key.curves[i].layer == f.layer for i in g.features)]
            tokens = token(f) | frozenset((g.id, -1) for g in own)
            yield Hypothesis(code=code, tokens=tokens, says=says)
    for f in seen:
        wrong = drawn_otherwise(f.features, f.expected, e.exam)
        many, are = ("line", "is") if len(wrong) == 1 else ("lines", "are")
        says = f"{len(wrong)} {many} that should be {f.expected} {are} drawn {f.measured}."
        yield Hypothesis(code="wrong-line-type", tokens=token(f), says=says)
    for f in e.failing("style"):
        if f.verdict != "missed":
            continue
        feature, drawn = e.exam.key.by_id[f.features[0]], e.exam.partner(f.features[0])
        where = f"The {noun(feature, e.centre)} {place(feature)}"
        if drawn is not None and not dashes_show(drawn) and str(f.measured).startswith(str(f.expected)):
            says = (
                f"{where} is {size(drawn_length(drawn), e.unit)} long and its dashes repeat only every "
                f"{size(drawn.style.dash, e.unit)}: it reads as continuous."
            )
            yield Hypothesis(code="dashes-too-long", tokens=token(f), says=says)
        else:
            code = "wrong-line-type" if _only_line_type(f) else "unexplained"
            says = f"{where} is drawn {f.measured}; {f.expected} was asked for."
            yield Hypothesis(code=code, tokens=token(f), says=says)


def _only_line_type(f: Finding) -> bool:
    """Say whether two looks differ in nothing but the line type."""
    a, b = (str(v).split(", ") for v in (f.expected, f.measured))
    return len(a) == len(b) and [n for n in range(len(a)) if a[n] != b[n]] == [1]


def tallies(e: Evidence) -> Iterator[Hypothesis]:
    """More or fewer than were asked for, or in too many pieces: told in numbers, no slip named."""
    for f in e.failing("count", "one-piece"):
        if f.verdict != "missed":
            continue
        feature = e.exam.key.by_id[f.features[0]]
        if f.kind == "count":
            says = (
                f"{number(f.measured)} like the {noun(feature, e.centre)} {place(feature)} were drawn; "  # type: ignore[arg-type]
                f"{number(f.expected)} were asked for."  # type: ignore[arg-type]
            )
        else:
            says = f"The outline {place(feature)} is made of {f.measured}; one closed object was asked for."
        yield Hypothesis(code="unexplained", tokens=token(f), says=says)


ALL = (layers, clutter, not_drawn, partly_drawn, wrong_style, tallies)
