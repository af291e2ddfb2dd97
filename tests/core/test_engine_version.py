"""The engine's version follows what it marks: whoever changes a mark sheet gives it another one, so that old
marks are known to be old."""

from __future__ import annotations

import hashlib

import pytest

from evenmark import ENGINE_VERSION
from evenmark.core.formats import read_file
from evenmark.core.formats.dxf_pen import Manner
from evenmark.core.formats.dxf_write import write_dxf
from evenmark.core.marking import RuleSet, check_bytes, prepare
from evenmark.core.marking.marks_json import to_text
from evenmark.demo.plans import PLANS

MARKS_OF = ("3.6", "73e48ceea3a08de2")
"""The version, and the digest of the mark sheets of the demo's attempts under it, by feature and by the
sheet. Whoever changes marks writes down both anew."""


def test_the_version_is_that_of_these_marks() -> None:
    found = hashlib.sha256()
    for plan in PLANS:
        key = read_file(write_dxf(plan.part.sheet, Manner(polylines=True)))
        for listing in ("feature", "sheet"):
            used = prepare(key, RuleSet(placement=plan.placement, listing=listing))  # type: ignore[arg-type]
            for work in plan.work:
                if work.drawn is None:
                    data = write_dxf(work.slip((work.part or plan.part).drawing), work.manner)
                    found.update(to_text(check_bytes(used, data), "a").encode())
    if (ENGINE_VERSION, found.hexdigest()[:16]) != MARKS_OF:
        version, _ = MARKS_OF
        same = version == ENGINE_VERSION
        pytest.fail(
            f"Marks are other ones than those of version {version}: give the engine another version."
            if same
            else f"Write down the marks of version {ENGINE_VERSION}: {found.hexdigest()[:16]}"
        )
