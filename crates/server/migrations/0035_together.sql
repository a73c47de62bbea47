-- Why: what one bench does appears on the others, whichever server it came by. Every row that is written tells of its
-- ticket when its transaction commits; the same word in one transaction is told once. A row of the reforming bench that
-- its driver writes twice a second is told only when something happens in it: the readings have a stream of their own.

-- Who looks at which ticket. Unlogged: what a crash forgets, the pages say again within seconds.
create unlogged table here (
    page      uuid primary key,
    server    uuid not null,
    ticket_id uuid not null references ticket (id) on delete cascade,
    person_id uuid,
    person    text not null check (char_length(person) <= 60),
    bench     text not null check (char_length(bench) <= 60),
    begun_at  timestamptz not null default clock_timestamp(),
    seen_at   timestamptz not null default clock_timestamp()
);
create index here_of_ticket on here (ticket_id);
create index here_of_server on here (server);

-- 'T ticket page', 'W - page' for what belongs to the whole workshop, 'H ticket -' for who is here, 'B server -' for a
-- server's heartbeat. The page is the one that wrote: it knows already.
do $$
declare
    r record;
begin
    for r in select * from (values
        ('ticket', 'r.id', 'true'),
        ('part', 'r.ticket_id', 'true'),
        ('reading', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('strike', '(select x.ticket_id from part x join reading y on y.part_id = x.id where y.id = r.reading_id)', 'true'),
        ('decision', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('explanation', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('junction_test', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('cause', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('fitting', '(select x.ticket_id from part x where x.id = r.part_id)', 'true'),
        ('withdrawal', '(select x.ticket_id from part x join fitting y on y.part_id = x.id where y.id = r.fitting_id)', 'true'),
        ('change', 'r.ticket_id', 'true'),
        ('proof', '(select x.ticket_id from change x where x.id = r.change_id)', 'true'),
        ('attachment', 'r.ticket_id', 'true'),
        ('safety_tick', 'r.ticket_id', 'true'),
        ('power_up', 'r.ticket_id', 'true'),
        ('chart_point', 'r.ticket_id', 'true'),
        ('chart_run', 'r.ticket_id', 'true'),
        ('chart_reading', '(select x.ticket_id from chart_run x where x.id = r.run_id)', 'true'),
        ('feed', 'r.ticket_id', 'true'),
        ('bank', 'r.ticket_id', 'true'),
        ('soak', 'r.ticket_id', 'true'),
        ('soak_check', '(select x.ticket_id from soak x where x.id = r.soak_id)', 'true'),
        ('reform_run', '(select x.ticket_id from part x where x.id = r.part_id)',
                       'tg_op <> ''UPDATE'' or (old.phase, old.ending) is distinct from (new.phase, new.ending)'),
        ('here', 'r.ticket_id', 'tg_op <> ''UPDATE'' or old.ticket_id <> new.ticket_id'),
        ('lot', 'null', 'true'),
        ('match_lot', 'null', 'true'),
        ('device', 'null', 'true'),
        ('instrument', 'null', 'true'),
        ('policy', 'null', 'true'),
        ('workshop', 'null', 'true')
    ) as t (tab, ticket, worth)
    loop
        execute format($f$
            create function tell_of_%1$s() returns trigger language plpgsql as $b$
            declare
                t uuid;
                r %1$I%%rowtype;
            begin
                if not (%3$s) then
                    return null;
                end if;
                if tg_op = 'DELETE' then r := old; else r := new; end if;
                t := %2$s;
                -- gone with its ticket, which tells of itself
                if t is null and %4$L then
                    return null;
                end if;
                perform pg_notify('owl', %5$L || ' ' || coalesce(t::text, '-') || ' '
                                         || coalesce(nullif(current_setting('owl.page', true), ''), '-'));
                return null;
            end $b$;
            create trigger zz_tell after insert or update or delete on %1$I for each row execute function tell_of_%1$s();
        $f$, r.tab, r.ticket, r.worth, r.ticket <> 'null',
           case when r.tab = 'here' then 'H' when r.ticket = 'null' then 'W' else 'T' end);
    end loop;
end $$;
-- Somebody who turns to another ticket is no longer at the one before.
create function tell_where_from() returns trigger language plpgsql as $$
begin
    perform pg_notify('owl', 'H ' || old.ticket_id || ' -');
    return null;
end $$;
create trigger zz_tell_from after update on here for each row
    when (old.ticket_id <> new.ticket_id) execute function tell_where_from();
