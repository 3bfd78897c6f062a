"""Lies and beats that are not fished any more, where lies are on the map, and notes on a stop or a fish."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for table in ("beat", "lie"):
        op.add_column(table, sa.Column("retired", sa.Boolean(), server_default=sa.false(), nullable=False))
    for column in ("latitude", "longitude"):
        op.add_column("lie", sa.Column(column, sa.Float(), nullable=True))
    for column, parent in (("stop_id", "stop"), ("catch_id", "catch")):
        op.add_column("note", sa.Column(column, sa.Uuid(), nullable=True))
        op.create_foreign_key(
            op.f(f"fk_note_{parent}"),
            "note",
            parent,
            ["angler_id", column],
            ["angler_id", "id"],
            ondelete="CASCADE",
        )
        op.create_index(f"ix_note_{parent}", "note", ["angler_id", column])


def downgrade() -> None:
    for column, parent in (("stop_id", "stop"), ("catch_id", "catch")):
        op.drop_index(f"ix_note_{parent}", "note")
        op.drop_constraint(op.f(f"fk_note_{parent}"), "note", type_="foreignkey")
        op.drop_column("note", column)
    for column in ("latitude", "longitude"):
        op.drop_column("lie", column)
    for table in ("beat", "lie"):
        op.drop_column(table, "retired")
