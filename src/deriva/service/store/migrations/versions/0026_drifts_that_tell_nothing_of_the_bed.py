"""Drifts that tell nothing of the bed are found without reading all others."""

import sqlalchemy as sa
from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "ix_drift_untold",
        "drift",
        ["angler_id", "setting_id"],
        postgresql_include=["outcome", "weed"],
        postgresql_where=sa.text(
            "(weed or (direction = 'down' and pace = 'slower' and outcome = 'clean')) and not undone"
        ),
    )


def downgrade() -> None:
    op.drop_index("ix_drift_untold", "drift")
