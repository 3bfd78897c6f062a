"""Tickets by their hash and letters on a queue; one draw a river and reader; leases; outings that are taken back; values
that no river has are missing values."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

NOW = sa.text("now()")
LEAST_M3_S, MOST_M3_S = 0.001, 5000.0
"""What a flow had to lie between when this was written."""

BOUNDS = (
    ("flies", 1, 3), ("point_bead_mm", 1.5, 6), ("point_hook", 2, 26), ("dropper_hook", 2, 26), ("dropper_bead_mm", 1.5, 6),
    ("depth_setting_m", 0.1, 6), ("dropper_spacing_m", 0.05, 1.5), ("dropper_tag_m", 0, 0.3), ("tippet_x", 0, 8),
    ("shot_g", 0, 5), ("tip_pace", 0, 1.5), ("lead_m", 0, 60),
)  # fmt: skip
"""What the numbers of a rig as set had to lie between when this was written."""


def _moment(name: str, *, nullable: bool = True, now: bool = False) -> sa.Column[object]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable, server_default=NOW if now else None)


def upgrade() -> None:
    op.drop_table("secret")
    op.drop_column("account", "is_superuser")
    op.create_table(
        "ticket",
        sa.Column("hash", sa.String(length=64), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("purpose", sa.String(length=8), nullable=False),
        _moment("expires_at", nullable=False),
        sa.ForeignKeyConstraint(["account_id"], ["account.id"], name=op.f("fk_ticket_account"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("hash", name=op.f("pk_ticket")),
    )  # fmt: skip
    op.create_index(op.f("ix_ticket_account_id"), "ticket", ["account_id"])
    op.create_table(
        "known_place",
        sa.Column("key", sa.String(length=64), nullable=False),
        _moment("seen_at", nullable=False, now=True),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_known_place")),
    )
    # letters of before carry tickets that open nothing any more
    op.execute("delete from mail")
    op.add_column("mail", sa.Column("account_id", sa.Uuid(), nullable=False))
    op.create_foreign_key(
        op.f("fk_mail_account"), "mail", "account", ["account_id"], ["id"], ondelete="CASCADE"
    )
    op.add_column("mail", sa.Column("about", sa.String(length=8), nullable=False))
    op.add_column("mail", sa.Column("tries", sa.Integer(), nullable=False))
    op.add_column("mail", _moment("due_at"))
    op.add_column("mail", _moment("sent_at"))
    op.create_index(op.f("ix_mail_due_at"), "mail", ["due_at"])
    for name in ("subject", "text"):
        op.alter_column("mail", name, nullable=True)

    op.create_table(
        "blur",
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("river_id", sa.Uuid(), nullable=False),
        sa.Column("reader", sa.String(length=254), nullable=False),
        sa.Column("blur_m", sa.Float(), nullable=False),
        sa.Column("turn", sa.Float(), nullable=False),
        sa.Column("stretch", sa.Float(), nullable=False),
        sa.ForeignKeyConstraint(["angler_id"], ["angler.id"], name=op.f("fk_blur_angler"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(
            ["angler_id", "river_id"], ["river.angler_id", "river.id"], name=op.f("fk_blur_river"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("angler_id", "river_id", "reader", name=op.f("pk_blur")),
    )  # fmt: skip
    op.execute(
        "insert into blur select distinct on (s.angler_id, b.river_id, s.reader)"
        " s.angler_id, b.river_id, s.reader, s.blur_m, s.turn, s.stretch"
        " from share s join beat b on b.id = s.beat_id where s.blur_m > 0"
        " order by s.angler_id, b.river_id, s.reader, s.shared_at"
    )
    op.drop_column("share", "turn")
    op.drop_column("share", "stretch")

    op.add_column("river", _moment("weather_due_at"))
    op.add_column("river", sa.Column("weather_failures", sa.Integer(), server_default="0", nullable=False))
    op.add_column("gauge", _moment("due_at"))
    op.add_column("gauge", sa.Column("failures", sa.Integer(), server_default="0", nullable=False))
    op.alter_column("gauge", "url", nullable=True)
    op.add_column("gauge_import", _moment("alive_at", nullable=False, now=True))
    op.add_column("outing", sa.Column("gone", sa.Boolean(), server_default=sa.false(), nullable=False))

    within = f"between {LEAST_M3_S} and {MOST_M3_S}"
    op.execute(
        "update gauge_value set value = null, worth = 'missing'"  # noqa: S608 - two numbers of our own
        f" where parameter = 'flow' and value is not null and not (value {within})"
    )
    op.execute(
        "update reading set flow_m3_s = null"  # noqa: S608
        f" where flow_m3_s is not null and not (flow_m3_s {within})"
    )
    # numbers that were never checked: where one is impossible the nearest that is possible takes its place
    for name, lo, hi in BOUNDS:
        op.execute(
            f"update setting set setup = jsonb_set(setup, '{{{name}}}',"  # noqa: S608 - names and numbers of our own
            f" to_jsonb(greatest({lo}, least({hi}, (setup ->> '{name}')::numeric))))"
            f" where jsonb_typeof(setup -> '{name}') = 'number' and not ((setup ->> '{name}')::numeric between {lo} and {hi})"
        )


def downgrade() -> None:
    op.drop_column("outing", "gone")
    op.drop_column("gauge_import", "alive_at")
    op.execute("delete from gauge where url is null")
    op.alter_column("gauge", "url", nullable=False)
    for name in ("failures", "due_at"):
        op.drop_column("gauge", name)
    for name in ("weather_failures", "weather_due_at"):
        op.drop_column("river", name)
    for name in ("turn", "stretch"):
        op.add_column("share", sa.Column(name, sa.Float(), server_default="0.5", nullable=False))
        op.alter_column("share", name, server_default=None)
    op.drop_table("blur")
    op.execute("delete from mail")
    for name in ("subject", "text"):
        op.alter_column("mail", name, nullable=False)
    op.drop_index(op.f("ix_mail_due_at"), "mail")
    op.drop_constraint(op.f("fk_mail_account"), "mail")
    for name in ("sent_at", "due_at", "tries", "about", "account_id"):
        op.drop_column("mail", name)
    op.drop_table("known_place")
    op.drop_table("ticket")
    op.add_column(
        "account", sa.Column("is_superuser", sa.Boolean(), server_default=sa.false(), nullable=False)
    )
    op.alter_column("account", "is_superuser", server_default=None)
    op.create_table(
        "secret",
        sa.Column("name", sa.String(length=40), nullable=False),
        sa.Column("value", sa.String(length=100), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_secret")),
    )
