-- Why: a slip of a key is taken back where it was made, with one key, ten steps deep. What a deed wrote is noted row by row
-- in its transaction; taking it back puts the rows as they were, and is refused where something else has changed them since.
create table deed (
    id        bigint generated always as identity primary key,
    ticket_id uuid not null references ticket (id) on delete cascade,
    -- in words, and the part that it was done to; of a valve none
    what      text not null check (char_length(what) between 1 and 300),
    part_id   uuid,
    done_at   timestamptz not null default clock_timestamp(),
    undone_at timestamptz
);
create index deed_of_ticket on deed (ticket_id, id desc);
create table deed_row (
    deed_id bigint not null references deed (id) on delete cascade,
    n       bigint generated always as identity,
    tab     text not null,
    before  jsonb,
    after   jsonb,
    primary key (deed_id, n),
    check (before is not null or after is not null)
);

create function note_deed() returns trigger language plpgsql as $$
declare
    which bigint := nullif(current_setting('owl.deed', true), '')::bigint;
begin
    if which is not null then
        insert into deed_row (deed_id, tab, before, after)
        values (which, tg_table_name, case when tg_op <> 'INSERT' then to_jsonb(old) end,
                case when tg_op <> 'DELETE' then to_jsonb(new) end);
    end if;
    return null;
end $$;
do $$
declare
    tab text;
begin
    foreach tab in array array['part', 'reading', 'strike', 'decision', 'fitting', 'fitting_piece', 'proof', 'withdrawal',
                               'change', 'lot', 'chart_point', 'chart_run', 'chart_reading']
    loop
        execute format('create trigger zz_deed after insert or update or delete on %I for each row execute function note_deed()', tab);
    end loop;
end $$;

-- History is only ever added to; what a deed added goes with the deed that is taken back.
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
    if current_setting('owl.undoing', true) = 'yes' then
        return case when tg_op = 'DELETE' then old else new end;
    end if;
    -- A ticket that goes takes its history with it: then the deletion comes from within.
    if tg_op = 'DELETE' and pg_trigger_depth() > 1 then
        return old;
    end if;
    raise exception '% is only ever added to', tg_table_name using errcode = 'restrict_violation';
end $$;

-- Takes a deed back: its rows in the reverse order, each as it was. A row that has changed since holds it (OW001).
create function undo_deed(which bigint) returns void language plpgsql as $$
declare
    -- what every write moves, and what follows from the rest
    loose constant text[] := array['version', 'updated_at', 'to_do'];
    r deed_row;
    at text;
    cols text;
    now_there jsonb;
begin
    perform set_config('owl.undoing', 'yes', true);
    for r in select * from deed_row where deed_id = which order by n desc loop
        select string_agg(format('t.%1$I = x.%1$I', a.attname), ' and ') into at
        from pg_index i join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any (i.indkey)
        where i.indrelid = r.tab::regclass and i.indisprimary;
        execute format('select to_jsonb(t) from %1$I t, jsonb_populate_record(null::%1$I, $1) x where %2$s', r.tab, at)
            into now_there using coalesce(r.after, r.before);
        if r.tab = 'lot' and r.before is not null and r.after is not null then
            update lot set count = greatest(count + (r.before ->> 'count')::int - (r.after ->> 'count')::int, 0),
                measured = case when to_jsonb(measured) = r.after -> 'measured'
                                then (jsonb_populate_record(null::lot, r.before)).measured else measured end
            where id = (r.after ->> 'id')::uuid;
            continue;
        end if;
        if (now_there - loose) is distinct from (r.after - loose) then
            raise exception '% has changed since', r.tab using errcode = 'OW001';
        end if;
        if r.before is null then
            if r.tab = 'part' and (exists (select from reading where part_id = (r.after ->> 'id')::uuid)
                                   or exists (select from decision where part_id = (r.after ->> 'id')::uuid)
                                   or exists (select from reform_run where part_id = (r.after ->> 'id')::uuid)) then
                raise exception 'something was done with the part since' using errcode = 'OW001';
            end if;
            execute format('delete from %1$I t using jsonb_populate_record(null::%1$I, $1) x where %2$s', r.tab, at)
                using r.after;
        elsif r.after is null then
            execute format('insert into %1$I overriding system value select * from jsonb_populate_record(null::%1$I, $1)', r.tab)
                using r.before;
        else
            select string_agg(format(case when attname = 'version' then '%1$I = t.%1$I + 1' else '%1$I = x.%1$I' end, attname), ', ')
            into cols from pg_attribute
            where attrelid = r.tab::regclass and attnum > 0 and not attisdropped and attidentity = '' and attgenerated = '';
            execute format('update %1$I t set %3$s from jsonb_populate_record(null::%1$I, $1) x where %2$s', r.tab, at, cols)
                using r.before;
        end if;
    end loop;
    update deed set undone_at = clock_timestamp() where id = which;
    perform set_config('owl.undoing', '', true);
end $$;
