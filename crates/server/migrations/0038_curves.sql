-- Why: the readings of reforming are by far the most rows of a workshop. They lie by the year in which their run was begun,
-- all of a run together: a year that is long past is written out and thinned without touching the others.
alter table reform_run add constraint reform_run_begun unique (id, created_at);

alter table reform_sample rename to reform_sample_before;
create table reform_curve (
    run_id    uuid not null,
    -- when the run was begun: the year it lies in
    run_at    timestamptz not null,
    n         bigint not null check (n > 0),
    at_s      double precision not null check (at_s >= 0),
    set_volts double precision check (set_volts >= 0 and set_volts < 1e4),
    volts     double precision not null check (volts > -1e6 and volts < 1e6),
    amperes   double precision not null check (amperes > -1e6 and amperes < 1e6),
    primary key (run_id, n, run_at),
    foreign key (run_id, run_at) references reform_run (id, created_at) on delete cascade
) partition by range (run_at);
-- What was begun in a year that nobody foresaw: a record from elsewhere, a clock that is wrong.
create table reform_curve_other partition of reform_curve default;

-- The part of one year, where it is not there yet.
create function reform_year(y integer) returns void language plpgsql as $$
begin
    execute format('create table if not exists reform_curve_%s partition of reform_curve for values from (%L) to (%L)',
                   y, make_timestamptz(y, 1, 1, 0, 0, 0, 'UTC'), make_timestamptz(y + 1, 1, 1, 0, 0, 0, 'UTC'));
exception when check_violation then
    -- Rows of that year lie among the others already, and stay there.
    null;
end $$;
select reform_year(y) from generate_series(
    (select extract(year from coalesce(min(created_at), now()))::int from reform_run), extract(year from now())::int + 1) y;

insert into reform_curve (run_id, run_at, n, at_s, set_volts, volts, amperes)
select s.run_id, r.created_at, s.n, s.at_s, s.set_volts, s.volts, s.amperes
from reform_sample_before s join reform_run r on r.id = s.run_id;

-- A reading that a hand typed: sent twice it is taken once.
create table reform_key (
    key    uuid primary key,
    run_id uuid not null references reform_run (id) on delete cascade
);
create index reform_key_of_run on reform_key (run_id);
insert into reform_key (key, run_id) select key, run_id from reform_sample_before where key is not null;
drop table reform_sample_before;

create trigger reform_curve_stays before update on reform_curve for each row execute function refuse_change();
create trigger reform_curve_is_kept before delete on reform_curve for each row execute function refuse_change();

-- The readings as a record has them, out and in.
create view reform_sample as select run_id, n, at_s, set_volts, volts, amperes from reform_curve;
create function put_sample() returns trigger language plpgsql as $$
begin
    insert into reform_curve (run_id, run_at, n, at_s, set_volts, volts, amperes)
    select new.run_id, r.created_at, new.n, new.at_s, new.set_volts, new.volts, new.amperes from reform_run r where r.id = new.run_id;
    return new;
end $$;
create trigger put_sample instead of insert on reform_sample for each row execute function put_sample();

-- The years that were written out and thinned.
create table reform_archive (
    year       integer primary key,
    file       text not null check (file <> ''),
    readings   bigint not null check (readings >= 0),
    archived_at timestamptz not null default now()
);

-- Leaves of each curve of a year about so many readings, the first and the last among them, and notes where all of them are.
create function thin_year(y integer, points integer, written_to text) returns bigint language plpgsql as $$
declare
    part text := 'reform_curve_' || y;
    whole bigint;
begin
    execute format('lock table %I in access exclusive mode', part);
    execute format('select count(*) from %I', part) into whole;
    execute format('create table reform_curve_thin (like %I including all)', part);
    execute format('insert into reform_curve_thin select c.* from %I c
                    join (select run_id, count(*) as many, max(n) as last from %I group by run_id) r on r.run_id = c.run_id
                    where c.n = 1 or c.n = r.last or c.n %% greatest((r.many + %s - 1) / %s, 1) = 0', part, part, points, points);
    execute format('drop table %I', part);
    execute format('alter table reform_curve_thin rename to %I', part);
    execute format('alter table reform_curve attach partition %I for values from (%L) to (%L)', part,
                   make_timestamptz(y, 1, 1, 0, 0, 0, 'UTC'), make_timestamptz(y + 1, 1, 1, 0, 0, 0, 'UTC'));
    insert into reform_archive (year, file, readings) values (y, written_to, whole);
    return whole;
end $$;

-- A run as it is shown, with where its whole curve is once its year was thinned.
create or replace view reform_now as
select r.*, p.ticket_id, p.name as part, p.position, t.name as set, clock_timestamp() as now,
       (select a.file from reform_archive a where a.year = extract(year from r.created_at at time zone 'UTC')) as thinned
from reform_run r join part p on p.id = r.part_id join ticket t on t.id = p.ticket_id;
