"""Boards: documents of steps that are drawn on in the page, with what was done to each; how an attempt was
made; how often students may check their own work.

Revision ID: 0008
Revises: 0007
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

TIME = sa.DateTime(timezone=True)
JSON = postgresql.JSONB(astext_type=sa.Text())


def upgrade() -> None:
    """Make tables and columns."""
    op.create_table(
        "board",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("issue_id", sa.Integer(), nullable=True),
        sa.Column("title", sa.String(160), nullable=False),
        sa.Column("document", JSON, nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("underlay", JSON, nullable=True),
        sa.Column("created_at", TIME, nullable=False),
        sa.Column("changed_at", TIME, nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_board_person_id_person"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["issue_id"], ["issue.id"], name=op.f("fk_board_issue_id_issue"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_board")),
        sa.UniqueConstraint("person_id", "issue_id", name=op.f("uq_board_person_id_issue_id")),
    )
    op.create_index(op.f("ix_board_issue_id"), "board", ["issue_id"])
    op.create_table(
        "board_act",
        sa.Column("board_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.Column("splices", JSON, nullable=False),
        sa.ForeignKeyConstraint(
            ["board_id"], ["board.id"], name=op.f("fk_board_act_board_id_board"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("board_id", "version", name=op.f("pk_board_act")),
    )
    op.create_table(
        "board_aside",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("board_id", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.Column("says", sa.Text(), nullable=False),
        sa.Column("document", JSON, nullable=False),
        sa.ForeignKeyConstraint(
            ["board_id"], ["board.id"], name=op.f("fk_board_aside_board_id_board"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_board_aside")),
    )
    op.create_index(op.f("ix_board_aside_board_id"), "board_aside", ["board_id"])
    op.create_table(
        "board_picture",
        sa.Column("board_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            ["board_id"], ["board.id"], name=op.f("fk_board_picture_board_id_board"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("board_id", name=op.f("pk_board_picture")),
    )
    op.create_table(
        "own_check",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("issue_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.ForeignKeyConstraint(
            ["issue_id"], ["issue.id"], name=op.f("fk_own_check_issue_id_issue"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_own_check_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_check")),
    )
    op.create_index(op.f("ix_own_check_issue_id"), "own_check", ["issue_id"])
    op.create_index(op.f("ix_own_check_student_id"), "own_check", ["student_id"])
    op.add_column("attempt", sa.Column("made", JSON, nullable=True))
    op.add_column("issue", sa.Column("own_checks", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("issue", sa.Column("own_says", sa.String(12), nullable=False, server_default="which"))
    op.create_check_constraint(op.f("ck_issue_own_checks"), "issue", "own_checks between 0 and 99")
    op.create_check_constraint(op.f("ck_issue_own_says"), "issue", "own_says in ('count', 'which')")
