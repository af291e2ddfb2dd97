"""The drawn feature that was meant as a key feature."""

from __future__ import annotations

from typing import NamedTuple


class DrawnPartner(NamedTuple):
    """The drawn feature of a key feature; ``flipped`` when its end answers to the key's start."""

    id: str
    flipped: bool = False
    exact: bool = False
