"""Findings that are kept with a key: what was drawn as the key has it, to the last bit, measures the same in
every attempt.

- *alike*: a key feature whose drawn feature has the same numbers and the same layer. *Own*: a requirement
  that looks at nothing but what was drawn for its own features, so that it is met again wherever they are all
  alike.

Nearly every finding of nearly every attempt is of that sort. It is measured in the first attempt that has it
and taken from here in the next; whatever is not alike is measured as always.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence

from evenmark.core.linework.model import Linework
from evenmark.core.marking.bulk import Bulk
from evenmark.core.marking.examination import Ask
from evenmark.core.marking.kinds import those
from evenmark.core.marking.model import Finding

OWN = those(lambda k: k.own)
"""Kinds whose measuring looks at nothing but what was drawn for the features of the requirement."""
MOST_KEPT = 600_000
"""A key that asks for more keeps nothing: it would take more memory than it is worth."""


class KeptFindings:
    """What is kept of one key: findings by the rows of what is asked, and their JSON text by requirement."""

    def __init__(self, asks: tuple[Ask, ...], bulks: tuple[Bulk, ...], key: Linework) -> None:
        self._asks, self._bulks, self._key = asks, bulks, key
        self._findings: list[Finding | None] | None = None
        self._lacking: set[int] = set()
        self._looks_at: dict[str, list[int]] = {}
        self._stands: list[tuple[int, int]] = []
        self._first: tuple[list[Finding], Collection[str]] | None = None
        self.by_id: dict[int, Finding] = {}
        """The findings that are kept, by requirement."""
        self.texts: dict[int, str] = {}
        """How a mark sheet writes them in JSON, where one has."""

    def again(self, alike: Collection[str]) -> tuple[list[Finding | None], Sequence[Bulk]]:
        """Return the findings that hold again, by row, None for what has to be measured, and what that is.
        ``alike`` are the key features that are alike."""
        if self._first is not None:
            first, self._first = self._first, None
            self._sort(*first)
        if self._findings is None:
            return [None] * len(self._asks), self._bulks
        left = set(self._lacking)  # before the copy, so that what is kept meanwhile is in one of both
        out = self._findings.copy()
        for i, rows in self._looks_at.items():
            if i not in alike:
                left.update(rows)
        chosen: list[list[int]] = [[] for _ in self._bulks]
        for n in sorted(left):
            out[n] = None
            bulk, k = self._stands[n]
            chosen[bulk].append(k)
        return out, [b.only(ks) for b, ks in zip(self._bulks, chosen, strict=True) if ks]

    def keep(self, found: list[Finding], measured: Sequence[Bulk], alike: Collection[str]) -> None:
        """Keep what was measured: ``found`` by row, of which `again` left ``measured``.

        What the first attempt gives is sorted when there is a second: a key that is used once pays nothing.
        """
        if self._findings is None:
            if len(found) <= MOST_KEPT:
                self._first = self._first or (found, alike)
            return
        for bulk in measured:
            for n in bulk.rows:
                if n in self._lacking:
                    self._keep(n, found[n], alike, self._findings)

    def _sort(self, found: list[Finding], alike: Collection[str]) -> None:
        self._lacking = set(range(len(self._asks)))
        self._stands = [(0, 0)] * len(self._asks)
        for b, bulk in enumerate(self._bulks):
            for k, n in enumerate(bulk.rows):
                self._stands[n] = (b, k)
        looks_at: dict[str, list[int]] = {}
        findings: list[Finding | None] = [None] * len(self._asks)
        for n, a in enumerate(self._asks):
            if a.r.kind in OWN:
                for i in dict.fromkeys(self._key.curves_of(a.r.features)):
                    looks_at.setdefault(i, []).append(n)
                self._keep(n, found[n], alike, findings)
        self._looks_at, self._findings = looks_at, findings

    def _keep(self, n: int, f: Finding, alike: Collection[str], findings: list[Finding | None]) -> None:
        """Keep a finding that is met within its own tolerance, whatever the slack of the attempt."""
        if (
            f.kind in OWN
            and f.verdict == "met"
            and (f.deviation is None or abs(f.deviation) <= (f.tolerance or 0.0))
            and all(i in alike for i in self._key.curves_of(f.features))
        ):
            findings[n] = self.by_id[f.id] = f
            self._lacking.discard(n)
