"""Place: the motion that lays an attempt on the key, found by voting.

- *vote*: two features of equal shape vote for the shift that lays one on the other. Missing and spare
  features cast no vote for the right shift, but none for a single wrong one either.
- *candidate*: a motion with at least half of the most votes; symmetric parts have several.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry import tolerance as tol
from evenmark.core.geometry.similarities import STILL, Similarity
from evenmark.core.linework.nodes import Nodes, cluster, unique_rows
from evenmark.core.marking.assign import exact_pairs
from evenmark.core.marking.model import Policy
from evenmark.core.marking.shapes import KINDS, Table, count, moved_tables

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Tables = dict[str, Table]

MOST_CANDIDATES = 8
"""Candidates that are examined in full (marking.md, Place)."""
MOST_VOTES = 20_000
"""Votes cast in one election; shapes that occur seldom vote first, since they say most."""
MOST_SLIPS = 4
"""Motions of the whole drawing that are examined in full when they pair equally much."""
SAMPLE = 500
"""Features of the key that vote on slips of the whole drawing; the winner is verified on all."""
ENOUGH = 0.6
"""Share of exact pairs from which a placement is believed."""
SCALES = (1.0, 25.4, 1 / 25.4, 10.0, 0.1, 12.0, 1 / 12.0, 304.8, 1 / 304.8, 2.0, 0.5)
"""Scales that slips make: inch for millimetre, a shifted decimal point, feet for inches, feet for
millimetres, double."""


def candidates(key: Tables, drawn: Tables, policy: Policy, reach: float) -> list[Similarity]:
    """Return the motions that the policy allows and that have most votes, best first; at least one."""
    if policy == "as-drawn":
        return [STILL]
    turns = [0.0] if policy == "slide" else _turns(key, drawn, reach)
    found: list[tuple[int, Similarity]] = []
    for turn in turns:
        base = Similarity(turn_deg=turn)
        found += [(votes, base.shifted(s)) for votes, s in shifts(key, moved_tables(drawn, base), reach)]
    if not found:
        return [STILL]
    most = max(votes for votes, _ in found)
    found = [f for f in found if f[0] * 2 >= most]
    found.sort(key=lambda f: (-f[0], *simplest(f[1])))
    return [motion for _, motion in found[:MOST_CANDIDATES]]


def simplest(motion: Similarity) -> tuple[bool, float, float, float]:
    """Return a key by which the plainer of two motions sorts first: unmirrored, smallest turn, least scale,
    smallest shift."""
    turn = abs((motion.turn_deg + 180.0) % 360.0 - 180.0)
    return motion.mirror, round(turn, 6), abs(np.log(motion.scale)), float(np.hypot(*motion.shift))


def slips_of_whole(
    key: Tables, drawn: Tables, policy: Policy, reach: float, share: float
) -> list[Similarity]:
    """Return the motions beyond the policy that explain a drawing as a whole: those with the largest share of
    exact pairs, the plainest first; a symmetric part has several.

    None unless they pair at least 60 % exactly, and more than ``share``.
    """
    sample = _sampled(key)
    ranked: list[tuple[tuple[float, ...], Similarity]] = []
    for base in _bases(key, drawn, reach):
        turned = moved_tables(drawn, base)
        for _, shift in shifts(sample, turned, reach)[:2]:
            motion = base.shifted(shift)
            found = exact_share(key, moved_tables(drawn, motion), reach)
            if found >= ENOUGH and found > share:
                ranked.append(((-round(found, 9), *simplest(motion)), motion))
    ranked.sort(key=lambda r: r[0])
    return [motion for rank, motion in ranked if rank[0] == ranked[0][0][0]][:MOST_SLIPS]


def exact_share(key: Tables, drawn: Tables, reach: float) -> float:
    """Return the share of the key's features that have an exact partner."""
    return sum(len(exact_pairs(key[k], drawn[k], reach)[0]) for k in KINDS) / max(1, count(key))


def _bases(key: Tables, drawn: Tables, reach: float) -> Iterator[Similarity]:
    """Yield scales, mirrors and turns worth an election: those under which enough sizes and shapes occur at
    all. Whatever the scale and the turn, it is one slip of the whole."""
    for scale in dict.fromkeys((*SCALES, *_scales(key, drawn))):
        if _agreeing(key, moved_tables(drawn, Similarity(scale=scale)), reach, "form") < ENOUGH:
            continue
        for mirror in (False, True):
            turned = Similarity(scale=scale, mirror=mirror)
            turns = {0.0, 90.0, 180.0, 270.0, *_turns(key, moved_tables(drawn, turned), reach)}
            for turn in sorted(turns):
                base = Similarity(scale=scale, mirror=mirror, turn_deg=turn)
                if _agreeing(key, moved_tables(drawn, base), reach, "shape") >= ENOUGH:
                    yield base


