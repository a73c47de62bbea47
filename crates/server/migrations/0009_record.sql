-- Why: a job ends with a soak and a record that the owner and the next technician can read. The record leaves the
-- workshop as one document and comes in again elsewhere, whole or not at all; and what was learned is found again.

alter table ticket add column closed_at timestamptz;
-- What the owner is to watch, in plain words.
alter table ticket add column closing text not null default '' check (length(closing) <= 2000);

create table soak (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    planned_s double precision not null check (planned_s between 60 and 604800),
    every_s   double precision not null check (every_s between 10 and 86400),
    begun_at  timestamptz not null default clock_timestamp()
);
create index soak_of_ticket on soak (ticket_id, ordinal);

create table soak_check (
    id       uuid primary key,
    ordinal  bigint generated always as identity unique,
    soak_id  uuid not null references soak (id) on delete cascade,
    well     boolean not null,
    seen     text not null check (length(seen) between 1 and 400),
    checked_at timestamptz not null default clock_timestamp()
);
create index soak_check_of_soak on soak_check (soak_id, ordinal);
create trigger soak_stays before update on soak for each row execute function refuse_change();
create trigger soak_check_stays before update on soak_check for each row execute function refuse_change();
create trigger soak_is_kept before delete on soak for each row execute function refuse_change();
create trigger soak_check_is_kept before delete on soak_check for each row execute function refuse_change();

-- Photographs, without what the camera wrote beside them, and sheets.
create table attachment (
    id        uuid primary key,
    ticket_id uuid not null references ticket (id) on delete cascade,
    part_id   uuid references part (id) on delete set null,
    name      text not null check (length(name) between 1 and 120),
    media     text not null check (media in ('image/jpeg', 'image/png', 'application/pdf')),
    width     integer check (width > 0),
    height    integer check (height > 0),
    content   bytea not null check (octet_length(content) between 1 and 25000000),
    -- a small copy; none of a PDF
    small     bytea,
    added_at  timestamptz not null default clock_timestamp()
);
create index attachment_of_ticket on attachment (ticket_id, added_at);

alter table part add column said tsvector generated always as (
    to_tsvector('simple', name || ' ' || kind || ' ' || coalesce(family, '') || ' ' || coalesce(position, '') || ' '
                          || place || ' ' || note || ' ' || marking)) stored;
create index part_said on part using gin (said);
alter table ticket add column said tsvector generated always as (
    to_tsvector('simple', name || ' ' || complaint || ' ' || wants || ' ' || earlier_work || ' ' || supply)) stored;
create index ticket_said on ticket using gin (said);

