"""Who left a class: a student who was taken out keeps their place in its past.

Students who were taken out before this release and have handed in are brought back as having left.

Revision ID: 0005
Revises: 0004
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

BROUGHT_BACK = """
insert into enrolment (class_id, student_id, joined_at, left_at)
select issue.class_id, attempt.student_id, min(attempt.handed_in_at), now()
from attempt join issue on issue.id = attempt.issue_id
where not exists (select 1 from enrolment e where e.class_id = issue.class_id and e.student_id = attempt.student_id)
group by issue.class_id, attempt.student_id
"""


def upgrade() -> None:
    """Make the column."""
    op.add_column("enrolment", sa.Column("left_at", sa.DateTime(timezone=True), nullable=True))
    op.execute(BROUGHT_BACK)
