"""The first tables, the rule that an issued revision never changes, and the queue's own tables."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


ISSUED_STAYS = """
CREATE FUNCTION issued_revision_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF OLD.issued_at IS NOT NULL AND (NEW.title, NEW.text, NEW.key_hash, NEW.key_bytes, NEW.rules, NEW.sheet_png, NEW.issued_at)
       IS DISTINCT FROM (OLD.title, OLD.text, OLD.key_hash, OLD.key_bytes, OLD.rules, OLD.sheet_png, OLD.issued_at) THEN
        RAISE EXCEPTION 'an issued revision never changes' USING ERRCODE = 'check_violation', CONSTRAINT = 'issued_revision_stays';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER issued_revision_stays BEFORE UPDATE ON revision
    FOR EACH ROW EXECUTE FUNCTION issued_revision_stays();
"""


def upgrade() -> None:
    """Make everything."""
    op.create_table(
        "person",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("sign_in", sa.String(length=120), nullable=False),
        sa.Column("role", sa.String(length=12), nullable=False),
        sa.Column("password_hash", sa.String(length=200), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.CheckConstraint("role in ('instructor', 'student')", name=op.f("ck_person_role")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
    )
    op.create_index("uq_person_sign_in", "person", [sa.literal_column("lower(sign_in)")], unique=True)
    op.create_table(
        "sign_in_try",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("who", sa.String(length=160), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_try")),
    )
    op.create_index(op.f("ix_sign_in_try_who"), "sign_in_try", ["who"], unique=False)
    op.create_table(
        "exercise",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("instructor_id", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["instructor_id"], ["person.id"], name=op.f("fk_exercise_instructor_id_person")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_exercise")),
    )
    op.create_index(op.f("ix_exercise_instructor_id"), "exercise", ["instructor_id"], unique=False)
    op.create_table(
        "school_class",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("instructor_id", sa.Integer(), nullable=False),
        sa.Column("join_code", sa.String(length=12), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["instructor_id"], ["person.id"], name=op.f("fk_school_class_instructor_id_person")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_school_class")),
        sa.UniqueConstraint("join_code", name=op.f("uq_school_class_join_code")),
    )
    op.create_index(op.f("ix_school_class_instructor_id"), "school_class", ["instructor_id"], unique=False)
    op.create_table(
        "signed_in",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("token_hash", sa.String(length=64), nullable=False),
        sa.Column("guard", sa.String(length=64), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("seen_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_signed_in_person_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_signed_in")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_signed_in_token_hash")),
    )
    op.create_index(op.f("ix_signed_in_person_id"), "signed_in", ["person_id"], unique=False)
    op.create_table(
        "enrolment",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("joined_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["class_id"],
            ["school_class.id"],
            name=op.f("fk_enrolment_class_id_school_class"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_enrolment_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("class_id", "student_id", name=op.f("pk_enrolment")),
    )
    op.create_index(op.f("ix_enrolment_student_id"), "enrolment", ["student_id"], unique=False)
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exercise_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(length=160), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("key_name", sa.String(length=255), nullable=False),
        sa.Column("key_hash", sa.String(length=64), nullable=False),
        sa.Column("key_bytes", sa.LargeBinary(), nullable=False),
        sa.Column("rules", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("sheet_png", sa.LargeBinary(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("changed_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("issued_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["exercise_id"],
            ["exercise.id"],
            name=op.f("fk_revision_exercise_id_exercise"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_revision")),
        sa.UniqueConstraint("exercise_id", "number", name=op.f("uq_revision_exercise_id_number")),
    )
    op.create_table(
        "issue",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("revision_id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("issued_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("due_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("detail", sa.String(length=12), nullable=False),
        sa.CheckConstraint("detail in ('score', 'checks', 'numbers')", name=op.f("ck_issue_detail")),
        sa.CheckConstraint("tries between 1 and 99", name=op.f("ck_issue_tries")),
        sa.ForeignKeyConstraint(
            ["class_id"], ["school_class.id"], name=op.f("fk_issue_class_id_school_class")
        ),
        sa.ForeignKeyConstraint(["revision_id"], ["revision.id"], name=op.f("fk_issue_revision_id_revision")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_issue")),
        sa.UniqueConstraint("revision_id", "class_id", name=op.f("uq_issue_revision_id_class_id")),
    )
    op.create_index(op.f("ix_issue_class_id"), "issue", ["class_id"], unique=False)
    op.create_index(op.f("ix_issue_revision_id"), "issue", ["revision_id"], unique=False)
    op.create_table(
        "attempt",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("issue_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("file_name", sa.String(length=255), nullable=False),
        sa.Column("sha256", sa.String(length=64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("reading", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("handed_in_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("late", sa.Boolean(), nullable=False),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("trouble", sa.Text(), nullable=True),
        sa.CheckConstraint("state in ('waiting', 'marked', 'failed')", name=op.f("ck_attempt_state")),
        sa.ForeignKeyConstraint(["issue_id"], ["issue.id"], name=op.f("fk_attempt_issue_id_issue")),
        sa.ForeignKeyConstraint(["student_id"], ["person.id"], name=op.f("fk_attempt_student_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_attempt")),
        sa.UniqueConstraint(
            "issue_id", "student_id", "number", name=op.f("uq_attempt_issue_id_student_id_number")
        ),
    )
    op.create_index(op.f("ix_attempt_student_id"), "attempt", ["student_id"], unique=False)
    op.create_table(
        "intake",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("issue_id", sa.Integer(), nullable=False),
        sa.Column("student_id", sa.Integer(), nullable=False),
        sa.Column("file_name", sa.String(length=255), nullable=False),
        sa.Column("sha256", sa.String(length=64), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("reading", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["issue_id"], ["issue.id"], name=op.f("fk_intake_issue_id_issue"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["student_id"], ["person.id"], name=op.f("fk_intake_student_id_person"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_intake")),
        sa.UniqueConstraint("issue_id", "student_id", name=op.f("uq_intake_issue_id_student_id")),
    )
    op.create_table(
        "mark_sheet",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("attempt_id", sa.Integer(), nullable=False),
        sa.Column("engine_version", sa.String(length=20), nullable=False),
        sa.Column("sheet", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("summary", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("earned", sa.Numeric(precision=14, scale=6), nullable=False),
        sa.Column("possible", sa.Numeric(precision=14, scale=6), nullable=False),
        sa.Column("marked_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["attempt_id"], ["attempt.id"], name=op.f("fk_mark_sheet_attempt_id_attempt"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mark_sheet")),
        sa.UniqueConstraint(
            "attempt_id", "engine_version", name=op.f("uq_mark_sheet_attempt_id_engine_version")
        ),
    )
    # these statements hold colons and percent signs of their own: past SQLAlchemy, straight to the driver
    driver = op.get_bind().connection.driver_connection
    driver.execute(ISSUED_STAYS)
    driver.execute(SchemaManager.get_schema())
