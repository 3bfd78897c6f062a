"""Where a river is and its weather; which way a beat runs; rises, net sample and how clarity was taken."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def _of_river() -> list[sa.Column[Any]]:
    return [
        sa.Column("latitude", sa.Float(), nullable=True),
        sa.Column("longitude", sa.Float(), nullable=True),
        sa.Column("weather_url", sa.String(length=500), nullable=True),
        sa.Column("weather_read_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("weather_trouble", sa.String(length=300), nullable=True),
    ]


def _of_reading() -> list[sa.Column[Any]]:
    return [
        sa.Column("clarity_how", sa.String(length=10), nullable=False, server_default="boots"),
        sa.Column("rises", sa.String(length=12), nullable=False, server_default="none"),
        sa.Column("found", postgresql.JSONB(astext_type=sa.Text()), nullable=False, server_default="[]"),
    ]


def upgrade() -> None:
    for column in _of_river():
        op.add_column("river", column)
    for column in _of_reading():
        op.add_column("reading", column)
    op.alter_column("reading", "feeding", nullable=True)
    op.add_column("beat", sa.Column("flows_to_deg", sa.Float(), nullable=True))
    op.add_column(
        "beat", sa.Column("species", sa.String(length=20), nullable=False, server_default="brown trout")
    )
    op.create_table(
        "weather_hour",
        sa.Column("river_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("air_c", sa.Float(), nullable=False),
        sa.Column("wind_m_s", sa.Float(), nullable=False),
        sa.Column("cloud", sa.Float(), nullable=False),
        sa.Column("rain_mm_h", sa.Float(), nullable=False),
        sa.Column("thunder", sa.Float(), nullable=False),
        sa.ForeignKeyConstraint(
            ["river_id"], ["river.id"], name=op.f("fk_weather_hour_river"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("river_id", "at", name=op.f("pk_weather_hour")),
    )


def downgrade() -> None:
    op.drop_table("weather_hour")
    op.drop_column("beat", "species")
    op.drop_column("beat", "flows_to_deg")
    op.execute("update reading set feeding = 'bottom' where feeding is null")
    op.alter_column("reading", "feeding", nullable=False)
    for column in _of_reading():
        op.drop_column("reading", column.name)
    for column in _of_river():
        op.drop_column("river", column.name)
