"""Instructors have a school, which stands in the title strip of their sheets.

Revision ID: 0002
Revises: 0001
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column."""
    op.add_column("person", sa.Column("school", sa.String(length=120), nullable=False, server_default=""))


def downgrade() -> None:
    """Never."""
    raise NotImplementedError("Migrations go forward only.")
