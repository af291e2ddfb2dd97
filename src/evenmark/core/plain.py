"""Plain words and numbers: text without characters that cannot be kept, or that make it look like something
else, and numbers without what no reader needs.

- *control*: characters that print nothing and command a device (Unicode category Cc), line ends apart; and
  code units that are no character at all (Cs, "lone surrogates"), which no file, page or database can hold.
- *hidden*: characters of no width, and those that turn the direction of writing (category Cf): harmless in a
  script that needs them, and a way to make one name look like another.
"""

from __future__ import annotations

import re
import unicodedata

CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff]")
"""Control characters and lone surrogates, line ends (as ``\\n``) and tabs apart."""
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
