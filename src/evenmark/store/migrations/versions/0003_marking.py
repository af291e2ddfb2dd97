"""What people do with marks: overrides and comments as a log that is only added to, what was returned, a
class's files handed in at once; start drawings and further keys of exercises.

Marks that students could see before are returned marks now, as they were.

Revision ID: 0003
Revises: 0002
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

LOG_STAYS = """
create function issued_files_stay() returns trigger language plpgsql as $$
begin
  if exists (select 1 from revision where id = coalesce(new.revision_id, old.revision_id) and issued_at is not null) then
    raise exception 'an issued revision stays as it is' using errcode = '23514', constraint = 'issued_revision_stays';
  end if;
  return coalesce(new, old);
end $$;
create trigger issued_files_stay before insert or update or delete on revision_file for each row execute function issued_files_stay();
create function marking_act_stays() returns trigger language plpgsql as $$
begin
  raise exception 'what was done to a mark stays on record' using errcode = '23514', constraint = 'marking_act_stays';
end $$;
create trigger marking_act_stays before update on marking_act for each row execute function marking_act_stays();
create trigger returned_stays before update on returned for each row
  when (old.sheet_id is distinct from new.sheet_id or old.held is distinct from new.held or old.earned is distinct from new.earned)
  execute function marking_act_stays();
"""


def upgrade() -> None:
    """Make the tables."""
    op.add_column(
        "issue", sa.Column("returns", sa.String(length=12), nullable=False, server_default="at-once")
    )
    op.create_check_constraint(op.f("ck_issue_returns"), "issue", "returns in ('at-once', 'by-hand')")
    op.add_column("attempt", sa.Column("handed_in_by", sa.Integer(), nullable=True))
    op.create_foreign_key(
        op.f("fk_attempt_handed_in_by_person"), "attempt", "person", ["handed_in_by"], ["id"]
    )
    op.create_table(
        "marking_act",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("attempt_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("act", sa.String(length=12), nullable=False),
        sa.Column("finding", sa.Integer(), nullable=True),
        sa.Column("detail", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("undoes_id", sa.Integer(), nullable=True),
        sa.CheckConstraint("act in ('override', 'comment', 'undo')", name=op.f("ck_marking_act_act")),
        sa.CheckConstraint("(act = 'undo') = (undoes_id is not null)", name=op.f("ck_marking_act_undoes")),
        sa.ForeignKeyConstraint(
            ["attempt_id"], ["attempt.id"], name=op.f("fk_marking_act_attempt_id_attempt"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_marking_act_person_id_person")),
        sa.ForeignKeyConstraint(
            ["undoes_id"],
            ["marking_act.id"],
            name=op.f("fk_marking_act_undoes_id_marking_act"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_marking_act")),
    )
    op.create_index(op.f("ix_marking_act_attempt_id"), "marking_act", ["attempt_id"])
    op.create_table(
        "returned",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("attempt_id", sa.Integer(), nullable=False),
        sa.Column("sheet_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("held", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("earned", sa.Numeric(precision=14, scale=6), nullable=False),
        sa.Column("possible", sa.Numeric(precision=14, scale=6), nullable=False),
        sa.Column("taken_back_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["attempt_id"], ["attempt.id"], name=op.f("fk_returned_attempt_id_attempt"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["sheet_id"], ["mark_sheet.id"], name=op.f("fk_returned_sheet_id_mark_sheet")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_returned_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_returned")),
    )
    op.create_index(op.f("ix_returned_attempt_id"), "returned", ["attempt_id"])
    op.create_table(
        "batch",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("issue_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["issue_id"], ["issue.id"], name=op.f("fk_batch_issue_id_issue"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_batch_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_batch")),
    )
    op.create_index(op.f("ix_batch_issue_id"), "batch", ["issue_id"])
    op.create_table(
        "batch_file",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("batch_id", sa.Integer(), nullable=False),
        sa.Column("path", sa.String(length=400), nullable=False),
        sa.Column("sha256", sa.String(length=64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("reading", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("wordings", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("trouble", sa.Text(), nullable=True),
        sa.Column("student_id", sa.Integer(), nullable=True),
        sa.Column("decided", sa.Boolean(), nullable=False),
        sa.Column("attempt_id", sa.Integer(), nullable=True),
        sa.CheckConstraint("state in ('waiting', 'read', 'unusable')", name=op.f("ck_batch_file_state")),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], name=op.f("fk_batch_file_batch_id_batch"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["student_id"], ["person.id"], name=op.f("fk_batch_file_student_id_person")),
        sa.ForeignKeyConstraint(
            ["attempt_id"], ["attempt.id"], name=op.f("fk_batch_file_attempt_id_attempt")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_batch_file")),
        sa.UniqueConstraint("attempt_id", name=op.f("uq_batch_file_attempt_id")),
    )
    op.create_index(op.f("ix_batch_file_batch_id"), "batch_file", ["batch_id"])
    op.create_table(
        "revision_file",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("revision_id", sa.Integer(), nullable=False),
        sa.Column("part", sa.String(length=8), nullable=False),
        sa.Column("name", sa.String(length=255), nullable=False),
        sa.Column("sha256", sa.String(length=64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.CheckConstraint("part in ('start', 'key')", name=op.f("ck_revision_file_part")),
        sa.ForeignKeyConstraint(
            ["revision_id"],
            ["revision.id"],
            name=op.f("fk_revision_file_revision_id_revision"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_revision_file")),
    )
    op.create_index(op.f("ix_revision_file_revision_id"), "revision_file", ["revision_id"])
    op.execute(
        "insert into returned (attempt_id, sheet_id, at, held, earned, possible) "
        "select distinct on (attempt_id) attempt_id, id, marked_at, '{}'::jsonb, earned, possible from "
        "mark_sheet "
        "order by attempt_id, id desc"
    )
    op.get_bind().connection.driver_connection.execute(LOG_STAYS)


def downgrade() -> None:
    """Never."""
    raise NotImplementedError("Migrations go forward only.")
