"""Attribute: which of the requirements that are asked a slip is charged to.

- *watched*: what is examined although nobody asked: each feature's own size, place and relations, so that a
  slip is found where it was made, whatever the list says. A sheet asks for the distance of a hole; what went
  wrong is the hole's place.
- *root*: the charged finding at the end of what follows it. Where a root is only watched, what is asked and
  follows it is charged in its place: one of them, and the others follow that one.
- *head*: the asked finding that stands for a root.

What was watched never appears on a mark sheet and carries no marks.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence

from evenmark.core.linework.model import Linework
from evenmark.core.marking.kinds import KINDS
from evenmark.core.marking.model import Cause, Finding, Verdict

OPEN: tuple[Verdict, ...] = ("near", "missed", "absent")
_RANK = {kind.name: kind.rank for kind in KINDS.values() if kind.rank is not None}
"""Kinds in the order in which one of them stands for a slip; others after these."""


def charge_what_happened(
    wrong: Sequence[Finding], causes: Sequence[Cause], measured: Mapping[int, Verdict]
) -> dict[int, Finding]:
    """Return, of the findings that are not met, those that change so that what a cause is about is charged
    where it followed another that the same cause explains: the order of the key does not say what went
    wrong.

    ``measured`` has the verdict of each of them before anything was followed through.
    """
    by_id = {f.id: f for f in wrong} if causes else {}
    now: dict[int, int] = {}
    for cause in causes:
        about = by_id.get(cause.about) if cause.about is not None else None
        if about is None or about.follows is None or measured[about.id] not in OPEN:
            continue
        if about.verdict == "follows" and about.follows in cause.explains:
            now.setdefault(about.follows, about.id)
    out: dict[int, Finding] = {}
    for f in wrong if now else ():
        charged = now.get(f.root)
        if charged is None:
            continue
        if f.id == charged:
            out[f.id] = f._replace(verdict=measured[f.id], follows=None)
        else:
            verdict = "follows" if f.verdict in OPEN else f.verdict
            out[f.id] = f._replace(verdict=verdict, follows=charged)
    return out


def attribute(
    findings: list[Finding],
    wrong: Sequence[Finding],
    measured: Mapping[int, Verdict],
    watched: Collection[int],
    sized: Collection[int],
    key: Linework,
) -> tuple[list[Finding], dict[int, int]]:
    """Return the findings that are asked, each slip charged once among them, and the head of each root that
    is only watched.

    ``wrong`` are the findings that are not met, ``measured`` has the verdict of each of them before anything
    was followed through, ``sized`` are those that the sheet says in figures: an instructor marks these first.
    """
    if not watched:
        return findings, {}
    groups: dict[int, list[Finding]] = {}
    for f in wrong:
        root = f.follows
        if f.verdict == "follows" and root is not None and root in watched and f.id not in watched:
            groups.setdefault(root, []).append(f)
    heads: dict[int, int] = {}
    led: dict[int, Finding] = {}
    by_id = {f.id: f for f in wrong}
    for root, group in groups.items():
        there = _round(by_id[root].features, key)
        head = min(
            group,
            key=lambda f: (
                f.id not in sized,
                not there.issuperset(f.features),
                _RANK.get(f.kind, len(_RANK)),
                f.id,
            ),
        )
        heads[root] = head.id
        own = measured[head.id]
        led[head.id] = head._replace(verdict=own if own in OPEN else "absent", follows=None)
        for f in group:
            if f.id != head.id:
                led[f.id] = f._replace(follows=head.id)
    return [led.get(f.id, f) for f in findings if f.id not in watched], heads


def _round(features: Sequence[str], key: Linework) -> set[str]:
    """Return some features with the corners at their ends, or the curves that end there."""
    out = set(features)
    for i in features:
        joint = key.meetings.get(i)
        out |= {e for e, _ in joint.ends} if joint is not None else set()
        corners = (key.corner_of.get((i, w)) for w in (0, 1))
        out |= {k.id for k in corners if k is not None}
    return out


def describe_causes(
    causes: Sequence[Cause],
    wrong: Sequence[Finding],
    shown: Sequence[Finding],
    heads: Mapping[int, int],
    watched: Collection[int],
    in_numbers: Callable[[Finding], str],
) -> tuple[Cause, ...]:
    """Return the causes in terms of what is asked: of what each explains that is only watched, the finding
    that stands for it; causes of nothing that is asked are left out. What nothing explains is told by
    ``in_numbers`` of the finding that is asked. ``wrong`` are all findings that are not met, ``shown`` those
    that are asked."""
    if not watched:
        return tuple(causes)
    root_of = {f.id: f.root for f in wrong}
    by_id = {f.id: f for f in shown}
    behind: dict[int, list[int]] = {}
    for f in shown:
        if f.follows is not None:
            behind.setdefault(f.follows, []).append(f.id)
    out: list[Cause] = []
    for cause in causes:
        ids: dict[int, None] = {}
        says = cause.says
        for i in cause.explains:
            if i not in watched:
                ids[i] = None
                continue
            head = heads.get(root_of.get(i, i))
            if head is not None:
                ids |= dict.fromkeys((head, *behind.get(head, ())))
                if cause.code == "unexplained" and not cause.candidates and by_id[head].features:
                    says = in_numbers(by_id[head])
        if ids:
            out.append(
                Cause(
                    id=len(out) + 1,
                    code=cause.code,
                    explains=tuple(sorted(ids)),
                    says=says,
                    candidates=cause.candidates,
                )
            )
    return tuple(out)
