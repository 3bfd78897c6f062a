"""What an angler fishes in turns, to compare it fairly."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("angler", sa.Column("trial", JSONB(none_as_null=True), nullable=True))
    op.add_column("angler", sa.Column("trial_began_at", sa.DateTime(timezone=True), nullable=True))


def downgrade() -> None:
    op.drop_column("angler", "trial_began_at")
    op.drop_column("angler", "trial")
