"""What students see: their work, and their own results as they were returned; nothing of a key's geometry."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from evenmark.core.marking.advice import LessonJson
from evenmark.core.marking.marks_types import FindingJson
from evenmark.core.marking.override import held as with_overrides
from evenmark.core.marking.withheld import withheld
from evenmark.core.marking.wording import centre_lines, for_reader, named
from evenmark.core.sheet.frame import Frame
from evenmark.core.sheet.scene import frame_of, in_scene, scene
from evenmark.services.errors import NotThere
from evenmark.services.issues import issue_head
from evenmark.services.marking_view import causes_view, sketch_in_scene
from evenmark.services.shown_marks import OwnFinding, OwnResult, ShownCause, ShownComment
from evenmark.services.standing import VERDICTS, overrides_of, returned_of
from evenmark.services.terms import terms_of
from evenmark.services.your_steps import steps_of
from evenmark.store.kept import KeptSheet
from evenmark.store.models import Attempt, Issue, Returned
from evenmark.store.people import Person


def own_attempt_of(session: Session, student: Person, attempt_id: int) -> Attempt:
    """Return a student's own attempt. Raises NotThere for anybody else's."""
    attempt = session.get(Attempt, attempt_id)
    if attempt is None or attempt.student_id != student.id:
        raise NotThere("No such attempt of yours. Go back to My work.")
    return attempt


def state_of(attempt: Attempt, returned: Returned | None) -> str:
    """Return an attempt's state as its student sees it: marked only once the marks are returned."""
    return "kept" if attempt.state == "marked" and returned is None else attempt.state


def my_result(session: Session, student: Person, attempt_id: int) -> OwnResult:
    """Return a student's own result as it was returned, with as much detail as the exercise allows and
    nothing of the key's geometry.

    ``score`` gives marks only; ``checks`` names the checks and slips without sizes; ``numbers`` gives
    everything measured.
    """
    attempt = own_attempt_of(session, student, attempt_id)
    issue = session.get_one(Issue, attempt.issue_id)
    returned = returned_of(session, [attempt.id]).get(attempt.id)
    terms = terms_of(session, issue, student.id)
    out: OwnResult = {
        "attempt_id": attempt.id,
        "issue": issue_head(session, issue),
        "number": attempt.number,
        "file_name": attempt.file_name,
        "handed_in_at": attempt.handed_in_at,
        "late": attempt.late,
        "state": state_of(attempt, returned),
        "ahead": _ahead(session, attempt),
        "trouble": attempt.trouble,
        "tries_left": terms.tries_left,
        "shut": terms.shut[0] if terms.shut else None,
        "detail": issue.detail,
        "earned": float(returned.earned) if returned else None,
        "possible": float(returned.possible) if returned else None,
        "verdicts": None,
        "board_id": attempt.board_id,
        "drawn": None,
        "findings": [],
        "causes": [],
        "comments": [],
        "notes": [],
        "unit": None,
    }
    if returned is None:
        return out
    sheet = returned.sheet
    marks = with_overrides(
        sheet.sheet["marks"], overrides_of(returned.held, sheet.sheet.get("key", 0)), issue.revision.rules
    )
    marks = withheld(marks)
    # in a frame of its own: where the drawing was laid on the key is the key's own secret
    out["drawn"], out["notes"], out["unit"] = scene(sheet.sheet["drawn"]), marks["notes"], marks["unit"]
    frame = frame_of(sheet.sheet["drawn"])
    out["comments"] = _comments(returned, frame, issue.detail)
    if issue.detail == "score":
        return out
    numbers = issue.detail == "numbers"
    centre = centre_lines(marks["findings"])
    out["verdicts"] = {v: sum(1 for f in marks["findings"] if f["verdict"] == v) for v in VERDICTS}
    out["findings"] = [_finding(f, sheet.sheet, frame, numbers, centre) for f in marks["findings"]]
    out["causes"] = [_cause(c, numbers) for c in causes_view(marks, centre) if not c["set_aside"]]
    return out


def _ahead(session: Session, attempt: Attempt) -> int | None:
    """Return how many drawings are marked before one that waits."""
    if attempt.state != "waiting":
        return None
    before = select(func.count(Attempt.id)).where(Attempt.state == "waiting", Attempt.id < attempt.id)
    return session.scalar(before) or 0


def _finding(
    f: FindingJson, sheet: KeptSheet, frame: Frame, numbers: bool, centre: frozenset[str]
) -> OwnFinding:
    places, partners = sheet["places"], sheet["partners"]
    shown = numbers and f["verdict"] != "absent"
    sketches = sheet.get("sketches", {}).get(str(f["id"]), []) if shown else []
    by_hand = f.get("engine")
    read = for_reader(f)
    return {
        "id": f["id"],
        "kind": f["kind"],
        "name": named(f, centre),
        "verdict": f["verdict"],
        "earned": f["earned"],
        "possible": f["possible"],
        "taken": f.get("taken"),
        "follows": f["follows"],
        "causes": f["causes"],
        "at": in_scene(places.get(str(f["id"])), frame) if f["verdict"] != "absent" else None,
        "partners": [partners[i] for i in f["features"] if i in partners],
        "expected": read["expected"] if numbers else None,
        "measured": read["measured"] if numbers else None,
        "deviation": read["deviation"] if numbers else None,
        "why": f.get("why") if numbers and not by_hand else None,
        "reason": f.get("reason"),
        "by_hand": by_hand is not None,
        "yours": steps_of(f, partners, sheet.get("yours", {})),
        "sketch": [
            sketch_in_scene(m, frame)
            for m in sketches
            if m["tone"] == "drawn"  # what the key asks is not for students' eyes
        ],
    }


def _cause(c: ShownCause, numbers: bool) -> ShownCause:
    """Return a cause for its student; without numbers it says what happened and how to avoid it, and no
    size."""
    plain: LessonJson = {"lines": [], "more": 0, "avoid": c["lesson"]["avoid"]}
    return {
        "id": c["id"],
        "code": c["code"],
        "title": c["title"],
        "says": c["says"] if numbers else f"{c['title']}.",
        "explains": c["explains"],
        "costs": c["costs"],
        "set_aside": False,
        "lesson": c["lesson"] if numbers else plain,
    }


def _comments(returned: Returned, frame: Frame, detail: str) -> list[ShownComment]:
    """Return the comments that were returned, placed in the scene of what was drawn; the reasons of overrides
    stand at their findings."""
    out: list[ShownComment] = []
    for n, c in enumerate(returned.held.get("comments", []), 1):
        out.append(
            {
                **c,
                "number": n,
                "finding": c["finding"] if detail != "score" else None,
                "at": in_scene(c.get("at"), frame),
            }
        )
    return out
