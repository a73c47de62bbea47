-- Why: a key makes sending twice the same as sending once. Sent again for something else it was answered with "taken",
-- and nothing was kept.
do $$
declare
    r record;
begin
    for r in select * from (values
        ('part', 'ticket_id'), ('reading', 'part_id'), ('strike', 'reading_id'), ('decision', 'part_id'),
        ('explanation', 'part_id'), ('junction_test', 'part_id'), ('cause', 'part_id'), ('fitting', 'part_id'),
        ('withdrawal', 'fitting_id'), ('change', 'ticket_id'), ('proof', 'change_id'), ('attachment', 'ticket_id'),
        ('safety_tick', 'ticket_id'), ('power_up', 'ticket_id'), ('soak', 'ticket_id'), ('soak_check', 'soak_id')
    ) as t (tab, parent)
    loop
        execute format($f$
            create function key_of_%1$s() returns trigger language plpgsql as $b$
            begin
                if exists (select from %1$I where id = new.id and %2$I is distinct from new.%2$I) then
                    raise exception 'a key of %1$s was used for something else' using errcode = 'OW002';
                end if;
                return new;
            end $b$;
            create trigger aa_key before insert on %1$I for each row execute function key_of_%1$s();
        $f$, r.tab, r.parent);
    end loop;
end $$;
