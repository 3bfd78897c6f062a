"""Whether a hook came back with weed, and which fly went where one did."""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None

TAKEN = (
    # whoever waited for an angler who has gone meanwhile finds nobody
    ("if heard_to > before then", "if before is null or heard_to > before then"),
    ("direction, dried, undone)", "direction, dried, weed, lost, undone)"),
    (
        "r.direction, r.dried, r.undone",
        "r.direction, r.dried, coalesce(r.weed, false), r.lost, r.undone",
    ),
    ("dried boolean, undone boolean", "dried boolean, weed boolean, lost text, undone boolean"),
)
"""What the function that takes new writings in says, before and after. The rest of it stays as it is."""


def _rewrite(taken: tuple[tuple[str, str], ...]) -> None:
    database = op.get_bind()
    function = str(database.exec_driver_sql("select pg_get_functiondef('take_new'::regproc)").scalar_one())
    for before, after in taken:
        if before not in function:
            raise RuntimeError(f"take_new does not say “{before}”: it is not that of revision 0015")
        function = function.replace(before, after)
    database.exec_driver_sql(function)


def upgrade() -> None:
    op.add_column("drift", sa.Column("weed", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.add_column("drift", sa.Column("lost", sa.String(10), nullable=True))
    _rewrite(TAKEN)


def downgrade() -> None:
    _rewrite(tuple((after, before) for before, after in TAKEN))
    op.drop_column("drift", "lost")
    op.drop_column("drift", "weed")
