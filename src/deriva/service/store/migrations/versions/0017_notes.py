"""What an angler notes of an outing, in words of their own."""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "note",
        sa.Column("outing_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("text", sa.String(2000), nullable=False),
        sa.Column("gone", sa.Boolean(), server_default=sa.false(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["angler_id", "outing_id"],
            ["outing.angler_id", "outing.id"],
            name=op.f("fk_note_outing"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("angler_id", "id", name=op.f("pk_note")),
    )
    op.create_index("ix_note_outing", "note", ["angler_id", "outing_id"])


def downgrade() -> None:
    op.drop_table("note")
