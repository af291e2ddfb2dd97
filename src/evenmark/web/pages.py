"""The built front end: one page, its hashed assets; and how the parts of the server are."""

from __future__ import annotations

import os
from mimetypes import add_type, guess_type
from pathlib import Path

from apiflask import APIBlueprint
from flask import Response, jsonify, request, send_from_directory
from werkzeug.security import safe_join

from evenmark.services.health import parts
from evenmark.web.context import database, problem

add_type("text/javascript", ".mjs")
add_type("application/wasm", ".wasm")
routes = APIBlueprint("pages", __name__, enable_openapi=False)
PAGES = Path(os.environ.get("EVENMARK_PAGES", Path(__file__).parents[3] / "frontend" / "dist"))


@routes.get("/assets/<path:name>")
def asset(name: str) -> Response:
    """Give a script, style or font: its name holds its hash or version, so it never changes. What is large
    lies there packed, too, for browsers that take it so."""
    packed = name.endswith((".js", ".mjs", ".wasm", ".json")) and request.accept_encodings["gzip"] > 0
    beside = safe_join(str(PAGES / "assets"), f"{name}.gz") if packed else None
    if beside is not None and Path(beside).is_file():
        response = send_from_directory(PAGES / "assets", f"{name}.gz", mimetype=guess_type(name)[0])
        response.headers["Content-Encoding"] = "gzip"
        response.headers["Vary"] = "Accept-Encoding"
    else:
        response = send_from_directory(PAGES / "assets", name)
    response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
    return response


@routes.get("/api/health")
def health() -> tuple[Response, int]:
    """Say how database, queue, workers, readers and disk are, each by itself; 503 when one that everybody
    needs is not well."""
    found = parts(database())
    well = all(p["state"] != "down" for p in found.values())
    return jsonify({"state": "up" if well else "down", "parts": found}), 200 if well else 503


@routes.get("/", defaults={"path": ""})
@routes.get("/<path:path>")
def app(path: str) -> Response | tuple[Response, int]:
    """Give the one page for every address that is not the API's."""
    if request.path.startswith("/api/") or path == "api":
        return problem(404, "not-there", "There is no such file. Go back.")
    if path in ("favicon.svg",):
        return send_from_directory(PAGES, path)
    response = send_from_directory(PAGES, "index.html")
    response.headers["Cache-Control"] = "no-cache"
    return response