LEAST_SIZES = 3
"""Fewer sizes than this tell of no scale."""


def _scales(key: Tables, drawn: Tables) -> list[float]:
    """Return the scale that most sizes vote for, of those that no slip of units makes: what is drawn for
    one size of the key is so many times as large for all. None where fewer than enough agree."""
    sizes = [
        np.concatenate([t[k].sizes for k in ("edge", "circle", "arc") if len(t[k])] or [np.empty(0)])
        for t in (key, drawn)
    ]
    asked, found = (s[s > 0][: int(MOST_VOTES**0.5)] for s in sizes)
    if min(len(asked), len(found)) < LEAST_SIZES:
        return []  # one size that is wrong scales nothing
    ratios = np.log(np.divide.outer(asked, found).reshape(-1, 1))
    labels, n = cluster(ratios, tol.SAME_FACTOR_SHARE)
    best = int(np.argmax(np.bincount(labels, minlength=n)))
    if np.count_nonzero(labels == best) < ENOUGH * len(asked):
        return []
    scale = float(np.exp(np.median(ratios[labels == best])))
    return [] if any(abs(np.log(scale / s)) <= tol.SAME_FACTOR_SHARE for s in SCALES) else [scale]


def _agreeing(key: Tables, drawn: Tables, reach: float, what: str) -> float:
    """Return the share of key features for which a feature of equal form or shape was drawn, none counted
    twice."""
    found = 0
    for kind in KINDS:
        for a, b in _groups(getattr(key[kind], what), getattr(drawn[kind], what), reach):
            found += min(len(a), len(b))
    return found / max(1, count(key))


def _groups(a: Floats, b: Floats, reach: float) -> list[tuple[Ints, Ints]]:
    """Return rows of both tables that are equal within reach, as pairs of row lists; groups with one side
    empty are left out."""
    if not len(a) or not len(b):
        return []
    labels, n = cluster(np.concatenate((a, b)), reach)
    order = np.argsort(labels, kind="stable")
    bounds = np.searchsorted(labels[order], np.arange(n + 1)).tolist()
    out = []
    for i in range(n):
        rows = order[bounds[i] : bounds[i + 1]]
        first = rows[rows < len(a)]
        if len(first) and len(first) < len(rows):
            out.append((first, rows[len(first) :] - len(a)))
    return out


def shifts(key: Tables, drawn: Tables, reach: float) -> list[tuple[int, tuple[float, float]]]:
    """Return shifts with their votes, most first: those with at least half of the most."""
    groups: list[tuple[int, Floats, Floats]] = []
    for kind in KINDS:
        wanted, found = key[kind], drawn[kind]
        groups += [
            (len(a) * len(b), wanted.anchors[a], found.anchors[b])
            for a, b in _groups(wanted.shape, found.shape, reach)
        ]
    groups += _corner_votes(key["edge"], drawn["edge"], reach) if len(groups) < MOST_CANDIDATES else []
    groups.sort(key=lambda g: g[0])
    votes, cast = [], 0
    for size, a, b in groups:
        room = MOST_VOTES - cast
        if room <= 0:
            break
        if size > room:
            step = int(np.ceil(size / room))
            a = a[::step] if len(a) >= len(b) else a
            b = b[::step] if len(b) > len(a) else b
        votes.append((a[:, None, :] - b[None, :, :]).reshape(-1, 2))
        cast += len(votes[-1])
    return _elect(np.concatenate(votes), reach) if votes else []


def _corner_votes(key: Table, drawn: Table, reach: float) -> list[tuple[int, Floats, Floats]]:
    """Let ends vote where hardly any length is right: ends of edges with one direction, seen from the same
    side."""
    if not len(key) or not len(drawn) or len(key) * len(drawn) > MOST_VOTES:
        return []
    out = []
    unit_a, unit_b = key.shape / key.sizes[:, None], drawn.shape / drawn.sizes[:, None]
    for a, b in _groups(unit_a, unit_b, tol.UNIT_STEP):
        for end in (0, 1):
            out.append((len(a) * len(b), key.points[end][a], drawn.points[end][b]))
    return out


