-- Why: the bench as it stands in the database. A part keeps three values apart (what the sheet
-- says, what is marked on it, what was measured), because they are three different facts. What
-- was measured, decided, fitted and proven is history and is only ever added to.

create table workshop (
    id    smallint primary key default 1 check (id = 1),
    name  text not null check (length(name) between 1 and 80),
    place text not null default '' check (length(place) <= 120)
);

create table instrument (
    id         uuid primary key,
    name       text not null unique check (length(name) between 1 and 80),
    mode       text not null check (mode in ('dc', 'ac')),
    -- ± (of_reading × reading + counts × resolution), in the lowest range that holds the reading
    of_reading double precision not null check (of_reading >= 0 and of_reading < 1),
    counts     double precision not null check (counts >= 0 and counts < 1000),
    display    integer not null check (display between 100 and 10000000),
    finest_ohm double precision not null check (finest_ohm > 0 and finest_ohm < 1e6),
    ceiling_ohm double precision not null check (ceiling_ohm > 0 and ceiling_ohm < 1e15),
    place      integer not null default 0
);

create table ticket (
    id         uuid primary key,
    name       text not null check (length(name) between 1 and 80),
    class      text not null check (class in ('isolated', 'live chassis', 'battery', 'solid state', 'high voltage')),
    school     text not null check (school in ('test first', 'replace on sight', 'keep original')),
    tight      boolean not null default false check (not tight or school = 'test first'),
    complaint  text not null default '' check (length(complaint) <= 2000),
    version    integer not null default 1,
    created_at timestamptz not null default now(),
    updated_at timestamptz not null default now()
);

create table part (
    id         uuid primary key,
    ticket_id  uuid not null references ticket (id) on delete cascade,
    name       text not null check (name ~ '^R[A-Z]?[0-9]{1,4}[A-Z]?$'),
    family     text not null check (family in ('carbon composition', 'carbon film', 'metal film', 'wirewound', 'fusible')),
    position   text check (position in ('cathode', 'plate load', 'screen feed', 'grid leak', 'stopper', 'divider',
                                        'emitter', 'feed', 'bleeder', 'tone', 'AVC')),
    place      text not null default '' check (length(place) <= 120),
    note       text not null default '' check (length(note) <= 2000),
    pair_id    uuid references part (id) on delete set null check (pair_id <> id),
    sheet_ohm  double precision check (sheet_ohm > 0 and sheet_ohm < 1e15),
    marked_ohm double precision check (marked_ohm > 0 and marked_ohm < 1e15),
    tolerance  double precision check (tolerance > 0 and tolerance < 1),
    watts      double precision check (watts > 0 and watts < 1e6),
    marking    text not null default '' check (length(marking) <= 200),
    colours    text[] not null default '{}',
    version    integer not null default 1,
    created_at timestamptz not null default now(),
    updated_at timestamptz not null default now(),
    -- A tolerance without a value is no marking.
    check (tolerance is null or marked_ohm is not null),
    unique (ticket_id, name)
);

create table reading (
    id            uuid primary key,
    ordinal       bigint generated always as identity unique,
    part_id       uuid not null references part (id) on delete cascade,
    ohm           double precision check (ohm >= 0 and ohm < 1e300),
    -- beyond the meter's range: then there is no value, and the range's end where it is known
    overrange     boolean not null check (overrange = (ohm is null)),
    ceiling_ohm   double precision check (ceiling_ohm > 0),
    state         text not null check (state in ('in circuit', 'lifted', 'out of circuit')),
    hot           boolean not null,
    mode          text not null check (mode in ('dc', 'ac')),
    instrument_id uuid references instrument (id) on delete set null,
    -- as they were when the reading was taken
    instrument    text not null default '',
    of_reading    double precision check (of_reading >= 0),
    counts        double precision check (counts >= 0),
    resolution_ohm double precision check (resolution_ohm > 0),
    typed         text not null default '' check (length(typed) <= 200),
    taken_at      timestamptz not null default now(),
    check ((of_reading is null) = (counts is null) and (counts is null) = (resolution_ohm is null))
);
create index reading_of_part on reading (part_id, ordinal);

create table decision (
    id         uuid primary key,
    ordinal    bigint generated always as identity unique,
    part_id    uuid not null references part (id) on delete cascade,
    offered    text not null check (offered in ('keep', 'watch', 'replace', 'measure again')),
    decided    text not null check (decided in ('keep', 'watch', 'replace', 'measure again')),
    -- whoever decides against the verdict says why
    why        text not null default '' check (length(why) <= 2000),
    school     text not null,
    tight      boolean not null,
    reasons    jsonb not null,
    reading_id uuid references reading (id) on delete set null,
    decided_at timestamptz not null default now(),
    check (offered = decided or why <> '')
);
create index decision_of_part on decision (part_id, ordinal);

create table fitting (
    id          uuid primary key,
    ordinal     bigint generated always as identity unique,
    part_id     uuid not null references part (id) on delete cascade,
    description text not null check (length(description) between 1 and 200),
    ohm         double precision not null check (ohm > 0 and ohm < 1e15),
    tolerance   double precision not null check (tolerance > 0 and tolerance < 1),
    watts       double precision check (watts > 0),
    family      text not null,
    measured_ohm double precision not null check (measured_ohm >= 0 and measured_ohm < 1e15),
    note        text not null default '' check (length(note) <= 2000),
    fitted_at   timestamptz not null default now()
);
create index fitting_of_part on fitting (part_id, ordinal);

create table proof (
    id         uuid primary key,
    fitting_id uuid not null unique references fitting (id) on delete cascade,
    worked     boolean not null,
    seen       text not null check (length(seen) between 1 and 2000),
    proven_at  timestamptz not null default now()
);

-- History stays as it was written.
create function refuse_change() returns trigger language plpgsql as $$
begin
    -- A ticket that goes takes its history with it: then the deletion comes from within.
    if tg_op = 'DELETE' and pg_trigger_depth() > 1 then
        return old;
    end if;
    raise exception '% is only ever added to', tg_table_name using errcode = 'restrict_violation';
end $$;
create trigger reading_stays before update on reading for each row
    when (old.instrument_id is not distinct from new.instrument_id) execute function refuse_change();
create trigger decision_stays before update on decision for each row
    when (old.reading_id is not distinct from new.reading_id) execute function refuse_change();
create trigger fitting_stays before update on fitting for each row execute function refuse_change();
create trigger proof_stays before update on proof for each row execute function refuse_change();
create trigger reading_is_kept before delete on reading for each row execute function refuse_change();
create trigger decision_is_kept before delete on decision for each row execute function refuse_change();
create trigger fitting_is_kept before delete on fitting for each row execute function refuse_change();
create trigger proof_is_kept before delete on proof for each row execute function refuse_change();

-- The rows as they were before each change, so that whoever comes late with an old version can
-- be told what has changed since.
create table row_before (
    kind    text not null,
    id      uuid not null,
    version integer not null,
    content jsonb not null,
    changed_at timestamptz not null default now(),
    primary key (kind, id, version)
);
create function keep_row_before() returns trigger language plpgsql as $$
begin
    insert into row_before (kind, id, version, content) values (tg_table_name, old.id, old.version, to_jsonb(old));
    new.version := old.version + 1;
    new.updated_at := now();
    return new;
end $$;
create trigger ticket_before before update on ticket for each row execute function keep_row_before();
create trigger part_before before update on part for each row execute function keep_row_before();
