"""ZIP archives of drawings, checked before anything is unpacked (OWASP, guidance on ZIP bombs: bound the
count, the declared and the real size, and never use a member's path).

- *member*: one file of an archive; its path is only shown and read for names, never written to.
"""

from __future__ import annotations

import io
import zipfile
import zlib
from dataclasses import dataclass

from evenmark.core.formats.errors import UnreadableDrawing
from evenmark.core.formats.sniff import MOST_BYTES

MOST_MEMBERS = 400
"""A large class with a few tries each."""
MOST_UNPACKED = 128 * 1024 * 1024
"""What all members may have together, unpacked."""
MOST_RATIO = 200
"""How much smaller a member of some size may be packed; drawings pack to a tenth, rarely to a fiftieth."""
RATIO_FROM = 1024 * 1024
_METHODS = frozenset([zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED])
_PASSED_OVER = ("__macosx/", ".", "thumbs.db", "desktop.ini")

UNNAMED = "a file without a name"


class UnusableArchive(UnreadableDrawing):
    """The archive cannot be unpacked, or holds more than drawings need."""

    code = "archive"
    default = (
        "The archive is damaged and cannot be unpacked. Pack the drawings again as a plain ZIP, then "
        "choose that file."
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Member:
    """One file of an archive: its path as packed, and its bytes, or why it was not unpacked."""

    path: str
    data: bytes = b""
    trouble: str | None = None


def is_archive(data: bytes) -> bool:
    """Say whether bytes are a ZIP archive."""
    return data[:4] in (b"PK\x03\x04", b"PK\x05\x06")


def unpack(data: bytes) -> list[Member]:
    """Return the files of an archive in the order of their paths; folders and what systems leave behind are
    passed over.

    Raises UnusableArchive for one that is broken, holds too much, or claims sizes no drawings have.
    """
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
        # not by is_dir(), which breaks on a name that is empty
        members = [
            m for m in archive.infolist() if not m.filename.endswith("/") and not _left_behind(m.filename)
        ]
    except (zipfile.BadZipFile, ValueError, NotImplementedError, OSError, UnicodeError) as why:
        raise UnusableArchive from why
    if len(members) > MOST_MEMBERS:
        raise UnusableArchive(
            f"The archive holds {len(members)} files; at most {MOST_MEMBERS} are taken at once. Split it."
        )
    if not members:
        raise UnusableArchive("The archive is empty. Put the drawings into it, then choose it again.")
    if sum(m.file_size for m in members) > MOST_UNPACKED:
        raise UnusableArchive(
            f"Unpacked, the archive would have more than {MOST_UNPACKED // 1048576} MB. Leave out what is "
            "not a drawing, or split it."
        )
    left = MOST_UNPACKED
    out = []
    for m in sorted(members, key=lambda m: m.filename):
        member = _member(archive, m, min(MOST_BYTES, left))
        left -= len(member.data)
        out.append(member)
    return out


def _left_behind(path: str) -> bool:
    plain = path.replace("\\", "/").lower()
    name = plain.rsplit("/", 1)[-1]
    return plain.startswith(_PASSED_OVER[0]) or name.startswith(_PASSED_OVER[1]) or name in _PASSED_OVER[2:]


def _member(archive: zipfile.ZipFile, m: zipfile.ZipInfo, most: int) -> Member:
    path = "".join(c for c in m.filename.replace("\\", "/") if c.isprintable())[:400] or UNNAMED
    if m.flag_bits & 0x1:
        return Member(path=path, trouble="It is packed with a password. Pack it again without one.")
    if m.compress_type not in _METHODS:
        return Member(path=path, trouble="It is packed in an unusual way. Pack it again as a plain ZIP.")
    if m.file_size > MOST_BYTES:
        return Member(
            path=path, trouble=f"It has more than {MOST_BYTES // 1048576} MB, which no exercise needs."
        )
    if m.file_size > RATIO_FROM and m.file_size > MOST_RATIO * max(1, m.compress_size):
        return Member(
            path=path, trouble="It claims to be far larger than it is packed. It was left out for safety."
        )
    try:
        with archive.open(
            m
        ) as packed:  # the size that the archive claims is not believed: no more than this is ever unpacked
            data = packed.read(most + 1)
    except (zipfile.BadZipFile, zlib.error, RuntimeError, NotImplementedError, OSError, EOFError, ValueError):
        return Member(path=path, trouble="It is damaged inside the archive. Pack it again.")
    if len(data) > most:
        return Member(path=path, trouble="It is larger than the archive says. It was left out for safety.")
    return Member(path=path, data=data)
