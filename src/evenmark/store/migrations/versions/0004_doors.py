"""Who may come in: tries counted by name and address together, known devices, one-time codes, invitations
into a class.

Tries are forgotten after a quarter of an hour anyway, so the old ones are not taken over.

Revision ID: 0004
Revises: 0003
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the tables."""
    op.drop_table("sign_in_try")
    op.create_table(
        "sign_in_try",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=160), nullable=False),
        sa.Column("address", sa.String(length=64), nullable=False),
        sa.Column("wrong", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_try")),
    )
    op.create_index(op.f("ix_sign_in_try_name"), "sign_in_try", ["name"])
    op.create_index(op.f("ix_sign_in_try_address"), "sign_in_try", ["address"])
    op.create_table(
        "known_device",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("token_hash", sa.String(length=64), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_known_device_person_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_known_device")),
        sa.UniqueConstraint("token_hash", "person_id", name=op.f("uq_known_device_token_hash")),
    )
    op.create_index(op.f("ix_known_device_token_hash"), "known_device", ["token_hash"])
    op.create_index(op.f("ix_known_device_person_id"), "known_device", ["person_id"])
    op.create_table(
        "first_code",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("code", sa.String(length=20), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_first_code_person_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("person_id", name=op.f("pk_first_code")),
        sa.UniqueConstraint("code", name=op.f("uq_first_code_code")),
    )
    op.create_table(
        "invitation",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("called", sa.String(length=120), nullable=False),
        sa.Column("asked_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_invitation_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_invitation_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("class_id", "student_id", name=op.f("pk_invitation")),
    )
    op.create_index(op.f("ix_invitation_student_id"), "invitation", ["student_id"])
