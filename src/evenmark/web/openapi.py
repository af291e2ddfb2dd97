"""The OpenAPI document, from which the front end's types are generated: `python -m evenmark.web.openapi
FILE`."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from evenmark.web.app import create_app


def document() -> dict[str, Any]:
    """Return the document with each model once, under its own name.

    The library lists nested models under dotted names beside the plain ones; both are the same model.
    """
    spec = json.loads(json.dumps(create_app().spec).replace("#/components/schemas/", "@model@"))
    schemas = spec["components"]["schemas"]
    spec["components"]["schemas"] = {n.rsplit(".", 1)[-1]: s for n, s in sorted(schemas.items())}
    return _plain(spec)  # type: ignore[no-any-return]


def _plain(value: Any) -> Any:
    if isinstance(value, dict):
        return {k: _plain(v) for k, v in value.items()}
    if isinstance(value, list):
        return [_plain(v) for v in value]
    if isinstance(value, str) and value.startswith("@model@"):
        return "#/components/schemas/" + value.removeprefix("@model@").rsplit(".", 1)[-1]
    return value


def text() -> str:
    """Return the document as it is committed."""
    return json.dumps(document(), indent=1, sort_keys=True, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(text())
