-- Why: a workshop of several people. Who may come in, and whose each entry is; what stands in the story of a part is only
-- ever added to.
create table person (
    id           uuid primary key,
    name         text not null check (char_length(name) between 1 and 60 and name = btrim(name)),
    role         text not null check (role in ('owner', 'technician', 'apprentice', 'reader')),
    -- Argon2id in its own notation; none until the person has chosen one
    password     text check (password like '$argon2id$%'),
    wrong        integer not null default 0 check (wrong >= 0),
    locked_until timestamptz,
    -- people are never taken out: what they did stays theirs
    blocked      boolean not null default false,
    created_at   timestamptz not null default now()
);
create unique index person_name on person (lower(name));

-- What a browser or a link carries is kept as its hash only: who reads the database cannot come in with it.
create table session (
    id_hash    bytea primary key check (octet_length(id_hash) = 32),
    data       jsonb not null,
    person_id  uuid references person (id) on delete cascade,
    bench      text not null default '' check (char_length(bench) <= 60),
    address    text not null default '' check (char_length(address) <= 60),
    begun_at   timestamptz not null default now(),
    seen_at    timestamptz not null default now(),
    expires_at timestamptz not null
);
create index session_of_person on session (person_id);
create table link (
    hash       bytea primary key check (octet_length(hash) = 32),
    -- whose password it sets; none for the first owner
    person_id  uuid references person (id) on delete cascade,
    expires_at timestamptz not null
);
create table token (
    id         uuid primary key,
    person_id  uuid not null references person (id) on delete cascade,
    name       text not null check (char_length(name) between 1 and 60),
    hash       bytea not null unique check (octet_length(hash) = 32),
    scope      text not null check (scope in ('read', 'measure', 'work')),
    created_at timestamptz not null default now(),
    seen_at    timestamptz,
    expires_at timestamptz not null
);
create table countersign (
    hash       bytea primary key check (octet_length(hash) = 32),
    by_id      uuid not null references person (id) on delete cascade,
    for_id     uuid not null references person (id) on delete cascade check (for_id <> by_id),
    expires_at timestamptz not null
);

-- Each row that somebody wrote: whose it is, countersigned by whom, from which bench.
create table act (
    n             bigint generated always as identity primary key,
    at            timestamptz not null default clock_timestamp(),
    -- the name as it was then; nobody's id where one person works alone
    person_id     uuid,
    person        text not null,
    countersigned text,
    bench         text not null,
    tab           text not null,
    what          text not null check (what in ('added', 'changed', 'removed')),
    row_key       text not null,
    part_id       uuid,
    ticket_id     uuid
);
create index act_of_part on act (part_id, n) where part_id is not null;
create index act_of_ticket on act (ticket_id, n) where ticket_id is not null;
create trigger act_stays before update or delete on act for each row execute function refuse_change();

-- One function for each table: what is its key, of which part and of which ticket. Rows that no person writes (the server
-- at its own work) carry no name and are left out.
do $$
declare
    r record;
begin
    for r in select * from (values
        ('ticket', 'r.id', 'null', 'r.id'),
        ('part', 'r.id', 'r.id', 'r.ticket_id'),
        ('reading', 'r.id', 'r.part_id', 'null'),
        ('strike', 'r.reading_id', '(select x.part_id from reading x where x.id = r.reading_id)', 'null'),
        ('decision', 'r.id', 'r.part_id', 'null'),
        ('explanation', 'r.id', 'r.part_id', 'null'),
        ('junction_test', 'r.id', 'r.part_id', 'null'),
        ('cause', 'r.id', 'r.part_id', 'null'),
        ('fitting', 'r.id', 'r.part_id', 'null'),
        ('withdrawal', 'r.id', '(select x.part_id from fitting x where x.id = r.fitting_id)', 'null'),
        ('change', 'r.id', 'r.part_id', 'r.ticket_id'),
        ('proof', 'r.id', '(select x.part_id from change x where x.id = r.change_id)',
                  '(select x.ticket_id from change x where x.id = r.change_id)'),
        ('attachment', 'r.id', 'r.part_id', 'r.ticket_id'),
        ('safety_tick', 'r.id', 'null', 'r.ticket_id'),
        ('power_up', 'r.id', 'null', 'r.ticket_id'),
        ('chart_point', 'r.id', 'null', 'r.ticket_id'),
        ('chart_run', 'r.id', 'null', 'r.ticket_id'),
        ('chart_reading', 'r.point_id', 'null', '(select x.ticket_id from chart_run x where x.id = r.run_id)'),
        ('feed', 'r.id', 'null', 'r.ticket_id'),
        ('bank', 'r.id', 'null', 'r.ticket_id'),
        ('soak', 'r.id', 'null', 'r.ticket_id'),
        ('soak_check', 'r.id', 'null', '(select x.ticket_id from soak x where x.id = r.soak_id)'),
        ('reform_run', 'r.id', 'r.part_id', 'null'),
        ('acknowledgement', 'r.id', 'null', 'null'),
        ('lot', 'r.id', 'null', 'null'),
        ('match_lot', 'r.id', 'null', 'null'),
        ('inspection', 'r.id', 'null', 'null'),
        ('device', 'r.id', 'null', 'null'),
        ('instrument', 'r.id', 'null', 'null'),
        ('policy', 'r.id', 'null', 'null'),
        ('workshop', 'r.id', 'null', 'null'),
        ('person', 'r.id', 'null', 'null'),
        ('token', 'r.id', 'null', 'null')
    ) as t (tab, key, part, ticket)
    loop
        execute format($f$
            create function act_of_%1$s() returns trigger language plpgsql as $b$
            declare
                who text := nullif(current_setting('owl.actor', true), '');
                actor jsonb;
                r %1$I%%rowtype;
            begin
                if who is null then
                    return null;
                end if;
                -- what every write moves, and what follows from the rest, is no change of its own
                if %5$L and tg_op = 'UPDATE' then
                    if (to_jsonb(old) - array['version', 'updated_at', 'to_do']) = (to_jsonb(new) - array['version', 'updated_at', 'to_do']) then
                        return null;
                    end if;
                end if;
                actor := who::jsonb;
                if tg_op = 'DELETE' then r := old; else r := new; end if;
                insert into act (person_id, person, countersigned, bench, tab, what, row_key, part_id, ticket_id)
                values ((actor ->> 'id')::uuid, actor ->> 'name', actor ->> 'countersigned', actor ->> 'bench', %1$L,
                        case tg_op when 'INSERT' then 'added' when 'UPDATE' then 'changed' else 'removed' end,
                        (%2$s)::text, %3$s, %4$s);
                return null;
            end $b$;
            create trigger zz_act after insert or update or delete on %1$I for each row execute function act_of_%1$s();
        $f$, r.tab, r.key, r.part, r.ticket, r.tab in ('part', 'ticket'));
    end loop;
end $$;

