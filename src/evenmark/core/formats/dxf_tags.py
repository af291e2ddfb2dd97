"""ASCII DXF text to tags, for files that are as the DXF reference says; quicker than the library's own
readers.

The text is taken as a list of lines instead of a stream, and points are put together in the same pass, which
halves what this step costs. Anything unusual (coordinates out of order, a number that is none) raises
ValueError: then the library's own readers, which know how to put such files in order, take over.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from ezdxf.lldxf.encoding import decode_dxf_unicode
from ezdxf.lldxf.types import BINARY_DATA, POINT_CODES, TYPE_TABLE, DXFBinaryTag, DXFTag, DXFVertex

COMMENT = 999
Tags = tuple[list[int], list[str]]
"""Group codes and their values, in file order."""


def tags(text: str) -> Iterator[DXFTag]:
    """Yield the typed tags of a whole file up to its EOF tag. Raises ValueError."""
    codes, values = split(text)
    n = min(len(codes), len(values))
    types = {code: TYPE_TABLE.get(code, str) for code in set(codes)}
    at = 0
    while at < n:
        code, value = codes[at], values[at]
        at += 1
        if code in POINT_CODES:
            if at >= n or codes[at] != code + 10:
                raise ValueError("a point has no y")
            if at + 1 < n and codes[at + 1] == code + 20:
                yield DXFVertex(code, (float(value), float(values[at]), float(values[at + 1])))
                at += 2
            else:
                yield DXFVertex(code, (float(value), float(values[at])))
                at += 1
        elif code in BINARY_DATA:
            yield DXFBinaryTag.from_string(code, value)
        elif code == 0:
            value = value.strip()
            yield DXFTag(0, value)
            if value == "EOF":
                return
        else:
            yield DXFTag(code, types[code](value))


def decoded(found: Iterable[DXFTag]) -> Iterator[DXFTag]:
    """Yield tags with every character that is written as its number (``\\U+00D8``) as what it is."""
    for tag in found:
        if isinstance(tag.value, str) and "\\U+" in tag.value:
            yield DXFTag(tag.code, decode_dxf_unicode(tag.value))
        else:
            yield tag


def split(text: str) -> Tags:
    """Return the group codes and the values of a text, without comments. Raises ValueError."""
    lines = text.split("\n")
    if not lines[-1]:
        lines.pop()
    # what stands behind the end is no concern of ours, and need not be tags
    end = next((i for i in range(len(lines) - 1, 0, -1) if lines[i].strip() == "EOF"), len(lines) - 1)
    words, values = lines[0 : end + 1 : 2], lines[1 : end + 1 : 2]
    numbers = {word: int(word) for word in set(words)}
    codes = [numbers[word] for word in words]
    if COMMENT in numbers.values():
        kept = [i for i, code in enumerate(codes[: len(values)]) if code != COMMENT]
        return [codes[i] for i in kept], [values[i] for i in kept]
    return codes, values
