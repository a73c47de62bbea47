-- Why: everything on the tray is measured and judged, not resistors alone. An instrument measures several
-- things, each in ways and ranges of its own; a reading says what was read, at which volts and hertz; a mistaken one is
-- struck out and stays. A part knows what is seen on it, what feeds it, what is known of the circuit round it, and
-- which others it must agree with. A workshop keeps copies of the schools with numbers of its own. And when a part
-- was overloaded, the answer to the question why is kept.

-- Instruments: what was one accuracy in ohm becomes ways and ranges.
alter table instrument add column kind text not null default 'multimeter'
    check (kind in ('multimeter', 'LCR meter', 'ESR meter', 'leakage tester', 'transistor tester', 'insulation tester'));
update instrument set kind = 'LCR meter' where mode = 'ac';
alter table instrument alter column kind drop default;
alter table instrument add column checked_on date;
alter table instrument add column retired boolean not null default false;
alter table instrument add column version integer not null default 1;

create table instrument_way (
    id            uuid primary key default gen_random_uuid(),
    instrument_id uuid not null references instrument (id) on delete cascade,
    place         integer not null default 0,
    name          text not null check (length(name) between 1 and 40),
    quantity      text not null check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor',
                      'leakage_current', 'leakage_resistance', 'leakage_percent', 'inductance', 'forward_voltage',
                      'turns_ratio')),
    mode          text not null check (mode in ('dc', 'ac')),
    test_hertz    double precision check (test_hertz > 0 and test_hertz < 1e12),
    test_volts    double precision check (test_volts > 0 and test_volts < 1e6),
    setting       text check (setting in ('paper', 'electrolytic')),
    check (test_hertz is null or mode = 'ac'),
    unique (instrument_id, name)
);
create table instrument_range (
    way_id     uuid not null references instrument_way (id) on delete cascade,
    up_to      double precision not null check (up_to > 0 and up_to < 1e300),
    of_reading double precision not null check (of_reading >= 0 and of_reading < 1),
    counts     double precision not null check (counts >= 0 and counts < 1000),
    resolution double precision not null check (resolution > 0 and resolution < up_to),
    primary key (way_id, up_to)
);
insert into instrument_way (instrument_id, name, quantity, mode) select id, 'ohms', 'resistance', mode from instrument;
-- Ranges a factor of ten apart, as the meter picked them.
with recursive ranges (way_id, of_reading, counts, display, ceiling, resolution) as (
    select w.id, i.of_reading, i.counts, i.display, i.ceiling_ohm, i.finest_ohm
    from instrument i join instrument_way w on w.instrument_id = i.id
    union all
    select way_id, of_reading, counts, display, ceiling, resolution * 10 from ranges
    where resolution * display < ceiling * (1 - 1e-9)
)
insert into instrument_range (way_id, up_to, of_reading, counts, resolution)
select way_id, least(resolution * display, ceiling), of_reading, counts, resolution from ranges
where resolution < least(resolution * display, ceiling)
on conflict do nothing;
alter table instrument drop column mode, drop column of_reading, drop column counts, drop column display,
    drop column finest_ohm, drop column ceiling_ohm;

-- Readings of every quantity.
alter table reading rename column ohm to value;
alter table reading rename column ceiling_ohm to ceiling;
alter table reading rename column resolution_ohm to resolution;
alter table reading add column quantity text not null default 'resistance'
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'inductance', 'forward_voltage', 'turns_ratio'));
alter table reading alter column quantity drop default;
alter table reading add column way text not null default '' check (length(way) <= 40);
alter table reading add column test_volts double precision check (test_volts > 0 and test_volts < 1e6);
alter table reading add column test_hertz double precision check (test_hertz > 0 and test_hertz < 1e12);
alter table reading add column setting text check (setting in ('paper', 'electrolytic'));
alter table reading drop constraint reading_ohm_check;
alter table reading add constraint reading_value_check check (
    value > -1e300 and value < 1e300 and (value >= 0 or quantity = 'forward_voltage'));
alter table reading drop constraint reading_state_check;
alter table reading add constraint reading_state_check
    check (state in ('in circuit', 'valve pulled', 'lifted', 'out of circuit'));

create table strike (
    id         uuid primary key,
    reading_id uuid not null unique references reading (id) on delete cascade,
    why        text not null check (length(why) between 1 and 400),
    struck_at  timestamptz not null default now()
);
create trigger strike_stays before update on strike for each row execute function refuse_change();
create trigger strike_is_kept before delete on strike for each row execute function refuse_change();

