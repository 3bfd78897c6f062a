"""Files of a gauge's past being taken in."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "gauge_import",
        sa.Column("gauge_id", sa.Uuid(), nullable=False),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("rows", sa.BigInteger(), nullable=False),
        sa.Column("share", sa.Float(), nullable=False),
        sa.Column("message", sa.String(length=400), nullable=False),
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id", "gauge_id"],
            ["gauge.angler_id", "gauge.id"],
            name=op.f("fk_gauge_import_gauge"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_gauge_import_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_gauge_import")),
    )
    op.create_index(op.f("ix_gauge_import_angler_id"), "gauge_import", ["angler_id"])


def downgrade() -> None:
    op.drop_index(op.f("ix_gauge_import_angler_id"), table_name="gauge_import")
    op.drop_table("gauge_import")
