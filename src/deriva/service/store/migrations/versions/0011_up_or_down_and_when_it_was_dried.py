"""Which way a drift was fished, and whether the dry was dried before it; a point fly without a bead."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("drift", sa.Column("direction", sa.String(length=4), nullable=True))
    op.add_column("drift", sa.Column("dried", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.alter_column("setting", "point_bead_mm", existing_type=sa.Float(), nullable=True)


def downgrade() -> None:
    op.execute("update setting set point_bead_mm = 1.5 where point_bead_mm is null")
    op.alter_column("setting", "point_bead_mm", existing_type=sa.Float(), nullable=False)
    op.drop_column("drift", "dried")
    op.drop_column("drift", "direction")
