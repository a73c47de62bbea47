-- A workshop of forty years, made out of the demo's: every ticket with all that hangs on it, again and again under other keys
-- and at other times. Run as superuser: nothing is checked and nothing is noted while it is written.
\set QUIET on
set session_replication_role = replica;
set synchronous_commit = off;

create function pg_temp.copies(tab text, copies int) returns bigint language plpgsql as $$
declare
    cols text; vals text; n bigint;
begin
    -- Keys become others, the same ones everywhere; what is the workshop's own (instruments, drawers, people) stays one.
    select string_agg(quote_ident(attname), ', ' order by attnum),
           string_agg(case
               when format_type(atttypid, atttypmod) = 'uuid'
                    and attname not in ('instrument_id', 'policy_id', 'lot_id', 'person_id', 'device_id', 'driver', 'session')
                   then format('uuid_in(md5(x.%I::text || k)::cstring)', attname)
               when format_type(atttypid, atttypmod) = 'timestamp with time zone' and attname <> 'driven_until'
                   then format('x.%I - k * interval ''6 hours''', attname)
               when tab = 'ticket' and attname = 'name' then 'left(x.name, 70) || '' '' || k % 300'
               when tab = 'ticket' and attname = 'demo' then 'false'
               when tab = 'part' and attname = 'made' then 'coalesce(x.made, 1930 + k % 50)'
               when tab = 'reading' and attname = 'value' then 'x.value * (0.9 + 0.2 * random())'
               else format('x.%I', attname) end, ', ' order by attnum)
    into cols, vals
    from pg_attribute where attrelid = tab::regclass and attnum > 0 and not attisdropped and attgenerated = '' and attidentity = '';
    execute format('insert into %I (%s) select %s from %I x, generate_series(1, %s) k', tab, cols, vals, tab, copies);
    get diagnostics n = row_count;
    return n;
end $$;

select greatest(1, :tickets / count(*))::int as copies from ticket \gset
select tab, pg_temp.copies(tab, :copies) as added from unnest(array['ticket', 'part', 'bank', 'bank_member', 'reading', 'strike',
    'decision', 'explanation', 'junction_test', 'cause', 'change', 'fitting', 'fitting_piece', 'withdrawal', 'proof', 'feed',
    'feed_node', 'feed_part', 'chart_point', 'chart_run', 'chart_reading', 'safety_tick', 'power_up', 'soak', 'soak_check',
    'reform_run', 'reform_said', 'act']) as tab;

-- Nothing of long ago is on the bench now.
delete from reform_run r using part p join ticket t on t.id = p.ticket_id where p.id = r.part_id and not t.demo and r.phase <> 'over';
delete from reform_said s where not exists (select from reform_run r where r.id = s.run_id);

-- One ticket in two hundred is still open.
update ticket set closed_at = created_at + interval '30 days', closing = 'as it was asked'
where not demo and closed_at is null and random() > 0.005;

-- Readings up to the number that is asked for: each part is measured again and again.
insert into reading (id, part_id, quantity, value, overrange, ceiling, state, hot, mode, instrument, typed, taken_at, ticket_id)
select gen_random_uuid(), r.part_id, r.quantity, r.value * (0.98 + 0.04 * random()), r.overrange, r.ceiling, r.state, r.hot, r.mode,
       r.instrument, r.typed, r.taken_at, r.ticket_id
from reading r, generate_series(1, 20) k limit greatest(0, :readings - (select count(*) from reading));

-- Reforming curves: a reading every second, over as many runs as it takes.
select reform_year(y) from generate_series(1980, 2027) y \g /dev/null
with runs as (select id, created_at, row_number() over () as r from reform_run where phase = 'over' limit 500)
insert into reform_curve (run_id, run_at, n, at_s, set_volts, volts, amperes)
select id, created_at, n, n, 250, least(250, n / 20.0), 0.001 * exp(-n / 3000.0) from runs, generate_series(100001, 100000 + :samples / 500) n;

-- Movements of the stock: drawers counted, pieces taken.
insert into lot (id, kind, family, value, tolerance, watts, count, place, condition, low_water)
select gen_random_uuid(), 'resistor', 'carbon film', (1 + k % 900) * 10.0 ^ (k % 5), 0.05, 0.5, k % 200, 'cabinet ' || k % 40, 'new', 3
from generate_series(1, 2000) k;
insert into lot_count (key, lot_id, counted_at)
select gen_random_uuid(), l.id, now() - k * interval '1 day' from (select id from lot order by id limit 2000) l, generate_series(1, :movements / 2000) k;
insert into act (at, person, bench, tab, what, row_key)
select now() - k * interval '1 hour', '', 'bench', 'lot', 'changed', gen_random_uuid()::text from generate_series(1, :movements) k;

set session_replication_role = origin;
vacuum analyze;
select (select count(*) from ticket) as tickets, (select count(*) from part) as parts, (select count(*) from reading) as readings,
       (select count(*) from reform_curve) as samples, (select count(*) from lot_count) as movements, (select count(*) from act) as acts,
       pg_size_pretty(pg_database_size(current_database())) as size;