-- The rows of a ticket, table by table, each in the order in which it was written.
create function ticket_rows(wanted uuid) returns jsonb language sql stable as $$
    with parts as (select id from part where ticket_id = wanted),
         readings as (select id from reading where part_id in (select id from parts)),
         changes as (select id from change where ticket_id = wanted),
         fittings as (select id from fitting where part_id in (select id from parts)),
         runs as (select id from reform_run where part_id in (select id from parts) and phase = 'over')
    select jsonb_build_object(
        'ticket', (select to_jsonb(t) - 'said' from ticket t where id = wanted),
        'parts', (select coalesce(jsonb_agg(to_jsonb(p) - 'said' order by p.name), '[]') from part p where ticket_id = wanted),
        'readings', (select coalesce(jsonb_agg(to_jsonb(r) - 'ordinal' order by r.ordinal), '[]') from reading r where id in (select id from readings)),
        'strikes', (select coalesce(jsonb_agg(to_jsonb(s) order by s.struck_at, s.id), '[]') from strike s where reading_id in (select id from readings)),
        'explanations', (select coalesce(jsonb_agg(to_jsonb(e) - 'ordinal' order by e.ordinal), '[]') from explanation e where part_id in (select id from parts)),
        'junction_tests', (select coalesce(jsonb_agg(to_jsonb(j) - 'ordinal' order by j.ordinal), '[]') from junction_test j where part_id in (select id from parts)),
        'decisions', (select coalesce(jsonb_agg(to_jsonb(d) - 'ordinal' order by d.ordinal), '[]') from decision d where part_id in (select id from parts)),
        'causes', (select coalesce(jsonb_agg(to_jsonb(c) - 'ordinal' order by c.ordinal), '[]') from cause c where part_id in (select id from parts)),
        'changes', (select coalesce(jsonb_agg(to_jsonb(c) - 'ordinal' order by c.ordinal), '[]') from change c where ticket_id = wanted),
        'fittings', (select coalesce(jsonb_agg(to_jsonb(f) - 'ordinal' order by f.ordinal), '[]') from fitting f where id in (select id from fittings)),
        'fitting_pieces', (select coalesce(jsonb_agg(to_jsonb(f) order by f.fitting_id, f.place), '[]') from fitting_piece f where fitting_id in (select id from fittings)),
        'withdrawals', (select coalesce(jsonb_agg(to_jsonb(w) order by w.withdrawn_at, w.id), '[]') from withdrawal w where fitting_id in (select id from fittings)),
        'proofs', (select coalesce(jsonb_agg(to_jsonb(p) order by p.proven_at, p.id), '[]') from proof p where change_id in (select id from changes)),
        'safety_ticks', (select coalesce(jsonb_agg(to_jsonb(s) order by s.ticked_at, s.id), '[]') from safety_tick s where ticket_id = wanted),
        'power_ups', (select coalesce(jsonb_agg(to_jsonb(p) - 'ordinal' order by p.ordinal), '[]') from power_up p where ticket_id = wanted),
        'chart_points', (select coalesce(jsonb_agg(to_jsonb(c) order by c.place, c.name), '[]') from chart_point c where ticket_id = wanted),
        'chart_runs', (select coalesce(jsonb_agg(to_jsonb(c) - 'ordinal' order by c.ordinal), '[]') from chart_run c where ticket_id = wanted),
        'chart_readings', (select coalesce(jsonb_agg(to_jsonb(c) order by c.run_id, c.point_id), '[]') from chart_reading c
                           where run_id in (select id from chart_run where ticket_id = wanted)),
        'feeds', (select coalesce(jsonb_agg(to_jsonb(f) - 'ordinal' order by f.ordinal), '[]') from feed f where ticket_id = wanted),
        'feed_parts', (select coalesce(jsonb_agg(to_jsonb(f) order by f.feed_id, f.place), '[]') from feed_part f
                       where feed_id in (select id from feed where ticket_id = wanted)),
        'feed_nodes', (select coalesce(jsonb_agg(to_jsonb(f) order by f.feed_id, f.node), '[]') from feed_node f
                       where feed_id in (select id from feed where ticket_id = wanted)),
        'reform_runs', (select coalesce(jsonb_agg(to_jsonb(r) - 'ordinal' order by r.ordinal), '[]') from reform_run r where id in (select id from runs)),
        'reform_samples', (select coalesce(jsonb_agg(to_jsonb(r) - 'key' order by r.run_id, r.n), '[]') from reform_sample r where run_id in (select id from runs)),
        'reform_said', (select coalesce(jsonb_agg(to_jsonb(r) order by r.run_id, r.n), '[]') from reform_said r where run_id in (select id from runs)),
        'soaks', (select coalesce(jsonb_agg(to_jsonb(s) - 'ordinal' order by s.ordinal), '[]') from soak s where ticket_id = wanted),
        'soak_checks', (select coalesce(jsonb_agg(to_jsonb(s) - 'ordinal' order by s.ordinal), '[]') from soak_check s
                        where soak_id in (select id from soak where ticket_id = wanted)),
        'attachments', (select coalesce(jsonb_agg(to_jsonb(a) order by a.added_at, a.id), '[]') from attachment a where ticket_id = wanted));
$$;

-- Puts rows into a table, in their order; numbers of its own are given anew.
create function put_rows(which regclass, given jsonb) returns void language plpgsql as $$
declare
    columns text;
begin
    select string_agg(quote_ident(attname), ', ' order by attnum) into columns from pg_attribute
    where attrelid = which and attnum > 0 and not attisdropped and attidentity = '' and attgenerated = '';
    execute format('insert into %1$s (%2$s) select %2$s from (select x.* from jsonb_array_elements($1) with ordinality e (r, n)
                    cross join lateral jsonb_populate_record(null::%1$s, e.r) x order by e.n) y', which, columns) using given;
end $$;

-- Refuses rows that belong to what is not in the same document.
create function refuse_strangers(name text, given jsonb, field text, known jsonb) returns void language plpgsql as $$
begin
    if exists (select from jsonb_array_elements(given) r
               where r ->> field is not null
                 and not exists (select from jsonb_array_elements(known) k where k ->> 'id' = r ->> field)) then
        raise exception '%: % refers to something that is not in this file', name, field using errcode = 'foreign_key_violation';
    end if;
end $$;

-- Takes a document in, whole; the caller's transaction goes back when anything is refused.
create function take_ticket_rows(doc jsonb) returns uuid language plpgsql as $$
declare
    whole jsonb := jsonb_build_array(doc -> 'ticket');
    parts jsonb := doc -> 'parts';
    pair text[];
