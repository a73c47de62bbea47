-- Why: the shelf shows all tickets, a write answers with one of them; both count what is left in the same words.
create view shelf as
select t.id, t.name, t.class, t.created_at, t.closed_at is not null as closed,
       count(p.id) as parts,
       count(*) filter (where p.to_do = 'to measure') as to_measure,
       count(*) filter (where p.to_do = 'to fit') as to_fit,
       count(*) filter (where p.to_do = 'to prove') as to_prove,
       count(*) filter (where p.to_do = 'to decide') as undecided
from ticket t left join part p on p.ticket_id = t.id
group by t.id;
