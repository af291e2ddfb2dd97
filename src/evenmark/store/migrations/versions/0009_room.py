"""Answers kept by the key of their request; how much room boards take up; how a drawing was made stands in rows
alone, of its board, which stays for it when it is taken away.

Revision ID: 0009
Revises: 0008
"""

from __future__ import annotations

import json
from collections.abc import Iterator

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

TIME = sa.DateTime(timezone=True)
JSON = postgresql.JSONB(astext_type=sa.Text())
PART = 2_000_000
"""Bytes of acts from one snapshot to the next."""


def upgrade() -> None:
    """Make tables and columns, then move what is kept of attempts into rows."""
    op.create_table(
        "request_answer",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(80), nullable=False),
        sa.Column("asked", sa.String(200), nullable=False),
        sa.Column("answer", JSON, nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_request_answer_person_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("person_id", "key", name=op.f("pk_request_answer")),
    )
    op.create_index(op.f("ix_request_answer_at"), "request_answer", ["at"])
    _boards()
    op.add_column("attempt", sa.Column("board_id", sa.Integer(), nullable=True))
    op.add_column("attempt", sa.Column("made_version", sa.Integer(), nullable=True))
    op.create_foreign_key(
        op.f("fk_attempt_board_id_board"), "attempt", "board", ["board_id"], ["id"], ondelete="SET NULL"
    )
    op.create_index(op.f("ix_attempt_board_id"), "attempt", ["board_id"])
    op.create_index(
        op.f("ix_attempt_waiting"), "attempt", ["id"], postgresql_where=sa.text("state = 'waiting'")
    )
    op.add_column("school_class", sa.Column("student_mb", sa.Integer(), nullable=False, server_default="100"))
    op.create_check_constraint(
        op.f("ck_school_class_student_mb"), "school_class", "student_mb between 20 and 2000"
    )
    op.add_column("own_check", sa.Column("key", sa.String(80), nullable=False, server_default=""))
    op.add_column("own_check", sa.Column("sizes", JSON, nullable=False, server_default="{}"))
    connection = op.get_bind()
    _into_rows(connection)
    for (board_id,) in connection.execute(sa.text("select id from board order by id")).all():
        _snapshots(connection, board_id)
    op.drop_column("attempt", "made")


def _boards() -> None:
    """How much room boards take up, and what stays of one that is taken away."""
    op.create_table(
        "board_snapshot",
        sa.Column("board_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("document", JSON, nullable=False),
        sa.ForeignKeyConstraint(
            ["board_id"], ["board.id"], name=op.f("fk_board_snapshot_board_id_board"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("board_id", "version", name=op.f("pk_board_snapshot")),
    )
    op.add_column("board", sa.Column("bytes", sa.BigInteger(), nullable=False, server_default="0"))
    op.add_column("board", sa.Column("part_bytes", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("board", sa.Column("taken_away_at", TIME, nullable=True))
    op.drop_constraint(op.f("uq_board_person_id_issue_id"), "board", type_="unique")
    op.create_index(
        op.f("uq_board_person_id_issue_id"),
        "board",
        ["person_id", "issue_id"],
        unique=True,
        postgresql_where=sa.text("taken_away_at is null"),
    )
    op.create_index(op.f("ix_board_person_id"), "board", ["person_id"])


def _into_rows(connection: sa.Connection) -> None:
    """Have every attempt that was drawn on a board name that board and its version; where the board is gone, one
    that is taken away is made of what the attempt kept."""
    attempts = sa.text(
        "select id, student_id, issue_id, jsonb_array_length(made) from attempt "
        "where jsonb_typeof(made) = 'array' order by id"
    )
    for attempt, student, issue, length in connection.execute(attempts).all():
        values = {"attempt": attempt, "student": student, "issue": issue, "length": length}
        board = connection.execute(sa.text(_SAME_BOARD), values).scalar()
        if board is None:
            board = connection.execute(sa.text(_ANEW), values).scalar_one()
            connection.execute(sa.text(_ITS_ACTS), {"board": board, "attempt": attempt})
        connection.execute(
            sa.text("update attempt set board_id = :board, made_version = :length where id = :attempt"),
            {"board": board, "length": length, "attempt": attempt},
        )


_SAME_BOARD = """
select b.id from board b join attempt a on a.id = :attempt
where b.person_id = :student and b.issue_id = :issue and b.version >= :length and not exists (
  select 1 from jsonb_array_elements(a.made) with ordinality m(act, n)
  left join board_act k on k.board_id = b.id and k.version = m.n
  where k.splices is distinct from m.act -> 'splices')
"""
_ANEW = """
insert into board (person_id, issue_id, title, document, version, created_at, changed_at, taken_away_at)
select student_id, issue_id, left(regexp_replace(file_name, '\\.json$', ''), 160),
  convert_from(data, 'UTF8')::jsonb, :length, handed_in_at, handed_in_at, now()
from attempt where id = :attempt returning id
"""
_ITS_ACTS = """
insert into board_act (board_id, version, at, splices)
select :board, m.n, (m.act ->> 'at')::timestamptz, m.act -> 'splices'
from attempt a, jsonb_array_elements(a.made) with ordinality m(act, n) where a.id = :attempt
"""


def _snapshots(connection: sa.Connection, board_id: int) -> None:
    """Keep the list that a board began with, and as it was after every so many bytes of acts."""
    document = connection.execute(
        sa.text("select document from board where id = :id"), {"id": board_id}
    ).scalar_one()
    newest_first = sa.text(
        "select version, splices from board_act where board_id = :id order by version desc"
    )
    lines = list(document["lines"])
    for _, splices in _streamed(connection, newest_first, board_id):
        for s in reversed(splices):
            lines[s["at"] : s["at"] + len(s["come"])] = s["gone"]
    bytes_, since = _keep(connection, board_id, 0, {**document, "lines": lines}), 0
    oldest_first = sa.text("select version, splices from board_act where board_id = :id order by version")
    for version, splices in _streamed(connection, oldest_first, board_id):
        for s in splices:
            lines[s["at"] : s["at"] + len(s["gone"])] = s["come"]
        size = len(json.dumps(splices, ensure_ascii=False, separators=(",", ":")).encode())
        bytes_, since = bytes_ + size, since + size
        if since > PART:
            bytes_ += _keep(connection, board_id, version, {**document, "lines": lines})
            since = 0
    connection.execute(
        sa.text("update board set bytes = :bytes, part_bytes = :since where id = :id"),
        {"bytes": bytes_, "since": since, "id": board_id},
    )


def _streamed(
    connection: sa.Connection, statement: sa.TextClause, board_id: int
) -> Iterator[sa.Row[tuple[int, list[dict[str, list[object]]]]]]:
    yield from connection.execute(statement, {"id": board_id}, execution_options={"yield_per": 200})


def _keep(connection: sa.Connection, board_id: int, version: int, document: dict[str, object]) -> int:
    text = json.dumps(document, ensure_ascii=False, separators=(",", ":"))
    connection.execute(
        sa.text("insert into board_snapshot (board_id, version, document) values (:id, :version, :document)"),
        {"id": board_id, "version": version, "document": text},
    )
    return len(text.encode())
