"""The Marking place: one attempt over its key, with what the instructor did to its marks, and who comes
before and after."""

from __future__ import annotations

import re
from typing import cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark import ENGINE_VERSION
from evenmark.core.marking.advice import lesson
from evenmark.core.marking.costs import costs_of
from evenmark.core.marking.differences import differences
from evenmark.core.marking.marks_types import MarksJson
from evenmark.core.marking.older_says import in_words_of_today
from evenmark.core.marking.override import held as with_overrides
from evenmark.core.marking.slips.records import SLIPS
from evenmark.core.marking.wording import centre_lines, for_reader, named
from evenmark.core.sheet.frame import Frame
from evenmark.core.sheet.marked import Mark
from evenmark.core.sheet.scene import frame_of, in_scene, scene
from evenmark.services.acts import history
from evenmark.services.classes import is_in, students_of
from evenmark.services.errors import NotUsable
from evenmark.services.hand_in import attempts_of
from evenmark.services.issues import drawn_here, issue_head, newest_attempts, own_attempt
from evenmark.services.key_work import KeyView
from evenmark.services.keys import key_view
from evenmark.services.marking import newest_sheet
from evenmark.services.people import told_apart
from evenmark.services.shown_marks import (
    AsMarked,
    AttemptPage,
    DiffersView,
    FindingView,
    MarkingHead,
    MarksView,
    Neighbours,
    ShownCause,
)
from evenmark.services.standing import (
    CurrentMarks,
    MarksSummary,
    acts_of,
    glances,
    held_of,
    overrides_of,
    returned_of,
    returned_word,
)
from evenmark.store.models import Attempt, Issue, MarkSheetRow, Returned, Revision
from evenmark.store.people import Person

_ONLY = re.compile(r"(finding|cause)-([a-z0-9-]{1,40})")


def _asked(only: str) -> tuple[str, str]:
    """Return what is gone through, "finding" or "cause", and which. Raises NotUsable."""
    asked = _ONLY.fullmatch(only)
    if asked is None:
        raise NotUsable("Choose a check or a slip to review.")
    return asked[1], asked[2]


def shows(stand: MarksSummary, only: str) -> bool:
    """Say whether marks show a finding missed ("finding-12") or a cause ("cause-gap"). Raises NotUsable for
    anything else."""
    what, which = _asked(only)
    if what == "cause":
        return which in stand.causes
    return stand.key == 0 and which.isdigit() and stand.misses(int(which))


def attempt_in_full(
    session: Session, instructor: Person, attempt_id: int, only: str | None = None
) -> AttemptPage:
    """Return one attempt over its key: scenes, findings, causes, comments, history, and its neighbours in the
    class.

    ``only`` leaves those students out as neighbours whose drawing does not show a finding or cause.
    """
    attempt = own_attempt(session, instructor, attempt_id)
    sheet = newest_sheet(session, attempt.id)
    key = key_view(*key_of(attempt, sheet))
    returned = returned_of(session, [attempt.id]).get(attempt.id)
    out: AttemptPage = {
        **_head(session, attempt),
        **_neighbours(session, attempt, only),
        "key": key.scene,
        "drawn": None,
        "marks": None,
        "engine_version": sheet.engine_version if sheet else None,
        "outdated": sheet is not None and sheet.engine_version != ENGINE_VERSION,
        "returned": "no",
        "returned_earned": float(returned.earned) if returned else None,
        "comments": [],
        "history": history(session, attempt),
        "layers_asked": key.reading["layers"],
        "layers_drawn": attempt.reading.get("layers", []),
        "differs": None,
    }
    if sheet is not None:
        return {**out, **_as_marked(session, attempt, sheet, key, returned)}
    return out


def _head(session: Session, attempt: Attempt) -> MarkingHead:
    """Return whose attempt it is, of what, and when it came."""
    issue = attempt.issue
    names = told_apart([*students_of(session, issue.class_id), *_if_left(session, attempt)])
    tries = attempts_of(session, issue.id, attempt.student_id)
    return {
        "attempt_id": attempt.id,
        "issue": issue_head(session, issue),
        "student": names[attempt.student_id],
        "try_number": attempt.number,
        "tries": [{"attempt_id": a.id, "number": a.number} for a in tries],
        "file_name": attempt.file_name,
        "drawn_here": drawn_here(session, attempt.id),
        "handed_in_at": attempt.handed_in_at,
        "late": attempt.late,
        "state": attempt.state,
        "trouble": attempt.trouble,
    }


def _as_marked(
    session: Session, attempt: Attempt, sheet: MarkSheetRow, key: KeyView, returned: Returned | None
) -> AsMarked:
    """Return what its mark sheet says, with what was decided about it since."""
    held = held_of(acts_of(session, [attempt.id])[attempt.id])
    which = sheet.sheet.get("key", 0)
    kept = in_words_of_today(sheet.sheet["marks"], sheet.engine_version)
    marks = with_overrides(kept, overrides_of(held, which), attempt.issue.revision.rules)
    stand = CurrentMarks(
        sheet_id=sheet.id, engine_version=sheet.engine_version, key=which, marks=marks, held=held
    )
    frame = frame_of(key.tracing)
    return {
        "drawn": scene(sheet.sheet["drawn"], frame),
        "marks": marks_view(marks, sheet, frame, centre_lines(key.rules["requirements"])),
        "returned": returned_word(stand, returned),
        "comments": [
            {**c, "number": n, "at": in_scene(c["at"], frame)}
            for n, c in enumerate(held.get("comments", []), 1)
        ],
        "differs": _differs(session, sheet, returned.sheet_id if returned else None),
    }


