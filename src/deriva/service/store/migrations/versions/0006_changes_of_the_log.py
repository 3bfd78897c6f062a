"""Changes of the log from every device, lane and stance of a drift, condition of a fish."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("angler", sa.Column("changes", sa.BigInteger(), server_default="0", nullable=False))
    op.add_column("drift", sa.Column("lane", sa.Integer(), nullable=True))
    op.add_column("drift", sa.Column("stance", sa.Integer(), nullable=True))
    op.add_column("catch", sa.Column("condition", sa.String(length=10), nullable=True))
    op.create_table(
        "change",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("position", sa.BigInteger(), nullable=False),
        sa.Column("device", sa.Uuid(), nullable=False),
        sa.Column("sequence", sa.BigInteger(), nullable=False),
        sa.Column("kind", sa.String(length=10), nullable=False),
        sa.Column("record", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("zone", sa.String(length=64), nullable=False),
        sa.Column("body", postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=False),
        sa.Column("taken_at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_change_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_change")),
        sa.UniqueConstraint("angler_id", "position", name=op.f("uq_change")),
    )
    op.create_index("ix_change_record", "change", ["angler_id", "record", "at"])


def downgrade() -> None:
    op.drop_table("change")
    op.drop_column("catch", "condition")
    op.drop_column("drift", "stance")
    op.drop_column("drift", "lane")
    op.drop_column("angler", "changes")
