"""Putting things right after issuing: closing, allowances, archiving, the record of what was done, files made
by workers.

An issued revision keeps what is marked of it; its title and text may be put right, and when all its issues
were withdrawn it is open again.

Revision ID: 0006
Revises: 0005
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

TIME = sa.DateTime(timezone=True)
WHAT_IS_MARKED_STAYS = """
create or replace function issued_revision_stays() returns trigger language plpgsql as $$
begin
  if old.issued_at is not null and (
    (new.key_hash, new.key_bytes, new.rules, new.exercise_id, new.number)
      is distinct from (old.key_hash, old.key_bytes, old.rules, old.exercise_id, old.number)
    or (new.issued_at is distinct from old.issued_at
        and not (new.issued_at is null and not exists (select 1 from issue where revision_id = old.id)))
  ) then
    raise exception 'an issued revision never changes' using errcode = 'check_violation', constraint = 'issued_revision_stays';
  end if;
  return new;
end $$;
create function record_stays() returns trigger language plpgsql as $$
begin
  raise exception 'what was done stays on record' using errcode = '23514', constraint = 'record_stays';
end $$;
create trigger record_stays before update on record_entry for each row
  when ((old.at, old.person_id, old.act, old.says, old.student_id) is distinct from (new.at, new.person_id, new.act, new.says, new.student_id))
  execute function record_stays();
"""


def upgrade() -> None:
    """Make columns and tables."""
    op.add_column("person", sa.Column("zone", sa.String(64), nullable=False, server_default=""))
    for table in ("school_class", "exercise"):
        op.add_column(table, sa.Column("archived_at", TIME, nullable=True))
    op.add_column("issue", sa.Column("closed_at", TIME, nullable=True))
    op.add_column("issue", sa.Column("group_name", sa.String(120), nullable=False, server_default=""))
    op.execute("update issue set group_name = c.name from school_class c where c.id = issue.class_id")
    op.create_table(
        "allowance",
        sa.Column("issue_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("due_at", TIME, nullable=True),
        sa.Column("more_tries", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("given_at", TIME, nullable=False),
        sa.CheckConstraint("more_tries between 0 and 99", name=op.f("ck_allowance_more_tries")),
        sa.ForeignKeyConstraint(
            ["issue_id"], ["issue.id"], name=op.f("fk_allowance_issue_id_issue"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_allowance_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("issue_id", "student_id", name=op.f("pk_allowance")),
    )
    op.create_index(op.f("ix_allowance_student_id"), "allowance", ["student_id"])
    op.create_table(
        "record_entry",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("at", TIME, nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("act", sa.String(20), nullable=False),
        sa.Column("says", sa.Text(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=True),
        sa.Column("exercise_id", sa.Integer(), nullable=True),
        sa.Column("student_id", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_record_entry_person_id_person")),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_record_entry_class_id_school_class"),
            ondelete="SET NULL",
        ),
        sa.ForeignKeyConstraint(
            ["exercise_id"],
            ["exercise.id"],
            name=op.f("fk_record_entry_exercise_id_exercise"),
            ondelete="SET NULL",
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_record_entry_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_record_entry")),
    )
    for column in ("person_id", "class_id", "exercise_id", "student_id"):
        op.create_index(op.f(f"ix_record_entry_{column}"), "record_entry", [column])
    op.create_table(
        "export",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(12), nullable=False),
        sa.Column("about", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("name", sa.String(255), nullable=False),
        sa.Column("state", sa.String(12), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("of", sa.Integer(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("trouble", sa.Text(), nullable=True),
        sa.Column("made_at", TIME, nullable=False),
        sa.CheckConstraint("kind in ('feedback', 'files', 'class', 'student')", name=op.f("ck_export_kind")),
        sa.CheckConstraint("state in ('waiting', 'ready', 'failed')", name=op.f("ck_export_state")),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_export_person_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_export")),
    )
    op.create_index(op.f("ix_export_person_id"), "export", ["person_id"])
    op.create_index(op.f("ix_export_made_at"), "export", ["made_at"])
    op.create_table(
        "export_part",
        sa.Column("export_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            ["export_id"], ["export.id"], name=op.f("fk_export_part_export_id_export"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("export_id", "number", name=op.f("pk_export_part")),
    )
    op.execute(WHAT_IS_MARKED_STAYS)
