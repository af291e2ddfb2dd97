"""Changing an exercise: what it says, what it examines, its start drawing and further keys.

Three steps, so that nothing is held open while drawings are read: *begin* finds what is to be changed, the
work is done, *keep* keeps it if nobody changed the exercise meanwhile. An issued revision keeps what is
marked of it: the next one is made and changed. Title and text of an issued one are put right in place.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import TypedDict, cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.marking.model import RuleError
from evenmark.core.marking.rules_json import from_json
from evenmark.core.marking.rules_types import RulesJson
from evenmark.services.bounded import run_bounded
from evenmark.services.engine_work import look_at
from evenmark.services.errors import NotThere, NotUsable, Outdated
from evenmark.services.exercises import own_revision, stored_rules, told_text
from evenmark.services.key_work import draw_sheet, propose_anew, view_key
from evenmark.services.keys import KEY_SECONDS, examined, numbers_of, shown_by, start_of, title_of, unbound
from evenmark.services.record import note
from evenmark.store.models import Exercise, Revision, RevisionFile
from evenmark.store.people import Person, now

MOST_KEYS = 7
"""Keys accepted beside the first one."""
NEWER = "There is a newer revision of this exercise. Open that one to change it."
MEANWHILE = "Changed in another tab or by somebody else. Reload, then go on."
WORDS = {"title", "text"}


class Changes(TypedDict, total=False):
    """What may be changed of an exercise."""

    title: str
    text: str
    rules: RulesJson


@dataclass(frozen=True, kw_only=True, slots=True)
class Basis:
    """What is to be changed, as plain values."""

    revision_id: int
    changed_at: datetime
    title: str
    rules: RulesJson
    key: bytes
    key_name: str
    start: bytes | None
    other_keys: int
    school: str


@dataclass(frozen=True, kw_only=True, slots=True)
class ExerciseEdit:
    """What is to be kept of a change."""

    basis: Basis
    title: str | None = None
    text: str | None = None
    rules: RulesJson | None = None
    sheet: bytes | None = None
    add: RevisionFile | None = None
    drop: frozenset[tuple[str, str]] = field(default_factory=frozenset)
    """Part and hash of the drawings that go."""

    @property
    def words_only(self) -> bool:
        """Whether nothing that is marked changes."""
        return self.rules is None and self.add is None and not self.drop


def begin(
    session: Session,
    instructor: Person,
    revision_id: int,
    based_on: datetime | None = None,
    *,
    words: bool = False,
) -> Basis:
    """Return what is to be changed; ``words`` says that only title and text are.

    ``based_on`` is when the revision had last changed as the one who changes it knows it. Raises NotThere;
    Outdated when somebody changed it since, or there is a newer revision.
    """
    revision = own_revision(session, instructor, revision_id)
    if revision.exercise.revisions[-1].id != revision.id and not (words and revision.issued_at):
        raise Outdated(NEWER, "newer-revision")
    if based_on is not None and revision.changed_at != based_on:
        raise Outdated(MEANWHILE)
    return Basis(
        revision_id=revision.id,
        changed_at=revision.changed_at,
        title=revision.title,
        rules=revision.rules,
        key=revision.key_bytes,
        key_name=revision.key_name,
        start=start_of(revision),
        other_keys=len(revision.other_keys),
        school=instructor.school,
    )


def changed(basis: Basis, changes: Changes) -> ExerciseEdit:
    """Return what is to be kept of new words and rules. Raises NotUsable for a rule set that does not fit the
    key."""
    edit = ExerciseEdit(basis=basis)
    if "title" in changes:
        edit = replace(edit, title=title_of(changes["title"]))
    if "text" in changes:
        edit = replace(edit, text=told_text(str(changes["text"])))
    rules = basis.rules
    turned = False
    if "rules" in changes:
        turned = examined(changes["rules"]) != examined(basis.rules)
        # the sheet layout has other features than the model: what counts is then proposed anew
        rules = (
            _proposed_anew(basis, changes["rules"])
            if not turned and _lists_otherwise(changes["rules"], basis.rules)
            else _viewed(basis, unbound(changes["rules"]) if turned else changes["rules"])
        )
        edit = replace(edit, rules=rules)
    shows, shown = ((numbers_of(r), shown_by(r)) for r in (rules, basis.rules))
    if "title" in changes or turned or shows != shown:
        edit = replace(edit, sheet=_sheet(basis, edit.title or basis.title, rules))
    return edit


def _sheet(basis: Basis, title: str, rules: RulesJson) -> bytes:
    """Return the sheet that students get, drawn anew."""
    return run_bounded(
        draw_sheet,
        basis.key,
        title,
        basis.school,
        examined(rules),
        numbers_of(rules),
        shown_by(rules),
        seconds=KEY_SECONDS,
    )


def _lists_otherwise(rules: RulesJson, before: RulesJson) -> bool:
    """Say whether a change is about what the list is made of, and not about its lines."""
    try:
        now, was = from_json(rules), from_json(before)
    except RuleError as why:
        raise NotUsable(str(why), "rules") from why
    made_of = [(r.listing, r.ties, r.taken, r.decided) for r in (now, was)]
    return made_of[0] != made_of[1] and now.requirements == was.requirements


def _proposed_anew(basis: Basis, rules: RulesJson) -> RulesJson:
    """Return a rule set with its list proposed anew, and what was changed in it by hand. Raises
    NotUsable."""
    try:
        view = run_bounded(
            propose_anew, basis.key, basis.key_name, basis.rules, rules, basis.start, seconds=KEY_SECONDS
        )
    except RuleError as why:
        raise NotUsable(str(why), "rules") from why
    return stored_rules(view.rules)


def _viewed(basis: Basis, rules: RulesJson) -> RulesJson:
    """Return a rule set as it is kept, held against the key. Raises NotUsable."""
    try:
        view = run_bounded(view_key, basis.key, basis.key_name, rules, basis.start, seconds=KEY_SECONDS)
    except RuleError as why:
        raise NotUsable(str(why), "rules") from why
    return stored_rules(view.rules)


def with_file(basis: Basis, *, part: str, name: str, data: bytes) -> ExerciseEdit:
    """Return what is to be kept of a start drawing (in place of the one before), or of another key that is
    accepted as well.

    A start drawing changes what is left to draw, so what counts is proposed anew. Raises NotUsable.
    """
    if part == "key" and basis.other_keys >= MOST_KEYS:
        raise NotUsable(f"At most {MOST_KEYS + 1} keys are accepted. Remove one first.")
    try:
        refusal = run_bounded(look_at, data, name, examined(basis.rules)).refusal
        if refusal:
            raise NotUsable(refusal.says, refusal.code)
        if part == "key":
            run_bounded(view_key, data, name, unbound(basis.rules), basis.start, seconds=KEY_SECONDS)
    except UnreadableDrawing as why:
        raise NotUsable(why.says, why.code) from why
    except RuleError as why:
        raise NotUsable(str(why), "rules") from why
    file = RevisionFile(part=part, name=name[:255], sha256=hashlib.sha256(data).hexdigest(), data=data)
    edit = ExerciseEdit(basis=basis, add=file)
    return _begun_with(edit, data) if part == "start" else edit


def without_file(basis: Basis, part: str, sha256: str) -> ExerciseEdit:
    """Return what is to be kept when a start drawing or a further key is taken away again."""
    edit = ExerciseEdit(basis=basis, drop=frozenset({(part, sha256)}))
    return _begun_with(edit, None) if part == "start" else edit


def _begun_with(edit: ExerciseEdit, start: bytes | None) -> ExerciseEdit:
    """Return a change with its list proposed anew for another start drawing, and with the sheet's numbers.

    What is given is settled, so that the sheet may say everything now, or not any more.
    """
    basis = replace(edit.basis, start=start)
    rules = _viewed(basis, cast(RulesJson, {k: v for k, v in unbound(basis.rules).items() if k != "listing"}))
    sheet = _sheet(basis, basis.title, rules) if numbers_of(rules) != numbers_of(basis.rules) else None
    return replace(edit, rules=rules, sheet=sheet)


def file_of(session: Session, instructor: Person, revision_id: int, file_id: int) -> RevisionFile:
    """Return a start drawing or further key of an exercise. Raises NotThere."""
    revision = own_revision(session, instructor, revision_id)
    found = next((f for f in revision.files if f.id == file_id), None)
    if found is None:
        raise NotThere("This drawing is gone from the exercise. Reload the page.")
    return found


def keep(session: Session, instructor: Person, edit: ExerciseEdit) -> Revision:
    """Keep a change: in the revision itself, or in the next one where what is marked of an issued one
    changes.

    Raises Outdated when somebody changed the exercise while the work was done.
    """
    revision = own_revision(session, instructor, edit.basis.revision_id)
    session.execute(select(Exercise.id).where(Exercise.id == revision.exercise_id).with_for_update())
    session.refresh(revision, ["changed_at", "issued_at"])
    session.expire(revision.exercise, ["revisions"])
    if revision.changed_at != edit.basis.changed_at:
        raise Outdated(MEANWHILE)
    issued = revision.issued_at is not None
    if issued and edit.words_only:
        _note_words(session, instructor, revision, edit)
    elif revision.exercise.revisions[-1].id != revision.id:
        raise Outdated(NEWER, "newer-revision")
    elif issued:
        revision = next_revision(session, revision)
    for name, value in (
        ("title", edit.title),
        ("text", edit.text),
        ("rules", edit.rules),
        ("sheet_png", edit.sheet),
    ):
        if value is not None:
            setattr(revision, name, value)
    if edit.add is not None and edit.add.part == "start":
        revision.files = [f for f in revision.files if f.part != "start"]
    if edit.drop:
        revision.files = [f for f in revision.files if (f.part, f.sha256) not in edit.drop]
    if edit.add is not None:
        revision.files.append(edit.add)
    revision.changed_at = now()
    session.flush()
    return revision


def _note_words(session: Session, instructor: Person, revision: Revision, edit: ExerciseEdit) -> None:
    """Note that words of something issued were put right: students see the new ones from now on."""
    said = []
    if edit.title is not None and edit.title != revision.title:
        said.append(f"its title, which was “{revision.title}”, to “{edit.title}”")
    if edit.text is not None and edit.text != revision.text:
        said.append("the instructions")
    if said:
        says = (
            f"Corrected in “{revision.title}” revision {revision.number}, as it was issued: "
            f"{' and '.join(said)}."
        )
        note(session, instructor, "words", says, exercise_id=revision.exercise_id)


def next_revision(session: Session, old: Revision) -> Revision:
    """Return a new revision, the same as an old one so far."""
    number = max(r.number for r in old.exercise.revisions) + 1
    return same_again(session, old, old.exercise, number=number, title=old.title)


def same_again(session: Session, old: Revision, exercise: Exercise, *, number: int, title: str) -> Revision:
    """Return a revision of an exercise that says and examines what another one does."""
    revision = Revision(
        exercise=exercise,
        number=number,
        title=title,
        text=old.text,
        key_name=old.key_name,
        key_hash=old.key_hash,
        key_bytes=old.key_bytes,
        rules=old.rules,
        sheet_png=old.sheet_png,
        files=copies_of(old.files),
    )
    session.add(revision)
    session.flush()
    return revision


def copies_of(files: list[RevisionFile]) -> list[RevisionFile]:
    """Return the drawings beside a key once more, for another revision."""
    return [RevisionFile(part=f.part, name=f.name, sha256=f.sha256, data=f.data) for f in files]


def change_revision(
    session: Session,
    instructor: Person,
    revision_id: int,
    changes: Changes,
    based_on: datetime | None = None,
) -> Revision:
    """Change what an exercise says or examines within one transaction; pages take the three steps one by
    one."""
    basis = begin(session, instructor, revision_id, based_on, words=set(changes) <= WORDS)
    return keep(session, instructor, changed(basis, changes))


def add_file(
    session: Session, instructor: Person, revision_id: int, *, part: str, name: str, data: bytes
) -> Revision:
    """Give an exercise a start drawing or another key within one transaction."""
    basis = begin(session, instructor, revision_id)
    return keep(session, instructor, with_file(basis, part=part, name=name, data=data))


def remove_file(session: Session, instructor: Person, revision_id: int, file_id: int) -> Revision:
    """Take a start drawing or a further key away again, within one transaction."""
    going = file_of(session, instructor, revision_id, file_id)
    basis = begin(session, instructor, revision_id)
    return keep(session, instructor, without_file(basis, going.part, going.sha256))
