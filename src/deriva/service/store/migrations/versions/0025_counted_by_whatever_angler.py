"""Fish that were counted of a setting are found by their whole key, whoever the angler.

Of an angler whom the server's statistics don't know, it takes any index that begins with the angler to find one row: counts of
fish were looked for through all of that angler's, and a log that is taken in at once cost the square of its length. Asked for
as the outcome of a query, an angler is taken for an average one. (Asked so everywhere, a drift takes a quarter longer.)
"""

from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None

CAUGHT = """
create or replace function count_caught_of(whose uuid, which uuid) returns void language plpgsql set enable_seqscan = off
  set plan_cache_mode = force_custom_plan as $$
declare
  rig setting%rowtype;
  day uuid;
begin
  select * into rig from setting where angler_id = whose and id = which;
  select outing_id into day from stop where angler_id = whose and id = rig.stop_id;
  delete from caught where angler_id = {whose} and outing_id = {day} and setting_id = {which};
  insert into caught (angler_id, outing_id, setting_id, lane, fly, phase, species, fish, longest_mm)
    select whose, day, which, coalesce(d.lane, 0), c.fly, c.phase, c.species, count(distinct d.id), max(c.length_mm)
    from drift d cross join lateral (
      select fly, phase, species, length_mm from catch where angler_id = whose and drift_id = d.id and not undone offset 0
    ) c
    where d.angler_id = whose and d.setting_id = which and d.outcome = 'fish' and not d.undone
    group by coalesce(d.lane, 0), c.fly, c.phase, c.species;
end $$
"""


def upgrade() -> None:
    op.execute(CAUGHT.format(whose="(select whose)", day="(select day)", which="(select which)"))


def downgrade() -> None:
    op.execute(CAUGHT.format(whose="whose", day="day", which="which"))
