"""What is said of a slip, whatever finds it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True, slots=True)
class Slip:
    """A slip: its ``code``; its ``title`` without numbers, for results that show which checks were missed but
    no sizes; what it ``means``, as the docs say it; how to keep it from happening again, ``advice`` in one or
    two plain sentences to the student (common practice of the drawing room, no published source). Nothing is
    left to a default.
    """

    code: str
    title: str
    means: str
    advice: str
