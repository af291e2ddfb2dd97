"""A mail service that writes each message into a folder, as the open message format has it (RFC 5322),
instead of sending it."""

from __future__ import annotations

import os
import secrets
from datetime import UTC, datetime
from email.message import EmailMessage
from email.utils import format_datetime
from pathlib import Path

FOLDER_VARIABLE = "EVENMARK_MAIL"
SENDER = "Even Mark <even-mark@localhost>"


def send(*, to: str, subject: str, body: str, folder: Path | None = None) -> Path | None:
    """Write a message that its owner alone can read; return where. None where no folder is set up: then
    nothing is sent.

    Raises OSError when the folder cannot be written to.
    """
    folder = folder or (Path(os.environ[FOLDER_VARIABLE]) if os.environ.get(FOLDER_VARIABLE) else None)
    if folder is None:
        return None
    time = datetime.now(UTC)
    message = EmailMessage()
    message["From"], message["To"], message["Subject"] = (
        SENDER,
        " ".join(to.split()),
        " ".join(subject.split()),
    )
    message["Date"] = format_datetime(time)
    message.set_content(body)
    folder.mkdir(parents=True, exist_ok=True)
    place = folder / f"{time:%Y-%m-%dT%H-%M-%S}-{secrets.token_hex(4)}.eml"
    with open(os.open(place, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out:
        out.write(message.as_bytes())
    return place
