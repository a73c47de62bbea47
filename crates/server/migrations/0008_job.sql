-- Why: parts are judged inside a job. A ticket carries the job from intake to first power, the voltage chart and the feed
-- in which the guilty part is sought. And it keeps the order of changes: one open at a time, each proven before the next,
-- or overridden with a reason that stays in the record.

alter table ticket add column symptoms text[] not null default '{}' check (cardinality(symptoms) <= 40);
alter table ticket add column wants text not null default '' check (length(wants) <= 400);
alter table ticket add column supply text not null default '' check (length(supply) <= 200);
alter table ticket add column earlier_work text not null default '' check (length(earlier_work) <= 2000);
-- What the set is made for, and what its sheet assumes.
alter table ticket add column line_volts double precision check (line_volts > 0 and line_volts < 1e4);
alter table ticket add column set_watts double precision check (set_watts > 0 and set_watts < 1e6);
alter table ticket add column sheet_line_volts double precision check (sheet_line_volts > 0 and sheet_line_volts < 1e4);
alter table ticket add column sheet_ohms_per_volt double precision check (sheet_ohms_per_volt > 0 and sheet_ohms_per_volt < 1e9);

-- A line of the safety list, ticked by somebody. A high-voltage set asks anew in each session.
create table safety_tick (
    id        uuid primary key,
    ticket_id uuid not null references ticket (id) on delete cascade,
    line      text not null check (length(line) between 1 and 40),
    who       text not null check (length(who) between 1 and 80),
    session   uuid not null,
    ticked_at timestamptz not null default clock_timestamp()
);
create index safety_tick_of_ticket on safety_tick (ticket_id, ticked_at);

-- A step of the way up.
create table power_up (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    volts     double precision not null check (volts >= 0 and volts < 1e4),
    bulb      double precision check (bulb > 0 and bulb < 1e4),
    amperes   double precision check (amperes >= 0 and amperes < 1e4),
    story     text not null check (length(story) <= 60),
    signs     text[] not null default '{}' check (cardinality(signs) <= 40),
    note      text not null default '' check (length(note) <= 2000),
    done_at   timestamptz not null default clock_timestamp()
);
create index power_up_of_ticket on power_up (ticket_id, ordinal);

create table chart_point (
    id         uuid primary key,
    ticket_id  uuid not null references ticket (id) on delete cascade,
    -- the node's name in the feed, and what the reading is called: 'V3 pin 5', 'screen line'
    name       text not null check (length(name) between 1 and 40),
    valve      text not null default '' check (length(valve) <= 20),
    pin        smallint check (pin between 1 and 20),
    note       text not null default '' check (length(note) <= 120),
    sheet      double precision check (sheet > -1e6 and sheet < 1e6),
    fed_through double precision check (fed_through > 0 and fed_through < 1e12),
    heater     boolean not null default false,
    steady     boolean not null default false,
    pair_id    uuid references chart_point (id) on delete set null check (pair_id <> id),
    place      integer not null,
    unique (ticket_id, name)
);
create index chart_point_of_ticket on chart_point (ticket_id, place);

-- A set of readings: before, after, or any other moment, with the line at that moment.
create table chart_run (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    name      text not null check (length(name) between 1 and 60),
    line_volts double precision check (line_volts > 0 and line_volts < 1e4),
    meter     double precision check (meter > 0 and meter < 1e15),
    begun_at  timestamptz not null default clock_timestamp()
);
create index chart_run_of_ticket on chart_run (ticket_id, ordinal);

create table chart_reading (
    run_id   uuid not null references chart_run (id) on delete cascade,
    point_id uuid not null references chart_point (id) on delete cascade,
    volts    double precision not null check (volts > -1e6 and volts < 1e6),
    read_at  timestamptz not null default clock_timestamp(),
    primary key (run_id, point_id)
);
create index chart_reading_of_point on chart_reading (point_id);

-- A feed: a rail and what hangs on it, by the nodes' names.
create table feed (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    name      text not null check (length(name) between 1 and 60),
    rail      double precision not null check (rail <> 0 and rail > -1e6 and rail < 1e6),
    version   integer not null default 1
);
create index feed_of_ticket on feed (ticket_id, ordinal);

create table feed_part (
    feed_id   uuid not null references feed (id) on delete cascade,
    place     integer not null check (place between 0 and 199),
    name      text not null check (length(name) between 1 and 40),
    kind      text not null check (kind in ('resistor', 'capacitor', 'load')),
    node_a    text not null check (length(node_a) between 1 and 40),
    node_b    text not null check (length(node_b) between 1 and 40),
    value     double precision check (value > 0 and value < 1e15),
    as_ohms   boolean not null default false check (not as_ohms or kind = 'load'),
    tolerance double precision check (tolerance >= 0 and tolerance <= 1),
    rating    double precision check (rating > 0 and rating < 1e9),
    primary key (feed_id, place),
    unique (feed_id, name),
    check (node_a <> node_b),
    check (value is not null or kind <> 'resistor')
);

-- What a node should have and has, where the chart does not say.
create table feed_node (
    feed_id  uuid not null references feed (id) on delete cascade,
    node     text not null check (length(node) between 1 and 40),
    sheet    double precision check (sheet > -1e6 and sheet < 1e6),
    measured double precision check (measured > -1e6 and measured < 1e6),
    primary key (feed_id, node)
);

-- A change on the set: a part that went in, and everything else that a hand does. A fitting is one, under its own id.
create table change (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    kind      text not null check (kind in ('part', 'wire', 'joint', 'track', 'switch contact', 'alignment', 'cleaning',
                                            'undo', 'other')),
    what      text not null check (length(what) between 1 and 400),
    part_id   uuid references part (id) on delete set null,
    undoes    uuid references change (id) on delete cascade,
    -- why it was begun while another was not proven
    over_open text not null default '' check (length(over_open) <= 400),
    begun_at  timestamptz not null default clock_timestamp(),
    check ((kind = 'undo') = (undoes is not null))
);
create index change_of_ticket on change (ticket_id, ordinal);
create unique index undone_once on change (undoes) where undoes is not null;

insert into change (id, ticket_id, kind, what, part_id, begun_at)
select f.id, p.ticket_id, 'part', p.name || ': ' || f.description, p.id, f.fitted_at
from fitting f join part p on p.id = f.part_id order by f.ordinal;
insert into change (id, ticket_id, kind, what, part_id, undoes, begun_at)
select w.id, p.ticket_id, 'undo', p.name || ': ' || f.description || ' taken out again', p.id, f.id, w.withdrawn_at
from withdrawal w join fitting f on f.id = w.fitting_id join part p on p.id = f.part_id order by w.withdrawn_at;
alter table fitting add constraint fitting_is_a_change foreign key (id) references change (id) on delete cascade;

-- What is proven is a change, whether a part or not.
alter table proof drop constraint proof_fitting_id_fkey;
alter table proof rename column fitting_id to change_id;
alter table proof add constraint proof_of_a_change foreign key (change_id) references change (id) on delete cascade;

-- Where what was taken out lies until the ticket closes.
alter table fitting add column bag text not null default '' check (length(bag) <= 60);

create trigger safety_tick_stays before update on safety_tick for each row execute function refuse_change();
create trigger power_up_stays before update on power_up for each row execute function refuse_change();
create trigger change_stays before update on change for each row
    when (old.part_id is not distinct from new.part_id) execute function refuse_change();
create trigger safety_tick_is_kept before delete on safety_tick for each row execute function refuse_change();
create trigger power_up_is_kept before delete on power_up for each row execute function refuse_change();
create trigger change_is_kept before delete on change for each row execute function refuse_change();
