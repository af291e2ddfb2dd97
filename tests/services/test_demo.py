"""The demo is taken up again where it was cut off, and loaded once."""

from __future__ import annotations

import pytest
from sqlalchemy import func, select

from evenmark.demo import load
from evenmark.demo.plans import PLANS
from evenmark.store.database import Database
from evenmark.store.models import Attempt, MarkingAct, Returned


def _counts(db: Database) -> tuple[set[str], int, int]:
    with db.transaction() as session:
        return (
            set(session.scalars(select(Attempt.state))),
            session.scalar(select(func.count()).select_from(MarkingAct)) or 0,
            session.scalar(select(func.count()).select_from(Returned)) or 0,
        )


def test_what_was_cut_off_is_finished_and_nothing_is_done_twice(
    db: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    hub = [plan for plan in PLANS if plan.remarks]
    assert hub
    monkeypatch.setattr(load, "PLANS", tuple(hub))
    load._keep_all(db)
    assert _counts(db) == ({"waiting"}, 0, 0)
    assert load.load_demo(db)
    done = _counts(db)
    assert done[0] == {"marked"}
    assert done[1] >= len(hub[0].remarks)
    assert done[2] == len(hub[0].work)
    assert not load.load_demo(db)
    assert _counts(db) == done
