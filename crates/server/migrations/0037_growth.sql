-- Why: with twenty thousand tickets the shelf, the search and what sets needed read every row that there is.
create index ticket_open on ticket (created_at, id) where closed_at is null;
create index ticket_closed on ticket (closed_at desc) where closed_at is not null;
create index ticket_newest on ticket (created_at desc);
create index ticket_called on ticket using gin (to_tsvector('simple', name));
create index ticket_name on ticket (name);
create index part_by_value on part (kind, (coalesce(marked, sheet)));
create index part_by_position on part (position) where position is not null;
-- The parts of a ticket are counted for those tickets alone that are looked at.
create or replace view shelf as
select t.id, t.name, t.source, t.devices, t.highest_volts, t.created_at, t.closed_at is not null as closed,
       n.parts, n.to_measure, n.to_fit, n.to_prove, n.undecided
from ticket t cross join lateral (
    select count(*) as parts,
           count(*) filter (where to_do = 'to measure') as to_measure,
           count(*) filter (where to_do = 'to fit') as to_fit,
           count(*) filter (where to_do = 'to prove') as to_prove,
           count(*) filter (where to_do = 'to decide') as undecided
    from part p where p.ticket_id = t.id) n;
