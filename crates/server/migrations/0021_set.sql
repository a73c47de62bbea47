-- Why: the class of a set was one word for three answers: how it is fed, what it works with, how high its volts are. A
-- transistor set on batteries was told of grids, one on the mains of batteries. And what is known of a set's supply was asked
-- of each part anew; it is now kept once, with the ticket.
alter table ticket
    add column source text check (source in ('mains transformer', 'mains, live chassis', 'battery',
                                             'battery or mains transformer', 'battery or mains, live chassis')),
    add column devices text check (devices in ('valves', 'transistors', 'valves and transistors')),
    add column highest_volts double precision check (highest_volts > 0 and highest_volts < 1e6),
    add column facts jsonb not null default '{}' check (jsonb_typeof(facts) = 'object');

-- Of a transistor set it was not said how it is fed, but whether its chassis is live and for which line it is made; of a
-- transmitter, that it has kilovolts: the least of them is written down, so that its warnings stay.
update ticket set
    source = case
        when class = 'live chassis' or hot_chassis then 'mains, live chassis'
        when class = 'battery' or (class = 'solid state' and (line_volts is null or line_volts < 50)) then 'battery'
        else 'mains transformer' end,
    devices = case class when 'solid state' then 'transistors' else 'valves' end,
    highest_volts = case class when 'high voltage' then 1000 end;

alter table ticket alter column source set not null, alter column devices set not null;
drop view shelf;
alter table ticket drop column class, drop column hot_chassis;
create view shelf as
select t.id, t.name, t.source, t.devices, t.highest_volts, t.created_at, t.closed_at is not null as closed,
       count(p.ticket_id) as parts,
       count(*) filter (where p.to_do = 'to measure') as to_measure,
       count(*) filter (where p.to_do = 'to fit') as to_fit,
       count(*) filter (where p.to_do = 'to prove') as to_prove,
       count(*) filter (where p.to_do = 'to decide') as undecided
from ticket t left join part p on p.ticket_id = t.id
group by t.id;

-- Whether the workshop writes nanofarads.
alter table workshop
    add column capacitance text not null default 'with nF' check (capacitance in ('with nF', 'µF and pF only'));

-- Tracks, wires, joints and switch contacts are parts of a supply branch: no resistance while they are good.
alter table feed_part drop constraint feed_part_kind_check;
alter table feed_part add constraint feed_part_kind_check check (kind in ('resistor', 'capacitor', 'load', 'contact'));
