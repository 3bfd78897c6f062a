"""How bright a fly is and what on it is brighter; what stands in a lie, refusals, spawners, the water under the line; a
float set as computed, which is what "long" had been.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "box_item", sa.Column("tone", sa.String(length=10), server_default="natural", nullable=False)
    )
    op.add_column("box_item", sa.Column("mark", sa.String(length=10), server_default="none", nullable=False))
    op.execute(
        "update box_item set form = 'stonefly nymph', tone = 'bright', mark = 'collar'"
        " where form = 'bright-collar stonefly nymph'"
    )
    for name in ("refusing", "spawning"):
        op.add_column("reading", sa.Column(name, sa.Boolean(), server_default=sa.false(), nullable=False))
    op.add_column(
        "reading",
        sa.Column("cover", postgresql.JSONB(astext_type=sa.Text()), server_default="[]", nullable=False),
    )
    op.add_column("reading", sa.Column("under_line_m_s", sa.Float(), nullable=True))
    for table in ("angler", "lie"):
        op.execute(
            f"update {table} set school = jsonb_set(school, '{{depth}}', '\"computed\"')"  # noqa: S608 - names of our own
            " where school ->> 'depth' = 'long'"
        )


def downgrade() -> None:
    for table in ("angler", "lie"):
        op.execute(
            f"update {table} set school = (school - 'winter') || '{{\"depth\": \"long\"}}'"  # noqa: S608
            " where school ->> 'depth' = 'computed'"
        )
    for name in ("under_line_m_s", "cover", "spawning", "refusing"):
        op.drop_column("reading", name)
    op.execute(
        "update box_item set form = 'bright-collar stonefly nymph'"
        " where form = 'stonefly nymph' and tone = 'bright' and mark = 'collar'"
    )
    for name in ("mark", "tone"):
        op.drop_column("box_item", name)
