-- Why: an electrolytic is reformed for hours. Each run keeps its plan and the state of its state machine, so that any
-- server can go on where another was stopped; its readings and what was said are only ever added to. One server at a
-- time drives a run: whoever holds the lease.

create table reform_run (
    id           uuid primary key,
    ordinal      bigint generated always as identity unique,
    part_id      uuid not null references part (id) on delete cascade,
    section      text not null default '' check (length(section) <= 12),
    way          text not null check (way in ('guided', 'simulated bench')),
    speed        double precision not null default 1 check (speed between 1 and 600),
    school       text not null check (length(school) <= 80),
    phase        text not null check (phase in ('ready', 'feeding', 'emptying', 'over')),
    ending       text check (length(ending) <= 40),
    -- the state machine, and the simulated bench under it
    state        jsonb not null,
    bench        jsonb check ((bench is null) = (way = 'guided')),
    expected_s   double precision not null check (expected_s >= 0),
    samples      bigint not null default 0,
    words        bigint not null default 0,
    -- the run's clock stood at clock_s at advanced_at
    clock_s      double precision not null default 0 check (clock_s >= 0),
    advanced_at  timestamptz not null default clock_timestamp(),
    driver       uuid,
    driven_until timestamptz,
    created_at   timestamptz not null default clock_timestamp(),
    switched_on_at timestamptz,
    over_at      timestamptz,
    check ((driver is null) = (driven_until is null)),
    check ((phase = 'over') = (over_at is not null)),
    check (phase <> 'over' or ending is not null)
);
-- A part lies on one bench at a time.
create unique index one_open_run on reform_run (part_id, section) where phase <> 'over';
create index open_runs on reform_run (ordinal) where phase <> 'over';
create index runs_of_part on reform_run (part_id, ordinal);

create table reform_sample (
    run_id    uuid not null references reform_run (id) on delete cascade,
    n         bigint not null check (n > 0),
    at_s      double precision not null check (at_s >= 0),
    set_volts double precision check (set_volts >= 0 and set_volts < 1e4),
    volts     double precision not null check (volts > -1e6 and volts < 1e6),
    amperes   double precision not null check (amperes > -1e6 and amperes < 1e6),
    -- of a reading that a hand typed, so that sending it twice takes it once
    key       uuid unique,
    primary key (run_id, n)
);

create table reform_said (
    run_id  uuid not null references reform_run (id) on delete cascade,
    n       bigint not null check (n > 0),
    at_s    double precision not null check (at_s >= 0),
    weight  text not null check (weight in ('note', 'warning', 'stop')),
    text    text not null check (length(text) between 1 and 2000),
    said_at timestamptz not null default clock_timestamp(),
    primary key (run_id, n)
);

-- Who acknowledged the cautions before the first switch-on of a session at the bench.
create table acknowledgement (
    id        uuid primary key,
    session   uuid not null,
    run_id    uuid not null references reform_run (id) on delete cascade,
    name      text not null check (length(name) between 1 and 80),
    cautions  text[] not null check (cardinality(cautions) > 0),
    at        timestamptz not null default clock_timestamp(),
    unique (session)
);

create trigger reform_sample_stays before update on reform_sample for each row execute function refuse_change();
create trigger reform_said_stays before update on reform_said for each row execute function refuse_change();
create trigger acknowledgement_stays before update on acknowledgement for each row execute function refuse_change();
create trigger reform_sample_is_kept before delete on reform_sample for each row execute function refuse_change();
create trigger reform_said_is_kept before delete on reform_said for each row execute function refuse_change();
create trigger acknowledgement_is_kept before delete on acknowledgement for each row execute function refuse_change();

-- A run as it is shown: with the part and the set that it belongs to, and the database's time.
create view reform_now as
select r.*, p.ticket_id, p.name as part, p.position, t.name as set, clock_timestamp() as now
from reform_run r join part p on p.id = r.part_id join ticket t on t.id = p.ticket_id;
