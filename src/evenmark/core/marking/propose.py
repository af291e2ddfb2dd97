"""Propose: the list of requirements that an instructor would write for a key.

Default weights go to features equally, and within a feature: size 4, place 3, relations 2, layer 1 (marking.md,
Requirements). Of all marks, `whole` takes a fifth, `clean` and `layer-style` a twentieth each.
"""

from __future__ import annotations

from collections import defaultdict

from evenmark.core.linework.model import Edge, Linework
from evenmark.core.marking.model import ROLES, Requirement, Role
from evenmark.core.marking.relations import joints, tangent_off, touching_circles

WHOLE_SHARE, CLEAN_SHARE, STYLE_SHARE = 0.2, 0.05, 0.05
"""Shares of all marks that do not belong to single features; a slip of the whole drawing costs a fifth."""
_PARTS = {
    "length": 4,
    "angle": 4,
    "radius": 4,
    "sweep": 4,
    "position": 3,
    "tangent": 2,
    "joined": 2,
    "closed": 2,
    "layer": 1,
}
NOT_ASKED: frozenset[Role] = frozenset({"construction", "dimension"})
"""Roles of layers whose geometry in the key is not asked of anyone."""


def default_roles(layers: list[str]) -> dict[str, Role]:
    """Return the roles that a new rule set starts with: a layer whose name is the word of a role has that role.

    This is what the proposal says and the instructor sees and changes; marking itself never looks at names.
    """
    words: dict[str, Role] = {role: role for role in ROLES} | {"center": "centre", "text": "lettering"}
    return {role: role for role in ROLES} | {
        name: words[name.lower()] for name in layers if name.lower() in words
    }


def propose(key: Linework, roles: dict[str, Role], tolerance: float) -> tuple[Requirement, ...]:
    """Return proposed requirements with weights that sum to 100, in a fixed order with ids from 1.

    ``tolerance`` is the length tolerance within which the key itself counts as tangent.
    """
    asked = {f.id for f in key.drawn if _role(roles, f.layer) not in NOT_ASKED}
    wishes = _wishes(key, asked, tolerance)
    by_feature: dict[str, list[int]] = defaultdict(list)
    for n, (_, features) in enumerate(wishes):
        by_feature[features[0]].append(n)
    weights = [0.0] * len(wishes)
    share = 100 * (1 - WHOLE_SHARE - CLEAN_SHARE - STYLE_SHARE) / max(1, len(by_feature))
    for numbers in by_feature.values():
        for n, part in zip(numbers, _split([wishes[n][0] for n in numbers]), strict=True):
            weights[n] = share * part

    out = [Requirement(id=1, kind="whole", weight=100 * WHOLE_SHARE)]
    for (kind, features), weight in zip(wishes, weights, strict=True):
        out.append(Requirement(id=len(out) + 1, kind=kind, features=features, weight=round(weight, 9)))
    layers = sorted({f.layer for f in key.drawn if f.id in asked})
    for layer in layers:
        out.append(
            Requirement(
                id=len(out) + 1,
                kind="layer-style",
                layer=layer,
                weight=round(100 * STYLE_SHARE / len(layers), 9),
            )
        )
    out.append(Requirement(id=len(out) + 1, kind="clean", weight=100 * CLEAN_SHARE))
    return tuple(out)


def _role(roles: dict[str, Role], layer: str) -> Role:
    return roles.get(layer) or roles.get(layer.lower()) or "outline"


def _split(kinds: list[str]) -> list[float]:
    """Share one feature's marks among its requirements: by part, and equally within a part."""
    parts: dict[int, int] = defaultdict(int)
    for kind in kinds:
        parts[_PARTS[kind]] += 1
    total = sum(parts)
    return [_PARTS[kind] / total / parts[_PARTS[kind]] for kind in kinds]


def _wishes(key: Linework, asked: set[str], tolerance: float) -> list[tuple[str, tuple[str, ...]]]:
    """Return what to ask of each feature as (kind, features), the feature that it counts for first."""
    out: list[tuple[str, tuple[str, ...]]] = []
    for edge in key.edges:
        if edge.id in asked:
            out += [(kind, (edge.id,)) for kind in ("length", "angle", "layer")]
    for arc in key.arcs:
        if arc.id in asked:
            out += [(kind, (arc.id,)) for kind in ("radius", "sweep", "position", "layer")]
    for circle in key.circles:
        if circle.id in asked:
            out += [(kind, (circle.id,)) for kind in ("radius", "position", "layer")]
    for corner in key.corners:
        members = {i for i, _ in corner.ends}
        if members <= asked:
            out += [("position", (corner.id,)), ("joined", (corner.id,))]
    for tee in key.tees:
        if {i for i, _ in tee.ends} <= asked and tee.on in asked:
            out += [("position", (tee.id,)), ("joined", (tee.id,))]
    seen: set[tuple[str, tuple[str, ...]]] = set()
    for a, b, end_a, end_b in [*joints(key), *touching_circles(key, tolerance)]:
        fa, fb = key.curves[a], key.curves[b]
        if (
            a in asked
            and b in asked
            and not isinstance(fb, Edge)
            and tangent_off(fa, fb, end_a, end_b) <= tolerance
        ):
            wish = ("tangent", (b, a))
            if wish not in seen:
                seen.add(wish)
                out.append(wish)
    for outline in key.outlines:
        if {i for i, _ in outline.members} <= asked:
            out.append(("closed", (outline.id,)))
    out += [("layer", (text.id,)) for text in key.texts if text.id in asked]
    return out
