"""Lies and beats that are not fished any more, where lies are on the map, notes on a stop or a fish; one kind of job for files
of a gauge's past and of a log.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

RENAMED = (
    ("table job", "constraint pk_gauge_import to pk_job"),
    ("table job", "constraint fk_gauge_import_gauge to fk_job_gauge"),
    ("index ix_gauge_import_gauge", "to ix_job_gauge"),
)
BACK = (
    ("table gauge_import", "constraint pk_job to pk_gauge_import"),
    ("table gauge_import", "constraint fk_job_gauge to fk_gauge_import_gauge"),
    ("index ix_job_gauge", "to ix_gauge_import_gauge"),
)


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

    op.rename_table("gauge_import", "job")
    for old, new in RENAMED:
        op.execute(f"alter {old} rename {new}")
    op.alter_column("job", "gauge_id", nullable=True)
    op.create_foreign_key(op.f("fk_job_angler"), "job", "angler", ["angler_id"], ["id"], ondelete="CASCADE")
    op.add_column("job", sa.Column("kind", sa.String(12), server_default="gauge", nullable=False))
    op.add_column("job", sa.Column("result", JSONB(), nullable=True))


def downgrade() -> None:
    op.execute("delete from job where gauge_id is null")
    op.drop_column("job", "result")
    op.drop_column("job", "kind")
    op.drop_constraint(op.f("fk_job_angler"), "job", type_="foreignkey")
    op.alter_column("job", "gauge_id", nullable=False)
    op.rename_table("job", "gauge_import")
    for old, new in BACK:
        op.execute(f"alter {old} rename {new}")
    for column, parent in (("stop_id", "stop"), ("catch_id", "catch")):
        op.drop_index(f"ix_note_{parent}", "note")
        op.drop_constraint(op.f(f"fk_note_{parent}"), "note", type_="foreignkey")
        op.drop_column("note", column)
    for column in ("latitude", "longitude"):
        op.drop_column("lie", column)
    for table in ("beat", "lie"):
        op.drop_column(table, "retired")
