"""What was foretold of settings, and how right an angler's eye for depth is."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("angler", sa.Column("eye_error", sa.Float(), nullable=True))
    op.add_column("angler", sa.Column("evidence", JSONB(), server_default="[]", nullable=False))
    op.create_table(
        "foretold",
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("setting_id", sa.Uuid(), nullable=False),
        sa.Column("engine", sa.Integer(), nullable=False),
        sa.Column("in_zone", sa.Float(), nullable=True),
        sa.Column("tick", sa.Float(), nullable=True),
        sa.Column("hung", sa.Float(), nullable=True),
        sa.ForeignKeyConstraint(
            ["angler_id", "setting_id"],
            ["setting.angler_id", "setting.id"],
            name=op.f("fk_foretold_setting"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("angler_id", "setting_id", name=op.f("pk_foretold")),
    )


def downgrade() -> None:
    op.drop_table("foretold")
    op.drop_column("angler", "evidence")
    op.drop_column("angler", "eye_error")
