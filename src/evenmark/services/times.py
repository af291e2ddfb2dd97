"""Times as they are said at a school: in its own zone, with day and year."""

from __future__ import annotations

from datetime import UTC, datetime, tzinfo
from functools import cache
from zoneinfo import ZoneInfo, available_timezones

from evenmark.store.people import Person


def zone_of(instructor: Person) -> tzinfo:
    """Return the zone of an instructor's school; UTC where none is said, or none of that name is known
    here."""
    return ZoneInfo(instructor.zone) if is_zone(instructor.zone) else UTC


def is_zone(name: str) -> bool:
    """Say whether there is a time zone of a name."""
    return name in _zones()


@cache
def _zones() -> frozenset[str]:
    return frozenset(available_timezones())


def said(at: datetime, instructor: Person) -> str:
    """Return a time as the school says it: ``Fri 4 Dec 2026, 16:00``.

    >>> said(datetime(2026, 12, 4, 15, 0, tzinfo=UTC), Person(zone="Europe/Berlin"))
    'Fri 4 Dec 2026, 16:00'
    """
    here = at.astimezone(zone_of(instructor))
    return f"{DAYS[here.weekday()]} {here.day} {MONTHS[here.month - 1]} {here.year}, {here:%H:%M}"


def offset(at: datetime | None) -> str:
    """Return how far a time's zone is from UTC, as ISO 8601 writes it: ``+01:00``; nothing for no time."""
    text = f"{at:%z}" if at else ""
    return f"{text[:3]}:{text[3:]}" if text else ""


DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
