"""Match: which drawn feature was meant as which key feature.

- *exact pair*: both lie on each other within position tolerance. *Partner*: the drawn feature of a key
  feature.
- *absent*: a key feature without partner. *Spare*: a drawn feature that is nobody's partner.

Exact pairs come first. What is left is assigned by least total displacement among features of one kind whose
ends lie within the key feature's size; then features of equal shape, wherever they stand. Layers break ties
and decide nothing else.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from evenmark.core.geometry.lines import distance_to_supporting_line
from evenmark.core.linework.model import Edge, Linework
from evenmark.core.marking.align import align_outlines, settle_ends
from evenmark.core.marking.assign import by_displacement, by_end, by_shape, exact_pairs, keep, others
from evenmark.core.marking.between import pair_between
from evenmark.core.marking.drawn_partner import DrawnPartner
from evenmark.core.marking.match_annotations import match_annotations
from evenmark.core.marking.pieces import Pieces, in_pieces
from evenmark.core.marking.shapes import KINDS, Table

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True, kw_only=True)
class Pairing:
    """Partners of key features by key id, and the drawn features that are nobody's partner."""

    partners: dict[str, DrawnPartner] = field(default_factory=dict)
    spare: tuple[str, ...] = ()
    beside: tuple[str, ...] = ()
    """Lettering, notes and hatches that are nobody's partner."""
    merged: dict[str, Edge] = field(default_factory=dict)
    """Key edges that were drawn in several pieces, by id, with the edge that the pieces make together."""
    gaps: dict[str, float] = field(default_factory=dict)
    """The largest gap between the pieces of such an edge."""
    share: float = 0.0
    """How many of the key's edges, arcs and circles have an exact partner, 0 to 1."""
    paired: float = 0.0
    """How many of them have any partner, 0 to 1."""


def match(
    key: Linework,
    drawn: Linework,
    key_tables: dict[str, Table],
    drawn_tables: dict[str, Table],
    reach: float,
    axes: frozenset[str] = frozenset(),
    aside: frozenset[str] = frozenset(),
    lines: frozenset[str] = frozenset(),
) -> Pairing:
    """Pair the features of a placed drawing with those of the key; ``reach`` is position tolerance plus
    slack.

    ``axes`` are key edges of which only the supporting line counts: one that lies on its supporting line is
    an exact pair. ``aside`` are key features that nobody has to draw; they count for no share. ``lines`` are
    drawn edges on layers of centre lines: elsewhere than where an edge of the part should be, none of them
    was meant as one."""
    m = _Matching(key, drawn, key_tables, drawn_tables, reach)
    m.exactly()
    m.in_pieces()
    m.in_sequence()
    spare = m.by_nearness(axes, lines)
    return m.pairing(axes, aside, spare)


