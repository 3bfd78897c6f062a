"""What is counted of a setting is found by its whole key, whoever the angler.

Of an angler whom the server's statistics don't know, it takes any index that begins with the angler to find one row: counts of
fish were looked for through all of that angler's, and a log that is taken in at once cost the square of its length. Asked for
as the outcome of a query, an angler is taken for an average one.
"""

from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None

EFFORT = """
create or replace function count_effort_of(whose uuid, which uuid) returns void language plpgsql set enable_seqscan = off
as $$
declare
  rig setting%rowtype;
  stay stop%rowtype;
begin
  select * into rig from setting where angler_id = {whose} and id = {which};
  select * into stay from stop where angler_id = {whose} and id = rig.stop_id;
  delete from effort where angler_id = {whose} and outing_id = {outing} and setting_id = {which};
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
      where d.angler_id = {whose} and d.setting_id = {which} and not d.undone
    ) drifted
    group by lane;
end $$
"""

CAUGHT = """
create or replace function count_caught_of(whose uuid, which uuid) returns void language plpgsql set enable_seqscan = off
  set plan_cache_mode = force_custom_plan as $$
declare
  rig setting%rowtype;
  day uuid;
begin
  select * into rig from setting where angler_id = {whose} and id = {which};
  select outing_id into day from stop where angler_id = {whose} and id = rig.stop_id;
  delete from caught where angler_id = {whose} and outing_id = {day} and setting_id = {which};
  insert into caught (angler_id, outing_id, setting_id, lane, fly, phase, species, fish, longest_mm)
    select whose, day, which, coalesce(d.lane, 0), c.fly, c.phase, c.species, count(distinct d.id), max(c.length_mm)
    from drift d cross join lateral (
      select fly, phase, species, length_mm from catch where angler_id = {whose} and drift_id = d.id and not undone offset 0
    ) c
    where d.angler_id = {whose} and d.setting_id = {which} and d.outcome = 'fish' and not d.undone
    group by coalesce(d.lane, 0), c.fly, c.phase, c.species;
end $$
"""


def upgrade() -> None:
    for function in (EFFORT, CAUGHT):
        op.execute(
            function.format(
                whose="(select whose)", which="(select which)", outing="(select stay.outing_id)", day="(select day)"
            )
        )


def downgrade() -> None:
    for function in (EFFORT, CAUGHT):
        op.execute(function.format(whose="whose", which="which", outing="stay.outing_id", day="day"))
