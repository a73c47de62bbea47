-- Why: what counts is what was written last. With the clock of the server set back an old decision stood against a newer
-- reading: a time that is given now is never before one that the part has already. What comes in from a record keeps its own.
create function last_of(which uuid) returns timestamptz language sql stable as $$
    select greatest(
        (select max(taken_at) from reading where part_id = which),
        (select max(s.struck_at) from strike s join reading r on r.id = s.reading_id where r.part_id = which),
        (select max(taken_at) from junction_test where part_id = which),
        (select max(decided_at) from decision where part_id = which),
        (select max(fitted_at) from fitting where part_id = which),
        (select max(w.withdrawn_at) from withdrawal w join fitting f on f.id = w.fitting_id where f.part_id = which));
$$;
do $$
declare
    r record;
begin
    for r in select * from (values
        ('reading', 'taken_at', 'new.part_id'),
        ('junction_test', 'taken_at', 'new.part_id'),
        ('decision', 'decided_at', 'new.part_id'),
        ('fitting', 'fitted_at', 'new.part_id'),
        ('strike', 'struck_at', '(select x.part_id from reading x where x.id = new.reading_id)'),
        ('withdrawal', 'withdrawn_at', '(select x.part_id from fitting x where x.id = new.fitting_id)')
    ) as t (tab, col, part)
    loop
        execute format($f$
            create function sequence_of_%1$s() returns trigger language plpgsql as $b$
            begin
                if new.%2$I >= transaction_timestamp() then
                    new.%2$I := greatest(new.%2$I, last_of(%3$s) + interval '1 microsecond');
                end if;
                return new;
            end $b$;
            create trigger ab_sequence before insert on %1$I for each row execute function sequence_of_%1$s();
        $f$, r.tab, r.col, r.part);
    end loop;
end $$;

-- A count that is sent twice is counted once.
create table lot_count (
    key        uuid primary key,
    lot_id     uuid not null references lot (id) on delete cascade,
    counted_at timestamptz not null default now()
);
create index lot_count_of_lot on lot_count (lot_id);
-- A file of drawers that was taken, by its content.
create table drawer_file (
    hash     bytea primary key check (octet_length(hash) = 32),
    taken_at timestamptz not null default now()
);
