-- An angler's log of many years: a fly is lost in one drift of fifty, a fish caught in one of twenty-five, and one of ten of them measured after its length was judged (stated here). Ids grow with their place, as those of UUIDv7 do with time; other anglers may have the same.

create or replace function pg_temp.id(kind integer, place bigint) returns uuid language sql immutable as
$$ select (lpad(to_hex(kind), 12, '0') || '70008' || lpad(to_hex(place), 15, '0'))::uuid $$;

insert into outing (angler_id, id, beat_id, started_at, ended_at, conditions)
select %(angler)s, pg_temp.id(1, o), %(beat)s, t, t + interval '5 hours', '{"temperature_c": 11.0}'
from generate_series(0, %(outings)s - 1) o,
  lateral (select %(now)s::timestamptz - (%(outings)s - o) * interval '20 hours' as t) s;

insert into stop (angler_id, id, outing_id, lie_id, at, situation)
select angler_id, pg_temp.id(2, (row_number() over (order by id) - 1) * %(stops)s + s), id,
  (%(lies)s::uuid[])[1 + (row_number() over (order by id) + s) %% array_length(%(lies)s::uuid[], 1)],
  started_at + s * interval '1 hour',
  %(situation)s::jsonb || jsonb_build_object('water', (%(situation)s::jsonb -> 'water') || jsonb_build_object(
    'flow_class', (array['below_normal', 'normal', 'above_normal', 'much_above_normal'])[1 + extract(doy from started_at)::integer %% 4],
    'temperature_c', 5 + extract(doy from started_at)::integer %% 14,
    'kind', (array['run', 'seam', 'pool_head'])[1 + s %% 3]))
from outing, generate_series(0, %(stops)s - 1) s
where angler_id = %(angler)s;

insert into reading (angler_id, id, lie_id, at, depth_m, depth_sd_m, depth_how, surface_speed_m_s, speed_how, clarity_m,
  temperature_c, distance_m, wind_m_s, tight_casting, flow_class, undertow, flow_m3_s)
select angler_id, pg_temp.id(3, row_number() over ()), lie_id, at, 0.8, 0.1, 'staff', 0.5, 'typed', 1.2,
  11.0, 6.0, 2.0, false, 'normal', false, 2.0 + extract(doy from at) / 100
from stop
where angler_id = %(angler)s;

insert into setting (angler_id, id, stop_id, at, rig, depth_setting_m, point_bead_mm, setup)
select angler_id, pg_temp.id(4, (row_number() over (order by id, k) - 1)), id, at + k * interval '25 minutes', 'euro', 1.0,
  2.0 + 0.5 * ((k + extract(doy from at)::integer) %% 5), %(setup)s
from stop, generate_series(0, %(settings)s - 1) k
where angler_id = %(angler)s;

insert into foretold (angler_id, setting_id, engine, ranked, in_zone, tick, hung)
select angler_id, id, %(engine)s, case n %% 3 when 0 then 'first' else 'behind' end, 0.2 + 0.1 * (n %% 6), 0.01 + 0.04 * (n %% 11), 0.01
from (select *, row_number() over (order by id) as n from setting where angler_id = %(angler)s) s;

insert into drift (angler_id, id, setting_id, at, outcome, pace, lane, dried, undone)
select angler_id, pg_temp.id(5, (row_number() over (order by id, d) - 1)), id, at + d * interval '1 minute',
  case when d = 7 and n %% 2 = 0 then 'lost_fly' else case d when 3 then 'fish' when 11 then 'tick' when 12 then 'hung' when 13 then 'missed' else 'clean' end end,
  case when d %% 3 = 0 then 'slower' end, d %% 3 + 1, false, d = 20
from (select *, row_number() over (order by id) as n from setting where angler_id = %(angler)s) s,
  generate_series(0, %(drifts)s - 1) d;

insert into catch (angler_id, id, drift_id, at, species, length_mm, length_how, fly, phase, undone)
select angler_id, pg_temp.id(6, row_number() over ()), id, at, 'brown trout', 240, case n %% 10 when 0 then 'measured' else 'eye' end, 'point',
  (array['drop', 'drift', 'swing'])[1 + n %% 3], false
from (select *, row_number() over (order by id) as n from drift where angler_id = %(angler)s and outcome = 'fish') d;

insert into change (angler_id, position, id, device, sequence, kind, record, at, zone, body)
select angler_id, n, pg_temp.id(7, n), pg_temp.id(0, 1), n, 'drifts', id, at, 'Europe/Vienna',
  jsonb_build_object('setting_id', setting_id, 'at', at, 'outcome', outcome, 'pace', pace, 'lane', lane)
from (select *, row_number() over (order by id) as n from drift where angler_id = %(angler)s) d;

insert into change (angler_id, position, id, device, sequence, kind, record, at, zone, body)
select angler_id, n, pg_temp.id(7, n), pg_temp.id(0, 1), n, 'catches', id, at, 'Europe/Vienna',
  jsonb_build_object('length_mm', 250 + n %% 20, 'length_how', 'eye')
from (select *, (select count(*) from drift where angler_id = %(angler)s) + row_number() over (order by id) as n
  from catch where angler_id = %(angler)s and length_how = 'measured') c;

update angler set changes = (select count(*) from change where angler_id = %(angler)s) where id = %(angler)s;

analyze setting, stop, drift, catch;

select count(count_effort_of(angler_id, id)), count(count_caught_of(angler_id, id)) from setting where angler_id = %(angler)s;
