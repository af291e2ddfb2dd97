"""How much of a file is read, and what may go wrong in one that is not as it should be."""

from __future__ import annotations

import struct

from ezdxf.lldxf.const import DXFError

MOST_ENTITIES = 200_000
"""What one file may hold."""
MOST_UNFOLDED = 60_000
"""Objects of blocks that are looked at in one file, those that are left out included: references inside
references multiply."""
MOST_REFERENCES = 5_000
"""Block references that are unfolded in one file; each costs as much as a hundred lines."""
REFERENCE_WEIGHT = 10
"""As how many objects a block reference inside a block counts: moving it takes so much longer."""
FARTHEST = 1e12
"""Coordinates beyond this are no drawing: a thousandth is no longer held exactly there by a 64-bit number."""

BREAKS = (
    DXFError,
    ArithmeticError,
    ValueError,
    KeyError,
    IndexError,
    TypeError,
    AttributeError,
    RecursionError,
    OSError,
    NotImplementedError,
    AssertionError,
    StopIteration,
    ImportError,
    EOFError,
    struct.error,
)
"""What a library or we may raise over a file that is not as it should be; anything else is a fault of
ours."""