begin
    -- What belongs to this workshop alone, and is not here, is let go; the words about it are in the rows.
    whole := jsonb_build_array((doc -> 'ticket') || jsonb_build_object('policy_id',
        (select id from policy where id::text = doc -> 'ticket' ->> 'policy_id')));
    foreach pair slice 1 in array array[
        ['parts', 'ticket_id', 'ticket'], ['changes', 'ticket_id', 'ticket'], ['safety_ticks', 'ticket_id', 'ticket'],
        ['power_ups', 'ticket_id', 'ticket'], ['chart_points', 'ticket_id', 'ticket'], ['chart_runs', 'ticket_id', 'ticket'],
        ['feeds', 'ticket_id', 'ticket'], ['soaks', 'ticket_id', 'ticket'], ['attachments', 'ticket_id', 'ticket'],
        ['parts', 'feed_id', 'parts'], ['parts', 'suspect_of', 'parts'], ['attachments', 'part_id', 'parts'],
        ['changes', 'part_id', 'parts'], ['changes', 'undoes', 'changes'], ['chart_points', 'pair_id', 'chart_points'],
        ['readings', 'part_id', 'parts'], ['strikes', 'reading_id', 'readings'], ['explanations', 'part_id', 'parts'],
        ['junction_tests', 'part_id', 'parts'], ['decisions', 'part_id', 'parts'], ['decisions', 'reading_id', 'readings'],
        ['causes', 'part_id', 'parts'], ['causes', 'culprit_id', 'parts'], ['fittings', 'part_id', 'parts'],
        ['fittings', 'id', 'changes'], ['fitting_pieces', 'fitting_id', 'fittings'],
        ['withdrawals', 'fitting_id', 'fittings'], ['proofs', 'change_id', 'changes'],
        ['chart_readings', 'run_id', 'chart_runs'], ['chart_readings', 'point_id', 'chart_points'],
        ['feed_parts', 'feed_id', 'feeds'], ['feed_nodes', 'feed_id', 'feeds'], ['reform_runs', 'part_id', 'parts'],
        ['reform_samples', 'run_id', 'reform_runs'], ['reform_said', 'run_id', 'reform_runs'],
        ['soak_checks', 'soak_id', 'soaks']]
    loop
        perform refuse_strangers(pair[1], doc -> pair[1], pair[2],
                                 case when pair[3] = 'ticket' then whole else doc -> pair[3] end);
    end loop;
    if exists (select from jsonb_array_elements(doc -> 'reform_runs') r where r ->> 'phase' <> 'over') then
        raise exception 'reform_runs: a run that is not over cannot come in' using errcode = 'check_violation';
    end if;
    perform put_rows('ticket', whole);
    perform put_rows('part', parts);
    perform put_rows('reading', (select coalesce(jsonb_agg(r || jsonb_build_object('instrument_id',
        (select id from instrument where id::text = r ->> 'instrument_id')) order by n), '[]')
        from jsonb_array_elements(doc -> 'readings') with ordinality e (r, n)));
    perform put_rows('strike', doc -> 'strikes');
    perform put_rows('explanation', doc -> 'explanations');
    perform put_rows('junction_test', doc -> 'junction_tests');
    perform put_rows('decision', doc -> 'decisions');
    perform put_rows('cause', doc -> 'causes');
    perform put_rows('change', doc -> 'changes');
    perform put_rows('fitting', doc -> 'fittings');
    perform put_rows('fitting_piece', (select coalesce(jsonb_agg(r || jsonb_build_object('lot_id',
        (select id from lot where id::text = r ->> 'lot_id')) order by n), '[]')
        from jsonb_array_elements(doc -> 'fitting_pieces') with ordinality e (r, n)));
    perform put_rows('withdrawal', doc -> 'withdrawals');
    perform put_rows('proof', doc -> 'proofs');
    perform put_rows('safety_tick', doc -> 'safety_ticks');
    perform put_rows('power_up', doc -> 'power_ups');
    perform put_rows('chart_point', doc -> 'chart_points');
    perform put_rows('chart_run', doc -> 'chart_runs');
    perform put_rows('chart_reading', doc -> 'chart_readings');
    perform put_rows('feed', doc -> 'feeds');
    perform put_rows('feed_part', doc -> 'feed_parts');
    perform put_rows('feed_node', doc -> 'feed_nodes');
    perform put_rows('reform_run', doc -> 'reform_runs');
    perform put_rows('reform_sample', doc -> 'reform_samples');
    perform put_rows('reform_said', doc -> 'reform_said');
    perform put_rows('soak', doc -> 'soaks');
    perform put_rows('soak_check', doc -> 'soak_checks');
    perform put_rows('attachment', doc -> 'attachments');
    return (doc -> 'ticket' ->> 'id')::uuid;
end $$;
