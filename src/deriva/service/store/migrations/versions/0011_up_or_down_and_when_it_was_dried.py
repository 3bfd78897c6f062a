"""Which way a drift was fished, and whether the dry was dried before it."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("drift", sa.Column("direction", sa.String(length=4), nullable=True))
    op.add_column("drift", sa.Column("dried", sa.Boolean(), server_default=sa.false(), nullable=False))


def downgrade() -> None:
    op.drop_column("drift", "dried")
    op.drop_column("drift", "direction")