-- Which kinds of part sit where. A test compares it with the program's own table.
create table sits (
    kind     text not null,
    position text not null,
    primary key (kind, position)
);
insert into sits (kind, position) values
    ('resistor', 'cathode'), ('resistor', 'plate load'), ('resistor', 'screen feed'), ('resistor', 'grid leak'),
    ('resistor', 'stopper'), ('resistor', 'divider'), ('resistor', 'emitter'), ('resistor', 'feed'),
    ('resistor', 'bleeder'), ('resistor', 'balancing'), ('resistor', 'bias'), ('resistor', 'tone'),
    ('resistor', 'snubber'), ('resistor', 'AVC'),
    ('capacitor', 'reservoir'), ('capacitor', 'smoothing'), ('capacitor', 'cathode bypass'),
    ('capacitor', 'emitter bypass'), ('capacitor', 'screen bypass'), ('capacitor', 'plate decoupling'),
    ('capacitor', 'coupling'), ('capacitor', 'AVC'), ('capacitor', 'tone'), ('capacitor', 'RF bypass'),
    ('capacitor', 'tuned'), ('capacitor', 'padder'), ('capacitor', 'neutralising'), ('capacitor', 'snubber'),
    ('capacitor', 'across the line'), ('capacitor', 'line to chassis'), ('capacitor', 'antenna isolation'),
    ('capacitor', 'plate blocking'),
    ('coil', 'smoothing'), ('coil', 'output primary'), ('coil', 'secondary'), ('coil', 'tuned'),
    ('diode', 'rectifier'), ('diode', 'detector'), ('diode', 'bias');

alter table part drop constraint part_position_is_a_resistors;
alter table part drop constraint part_position_check;
alter table part add constraint part_sits_there foreign key (kind, position) references sits (kind, position);
alter table part drop constraint part_family_check;
alter table part add constraint part_family_check check (
    case kind
        when 'resistor' then family is not null
            and family in ('carbon composition', 'carbon film', 'metal film', 'wirewound', 'fusible')
        when 'capacitor' then family is null
            or family in ('wax paper', 'bitumen paper', 'moulded paper', 'mica', 'silver mica', 'ceramic class 1',
                          'ceramic class 2', 'polyester', 'polypropylene', 'polystyrene', 'electrolytic',
                          'tantalum', 'high-voltage ceramic')
        when 'coil' then family is null
            or family in ('field coil', 'choke', 'transformer winding', 'signal coil')
        when 'diode' then family is null or family in ('selenium', 'germanium', 'silicon')
        else family is null
    end);
alter table part add column looks text[] not null default '{}'
    check (looks <@ array['domed', 'vented', 'wax out', 'scorched', 'cracked', 'lead broken', 'taped']);
-- what is known of the circuit, by the fact's name, in base units
alter table part add column facts jsonb not null default '{}' check (jsonb_typeof(facts) = 'object');
alter table part add column feed_id uuid references part (id) on delete set null check (feed_id <> id);
alter table part add column test_warm boolean not null default false check (not test_warm or kind = 'capacitor');
alter table part add column made integer check (made between 1900 and 2100);
alter table part add column plates integer check (plates between 1 and 200);
-- a winding's resistance by the sheet
alter table part add column winding double precision
    check (winding is null or (winding > 0 and winding < 1e9 and kind = 'coil'));
-- Parts that must agree with each other carry the same key.
alter table part add column group_id uuid;
update part p set group_id = least(p.id, p.pair_id) where pair_id is not null;
alter table part drop column pair_id;
create index part_of_group on part (group_id) where group_id is not null;

-- A workshop's own copies of the schools.
create table policy (
    id         uuid primary key,
    name       text not null unique check (length(name) between 1 and 40),
    school     text not null check (school in ('test first', 'replace on sight', 'keep original')),
    tight      boolean not null default false check (not tight or school = 'test first'),
    limit_rule text not null check (limit_rule in ('marked', 'lesser', 'greater')),
    leakage    text not null check (leakage in ('modern', 'older military', 'bench or older military')),
    condemns   text[] not null default '{}',
    -- only the numbers that differ from the school's, in base units
    numbers    jsonb not null default '{}' check (jsonb_typeof(numbers) = 'object'),
    version    integer not null default 1,
    updated_at timestamptz not null default now()
);
create trigger policy_before before update on policy for each row execute function keep_row_before();
alter table ticket add column policy_id uuid references policy (id);
alter table decision add column policy text not null default '' check (length(policy) <= 40);

-- Why did it fail?
create table cause (
    id          uuid primary key,
    ordinal     bigint generated always as identity unique,
    part_id     uuid not null references part (id) on delete cascade,
    culprit_id  uuid references part (id) on delete set null check (culprit_id <> part_id),
    answer      text not null check (length(answer) between 1 and 400),
    answered_at timestamptz not null default now()
);
create index cause_of_part on cause (part_id, ordinal);
create trigger cause_stays before update on cause for each row
    when (old.culprit_id is not distinct from new.culprit_id) execute function refuse_change();
create trigger cause_is_kept before delete on cause for each row execute function refuse_change();