def _elect(votes: Floats, reach: float) -> list[tuple[int, tuple[float, float]]]:
    """Count votes that agree within reach; a vote on the boundary of a cell counts with its neighbours."""
    size = 4 * reach
    cells = np.round(votes / size).astype(np.int64)
    n, first, member = unique_rows(cells)
    gathered = Nodes.of_labels(member, n)
    counts = gathered.sizes
    index = {tuple(c): i for i, c in enumerate(cells[first].tolist())}
    around = [(dx, dy) for dx in (-1, 0, 1) for dy in (-1, 0, 1)]
    top = np.argsort(-counts, kind="stable")[: 8 * MOST_CANDIDATES].tolist()
    found: list[tuple[int, tuple[float, float]]] = []
    taken: set[int] = set()
    for i in top:
        if i in taken:
            continue
        x, y = cells[first[i]].tolist()
        block = [index[x + dx, y + dy] for dx, dy in around if (x + dx, y + dy) in index]
        taken.update(block)
        chosen = votes[[v for cell in block for v in gathered.members(cell)]]
        shift = np.median(chosen, axis=0)
        shift[np.abs(shift) <= reach * tol.SHIFT_NOISE_SHARE] = 0.0
        found.append((len(chosen), (float(shift[0]), float(shift[1]))))
    found.sort(key=lambda f: (-f[0], abs(f[1][0]) + abs(f[1][1])))
    return [f for f in found if f[0] * 2 >= found[0][0]][:MOST_CANDIDATES]


def _turns(key: Tables, drawn: Tables, reach: float) -> list[float]:
    """Return the turns (degrees) with most votes: between edges, arcs and pairs of circle centres of equal
    size."""
    votes: list[Floats] = []
    for kind, lines in (("edge", _edge_lines), ("arc", _arc_lines), ("circle", _circle_lines)):
        (va, fa), (vb, fb) = lines(key[kind]), lines(drawn[kind])
        cast = 0
        for a, b in sorted(_groups(fa, fb, reach), key=lambda g: len(g[0]) * len(g[1])):
            if cast > MOST_VOTES:
                break
            angle = np.subtract.outer(np.arctan2(va[a, 1], va[a, 0]), np.arctan2(vb[b, 1], vb[b, 0])).reshape(
                -1
            )
            votes.append(angle)
            if kind != "arc":
                votes.append(angle + np.pi)
            cast += len(angle)
    if not votes:
        return [0.0]
    turns = np.mod(np.degrees(np.concatenate(votes)), 360.0)
    labels, n = cluster(
        np.column_stack((np.cos(np.radians(turns)), np.sin(np.radians(turns)))), np.radians(tol.SAME_TURN_DEG)
    )
    counts = np.bincount(labels, minlength=n)
    chosen = [
        i
        for i in np.argsort(-counts, kind="stable")[:MOST_CANDIDATES].tolist()
        if counts[i] * 2 >= counts.max()
    ]
    return [_mean_turn(turns[labels == i]) for i in chosen]


def _mean_turn(turns: Floats) -> float:
    """Return the middle of turns that agree; a quarter turn is exactly that when it is one within
    rounding."""
    base = turns[0]
    mean = float(base + np.median(np.mod(turns - base + 180.0, 360.0) - 180.0)) % 360.0
    quarter = round(mean / 90.0) * 90.0
    return quarter % 360.0 if abs(mean - quarter) < tol.QUARTER_TURN_DEG else mean


def _edge_lines(t: Table) -> tuple[Floats, Floats]:
    return t.points[1] - t.points[0], t.form


def _arc_lines(t: Table) -> tuple[Floats, Floats]:
    return t.points[1] - t.points[0], t.form


def _circle_lines(t: Table) -> tuple[Floats, Floats]:
    """Return the vectors from each of the first circles to each other circle, with both radii and the
    distance as form."""
    centers, n = t.points[0], min(len(t), 24)
    if n < 2:
        return np.empty((0, 2)), np.empty((0, 3))
    i, j = np.nonzero(~np.eye(n, len(t), dtype=bool))
    v = centers[j] - centers[i]
    return v, np.column_stack((t.radii[i], t.radii[j], np.hypot(v[:, 0], v[:, 1])))


def _sampled(key: Tables) -> Tables:
    """Return at most SAMPLE features, evenly over each kind."""
    total = count(key)
    if total <= SAMPLE:
        return key
    step = int(np.ceil(total / SAMPLE))
    return {kind: t.only(np.arange(0, len(t), step)) for kind, t in key.items()}
