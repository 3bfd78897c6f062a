"""Games that were played in practice."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "practice_game",
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("drill", sa.String(length=20), nullable=False),
        sa.Column("seed", sa.Integer(), nullable=False),
        sa.Column("casts", JSONB(), nullable=False),
        sa.Column("zone_s", sa.Float(), nullable=False),
        sa.Column("best_s", sa.Float(), nullable=False),
        sa.Column("share", sa.Float(), nullable=False),
        sa.Column("low", sa.Float(), nullable=False),
        sa.Column("high", sa.Float(), nullable=False),
        sa.Column("passed", sa.Boolean(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_practice_game_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("angler_id", "id", name=op.f("pk_practice_game")),
    )
    op.create_index(op.f("ix_practice_game_at"), "practice_game", ["angler_id", "at"])


def downgrade() -> None:
    op.drop_table("practice_game")
