"""Everything that is an angler's is keyed by angler and id, found by indexes that begin with the angler, and hangs under its
parent alone; the point fly of a setting is a column."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

OWNED = (
    "river", "beat", "lie", "box_item", "reading", "sounding", "gauge", "gauge_import", "outing", "stop", "setting", "drift",
    "catch", "share",
)  # fmt: skip
REFERRED = ("river", "beat", "lie", "gauge", "outing", "stop", "setting", "drift", "catch", "share")
"""Those that had a second key (angler_id, id)."""

UNDER = (
    ("beat", "river"), ("lie", "beat"), ("reading", "lie"), ("sounding", "lie"), ("gauge", "river"), ("gauge_import", "gauge"),
    ("outing", "beat"), ("stop", "outing"), ("stop", "lie"), ("setting", "stop"), ("drift", "setting"), ("catch", "drift"),
    ("share", "beat"), ("share", "outing"), ("blur", "river"),
)  # fmt: skip
PARENTED = (
    "beat",
    "lie",
    "reading",
    "sounding",
    "gauge",
    "gauge_import",
    "outing",
    "stop",
    "setting",
    "drift",
    "catch",
    "blur",
)
"""What has a parent at all times: it needs no reference to the angler beside that."""

INDEXES = (
    ("beat_river", "beat", "angler_id, river_id"),
    ("lie_beat", "lie", "angler_id, beat_id"),
    ("reading_lie_at", "reading", "angler_id, lie_id, at, id"),
    ("reading_at_no_flow", "reading", "angler_id, lie_id) where (flow_m3_s is null"),
    ("sounding_lie_at", "sounding", "angler_id, lie_id, at, id"),
    ("sounding_at_no_flow", "sounding", "angler_id, lie_id) where (flow_m3_s is null"),
    ("gauge_river", "gauge", "angler_id, river_id"),
    ("gauge_due_at", "gauge", "due_at"),
    ("gauge_import_gauge", "gauge_import", "angler_id, gauge_id"),
    ("outing_beat", "outing", "angler_id, beat_id"),
    ("outing_started_at", "outing", "angler_id, started_at, id"),
    ("outing_open", "outing", "angler_id) where (ended_at is null and not gone"),
    ("stop_outing", "stop", "angler_id, outing_id"),
    ("stop_lie", "stop", "angler_id, lie_id"),
    ("setting_stop", "setting", "angler_id, stop_id"),
    ("drift_setting", "drift", "angler_id, setting_id) include (outcome, undone"),
    ("drift_lost", "drift", "angler_id, at, setting_id) where (outcome = 'lost_fly' and not undone"),
    ("catch_drift", "catch", "angler_id, drift_id"),
    ("share_beat", "share", "angler_id, beat_id"),
    ("share_outing", "share", "angler_id, outing_id"),
)

FORGET = """
create function forget_gauge_values() returns trigger language plpgsql as $$
begin
  delete from gauge_value where angler_id = old.angler_id and gauge_id = old.id;
  return null;
end $$
"""


def _reference(table: str, parent: str) -> str:
    return (
        f"alter table {table} add constraint fk_{table}_{parent} foreign key (angler_id, {parent}_id)"
        f" references {parent} (angler_id, id) on delete cascade"
    )


def _reference_angler(table: str) -> str:
    return (
        f"alter table {table} add constraint fk_{table}_angler foreign key (angler_id) references angler (id)"
        " on delete cascade"
    )


def _drop(table: str, *constraints: str) -> None:
    op.execute(f"alter table {table} " + ", ".join(f"drop constraint {one}" for one in constraints))


def _key(table: str, columns: str) -> None:
    op.execute(f"alter table {table} add constraint pk_{table} primary key ({columns})")


def _with_angler(table: str, parent: str) -> None:
    """Give the values of a parent its angler."""
    op.add_column(table, sa.Column("angler_id", sa.Uuid(), nullable=True))
    op.execute(f"update {table} v set angler_id = p.angler_id from {parent} p where p.id = v.{parent}_id")  # noqa: S608
    op.alter_column(table, "angler_id", nullable=False)


def upgrade() -> None:
    _drop("gauge_value", "fk_gauge_value_gauge", "pk_gauge_value")
    _drop("weather_hour", "fk_weather_hour_river", "pk_weather_hour")
    _with_angler("gauge_value", "gauge")
    _with_angler("weather_hour", "river")
    for table, parent in UNDER:
        _drop(table, f"fk_{table}_{parent}")
    for table in OWNED:
        if table in REFERRED:
            _drop(table, f"uq_{table}")
        op.execute(f"drop index ix_{table}_angler_id")
        _drop(table, f"pk_{table}")
        _key(table, "angler_id, id")
    for table in PARENTED:
        _drop(table, f"fk_{table}_angler")
    for table, parent in UNDER:
        op.execute(_reference(table, parent))
    _key("gauge_value", "angler_id, gauge_id, parameter, daily, at")
    _key("weather_hour", "angler_id, river_id, at")
    op.execute(_reference("weather_hour", "river"))
    op.execute(FORGET)
    op.execute(
        "create trigger forget_values after delete on gauge for each row execute function forget_gauge_values()"
    )
    _drop("change", "uq_change", "pk_change")
    _key("change", "angler_id, position")
    op.execute("alter table change add constraint uq_change unique (angler_id, id)")
    op.execute(
        "alter table setting add column fly varchar generated always as"
        " (case when rig = 'dry' then setup ->> 'float' else setup ->> 'point_form' end) stored,"
        " add column hook integer generated always as ((setup ->> 'point_hook')::numeric::integer) stored"
    )
    op.execute("drop index ix_reading_lie_at")
    op.execute("drop index ix_sounding_lie")
    for name, table, columns in INDEXES:
        op.execute(f"create index ix_{name} on {table} ({columns})")


def downgrade() -> None:
    for name, _, _ in INDEXES:
        op.execute(f"drop index ix_{name}")
    op.execute("create index ix_reading_lie_at on reading (lie_id, at)")
    op.execute("create index ix_sounding_lie on sounding (angler_id, lie_id)")
    for name in ("hook", "fly"):
        op.drop_column("setting", name)
    _drop("change", "uq_change", "pk_change")
    _key("change", "id")
    op.execute("alter table change add constraint uq_change unique (angler_id, position)")
    op.execute("drop trigger forget_values on gauge")
    op.execute("drop function forget_gauge_values")
    _drop("gauge_value", "pk_gauge_value")
    _drop("weather_hour", "fk_weather_hour_river", "pk_weather_hour")
    for table, parent in UNDER:
        _drop(table, f"fk_{table}_{parent}")
    for table in OWNED:
        _drop(table, f"pk_{table}")
        _key(table, "id")
        op.execute(f"create index ix_{table}_angler_id on {table} (angler_id)")
        if table in REFERRED:
            op.execute(f"alter table {table} add constraint uq_{table} unique (angler_id, id)")
    for table in PARENTED:
        op.execute(_reference_angler(table))
    for table, parent in UNDER:
        op.execute(_reference(table, parent))
    for table, parent, rest in (
        ("gauge_value", "gauge", "parameter, daily, at"),
        ("weather_hour", "river", "at"),
    ):
        op.drop_column(table, "angler_id")
        _key(table, f"{parent}_id, {rest}")
        op.execute(
            f"alter table {table} add constraint fk_{table}_{parent} foreign key ({parent}_id) references {parent} (id)"
            " on delete cascade"
        )
