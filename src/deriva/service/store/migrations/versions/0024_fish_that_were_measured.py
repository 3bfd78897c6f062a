"""Fish that were measured are found without reading all others."""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "ix_catch_measured",
        "catch",
        ["angler_id", "at"],
        postgresql_where=sa.text("length_how = 'measured' and not undone"),
    )


def downgrade() -> None:
    op.drop_index("ix_catch_measured", "catch")
