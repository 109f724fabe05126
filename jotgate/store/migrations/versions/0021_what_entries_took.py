"""What an entry took at the gate stands with it, and not in a row of its own."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entries", sa.Column("person", sa.LargeBinary()))
    op.add_column("entries", sa.Column("takes", postgresql.JSONB()))
    op.execute(
        "update entries e set person = a.person, takes = a.takes from admissions a"
        " where a.questionnaire_id = e.questionnaire_id and a.entry_id = e.id"
    )
    op.drop_table("admissions")
