"""Whether a person writes numbers with a decimal comma.

Revision ID: 0010
Revises: 0009
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Nobody has said so until now."""
    op.add_column(
        "person", sa.Column("decimal_comma", sa.Boolean(), nullable=False, server_default=sa.false())
    )
