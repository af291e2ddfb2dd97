"""Plain words and numbers: text without characters that cannot be kept, or that make it look like something
else, and numbers without what no reader needs.

- *control*: characters that print nothing and command a device (Unicode category Cc), line ends apart; and
  what is no character at all: code units (Cs, "lone surrogates") and the noncharacters (The Unicode Standard,
  23.7), which no file, page or database can be trusted to hold. What is kept has none of them, by this one
  rule: requests, sentences, documents and drawings are held against it.
- *line end*: whatever begins another line where text is read by lines (``str.splitlines``).
- *hidden*: characters of no width, and those that turn the direction of writing (category Cf): harmless in a
  script that needs them, and a way to make one name look like another.
"""

from __future__ import annotations

import re
import unicodedata

_NO_CHARACTERS = "\ufdd0-\ufdef" + "".join(
    f"{chr(p + 0xFFFE)}{chr(p + 0xFFFF)}" for p in range(0, 0x110000, 0x10000)
)
CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff" + _NO_CHARACTERS + "]")
"""Control characters and what is no character, line ends (as ``\\n``) and tabs apart."""
_LINE_END = re.compile("[\n\r\x0b\x0c\x1c-\x1e\x85\u2028\u2029]")
_HIDDEN = re.compile(
    "[\u00ad\u061c\u180e\u200b\u200e\u200f\u2028-\u202e\u2060-\u206f\ufeff\ufff9-\ufffb\U000e0000-\U000e007f]"
)
_JOINERS = frozenset("\u200c\u200d")
"""Hidden too, but words of some scripts are spelled with them."""


DECIMALS = 9
"""Decimals of every number that is written out."""


def plain_number(value: float) -> float:
    """Return a number as it is written out: with 9 decimals and no minus zero.

    >>> plain_number(-0.0), plain_number(1 / 3)
    (0.0, 0.333333333)
    """
    return round(float(value), DECIMALS) + 0.0


def one_line(text: str) -> str:
    """Return a text with a blank for each line end in it: no letter of it moves.

    >>> one_line("line 0, 0;\\u2028 5, 0")
    'line 0, 0;  5, 0'
    """
    return text if text.isprintable() else _LINE_END.sub(" ", text)


def why_not_kept(text: str) -> tuple[str, int] | None:
    """Return why a text of one line cannot be kept, and at which letter; None where it can.

    >>> why_not_kept('text "A\\x02B"')
    ('A character here cannot be seen or saved (U+0002). Delete it.', 7)
    """
    if text.isprintable():
        return None
    found = CONTROL.search(text) or _LINE_END.search(text)
    if found is None:
        return None
    return f"A character here cannot be seen or saved (U+{ord(found[0]):04X}). Delete it.", found.start()


def is_plain(text: str) -> bool:
    """Say whether a text holds neither control nor hidden characters; line ends and tabs are plain.

    >>> is_plain("Gate\\nplate"), is_plain("AB\\x00C"), is_plain("a\\u202eb")
    (True, False, False)
    """
    return text.isprintable() or not (CONTROL.search(text) or _HIDDEN.search(text))


def shown(text: str) -> str:
    """Return a text as it can be kept and shown: a control character as the replacement sign, a hidden one by
    its number.

    >>> shown("AB\\x00C"), shown("a\\u202eb")
    ('AB\\ufffdC', 'a‹U+202E›b')
    """
    if text.isprintable():
        return text
    text = CONTROL.sub("\ufffd", text)
    return _HIDDEN.sub(lambda found: f"‹U+{ord(found[0]):04X}›", text)


def hidden_in_name(name: str) -> bool:
    """Say whether a name of a person or thing holds what a name may not: control and hidden characters, line
    ends and tabs too.

    Joiners are allowed between letters, where some scripts spell with them.
    """
    for at, c in enumerate(name):
        kind = unicodedata.category(c)
        if kind in ("Cc", "Cs", "Cn", "Co", "Zl", "Zp"):
            return True
        if kind == "Cf" and not (c in _JOINERS and 0 < at < len(name) - 1 and name[at - 1].isalpha()):
            return True
    return False
