-- Why: which instrument was read last on a ticket was sought among all of its readings each time one was taken. A reading
-- now knows its ticket, and the shelf's counts come from their index alone.

alter table part add unique (id, ticket_id);
alter table reading add column ticket_id uuid;
alter table reading disable trigger reading_stays;
update reading r set ticket_id = p.ticket_id from part p where p.id = r.part_id;
alter table reading enable trigger reading_stays;
alter table reading alter column ticket_id set not null;
alter table reading drop constraint reading_part_id_fkey;
alter table reading add foreign key (part_id, ticket_id) references part (id, ticket_id) on delete cascade;
create index reading_last on reading (ticket_id, quantity, ordinal) where instrument_id is not null;

create or replace view shelf as
select t.id, t.name, t.class, t.created_at, t.closed_at is not null as closed,
       count(p.ticket_id) as parts,
       count(*) filter (where p.to_do = 'to measure') as to_measure,
       count(*) filter (where p.to_do = 'to fit') as to_fit,
       count(*) filter (where p.to_do = 'to prove') as to_prove,
       count(*) filter (where p.to_do = 'to decide') as undecided
from ticket t left join part p on p.ticket_id = t.id
group by t.id;