class _Matching:
    """A pairing in the making: partners so far, and the rows of the tables that have none yet."""

    def __init__(
        self,
        key: Linework,
        drawn: Linework,
        key_tables: dict[str, Table],
        drawn_tables: dict[str, Table],
        reach: float,
    ) -> None:
        self.key, self.drawn, self.reach = key, drawn, reach
        self.key_tables, self.drawn_tables = key_tables, drawn_tables
        self.partners: dict[str, DrawnPartner] = {}
        self.left: dict[str, Ints] = {}
        self.over: dict[str, Ints] = {}
        self.merged: dict[str, Edge] = {}
        self.gaps: dict[str, float] = {}
        self.parts: set[str] = set()
        """What has become part of an edge in pieces, and is nobody else's partner."""
        self.exact_count = 0

    @property
    def open(self) -> bool:
        """Whether anything could still be paired."""
        return any(len(self.left[k]) and len(self.over[k]) for k in KINDS)

    def exactly(self) -> None:
        """Pair what lies where it should."""
        for kind in KINDS:
            wanted, found = self.key_tables[kind], self.drawn_tables[kind]
            rows, columns = exact_pairs(wanted, found, self.reach)
            keep(wanted, found, rows, columns, True, self.partners)
            self.left[kind], self.over[kind] = others(len(wanted), rows), others(len(found), columns)
        self.exact_count = len(self.partners)

    def in_pieces(self) -> None:
        """Pair edges that were drawn in pieces with all of their pieces."""
        left, over = self.left["edge"], self.over["edge"]
        if not len(left) or len(over) < 2:
            return
        wanted, found = self.key_tables["edge"], self.drawn_tables["edge"]
        for pieces in in_pieces(wanted, found, left, over, self.reach):
            edge_id, ids = wanted.ids[pieces.row], [found.ids[j] for j in pieces.pieces]
            edges = [f for i in ids if isinstance(f := self.drawn.curves[i], Edge)]
            whole = _whole_of(pieces, edges)
            self.partners[edge_id] = DrawnPartner(id=whole.id, exact=pieces.exact)
            self.merged[edge_id], self.gaps[edge_id] = whole, pieces.gap
            self.exact_count += pieces.exact
            self.parts.update(ids)
            self.left["edge"] = self.left["edge"][self.left["edge"] != pieces.row]
            self.over["edge"] = np.setdiff1d(self.over["edge"], pieces.pieces)

    def in_sequence(self) -> None:
        """Pair what comes in the same order round outlines, and between what is paired."""
        key, drawn, partners, parts, reach = self.key, self.drawn, self.partners, self.parts, self.reach
        if not self.open or not (
            align_outlines(key, drawn, partners, parts, reach)
            | pair_between(key, drawn, partners, parts, reach)
        ):
            return
        used = parts | {p.id for p in partners.values()}
        for kind in KINDS:
            wanted, found = self.key_tables[kind].ids, self.drawn_tables[kind].ids
            self.left[kind] = np.array([n for n, i in enumerate(wanted) if i not in partners], np.int64)
            self.over[kind] = np.array([n for n, j in enumerate(found) if j not in used], np.int64)
        self.exact_count = sum(1 for p in partners.values() if p.exact)

    def by_nearness(self, axes: frozenset[str], lines: frozenset[str]) -> list[str]:
        """Pair the rest by displacement, shape and ends; return what is left over of the drawing."""
        spare: list[str] = []
        assigned = self.open
        for kind in KINDS:
            wanted, found = self.key_tables[kind], self.drawn_tables[kind]
            left, over = self.left[kind], self.over[kind]
            if kind == "edge" and lines and len(left) and len(over):
                is_axis = np.array([wanted.ids[n] in axes for n in left.tolist()], bool)
                is_line = np.array([found.ids[n] in lines for n in over.tolist()], bool)
                part, rest = self._assign(kind, left[~is_axis], over[~is_line])
                own, drawn = self._assign(kind, left[is_axis], over[is_line])
                own, rest = self._assign(kind, own, rest)
                left, over = np.concatenate((part, own)), np.concatenate((rest, drawn))
            else:
                left, over = self._assign(kind, left, over)
            self.left[kind], self.over[kind] = left, over
            spare += [found.ids[i] for i in np.sort(over).tolist()]
        if assigned:
            settle_ends(self.key, self.drawn, self.partners, self.merged, self.reach)
        return spare

    def _assign(self, kind: str, left: Ints, over: Ints) -> tuple[Ints, Ints]:
        """Pair rows of one kind; return those of both tables that are left."""
        wanted, found = self.key_tables[kind], self.drawn_tables[kind]
        for assign in (by_displacement, by_shape, by_end):
            if len(left) and len(over):
                a, b = assign(wanted.only(left), found.only(over), self.reach)
                keep(wanted, found, left[a], over[b], False, self.partners)
                left, over = np.delete(left, a), np.delete(over, b)
        return left, over

    def pairing(self, axes: frozenset[str], aside: frozenset[str], spare: list[str]) -> Pairing:
        """Return the pairing, with lettering and the like, and what share of the key it covers."""
        key, partners = self.key, self.partners
        exact_count = self.exact_count + _axes_on_their_lines(key, self.drawn, partners, axes, self.reach)
        rest = match_annotations(key, self.drawn, self.reach)
        for wanted_id, found_id in rest.ids.items():
            partners[wanted_id] = DrawnPartner(id=found_id, exact=wanted_id in rest.exact)
        exact_count += sum(1 for i in rest.exact if i[0] == "f")
        left_over, beside = (*spare, *rest.spare), tuple(rest.beside)
        total = sum(len(t) for t in self.key_tables.values()) + len(key.frees) - len(aside)
        if total <= 0:  # lettering and the like alone
            there = sum(1 for f in key.drawn if f.id[0] in "xnhd")
            share = len(rest.ids) / there if there else 0.0
            return Pairing(partners=partners, spare=left_over, beside=beside, share=share, paired=share)
        curves = sum(1 for i in partners if i[0] in "eacf" and i not in aside)
        exact_count -= sum(1 for i in aside if i in partners and partners[i].exact)
        return Pairing(
            partners=partners,
            spare=left_over,
            beside=beside,
            merged=self.merged,
            gaps=self.gaps,
            share=exact_count / total,
            paired=curves / total,
        )


def _whole_of(pieces: Pieces, drawn: list[Edge]) -> Edge:
    """Return the edge that pieces make together, under the id of the longest and on its layer."""
    longest = max(drawn, key=lambda e: e.length)
    sources = tuple(dict.fromkeys(s for e in drawn for s in e.sources))
    return longest._replace(start=pieces.start, end=pieces.end, sources=sources)


def _axes_on_their_lines(
    key: Linework, drawn: Linework, partners: dict[str, DrawnPartner], axes: frozenset[str], reach: float
) -> int:
    """Make axes whose partner lies on their supporting line exact pairs; return how many there were."""
    found = 0
    for i in axes:
        partner = partners.get(i)
        if partner is None or partner.exact:
            continue
        edge, there = key.curves[i], drawn.curves.get(partner.id)
        if (
            isinstance(edge, Edge)
            and isinstance(there, Edge)
            and max(distance_to_supporting_line(p, edge.start, edge.end) for p in there.ends) <= reach
        ):
            partners[i] = partner._replace(exact=True)
            found += 1
    return found
