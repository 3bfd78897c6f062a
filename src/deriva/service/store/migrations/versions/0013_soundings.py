"""What the bottom was found to be at the spots of a lie."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "sounding",
        sa.Column("lie_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("lane", sa.Integer(), nullable=False),
        sa.Column("stance", sa.Integer(), nullable=False),
        sa.Column("depth_m", sa.Double(), nullable=False),
        sa.Column("depth_sd_m", sa.Double(), nullable=False),
        sa.Column("flow_m3_s", sa.Double(), nullable=True),
        sa.Column("gone", sa.Boolean(), server_default=sa.false(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id", "lie_id"],
            ["lie.angler_id", "lie.id"],
            name=op.f("fk_sounding_lie"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_sounding_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sounding")),
    )
    op.create_index(op.f("ix_sounding_angler_id"), "sounding", ["angler_id"])
    op.create_index("ix_sounding_lie", "sounding", ["angler_id", "lie_id"])


def downgrade() -> None:
    op.drop_table("sounding")
