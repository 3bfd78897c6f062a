"""What fish took, and when in the drift, is counted as drifts and fish are written; where a rig stood among those advised; of
which form a water and a rig are written; which writings came in with a file.
"""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None

CAUGHT = """
create table caught (
  angler_id uuid not null,
  outing_id uuid not null,
  setting_id uuid not null,
  lane integer not null,
  fly varchar(10) not null,
  phase varchar(10) not null,
  species varchar(60) not null,
  fish integer not null,
  longest_mm float,
  constraint pk_caught primary key (angler_id, outing_id, setting_id, lane, fly, phase, species),
  constraint fk_caught_outing foreign key (angler_id, outing_id) references outing (angler_id, id) on delete cascade
)
"""

# The fish of one drift after the other, which is what the offset is for, and by a plan of the moment: joined, or by a plan made
# while there were few, all fish of an angler's are read for every setting.
COUNT = """
create function count_caught_of(whose uuid, which uuid) returns void language plpgsql set enable_seqscan = off
  set plan_cache_mode = force_custom_plan as $$
declare
  rig setting%rowtype;
  day uuid;
begin
  select * into rig from setting where angler_id = whose and id = which;
  select outing_id into day from stop where angler_id = whose and id = rig.stop_id;
  delete from caught where angler_id = whose and outing_id = day and setting_id = which;
  insert into caught (angler_id, outing_id, setting_id, lane, fly, phase, species, fish, longest_mm)
    select whose, day, which, coalesce(d.lane, 0), c.fly, c.phase, c.species, count(distinct d.id), max(c.length_mm)
    from drift d cross join lateral (
      select fly, phase, species, length_mm from catch where angler_id = whose and drift_id = d.id and not undone offset 0
    ) c
    where d.angler_id = whose and d.setting_id = which and d.outcome = 'fish' and not d.undone
    group by coalesce(d.lane, 0), c.fly, c.phase, c.species;
end $$
"""

COUNT_ALL = """
insert into caught (angler_id, outing_id, setting_id, lane, fly, phase, species, fish, longest_mm)
  select d.angler_id, p.outing_id, d.setting_id, coalesce(d.lane, 0), c.fly, c.phase, c.species, count(distinct d.id),
    max(c.length_mm)
  from catch c
  join drift d on d.angler_id = c.angler_id and d.id = c.drift_id
  join setting s on s.angler_id = d.angler_id and s.id = d.setting_id
  join stop p on p.angler_id = s.angler_id and p.id = s.stop_id
  where d.outcome = 'fish' and not d.undone and not c.undone
  group by d.angler_id, p.outing_id, d.setting_id, coalesce(d.lane, 0), c.fly, c.phase, c.species
"""

OF_DRIFTS = """
create or replace function count_effort() returns trigger language plpgsql as $$
declare
  one record;
begin
  for one in select distinct angler_id, setting_id from touched loop
    perform count_effort_of(one.angler_id, one.setting_id);{caught}
  end loop;
  return null;
end $$
"""
CAUGHT_TOO = "\n    perform count_caught_of(one.angler_id, one.setting_id);"

OF_FISH = """
create function count_caught() returns trigger language plpgsql set enable_seqscan = off as $$
declare
  one record;
  under uuid;
begin
  for one in select distinct angler_id, drift_id from touched loop
    select setting_id into under from drift where angler_id = one.angler_id and id = one.drift_id;
    if found then
      perform count_caught_of(one.angler_id, under);
    end if;
  end loop;
  return null;
end $$
"""

TRIGGERS = (
    ("catch_added", "insert", "new"),
    ("catch_changed_to", "update", "new"),
    ("catch_changed_from", "update", "old"),
    ("catch_removed", "delete", "old"),
)


def upgrade() -> None:
    op.create_index("ix_setting_fly", "setting", ["angler_id", "fly"])
    op.execute(CAUGHT)
    op.create_index("ix_caught_species", "caught", ["angler_id", "species"])
    op.execute(COUNT)
    op.execute(COUNT_ALL)
    op.execute(OF_DRIFTS.format(caught=CAUGHT_TOO))
    op.execute(OF_FISH)
    for name, event, table in TRIGGERS:
        op.execute(
            f"create trigger {name} after {event} on catch referencing {table} table as touched"
            " for each statement execute function count_caught()"
        )
    for table in ("stop", "setting"):
        op.add_column(table, sa.Column("form", sa.SmallInteger(), server_default="2", nullable=False))
    # what was written before revision 0009 knew no winter in a school, and a collar as a form of fly
    op.execute("update stop set form = 1 where situation ? 'school' and not situation -> 'school' ? 'winter'")
    op.execute(
        "update setting set form = 1 where 'bright-collar stonefly nymph' in (setup ->> 'point_form', setup ->> 'dropper_form')"
    )
    op.add_column("change", sa.Column("filed", sa.Boolean(), server_default=sa.false(), nullable=False))
    op.add_column("foretold", sa.Column("ranked", sa.String(10), nullable=True))


def downgrade() -> None:
    op.drop_column("foretold", "ranked")
    op.drop_column("change", "filed")
    for table in ("setting", "stop"):
        op.drop_column(table, "form")
    for name, _, _ in TRIGGERS:
        op.execute(f"drop trigger {name} on catch")
    op.execute("drop function count_caught")
    op.execute(OF_DRIFTS.format(caught=""))
    op.execute("drop function count_caught_of")
    op.execute("drop table caught")
    op.drop_index("ix_setting_fly", "setting")
