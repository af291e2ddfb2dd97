"""Propose by the sheet: the list of an instructor who marks by what was asked (marking.md, Requirements).

- *size*: one requirement for each dimension, numbered as its balloon, measured between the places that it
  names.
- *taken as read*: what the drawing says without figures, each once.
- *not on the sheet*: a feature's own size or place, asked only where neither settles it.

Shares of the marks are in `SHARES`; what a key does not have, and what few sizes leave over, goes to the
others in proportion. `whole` and `clean` earn nothing and are charged.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from evenmark.core.dimensioning.implied_kinds import Implied
from evenmark.core.dimensioning.proved import Proof
from evenmark.core.dimensioning.size import Size
from evenmark.core.drawing.roles import Role, role_of
from evenmark.core.linework.model import ArcFeature, CircleFeature, Edge, Linework, View
from evenmark.core.marking.charges import CHARGED
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.kinds.said import part_of
from evenmark.core.marking.model import Requirement

SHARES = {"sizes": 55.0, "read": 20.0, "layers": 15.0, "look": 10.0}
"""Marks of each part of the list, of 100."""
MOST_OF_A_SIZE = 7.0
"""What one size is worth at most: a sheet with few of them is about other things, too."""
_JOINT, _WHOLE_EDGE = 1.0, 0.25
"""What an edge without a gap counts beside a joint: it is drawn so by nearly everybody."""
"""What each thing that is asked of lettering counts within it."""
_NOT_ASKED: frozenset[Role] = frozenset({"construction", "dimension"})


def propose_by_sheet(
    key: Linework,
    proof: Proof,
    roles: Mapping[str, Role],
    views: Sequence[View] = (),
    leave_out: Iterable[str] = (),
) -> tuple[Requirement, ...]:
    """Return the list by the sheet, sizes first, with weights that sum to 100, and ids from 1."""
    out_of = frozenset(leave_out)
    known = dict(roles)
    asked = {
        f.id
        for f in key.drawn
        if f.id not in out_of and (f.id[0] in "nh" or role_of(known, f.layer) not in _NOT_ASKED)
    }
    asked -= {d.id for d in key.dimensions}
    parts: dict[str, list[Requirement]] = {
        "sizes": [*_sizes(proof), *_not_on_the_sheet(proof, key, asked)],
        "read": [*_stands(proof, asked), *_read(proof, key, asked, known), *_views(proof, views)],
        "layers": [_ask("layer", (f.id,)) for f in key.drawn if f.id in asked],
        "look": [*_lettering(key, asked), *_looks(key, asked)],
    }
    shares = _shares({name: sum(1 for r in rs if r.on and r.weight) for name, rs in parts.items()})
    out: list[Requirement] = []
    for name, rs in parts.items():
        total = sum(r.weight for r in rs if r.on)
        for r in rs:
            weight = r.weight * shares[name] / total if total else 0.0
            out.append(replace(r, weight=round(weight, 9)))
    out += [_ask("whole", (), weight=0.0), _ask("clean", (), weight=0.0)]
    out += [_ask("dimension", (d.id,), on=False) for d in key.dimensions if d.id not in out_of]
    return tuple(replace(r, id=n) for n, r in enumerate(out, 1))


def _shares(lines: Mapping[str, int]) -> dict[str, float]:
    """Return the marks of each part of the list, by how many lines each has: what a key does not have, and
    what few sizes leave over, goes to the others in proportion."""
    whole = sum(share for name, share in SHARES.items() if lines[name])
    out = {name: share * 100 / whole if lines[name] else 0.0 for name, share in SHARES.items()}
    others = 100.0 - out["sizes"]
    most = MOST_OF_A_SIZE * lines["sizes"]
    if others and out["sizes"] > most:
        by = (100.0 - most) / others
        out = {name: most if name == "sizes" else share * by for name, share in out.items()}
    return out


PARTS = {
    "sizes": "Dimensions on the sheet",
    "unsaid": "Not on the sheet",
    "read": "Implied",
    "layers": "Layers",
    "look": "Text and line styles",
    "charged": "Deductions",
}
"""The parts of a list by the sheet, as pages head them."""
_DISTANCE, _ANGLE, _POSITION, _EVEN = "distance", "angle", "position", "evenly-spaced"
STANDS = ("datum",)
"""The parts of a requirement that says where the drawing stands, or how it is turned."""


def parts_of(requirements: Sequence[Requirement]) -> dict[int, str]:
    """Return in which part of a list by the sheet each requirement stands, by id."""
    own = {r.features[0] for r in requirements if r.kind == "length" and not r.size and r.features}
    return {r.id: _part(r, own) for r in requirements}


def _part(r: Requirement, own: set[str]) -> str:
    if r.kind in CHARGED:
        return "charged"
    if r.parts == STANDS:
        return "read"
    if r.size:
        return "sizes"
    if r.kind == "angle" and r.features[0] in own:
        return "unsaid"
    return KINDS[r.kind].part


def _ask(kind: str, features: tuple[str, ...], weight: float = 1.0, **more: object) -> Requirement:
    return Requirement(id=0, kind=kind, features=features, weight=weight, **more)  # type: ignore[arg-type]


def _by_sheet(kind: str, feature: str) -> Requirement:
    return _ask(kind, (feature,), weight=KINDS[kind].weight_by_sheet)


# what is said in figures


def _sizes(proof: Proof) -> Iterator[Requirement]:
    for s in proof.sizes:
        if s.kind == "chamfer":
            yield from _of_chamfer(s)
        else:
            yield replace(_of_size(s), size=s.id, on=not s.brackets)


def _of_chamfer(s: Size) -> Iterator[Requirement]:
    """Yield the leg of each chamfer that a size is for, and its direction."""
    for n, i in enumerate(s.features):
        leg = _ask(_DISTANCE, (i, i), direction=s.direction_deg, parts=("0", "1"))
        yield replace(leg, size=s.id if n == 0 else "", on=not s.brackets)
    for i in s.features:
        yield _ask(_ANGLE, (i,), on=not s.brackets)


def _of_size(s: Size) -> Requirement:
    if s.kind == "angle":
        edges = tuple(p.feature for p in s.places)
        return _ask("included-angle" if len(edges) > 1 else "angle", edges)
    if s.kind == "distance":
        return _ask(
            "distance",
            tuple(p.feature for p in s.places),
            direction=s.direction_deg,
            parts=tuple(part_of(p) for p in s.places),
        )
    return _ask(s.kind, s.features)


def _not_on_the_sheet(proof: Proof, key: Linework, asked: set[str]) -> Iterator[Requirement]:
    """Yield what a feature is asked for by itself: the size or place that something free would change."""
    joined = {end for joint in key.meetings.values() for end in joint.ends}
    moved: dict[str, None] = {}
    grown: dict[str, None] = {}
    for motion in proof.freedoms:
        moved |= dict.fromkeys(i.partition(".")[0] for i in motion.moves)
        grown |= dict.fromkeys(motion.grows)
    for i in grown:
        if i in asked:
            yield _ask("diameter" if i[0] == "c" else "radius", (i,))
    for i in moved:
        f = key.by_id[i]
        if isinstance(f, Edge):
            if i in asked:
                yield _ask("length", (i,))
                yield _ask(_ANGLE, (i,))
                if not {(i, 0), (i, 1)} & joined:
                    yield _ask("free-ends", (i,))
        elif i[0] in "kt":
            if any(e in asked for e, _ in key.meetings[i].ends):
                yield _ask(_POSITION, (i,))
        elif i in asked:
            yield _ask(_POSITION, (i,))
    for f in key.frees:
        if f.id in asked:
            yield _ask(_POSITION, (f.id,))


# what is taken as read


def _stands(proof: Proof, asked: set[str]) -> Iterator[Requirement]:
    """Yield where the drawing stands and how it is turned: no size says that."""
    for n, name in enumerate(proof.held):
        feature, _, end = name.partition(".")
        if feature[0] in "kt" or feature in asked:
            kind = "free-ends" if end else _ANGLE if n and feature[0] == "e" else _POSITION
            yield _ask(kind, (feature,), parts=STANDS)


def _read(proof: Proof, key: Linework, asked: set[str], roles: dict[str, Role]) -> Iterator[Requirement]:
    axes = [e.id for e in key.edges if e.id in asked and role_of(roles, e.layer) == "centre"]
    alike: dict[str, dict[str, None]] = {}
    for t in proof.taken:
        if not proof.is_taken(t):
            continue
        if t.kind in ("alike", "mirrored"):
            alike.setdefault(t.features[0], {}).update(dict.fromkeys(t.features[1:]))
            continue
        yield from _of_taken(t, asked, frozenset(axes), key)
    for axis in axes:
        yield _ask("axis", (axis,))
    for axis, features in alike.items():
        curves = tuple(i for i in features if i[0] in "eac")
        corners = {i for i in features if i[0] == "k"}
        curves += tuple(e.id for e in key.edges if e.id in asked and _between(e.id, key) <= corners)
        if axis in asked and curves:
            yield _ask("symmetric", (axis, *dict.fromkeys(curves)))
    for e in key.edges:
        if e.id in asked and e.id not in axes:
            yield _ask("whole-edge", (e.id,), weight=_WHOLE_EDGE)


def _between(edge: str, key: Linework) -> set[str]:
    """Return the corners of an edge; where it has a free end, something that is no corner."""
    corners = (key.corner_of.get((edge, w)) for w in (0, 1))
    return {k.id if k is not None else "" for k in corners}


def _rim_of(t: Implied, key: Linework) -> str:
    """Return which part of what another view shows is level with a corner: of something round, a side."""
    f, k = (key.by_id[i] for i in t.features)
    axis = t.axes[0]
    if not isinstance(f, ArcFeature | CircleFeature):
        return ""
    return "rim+" if k.at[axis] > f.center[axis] else "rim-"


def _of_taken(t: Implied, asked: set[str], axes: frozenset[str], key: Linework) -> Iterator[Requirement]:
    f = t.features
    if t.kind in ("meet", "on"):
        yield _ask("joined", f, weight=_JOINT)
    elif t.kind in ("level", "plumb"):
        if f[0] not in axes:
            yield _ask(_ANGLE, f)
    elif t.kind == "square":
        yield _ask("perpendicular", f)
    elif t.kind in ("parallel", "in-line"):
        yield _ask(t.kind, f)
    elif t.kind == "smooth":
        yield _ask("tangent", (f[1], f[0]))
    elif t.kind == "one-centre":
        if set(f) <= asked:
            yield _ask("concentric", f)
    elif t.kind == "even":
        yield _ask(_EVEN, f[1:])
        yield _ask("on-circle", f)
    elif t.kind == "even-row":
        yield _ask(_EVEN, f)
    elif t.kind == "projected":
        yield _ask(_DISTANCE, f, direction=90.0 * t.axes[0], parts=(_rim_of(t, key), ""))
    elif t.kind in ("level-with", "plumb-with"):
        turn = 90.0 if t.kind == "level-with" else 0.0
        yield _ask(_DISTANCE, f, direction=turn, parts=("", ""))


def _views(proof: Proof, views: Sequence[View]) -> Iterator[Requirement]:
    for n, view in enumerate(views):
        if n:
            yield _ask("arrangement", (views[0].id, view.id))
    if any(t.kind == "views" and proof.is_taken(t) for t in proof.taken):
        for n, view in enumerate(views):
            for other in views[n + 1 :]:
                yield _ask("agreement", (view.id, other.id))


# lettering, notes and look


def _lettering(key: Linework, asked: set[str]) -> Iterator[Requirement]:
    for text in key.texts:
        if text.id in asked:
            for kind in ("wording", "text-height", "text-anchor", "text-turn"):
                yield _by_sheet(kind, text.id)
    for note in key.notes:
        if note.id in asked:
            yield _by_sheet("note", note.id)
            if note.wording:
                yield _by_sheet("wording", note.id)
    for hatch in key.hatches:
        if hatch.id in asked:
            yield _by_sheet("hatch", hatch.id)


def _looks(key: Linework, asked: set[str]) -> Iterator[Requirement]:
    """Yield the look of each layer: together as much as all lettering, alone where there is none."""
    layers = sorted({f.layer for f in key.drawn if f.id in asked and f.layer in key.layers})
    lettering = sum(r.weight for r in _lettering(key, asked))
    for layer in layers:
        yield _ask("layer-style", (), weight=lettering / len(layers) if lettering else 1.0, layer=layer)
