"""Writings with which nothing has to be compared go in at one call."""

from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

TAKE_NEW = """
create function take_new(
  token text, expected uuid, from_device uuid, heard_to bigint, moment timestamptz, kinds text[], events jsonb
) returns table (newest bigint, others boolean) language plpgsql as $$
declare
  who uuid;
  before bigint;
begin
  -- who is signed in; a session that has to be noted as seen takes the other way
  select s.angler_id into who from sign_in s
    where s.token_hash = token and s.expires_at > moment and s.seen_at > moment - interval '5 minutes';
  if who is null or expected <> who then
    return;
  end if;
  select a.changes into before from angler a where a.id = who for no key update;
  if heard_to > before then
    return;
  end if;
  begin
    insert into change (angler_id, position, id, device, sequence, kind, record, at, zone, body)
      select who, before + e.n, e.id, from_device, e.sequence, e.kind, e.record, e.at, e.zone, e.body
      from jsonb_to_recordset(events) e(
        n bigint, id uuid, sequence bigint, kind text, record uuid, at timestamptz, zone text, body jsonb
      );
    if 'stops' = any(kinds) then
      insert into stop (angler_id, id, outing_id, lie_id, at, situation)
        select who, e.record, r.outing_id, r.lie_id, r.at, r.situation
        from jsonb_to_recordset(events) e(kind text, record uuid, "row" jsonb),
          jsonb_to_record(e.row) r(outing_id uuid, lie_id uuid, at timestamptz, situation jsonb)
        where e.kind = 'stops';
    end if;
    if 'settings' = any(kinds) then
      insert into setting (angler_id, id, stop_id, at, rig, depth_setting_m, point_bead_mm, setup)
        select who, e.record, r.stop_id, r.at, r.rig, r.depth_setting_m, r.point_bead_mm, r.setup
        from jsonb_to_recordset(events) e(kind text, record uuid, "row" jsonb),
          jsonb_to_record(e.row) r(
            stop_id uuid, at timestamptz, rig text, depth_setting_m float, point_bead_mm float, setup jsonb
          )
        where e.kind = 'settings';
    end if;
    if 'drifts' = any(kinds) then
      insert into drift (angler_id, id, setting_id, at, outcome, pace, lane, stance, direction, dried, undone)
        select who, e.record, r.setting_id, r.at, r.outcome, r.pace, r.lane, r.stance, r.direction, r.dried, r.undone
        from jsonb_to_recordset(events) e(kind text, record uuid, "row" jsonb),
          jsonb_to_record(e.row) r(
            setting_id uuid, at timestamptz, outcome text, pace text, lane integer, stance integer, direction text,
            dried boolean, undone boolean
          )
        where e.kind = 'drifts';
    end if;
    if 'catches' = any(kinds) then
      insert into catch (
          angler_id, id, drift_id, at, species, length_mm, length_how, fly, phase, condition, undone
        )
        select who, e.record, r.drift_id, r.at, r.species, r.length_mm, r.length_how, r.fly, r.phase, r.condition, r.undone
        from jsonb_to_recordset(events) e(kind text, record uuid, "row" jsonb),
          jsonb_to_record(e.row) r(
            drift_id uuid, at timestamptz, species text, length_mm float, length_how text, fly text, phase text,
            condition text, undone boolean
          )
        where e.kind = 'catches';
    end if;
    update angler set changes = before + jsonb_array_length(events) where id = who;
  exception when unique_violation or foreign_key_violation then
    -- a writing or a record that is known, or a parent that is not the angler's: nothing is taken, and it is looked at
    return;
  end;
  return query select
    before + jsonb_array_length(events),
    exists (
      select 1 from change c
      where c.angler_id = who and c.position > heard_to and c.position <= before and c.device <> from_device
    );
end $$
"""


def upgrade() -> None:
    op.execute(TAKE_NEW)


def downgrade() -> None:
    op.execute("drop function take_new")
