"""Accounts with sessions that can be listed, letters, limits, secrets; what is shared with whom."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

NOW = sa.text("now()")


def upgrade() -> None:
    op.add_column("angler", sa.Column("home_river", sa.String(length=80), server_default="", nullable=False))
    op.add_column("angler", sa.Column("asked", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.execute("update angler set asked = true")  # whoever is here has been using it
    op.add_column("angler", sa.Column("leaves_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(
        "sign_in", sa.Column("id", sa.Uuid(), server_default=sa.text("gen_random_uuid()"), nullable=False)
    )
    op.add_column("sign_in", sa.Column("agent", sa.String(length=200), server_default="", nullable=False))
    for name in ("opened_at", "seen_at"):
        op.add_column(
            "sign_in", sa.Column(name, sa.DateTime(timezone=True), server_default=NOW, nullable=False)
        )
    op.create_unique_constraint(op.f("uq_sign_in"), "sign_in", ["id"])
    op.create_index(op.f("ix_sign_in_angler_id"), "sign_in", ["angler_id"])
    op.create_table(
        "account",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("email", sa.String(length=254), nullable=False),
        sa.Column("hashed_password", sa.String(length=300), nullable=False),
        sa.Column("is_active", sa.Boolean(), nullable=False),
        sa.Column("is_superuser", sa.Boolean(), nullable=False),
        sa.Column("is_verified", sa.Boolean(), nullable=False),
        sa.ForeignKeyConstraint(["id"], ["angler.id"], name=op.f("fk_account_angler"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_account")),
        sa.UniqueConstraint("email", name=op.f("uq_account")),
    )
    op.create_table(
        "mail",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=NOW, nullable=False),
        sa.Column("to", sa.String(length=254), nullable=False),
        sa.Column("subject", sa.String(length=120), nullable=False),
        sa.Column("text", sa.String(length=2000), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mail")),
    )
    op.create_index(op.f("ix_mail_at"), "mail", ["at"])
    op.create_table(
        "attempt",
        sa.Column("key", sa.String(length=64), nullable=False),
        sa.Column("since", sa.DateTime(timezone=True), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("key", "since", name=op.f("pk_attempt")),
    )
    op.create_table(
        "secret",
        sa.Column("name", sa.String(length=40), nullable=False),
        sa.Column("value", sa.String(length=100), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_secret")),
    )
    op.create_table(
        "share",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("angler_id", sa.Uuid(), nullable=False),
        sa.Column("reader", sa.String(length=254), nullable=False),
        sa.Column("beat_id", sa.Uuid(), nullable=True),
        sa.Column("outing_id", sa.Uuid(), nullable=True),
        sa.Column("blur_m", sa.Float(), nullable=False),
        sa.Column("turn", sa.Float(), nullable=False),
        sa.Column("stretch", sa.Float(), nullable=False),
        sa.Column("shared_at", sa.DateTime(timezone=True), server_default=NOW, nullable=False),
        sa.Column("revoked_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("(beat_id is null) <> (outing_id is null)", name=op.f("ck_share_one_thing")),
        sa.ForeignKeyConstraint(["angler_id"], ["angler.id"], name=op.f("fk_share_angler"), ondelete="CASCADE"),
        sa.ForeignKeyConstraint(
            ["angler_id", "beat_id"], ["beat.angler_id", "beat.id"], name=op.f("fk_share_beat"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["angler_id", "outing_id"], ["outing.angler_id", "outing.id"], name=op.f("fk_share_outing"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_share")),
        sa.UniqueConstraint("angler_id", "id", name=op.f("uq_share")),
    )  # fmt: skip
    op.create_index(op.f("ix_share_angler_id"), "share", ["angler_id"])
    op.create_index("ix_share_reader", "share", ["reader"])


def downgrade() -> None:
    for table in ("share", "secret", "attempt", "mail", "account"):
        op.drop_table(table)
    op.drop_index(op.f("ix_sign_in_angler_id"), "sign_in")
    op.drop_constraint(op.f("uq_sign_in"), "sign_in")
    for name in ("seen_at", "opened_at", "agent", "id"):
        op.drop_column("sign_in", name)
    for name in ("leaves_at", "asked", "home_river"):
        op.drop_column("angler", name)
