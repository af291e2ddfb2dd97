"""What the steps of follow-through share: who follows whom, and which kinds say where or how large something
is."""

from __future__ import annotations

from evenmark.core.marking.kinds import those

Led = dict[int, int]
"""Which finding follows which, by their ids."""
PLACES = those(lambda k: k.settles == "place")
"""Kinds that say where something is."""
OWN = those(lambda k: k.settles in ("size", "place"))
"""Kinds that say where or how large something is."""
