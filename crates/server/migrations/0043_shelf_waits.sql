-- Why: a long shelf is ordered by what waits for somebody. What reforms and what soaks comes before what can lie.
create or replace view shelf as
select t.id, t.name, t.source, t.devices, t.highest_volts, t.created_at, t.closed_at is not null as closed,
       n.parts, n.to_measure, n.to_fit, n.to_prove, n.undecided,
       exists (select from reform_run r join part p on p.id = r.part_id
               where p.ticket_id = t.id and r.phase in ('feeding', 'emptying')) as reforming,
       k.left_s as soak_left_s, coalesce(k.ended, false) as soak_ended
from ticket t cross join lateral (
    select count(*) as parts,
           count(*) filter (where to_do = 'to measure') as to_measure,
           count(*) filter (where to_do = 'to fit') as to_fit,
           count(*) filter (where to_do = 'to prove') as to_prove,
           count(*) filter (where to_do = 'to decide') as undecided
    from part p where p.ticket_id = t.id) n
left join lateral (
    select greatest(extract(epoch from s.begun_at + make_interval(secs => s.planned_s) - clock_timestamp()), 0)::float8 as left_s,
           exists (select from soak_check c where c.soak_id = s.id
                   and (not c.well or c.checked_at >= s.begun_at + make_interval(secs => s.planned_s))) as ended
    from soak s where s.ticket_id = t.id order by s.ordinal desc limit 1) k on true;
create index if not exists reform_run_live on reform_run (part_id) where phase in ('feeding', 'emptying');
