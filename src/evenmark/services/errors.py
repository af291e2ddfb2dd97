"""What can stand against a request. Each says in one sentence what happened and what to do; none shows a
server path."""

from __future__ import annotations


class Refused(Exception):
    """Root of everything that a service refuses; ``says`` is for the person, ``code`` for the page."""

    code = "refused"

    def __init__(self, says: str, code: str | None = None) -> None:
        self.says = says
        if code:
            self.code = code
        super().__init__(says)

    def __reduce__(self) -> tuple[object, ...]:
        """Cross to another process with sentence and code."""
        return type(self), (self.says, self.code)


class NotSignedIn(Refused):
    """There is no session, or it has ended."""

    code = "not-signed-in"


class NotAllowed(Refused):
    """Somebody else's, or another role's."""

    code = "not-allowed"


class NotThere(Refused):
    """There is no such thing, or not for this person."""

    code = "not-there"


class NotUsable(Refused):
    """What was sent cannot be used as it is."""

    code = "not-usable"


class NoRoom(NotUsable):
    """What was sent finds no more room among what is kept of this person; nothing that is kept goes."""

    code = "no-room"


class Full(Refused):
    """The disk is nearly full: nothing more is taken in, and what is there can be read and taken away."""

    code = "full"


class Outdated(Refused):
    """What is to be changed was changed by somebody else meanwhile; nothing was done yet."""

    code = "changed-meanwhile"


class TooOften(Refused):
    """Too many attempts in a short time."""

    code = "too-often"
    seconds = 1
    """After how many it may be tried again."""


class Busy(Refused):
    """The work takes longer or more memory than is allowed."""

    code = "too-much-work"


class Crowded(Refused):
    """So many ask at once that this one has to come again; pages do so by themselves."""

    code = "crowded"

    def __init__(self, says: str = "Many drawings are being read just now. Try again in a moment.") -> None:
        super().__init__(says)

    def __reduce__(self) -> tuple[type[Crowded], tuple[str]]:
        return type(self), (self.says,)
