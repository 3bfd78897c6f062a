"""What a drift can be asked by stands in columns of its own, and what was fished with a setting is counted as it is written."""

from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

STOP = (
    ("depth_m", "float", "depth_m"),
    ("surface_speed_m_s", "float", "surface_speed_m_s"),
    ("temperature_c", "float", "temperature_c"),
    ("clarity_m", "float", "clarity_m"),
    ("kind", "text", "kind"),
    ("flow_class", "text", "flow_class"),
)

EFFORT = """
create table effort (
  angler_id uuid not null,
  outing_id uuid not null,
  setting_id uuid not null,
  lane integer not null,
  lie_id uuid not null,
  at timestamptz not null,
  rig varchar(12) not null,
  bead_mm float,
  fly varchar,
  hook integer,
  share float,
  depth_m float,
  surface_speed_m_s float,
  temperature_c float,
  clarity_m float,
  wind_m_s float,
  light text,
  kind text,
  flow_class text,
  drifts integer not null,
  fish integer not null,
  missed integer not null,
  ticks integer not null,
  hung integer not null,
  minutes float not null,
  constraint pk_effort primary key (angler_id, outing_id, setting_id, lane),
  constraint fk_effort_outing foreign key (angler_id, outing_id) references outing (angler_id, id) on delete cascade
)
"""

# One setting after the other, and every row looked up by its whole key: a plan made while the tables were empty, or by what was
# known of them then, is kept as long as a session. A join of a setting with its stop read all stops of an angler for every
# setting, and a second index that begins with the angler was taken for the first (ten minutes instead of twenty seconds).
COUNT = """
create function count_effort_of(whose uuid, which uuid) returns void language plpgsql set enable_seqscan = off as $$
declare
  rig setting%rowtype;
  stay stop%rowtype;
begin
  select * into rig from setting where angler_id = whose and id = which;
  select * into stay from stop where angler_id = whose and id = rig.stop_id;
  delete from effort where angler_id = whose and outing_id = stay.outing_id and setting_id = which;
  insert into effort (
      angler_id, outing_id, setting_id, lane, lie_id, at, rig, bead_mm, fly, hook, share, depth_m, surface_speed_m_s,
      temperature_c, clarity_m, wind_m_s, light, kind, flow_class, drifts, fish, missed, ticks, hung, minutes
    )
    select whose, stay.outing_id, which, lane, stay.lie_id, rig.at, rig.rig, rig.point_bead_mm, rig.fly, rig.hook,
      rig.depth_setting_m / stay.depth_m, stay.depth_m, stay.surface_speed_m_s, stay.temperature_c, stay.clarity_m,
      stay.wind_m_s, stay.light, stay.kind, stay.flow_class, count(*), count(*) filter (where outcome = 'fish'),
      count(*) filter (where outcome = 'missed'), count(*) filter (where outcome = 'tick'),
      count(*) filter (where outcome in ('hung', 'lost_fly')), sum(minutes)
    from (
      select coalesce(d.lane, 0) as lane, d.outcome,
        least(coalesce(extract(epoch from d.at - lag(d.at) over (order by d.at, d.id))::float / 60, 1), 10) as minutes
      from drift d
      where d.angler_id = whose and d.setting_id = which and not d.undone
    ) drifted
    group by lane;
end $$
"""

COUNT_TOUCHED = """
create function count_effort() returns trigger language plpgsql as $$
declare
  one record;
begin
  for one in select distinct angler_id, setting_id from touched loop
    perform count_effort_of(one.angler_id, one.setting_id);
  end loop;
  return null;
end $$
"""

TRIGGERS = (
    ("drift_added", "insert", "new"),
    ("drift_changed_to", "update", "new"),
    ("drift_changed_from", "update", "old"),
    ("drift_removed", "delete", "old"),
)


def upgrade() -> None:
    parts = [
        f"add column {name} {kind} generated always as ((situation -> 'water' ->> '{field}')::{kind}) stored"
        for name, kind, field in STOP
    ]
    parts += [
        "add column wind_m_s float generated always as ((situation -> 'place' ->> 'wind_m_s')::float) stored",
        "add column light text generated always as (situation ->> 'light') stored",
    ]
    op.execute(f"alter table stop {', '.join(parts)}")
    op.execute(EFFORT)
    op.execute(COUNT)
    op.execute(COUNT_TOUCHED)
    op.execute("select count_effort_of(angler_id, id) from setting")
    for name, event, table in TRIGGERS:
        op.execute(
            f"create trigger {name} after {event} on drift referencing {table} table as touched"
            " for each statement execute function count_effort()"
        )


def downgrade() -> None:
    for name, _, _ in TRIGGERS:
        op.execute(f"drop trigger {name} on drift")
    op.execute("drop function count_effort")
    op.execute("drop function count_effort_of")
    op.execute("drop table effort")
    columns = (*(name for name, _, _ in STOP), "wind_m_s", "light")
    op.execute(f"alter table stop {', '.join(f'drop column {name}' for name in columns)}")
