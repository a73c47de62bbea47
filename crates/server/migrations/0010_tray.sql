-- Why: the shelf's counts were worked out anew from every reading of every ticket, by rules written a second time in SQL.
-- What is to be done on a part is now kept with it, as the core says it after each write. And a safety class is a property
-- of its own, known or not known, where a yes or no was taken from words in a description.

alter table part add column to_do text not null default 'to measure'
    check (to_do in ('to measure', 'to decide', 'to fit', 'to prove', 'nothing'));
alter table part disable trigger part_before;
with state as (
    select p.id, p.kind,
           exists (select from reading r where r.part_id = p.id
                     and not exists (select from strike where reading_id = r.id)) as measured,
           (select d.decided from decision d where d.part_id = p.id
              and not exists (select from reading r left join strike s on s.reading_id = r.id
                              where r.part_id = p.id and (r.taken_at > d.decided_at or s.struck_at > d.decided_at))
            order by d.ordinal desc limit 1) as decided,
           f.id as fitting_id,
           (select worked from proof where change_id = f.id) as worked
    from part p
    left join lateral (select id from fitting where part_id = p.id
                         and not exists (select from withdrawal where fitting_id = fitting.id)
                       order by ordinal desc limit 1) f on true
)
update part p set to_do = case
    when s.fitting_id is not null and s.worked is null then 'to prove'
    when s.fitting_id is not null and s.worked then 'nothing'
    when s.fitting_id is not null then 'to measure'
    when s.decided = 'replace' then 'to fit'
    when s.decided = 'measure again' then 'to measure'
    when s.decided is not null then 'nothing'
    when s.measured then 'to decide'
    when s.kind in ('lamp', 'integrated circuit') then 'nothing'
    else 'to measure' end
from state s where s.id = p.id;
alter table part enable trigger part_before;
create index part_to_do on part (ticket_id, to_do);
create index part_fed_by on part (feed_id) where feed_id is not null;

-- What an older release took from the words of the description is a class only where one of the four stands there.
alter table fitting alter column safety drop default;
alter table fitting alter column safety drop not null;
alter table fitting alter column safety type text
    using case when safety then (regexp_match(description, '\m(X1|X2|Y1|Y2)\M'))[1] end;
alter table fitting add check (safety in ('X1', 'X2', 'Y1', 'Y2'));
alter table fitting add check (safety is null or kind = 'capacitor');

-- Keeping what is to be done is no change of the part by anybody.
drop trigger part_before on part;
create trigger part_before before update on part for each row
    when (old.updated_at is distinct from new.updated_at or old.to_do is not distinct from new.to_do)
    execute function keep_row_before();
