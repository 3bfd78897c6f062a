"""A single dry in the log: nothing hangs under it, so it has no depth."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.alter_column("setting", "depth_setting_m", existing_type=sa.Double(), nullable=True)


def downgrade() -> None:
    op.execute("update setting set depth_setting_m = 0.1 where depth_setting_m is null")
    op.alter_column("setting", "depth_setting_m", existing_type=sa.Double(), nullable=False)
