"""Gauges and their values, and the flow at which a lie was read."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "gauge",
        sa.Column("river_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("format", sa.String(length=10), nullable=False),
        sa.Column("url", sa.String(length=500), nullable=False),
        sa.Column("daily_url", sa.String(length=500), nullable=True),
        sa.Column("tried_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("read_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("trouble", sa.String(length=300), nullable=True),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id", "river_id"],
            ["river.angler_id", "river.id"],
            name=op.f("fk_gauge_river"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_gauge_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_gauge")),
        sa.UniqueConstraint("angler_id", "id", name=op.f("uq_gauge")),
    )
    op.create_index(op.f("ix_gauge_angler_id"), "gauge", ["angler_id"])
    op.create_table(
        "gauge_value",
        sa.Column("gauge_id", sa.Uuid(), nullable=False),
        sa.Column("parameter", sa.String(length=12), nullable=False),
        sa.Column("daily", sa.Boolean(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("value", sa.Float(), nullable=True),
        sa.Column("worth", sa.String(length=12), nullable=False),
        sa.Column("code", sa.String(length=40), nullable=False),
        sa.ForeignKeyConstraint(
            ["gauge_id"], ["gauge.id"], name=op.f("fk_gauge_value_gauge"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("gauge_id", "parameter", "daily", "at", name=op.f("pk_gauge_value")),
    )
    op.add_column("reading", sa.Column("flow_m3_s", sa.Float(), nullable=True))


def downgrade() -> None:
    op.drop_column("reading", "flow_m3_s")
    op.drop_table("gauge_value")
    op.drop_index(op.f("ix_gauge_angler_id"), table_name="gauge")
    op.drop_table("gauge")
