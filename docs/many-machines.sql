-- The database parted over machines by angler, with the Citus extension of PostgreSQL: written by `make docs` from the tables,
-- to be run once on an empty database after `deriva migrate`. Tried so far on PostgreSQL's own partitions alone
-- (`make partitioned`); docs/decisions/0017-growth-and-many-machines.md says what that shows and what it does not.

alter table account drop constraint fk_account_angler;
alter table sign_in drop constraint fk_sign_in_angler;
select create_reference_table('attempt');
select create_reference_table('known_place');
select create_reference_table('account');
select create_reference_table('sign_in');
select create_reference_table('mail');
select create_reference_table('ticket');
select create_distributed_table('angler', 'id');
select create_distributed_table('gauge_value', 'angler_id', colocate_with => 'angler');
select create_distributed_table('box_item', 'angler_id', colocate_with => 'angler');
select create_distributed_table('change', 'angler_id', colocate_with => 'angler');
select create_distributed_table('practice_game', 'angler_id', colocate_with => 'angler');
select create_distributed_table('river', 'angler_id', colocate_with => 'angler');
select create_distributed_table('beat', 'angler_id', colocate_with => 'angler');
select create_distributed_table('blur', 'angler_id', colocate_with => 'angler');
select create_distributed_table('gauge', 'angler_id', colocate_with => 'angler');
select create_distributed_table('weather_hour', 'angler_id', colocate_with => 'angler');
select create_distributed_table('job', 'angler_id', colocate_with => 'angler');
select create_distributed_table('lie', 'angler_id', colocate_with => 'angler');
select create_distributed_table('outing', 'angler_id', colocate_with => 'angler');
select create_distributed_table('caught', 'angler_id', colocate_with => 'angler');
select create_distributed_table('effort', 'angler_id', colocate_with => 'angler');
select create_distributed_table('reading', 'angler_id', colocate_with => 'angler');
select create_distributed_table('share', 'angler_id', colocate_with => 'angler');
select create_distributed_table('sounding', 'angler_id', colocate_with => 'angler');
select create_distributed_table('stop', 'angler_id', colocate_with => 'angler');
select create_distributed_table('setting', 'angler_id', colocate_with => 'angler');
select create_distributed_table('drift', 'angler_id', colocate_with => 'angler');
select create_distributed_table('foretold', 'angler_id', colocate_with => 'angler');
select create_distributed_table('catch', 'angler_id', colocate_with => 'angler');
select create_distributed_table('note', 'angler_id', colocate_with => 'angler');
