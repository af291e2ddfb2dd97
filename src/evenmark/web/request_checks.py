"""What every request has to be before a route sees it: from our own pages, in a form that can be read,
without what nothing can keep.

- *own pages*: whatever changes anything takes JSON or multipart alone, and comes from where the pages come
  from (``Sec-Fetch-Site``, ``Origin``), so that no other site can have a browser sign in, join or sign out
  (OWASP ASVS 4, 4.2.2 and 13.2.3).
- *bad words*: control characters and lone surrogates; line ends and tabs are none.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterable
from ipaddress import IPv4Network, IPv6Network, ip_address, ip_network
from typing import Any
from urllib.parse import urlsplit

from flask import request

from evenmark.core.plain import CONTROL
from evenmark.services.errors import NotAllowed, NotUsable

MOST_JSON = 1024 * 1024
"""Of a form; a few kinds are longer or shorter, by the name of their route."""
MOST_BY_KIND = {
    "boards.save": 4 * 1024 * 1024,
    "boards.part": 4 * 1024 * 1024,
    "boards.ask": 4 * 1024 * 1024,
    "exercises.change": 4 * 1024 * 1024,
    "boards.check": 1000,
    "boards.hand_in_board": 1000,
    "boards.understood": 1000,
    "people.sign_in": 4000,
    "people.join": 4000,
    "people.use_code": 4000,
    "people.forgotten": 4000,
    "marking.comment": 20_000,
    "marking.override": 20_000,
}
LARGEST = 2**31 - 1
"""No whole number in a request means anything beyond what the database counts with."""
READS = ("GET", "HEAD", "OPTIONS")
Wsgi = Any


def look_over() -> None:
    """Refuse a request that no page of ours sends. Raises NotAllowed, NotUsable."""
    for name, value in request.args.items(multi=True):
        _plain_word(name)
        _plain_word(value)
    if request.method in READS:
        return
    _from_own_pages()
    if request.content_length and request.mimetype not in ("application/json", "multipart/form-data"):
        raise NotUsable("What was sent has an unknown form. Reload the page, then try again.", "form")
    if request.mimetype == "application/json":
        _json()
    elif request.mimetype == "multipart/form-data":
        for name, value in request.form.items(multi=True):
            _plain_word(name)
            _plain_word(value)


def _from_own_pages() -> None:
    said = NotAllowed("This came from another site. Open Even Mark itself, then try again.", "other-site")
    if request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        raise said
    origin = request.headers.get("Origin")
    if origin is not None and urlsplit(origin).netloc.lower() != request.host.lower():
        raise said


def _json() -> None:
    most = MOST_BY_KIND.get(request.endpoint or "", MOST_JSON)
    request.max_content_length = most  # also where the length was not said before
    if (request.content_length or 0) > most:
        raise NotUsable("The text is too long. Shorten it, then try again.", "form")
    data = request.get_data(cache=True)
    if not data:
        return
    try:
        value = json.loads(data, parse_constant=_no_constant)
    except (ValueError, RecursionError) as why:
        raise NotUsable("What was sent could not be read. Reload the page, then try again.", "form") from why
    waiting = [value]
    while waiting:
        one = waiting.pop()
        if isinstance(one, dict):
            for name in one:
                _plain_word(name)
            waiting.extend(one.values())
        elif isinstance(one, list):
            waiting.extend(one)
        elif isinstance(one, str):
            _plain_word(one)
        elif (isinstance(one, float) and not math.isfinite(one)) or (
            isinstance(one, int) and not -LARGEST <= one <= LARGEST
        ):
            raise NotUsable("A number in the form is too large. Type a smaller one.")


def _no_constant(name: str) -> float:
    raise ValueError(name)


def _plain_word(word: str) -> None:
    if CONTROL.search(word.replace("\r\n", "\n").replace("\r", "\n")):
        raise NotUsable(
            "The form holds a character that cannot be seen or saved. Type it instead of pasting it."
        )


class Forwarded:
    """Takes the caller's address, scheme and host from what a proxy in front says, where the proxy is one
    that the settings name.

    ``proxies`` are addresses or networks. A header from anybody else is passed over, since anybody can write
    one.
    """

    def __init__(self, app: Wsgi, proxies: Iterable[str]) -> None:
        self.app = app
        self.proxies: list[IPv4Network | IPv6Network] = [
            ip_network(p.strip(), strict=False) for p in proxies if p.strip()
        ]

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Any:
        """Serve a request with what the nearest trusted proxy says."""
        if self._trusted(environ.get("REMOTE_ADDR", "")):
            chain = [a.strip() for a in environ.get("HTTP_X_FORWARDED_FOR", "").split(",") if a.strip()]
            # from the nearest on: the first that is no proxy of ours is the caller
            caller = next((a for a in reversed(chain) if not self._trusted(a)), chain[0] if chain else None)
            if caller and _is_address(caller):
                environ["REMOTE_ADDR"] = caller
            scheme = environ.get("HTTP_X_FORWARDED_PROTO", "").split(",")[-1].strip()
            if scheme in ("http", "https"):
                environ["wsgi.url_scheme"] = scheme
            host = environ.get("HTTP_X_FORWARDED_HOST", "").split(",")[-1].strip()
            if host:
                environ["HTTP_HOST"] = host
        return self.app(environ, start_response)

    def _trusted(self, address: str) -> bool:
        return _is_address(address) and any(ip_address(address) in p for p in self.proxies)


def _is_address(text: str) -> bool:
    try:
        ip_address(text)
    except ValueError:
        return False
    return True
