"""Long work never runs while a transaction is open: it would hold what others wait for."""

from __future__ import annotations

from typing import Any

import pytest

from evenmark.services import bounded, keys
from evenmark.services.engine_work import look_at
from evenmark.store.database import Database
from tests.conftest import Caller, School
from tests.services.test_from_key_to_result import GOOD, hand, put


def test_work_inside_a_transaction_is_a_fault_where_pages_are_tested(db: Database) -> None:
    token = bounded.strict.set(True)
    try:
        with db.transaction(), pytest.raises(RuntimeError, match="inside a transaction"):
            bounded.run_bounded(look_at, GOOD, "a.dxf", "model")
        assert bounded.run_bounded(look_at, GOOD, "a.dxf", "model").refusal is None
    finally:
        bounded.strict.reset(token)


def test_no_page_reads_a_key_inside_a_transaction_however_little_is_remembered(
    application: Any, db: Database, school: School, key_bytes: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    issue = put(db, school, key_bytes)
    attempt = hand(db, school.ben, issue, GOOD)
    ada, ben = Caller(application, "ada"), Caller(application, "ben")
    revision = ada.get("/api/exercises").json["exercises"][0]["revision_id"]
    calls = [
        lambda: ada.get(f"/api/exercises/{revision}"),
        lambda: ada.call("PATCH", f"/api/exercises/{revision}", json={"text": "Other words."}),
        lambda: ada.get(f"/api/attempts/{attempt}"),
        lambda: ada.post(f"/api/attempts/{attempt}/comments", {"text": "Here.", "at": [1.0, 2.0]}),
        lambda: ada.post(f"/api/attempts/{attempt}/undo", {}),
        lambda: ada.post(f"/api/attempts/{attempt}/redo"),
        lambda: ada.get(f"/api/attempts/{attempt}/marked.pdf"),
        lambda: ada.get(f"/api/exercises/{revision}/sheet.pdf"),
        lambda: ben.get(f"/api/work/{issue}"),
        lambda: ben.get(f"/api/work/{issue}/sheet.pdf"),
        lambda: ben.get(f"/api/work/results/{attempt}/marked.dxf"),
    ]
    for call in calls:
        keys._views.clear()
        answer = call()
        assert answer.status_code == 200, answer.json
