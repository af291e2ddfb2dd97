"""Every route of the API document under requests that nobody's page sends: wrong types, missing and repeated
fields, odd identifiers.

Bodies and queries come from the document by schemathesis, valid ones and broken ones. Whatever is sent, the
answer is a sentence or what was asked for, never a server error, and holds no path, statement or traceback.
"""

from __future__ import annotations

import logging
import re
from contextlib import suppress
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.config import SchemathesisConfig

from evenmark.store.database import Database
from evenmark.web.openapi import document
from tests.conftest import GUARD, ROOT, Caller, School
from tests.extent import size
from tests.services.test_from_key_to_result import GOOD, hand, put

SCHEMA = schemathesis.openapi.from_dict(document(), config=SchemathesisConfig())
OPERATIONS = {f"{o.ok().method.upper()} {o.ok().path}": o.ok() for o in SCHEMA.get_all_operations()}
LEAKS = re.compile(
    rf"Traceback|/src/|site-packages|psycopg|sqlalchemy|select .* from |{re.escape(str(ROOT))}|/tmp/|\.py\b",
    re.IGNORECASE,
)
EACH = size(3, 12)
"""Requests to each operation in each mode; those that sign out are sent last."""
ENDS_A_SESSION = (
    "POST /api/sign-out",
    "POST /api/step-aside",
    "POST /api/sessions/end-others",
    "POST /api/password",
)
IDS = [
    "0",
    "1",
    "2",
    "-1",
    "2147483647",
    "2147483648",
    "99999999999999999999",
    "1e3",
    "0x1",
    "%00",
    "a",
    "1;2",
    "..",
    "%2e%2e",
    "ü",
]


def test_the_document_names_every_operation() -> None:
    assert len(OPERATIONS) > 45


@pytest.mark.parametrize("who", ["ada", "ben", None])
@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE], ids=["valid", "broken"])
def test_no_request_ends_in_a_server_error(
    application: Any,
    db: Database,
    school: School,
    key_bytes: bytes,
    who: str | None,
    mode: GenerationMode,
    caplog: pytest.LogCaptureFixture,
) -> None:
    issue = put(db, school, key_bytes)
    hand(db, school.ben, issue, GOOD)
    caller = Caller(application, who)
    seen: set[int] = set()

    @given(data=st.data())
    @settings(
        max_examples=EACH,
        deadline=None,
        database=None,
        derandomize=True,
        suppress_health_check=list(HealthCheck),
    )
    def fuzz(data: st.DataObject) -> None:
        case = data.draw(operation.as_strategy(generation_mode=mode))
        path = re.sub(
            r"\{[^}]*\}|<[^>]*>",
            lambda _: data.draw(st.sampled_from(IDS[:4] if mode == GenerationMode.POSITIVE else IDS)),
            operation.path,
        )
        more: dict[str, Any] = {}
        if isinstance(case.body, bytes | str):
            more = {"data": case.body, "content_type": case.media_type or "application/json"}
        elif not isinstance(case.body, schemathesis.core.NotSet):
            more = {"json": case.body}
        query = case.query if isinstance(case.query, dict) else None
        answer = caller.client.open(
            path, method=operation.method.upper(), headers={GUARD: caller.guard}, query_string=query, **more
        )
        seen.add(answer.status_code)
        assert answer.status_code < 500, (operation.method, path, more)
        if answer.status_code >= 400:
            assert answer.is_json, (path, answer.status_code, answer.text[:200])
            assert set(answer.json) == {"code", "says"}, answer.json
            assert not LEAKS.search(answer.text), answer.text
        answer.close()

    order = sorted(OPERATIONS, key=lambda name: name in ENDS_A_SESSION)
    for name in order:
        if who is None and "first-code" not in name and "join" not in name and "sign-in" not in name:
            continue
        operation = OPERATIONS[name]
        with suppress(Unsatisfiable):  # a route that takes nothing has nothing that could be broken
            fuzz()
    assert [r.message for r in caplog.records if r.levelno >= logging.ERROR] == []
    assert seen & {400, 401, 403, 404, 422, 429}
