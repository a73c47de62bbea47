-- Why: cans in series with a resistor across each, diodes one behind the other, resistors of a multiplier share the volts.
-- They are parts of the tray like others, measured one by one; what each gets hangs on all of them.
alter table part add constraint part_of_ticket unique (id, ticket_id);

create table bank (
    id        uuid primary key,
    ordinal   bigint generated always as identity unique,
    ticket_id uuid not null references ticket (id) on delete cascade,
    name      text not null check (length(name) between 1 and 60),
    kind      text not null check (kind in ('capacitor bank', 'diode string', 'resistor string')),
    -- across all of it, at the most
    volts     double precision not null check (volts > 0 and volts < 1e6),
    version   integer not null default 1,
    unique (id, ticket_id),
    unique (ticket_id, name)
);

-- A part is in one place of one bank; a resistor lies across one member.
create table bank_member (
    bank_id   uuid not null,
    ticket_id uuid not null,
    place     integer not null check (place between 0 and 39),
    part_id   uuid not null unique,
    across_id uuid unique,
    primary key (bank_id, place),
    check (across_id <> part_id),
    foreign key (bank_id, ticket_id) references bank (id, ticket_id) on delete cascade,
    foreign key (part_id, ticket_id) references part (id, ticket_id) on delete cascade,
    foreign key (across_id, ticket_id) references part (id, ticket_id) on delete set null (across_id)
);

-- Every part of every bank, members and what lies across them.
create view bank_part as
select bank_id, part_id from bank_member
union all
select bank_id, across_id from bank_member where across_id is not null;

-- The record has banks beside what it had.
alter function ticket_rows(uuid) rename to ticket_rows_before_banks;
create function ticket_rows(wanted uuid) returns jsonb language sql stable as $$
    select ticket_rows_before_banks(wanted) || jsonb_build_object(
        'banks', (select coalesce(jsonb_agg(to_jsonb(b) - 'ordinal' order by b.ordinal), '[]') from bank b where ticket_id = wanted),
        'bank_members', (select coalesce(jsonb_agg(to_jsonb(m) order by m.bank_id, m.place), '[]') from bank_member m where ticket_id = wanted));
$$;

alter function take_ticket_rows(jsonb) rename to take_ticket_rows_before_banks;
create function take_ticket_rows(doc jsonb) returns uuid language plpgsql as $$
declare
    taken uuid := take_ticket_rows_before_banks(doc);
begin
    perform refuse_strangers('banks', doc -> 'banks', 'ticket_id', jsonb_build_array(doc -> 'ticket'));
    perform refuse_strangers('bank_members', doc -> 'bank_members', 'bank_id', doc -> 'banks');
    perform put_rows('bank', doc -> 'banks');
    perform put_rows('bank_member', doc -> 'bank_members');
    return taken;
end $$;
