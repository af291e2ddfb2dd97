"""Keeping classes in order: renaming, duplicating, ending them with the year and bringing them back. Deleting
one wipes it (`wiping`)."""

from __future__ import annotations

from sqlalchemy.orm import Session

from evenmark.services import room
from evenmark.services.classes import class_name, enrol, make_class, own_class, students_of
from evenmark.services.errors import NotUsable
from evenmark.services.record import note
from evenmark.store.people import Person, SchoolClass, now


def rename(session: Session, instructor: Person, class_id: int, name: str) -> SchoolClass:
    """Give a class another name; drawings of what was issued before go on asking for the name that it had
    then."""
    group = own_class(session, instructor, class_id)
    name = class_name(name)
    if name != group.name:
        note(session, instructor, "renamed", f"Renamed the class “{group.name}” to “{name}”.", group=group)
        group.name = name
        session.flush()
    return group


def give_room(session: Session, instructor: Person, class_id: int, student_mb: int) -> SchoolClass:
    """Say how many megabytes the drawings of one student of a class may take up. Raises NotUsable."""
    group = own_class(session, instructor, class_id)
    if not room.LEAST_MB <= student_mb <= room.MOST_MB:
        raise NotUsable(f"Give each student between {room.LEAST_MB} and {room.MOST_MB:,} MB.")
    if student_mb != group.student_mb:
        sizes = f"{student_mb:,} MB, was {group.student_mb:,} MB"
        says = f"Storage for each student of “{group.name}”: {sizes}."
        note(session, instructor, "room", says, group=group)
        group.student_mb = student_mb
        session.flush()
    return group


def archive(session: Session, instructor: Person, class_id: int, *, away: bool) -> SchoolClass:
    """End a class, or bring it back: while it is over it can be read, and nothing is issued to it or handed
    in."""
    group = own_class(session, instructor, class_id)
    if (group.archived_at is not None) != away:
        group.archived_at = now() if away else None
        word = "Ended" if away else "Restored"
        note(
            session,
            instructor,
            "archived" if away else "back",
            f"{word} the class “{group.name}”.",
            group=group,
        )
        session.flush()
    return group


def duplicate(
    session: Session, instructor: Person, class_id: int, name: str, *, students: bool
) -> SchoolClass:
    """Make a new class, with the same students if wanted; nothing that was issued or handed in comes
    along."""
    old = own_class(session, instructor, class_id)
    group = make_class(session, instructor, name)
    for person in students_of(session, old.id) if students else []:
        enrol(session, person, group)
    return group
