"""How many entries arrived on each of the last days, kept with the tally"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "tallies",
        sa.Column("days", postgresql.JSONB(), nullable=False, server_default="{}"),
    )
    op.execute("""
        update tallies set days = counted.days
        from (
            select questionnaire_id, jsonb_object_agg(day, number) as days
            from (
                select questionnaire_id, count(*) as number,
                    to_char(arrived at time zone 'UTC', 'YYYY-MM-DD') as day
                from entries where arrived > now() - interval '60 days'
                group by 1, 3
            ) by_day
            group by 1
        ) counted
        where counted.questionnaire_id = tallies.questionnaire_id
    """)


def downgrade() -> None:
    op.drop_column("tallies", "days")
