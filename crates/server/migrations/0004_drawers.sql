-- Why: the technician fits what he has. The drawers know what lies where, how many and in which condition; what is
-- fitted is taken out of them in the same transaction, and put back when the fitting is undone. And everything on
-- the tray can be fitted, not resistors alone.

create table lot (
    id          uuid primary key,
    kind        text not null check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp')),
    family      text check (length(family) <= 40),
    type_number text not null default '' check (length(type_number) <= 40),
    -- in the base unit of its kind
    value       double precision check (value > 0 and value < 1e15),
    tolerance   double precision check (tolerance > 0 and tolerance < 1),
    volts       double precision check (volts > 0 and volts < 1e9),
    watts       double precision check (watts > 0 and watts < 1e9),
    amperes     double precision check (amperes > 0 and amperes < 1e9),
    winding     double precision check (winding > 0 and winding < 1e9),
    safety      text check (safety in ('X1', 'X2', 'Y1', 'Y2')),
    celsius     double precision check (celsius between -100 and 1000),
    size        text not null default '' check (length(size) <= 60),
    leads       text check (leads in ('axial', 'radial', 'snap-in', 'lugs', 'surface mount', 'socket')),
    count       integer not null check (count between 0 and 1000000),
    place       text not null default '' check (length(place) <= 120),
    condition   text not null check (condition in ('new', 'old stock, untested', 'old stock, tested', 'salvaged')),
    -- of single pieces, in the base unit
    measured    double precision[] not null default '{}' check (cardinality(measured) <= 1000),
    price_hundredths integer check (price_hundredths >= 0),
    low_water   integer not null default 0 check (low_water between 0 and 1000000),
    version     integer not null default 1,
    updated_at  timestamptz not null default now(),
    -- what a search line looks in; kept, because thousands of lots are looked through while someone types
    words       text not null generated always as (lower(
                    kind || ' ' || coalesce(family, '') || ' ' || type_number || ' ' || place || ' ' || condition || ' '
                    || size || ' ' || coalesce(safety, '') || ' ' || coalesce(leads, ''))) stored,
    check (value is not null or type_number <> ''),
    check (safety is null or kind = 'capacitor'),
    check (winding is null or kind = 'coil')
);
create index lot_by_value on lot (kind, value);
create index lot_low on lot (kind) where count < low_water;
create trigger lot_before before update on lot for each row execute function keep_row_before();

-- What was fitted: of any kind, measured or not.
alter table fitting rename column ohm to value;
alter table fitting alter column value drop not null;
alter table fitting rename column measured_ohm to measured;
alter table fitting alter column measured drop not null;
alter table fitting alter column tolerance drop not null;
alter table fitting alter column family drop not null;
alter table fitting add column kind text not null default 'resistor'
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp'));
alter table fitting alter column kind drop default;
alter table fitting add column type_number text not null default '' check (length(type_number) <= 40);
alter table fitting add column volts double precision check (volts > 0 and volts < 1e9);
alter table fitting add column safety boolean not null default false;
-- the test that old stock had before it went in
alter table fitting add column test text not null default '' check (length(test) <= 400);
alter table fitting add check (value is not null or type_number <> '' or kind in ('diode', 'coil'));

-- The pieces that were taken for it, one row a drawer.
create table fitting_piece (
    fitting_id  uuid not null references fitting (id) on delete cascade,
    place       integer not null,
    lot_id      uuid references lot (id) on delete set null,
    count       integer not null check (count between 1 and 100),
    description text not null check (length(description) between 1 and 200),
    lies_in     text not null default '' check (length(lies_in) <= 120),
    primary key (fitting_id, place)
);
create index fitting_piece_of_lot on fitting_piece (lot_id) where lot_id is not null;

-- A fitting that was undone: its pieces went back.
create table withdrawal (
    id           uuid primary key,
    fitting_id   uuid not null unique references fitting (id) on delete cascade,
    why          text not null default '' check (length(why) <= 400),
    withdrawn_at timestamptz not null default now()
);
create trigger withdrawal_stays before update on withdrawal for each row execute function refuse_change();
create trigger withdrawal_is_kept before delete on withdrawal for each row execute function refuse_change();