def key_of(attempt: Attempt, sheet: MarkSheetRow | None) -> tuple[Revision, int]:
    """Return the revision of an attempt, and which of its keys the attempt was held against."""
    return attempt.issue.revision, sheet.sheet.get("key", 0) if sheet else 0


def _if_left(session: Session, attempt: Attempt) -> list[Person]:
    """Return the student of an attempt where they are not in the class any more."""
    return [] if is_in(session, attempt.issue.class_id, attempt.student_id) else [attempt.student]


def _neighbours(session: Session, attempt: Attempt, only: str | None) -> Neighbours:
    """Return who comes before and after in the class, of those that are gone through."""
    issue: Issue = attempt.issue
    newest = {a.student_id: a for a in newest_attempts(session, [issue.id]).values()}
    order = [newest[p.id] for p in students_of(session, issue.class_id) if p.id in newest]
    if only:
        found = glances(session, {a.id: issue.revision.rules for a in order})
        order = [
            a
            for a in order
            if a.student_id == attempt.student_id or (a.id in found and shows(found[a.id], only))
        ]
    here = next((n for n, a in enumerate(order) if a.student_id == attempt.student_id), 0)
    given = returned_of(session, [a.id for a in order])
    after = [*order[here + 1 :], *order[:here]]
    return {
        "place": here + 1,
        "of": len(order),
        "previous": order[here - 1].id if here > 0 else None,
        "next": order[here + 1].id if here + 1 < len(order) else None,
        "next_open": next((a.id for a in after if a.id not in given and a.state == "marked"), None),
        "only": only,
        "only_name": _only_name(session, attempt, only) if only else None,
    }


def _only_name(session: Session, attempt: Attempt, only: str) -> str:
    what, which = _asked(only)
    if what == "cause":
        return SLIPS[which].title if which in SLIPS else which
    sheet = newest_sheet(session, attempt.id)
    findings = sheet.sheet["marks"]["findings"] if sheet else []
    found = next((f for f in findings if str(f["id"]) == which), None)
    if found is None:
        return f"Finding {which}"
    return named(found, centre_lines(findings))


def _differs(session: Session, newest: MarkSheetRow, returned_sheet: int | None) -> DiffersView | None:
    """Return what a newer engine sees otherwise than the sheet that was returned, else than the one
    before."""
    before_id = returned_sheet
    if before_id is None:
        before_id = session.scalar(
            select(MarkSheetRow.id)
            .where(MarkSheetRow.attempt_id == newest.attempt_id, MarkSheetRow.id < newest.id)
            .order_by(MarkSheetRow.id.desc())
            .limit(1)
        )
    if before_id is None or before_id == newest.id:
        return None
    before = session.get_one(MarkSheetRow, before_id)
    found = differences(before.sheet["marks"], newest.sheet["marks"])
    return {**found, "engine_before": before.engine_version, "engine_after": newest.engine_version}


def sketch_in_scene(mark: Mark, frame: Frame) -> Mark:
    """Return a mark of a sketch with its places in the scene; angles and radii stay as they are."""
    other = frame.at(mark["b"]) if mark["as"] in ("span", "back") else mark["b"]
    return {**mark, "a": frame.at(mark["a"]), "b": other}


def marks_view(
    marks: MarksJson, sheet: MarkSheetRow, frame: Frame, centre: frozenset[str] = frozenset()
) -> MarksView:
    """Return marks for the Marking page: findings named and placed in the key's scene; ``centre`` are the
    centre lines."""
    partners, places = sheet.sheet["partners"], sheet.sheet["places"]
    sketches = sheet.sheet.get("sketches", {})
    findings: list[FindingView] = []
    for f in marks["findings"]:
        seen_at = in_scene(places.get(str(f["id"])), frame)
        read = for_reader(f)
        read.pop("of", None)
        shown = cast(FindingView, read)
        findings.append(
            {
                **shown,
                "layer": f.get("layer"),
                "name": named(f, centre),
                "at": in_scene(f["at"], frame) or seen_at,
                "seen_at": seen_at,
                "partners": [partners[i] for i in f["features"] if i in partners],
                "items": [{**item, "at": in_scene(item["at"], frame)} for item in f.get("items", [])],
                "sketch": [sketch_in_scene(m, frame) for m in sketches.get(str(f["id"]), [])],
            }
        )
    return {
        "unit": marks["unit"],
        "placement": marks["placement"],
        "earned": marks["score"]["earned"],
        "possible": marks["score"]["possible"],
        "findings": findings,
        "causes": causes_view(marks, centre),
        "notes": marks["notes"],
    }


def causes_view(marks: MarksJson, centre: frozenset[str] = frozenset()) -> list[ShownCause]:
    """Return causes with their titles, what they cost, and what there is to learn from each."""
    costs, _ = costs_of(marks)
    return [
        {
            **c,
            "title": SLIPS[c["code"]].title,
            "costs": float(costs[c["id"]]),
            "set_aside": c.get("set_aside", False),
            "lesson": lesson(c, marks["findings"], marks["unit"], centre),
        }
        for c in marks["causes"]
    ]
