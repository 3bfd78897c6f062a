"""The fly box, and a school of its own for a lie."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "box_item",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("kind", sa.String(length=8), nullable=False),
        sa.Column("form", sa.String(length=80), nullable=False),
        sa.Column("hook", sa.Integer(), nullable=True),
        sa.Column("bead_mm", sa.Float(), nullable=True),
        sa.Column("material", sa.String(length=10), nullable=False),
        sa.Column("dressing", sa.String(length=10), nullable=True),
        sa.Column("size_mm", sa.Float(), nullable=True),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("counted_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("tank", postgresql.JSONB(astext_type=sa.Text()), nullable=True),
        sa.Column("drag_factor", sa.Float(), nullable=True),
        sa.Column("gone", sa.Boolean(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id"], ["angler.id"], name=op.f("fk_box_item_angler"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_box_item")),
    )
    op.create_index(op.f("ix_box_item_angler_id"), "box_item", ["angler_id"])
    op.add_column("lie", sa.Column("school", postgresql.JSONB(astext_type=sa.Text()), nullable=True))


def downgrade() -> None:
    op.drop_column("lie", "school")
    op.drop_table("box_item")
