"""A browser's worth of one person over HTTP: keeps its connection and cookies, sends the guard along, and
notes how long each step took."""

from __future__ import annotations

import http.client
import json
import time
import uuid
from collections import defaultdict
from typing import Any

GUARD = "X-Even-Mark-Guard"
MOST_AGAIN = 8


class Visitor:
    """One person; ``took`` has the seconds of each step by its name."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
        self.cookies: dict[str, str] = {}
        self.guard = ""
        self.took: dict[str, list[float]] = defaultdict(list)
        self.bytes: dict[str, int] = {}
        self.turned_away = 0
        """How often it was told to come again."""

    def sign_in(self, name: str, password: str) -> None:
        body = self.json("sign in", "POST", "/api/sign-in", {"sign_in": name, "password": password})
        self.guard = body["guard"]

    def json(self, step: str, method: str, path: str, body: Any = None) -> Any:
        data = None if body is None else json.dumps(body).encode()
        return json.loads(self.ask(step, method, path, data, "application/json"))

    def file(self, step: str, path: str, name: str, data: bytes) -> Any:
        edge = uuid.uuid4().hex
        head = (
            f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\nContent-Type: '
            "application/octet-stream\r\n\r\n"
        )
        body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
        return json.loads(self.ask(step, "POST", path, body, f"multipart/form-data; boundary={edge}"))

    def ask(self, step: str, method: str, path: str, data: bytes | None = None, kind: str = "") -> bytes:
        """Return the body of an answer; comes again as the pages do when very many ask at once."""
        headers = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()),
            GUARD: self.guard,
            "Accept-Encoding": "gzip",
        }
        if data is not None:
            headers["Content-Type"] = kind
        began = time.perf_counter()
        for _ in range(MOST_AGAIN):
            self.connection.request(method, path, data, headers)
            answer = self.connection.getresponse()
            body = answer.read()
            if answer.status != 503:
                break
            self.turned_away += 1
            time.sleep(float(answer.getheader("Retry-After") or 1))
        self.took[step].append(time.perf_counter() - began)
        self.bytes[step] = len(body)
        for header in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = header.split(";", 1)[0].partition("=")
            self.cookies[name] = value
        if answer.status != 200:
            raise RuntimeError(f"{method} {path}: {answer.status} {body[:200]!r}")
        if answer.getheader("Content-Encoding") == "gzip":
            import gzip

            return gzip.decompress(body)
        return body

    def close(self) -> None:
        self.connection.close()
