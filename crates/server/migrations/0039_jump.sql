-- Why: a clock that is set back while a transaction is under way gave one reading a time before that of the one before it:
-- what is given now is known by the clock as it stands now, too.
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
            create or replace function sequence_of_%1$s() returns trigger language plpgsql as $b$
            begin
                if new.%2$I >= least(transaction_timestamp(), clock_timestamp() - interval '1 second') then
                    new.%2$I := greatest(new.%2$I, last_of(%3$s) + interval '1 microsecond');
                end if;
                return new;
            end $b$;
        $f$, r.tab, r.col, r.part);
    end loop;
end $$;
