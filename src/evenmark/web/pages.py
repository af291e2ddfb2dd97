"""The built front end: one page, its hashed assets."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response, send_from_directory

routes = APIBlueprint("pages", __name__, enable_openapi=False)


@routes.get("/assets/<path:name>")
def asset(name: str) -> Response:
    """Give a script, style or font: its name holds its hash, so it never changes."""
    from evenmark.web.app import PAGES

    response = send_from_directory(PAGES / "assets", name)
    response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
    return response


@routes.get("/", defaults={"path": ""})
@routes.get("/<path:path>")
def app(path: str) -> Response | tuple[Response, int]:
    """Give the one page for every address that is not the API's."""
    from evenmark.web.app import PAGES, problem

    if path.startswith("api/"):
        return problem(404, "not-there", "There is no such thing.")
    if path in ("favicon.svg",):
        return send_from_directory(PAGES, path)
    response = send_from_directory(PAGES, "index.html")
    response.headers["Cache-Control"] = "no-cache"
    return response
