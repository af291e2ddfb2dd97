"""Marking an attempt: the engine's mark sheet, stored with the version that made it, once for each version."""

from __future__ import annotations

from collections import Counter
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark import ENGINE_VERSION
from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import Marked, mark
from evenmark.services.errors import Refused
from evenmark.store.models import Attempt, MarkSheetRow


def mark_attempt(session: Session, attempt_id: int) -> MarkSheetRow | None:
    """Mark an attempt and keep its mark sheet; one that is marked already by this engine stays as it is.

    The attempt is locked meanwhile, so that two workers never mark it at once. A drawing that cannot be marked leaves the
    reason on the attempt and returns None.
    """
    attempt = session.scalar(select(Attempt).where(Attempt.id == attempt_id).with_for_update())
    if attempt is None:
        return None
    known = session.scalar(
        select(MarkSheetRow).where(
            MarkSheetRow.attempt_id == attempt_id, MarkSheetRow.engine_version == ENGINE_VERSION
        )
    )
    if known is not None:
        attempt.state = "marked"
        return known
    revision = attempt.issue.revision
    try:
        marked = run_bounded(
            mark,
            revision.key_bytes,
            revision.rules,
            attempt.data,
            attempt.file_name,
            {"name": attempt.student.name, "group": attempt.issue.school_class.name},
            seconds=120,
        )
    except (UnreadableDrawing, RuleError, Refused) as why:
        attempt.state, attempt.trouble = "failed", getattr(why, "says", str(why))
        return None
    row = MarkSheetRow(
        attempt_id=attempt.id,
        engine_version=ENGINE_VERSION,
        sheet={
            "marks": marked.marks,
            "scene": marked.scene,
            "partners": marked.partners,
            "places": {str(i): at for i, at in marked.places.items()},
        },
        summary=summary_of(marked),
        earned=marked.earned,
        possible=marked.possible,
    )
    session.add(row)
    attempt.state, attempt.trouble = "marked", None
    session.flush()
    return row


def summary_of(marked: Marked) -> dict[str, Any]:
    """Return counts of verdicts and codes of causes, for lists."""
    verdicts = Counter(f["verdict"] for f in marked.marks["findings"])
    return {
        "verdicts": {v: verdicts.get(v, 0) for v in ("met", "near", "missed", "absent", "follows")},
        "causes": [c["code"] for c in marked.marks["causes"]],
        "share": float(marked.earned / marked.possible) if marked.possible else 0.0,
    }


def newest_sheet(session: Session, attempt_id: int) -> MarkSheetRow | None:
    """Return the newest mark sheet of an attempt."""
    return session.scalar(
        select(MarkSheetRow)
        .where(MarkSheetRow.attempt_id == attempt_id)
        .order_by(MarkSheetRow.id.desc())
        .limit(1)
    )
