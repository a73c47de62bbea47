-- Why: transistors and integrated circuits lie on the tray and in the drawers. A part keeps the six readings of its
-- junctions; what died with it is put on the tray as suspect. The workshop adds and corrects types of its own beside
-- the built-in table, measures lots to find pairs, and keeps what it saw of bought parts. What is checked after a
-- transistor was fitted stands with its proof.

-- The kinds.
alter table part drop constraint part_kind_check;
alter table part add constraint part_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit'));
alter table part drop constraint part_name_check;
alter table part add constraint part_name_check check (
    name ~ '^([RCLDPQU][A-Z]?|TR|IC)[0-9]{1,4}[A-Z]?$'
    and left(name, 1) = any (case kind when 'resistor' then array['R'] when 'capacitor' then array['C']
                                       when 'coil' then array['L'] when 'diode' then array['D']
                                       when 'transistor' then array['Q', 'T']
                                       when 'integrated circuit' then array['U', 'I'] else array['P'] end));
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
        when 'transistor' then family is null or family in ('germanium', 'silicon')
        else family is null
    end);
insert into sits (kind, position) values
    ('transistor', 'output stage'), ('transistor', 'driver'), ('transistor', 'audio stage'),
    ('transistor', 'RF stage'), ('transistor', 'IF stage'), ('transistor', 'mixer'), ('transistor', 'oscillator'),
    ('transistor', 'regulator'), ('transistor', 'switch');
alter table lot drop constraint lot_kind_check;
alter table lot add constraint lot_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit'));
create index lot_by_type on lot (kind, upper(type_number)) where type_number <> '';
alter table fitting drop constraint fitting_kind_check;
alter table fitting add constraint fitting_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit'));

-- What is read of them.
alter table reading drop constraint reading_quantity_check;
alter table reading add constraint reading_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'inductance', 'forward_voltage', 'turns_ratio',
                        'gain', 'breakdown_voltage'));
alter table instrument_way drop constraint instrument_way_quantity_check;
alter table instrument_way add constraint instrument_way_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'inductance', 'forward_voltage', 'turns_ratio',
                        'gain', 'breakdown_voltage'));

-- The six readings of a part's junctions, as they were asked about.
create table junction_test (
    id       uuid primary key,
    ordinal  bigint generated always as identity unique,
    part_id  uuid not null references part (id) on delete cascade,
    question jsonb not null check (jsonb_typeof(question -> 'readings') = 'array'),
    taken_at timestamptz not null default now()
);
create index junction_test_of_part on junction_test (part_id, ordinal);
create trigger junction_test_stays before update on junction_test for each row execute function refuse_change();
create trigger junction_test_is_kept before delete on junction_test for each row execute function refuse_change();

-- A part that is suspect because another one died.
alter table part add column suspect_of uuid references part (id) on delete set null check (suspect_of <> id);
create index part_suspect_of on part (suspect_of) where suspect_of is not null;

-- Types of the workshop's own, and corrections of the built-in ones, which stay as they are.
create table device (
    id          uuid primary key,
    type_number text not null check (length(type_number) between 1 and 20),
    kind        text not null check (kind in ('bipolar', 'darlington', 'jfet', 'mosfet')),
    polarity    text not null check (polarity in ('npn', 'pnp', 'n-channel', 'p-channel')),
    material    text check (material in ('germanium', 'silicon')),
    vcbo        double precision check (vcbo > 0 and vcbo < 1e5),
    vceo        double precision check (vceo > 0 and vceo < 1e5),
    vebo        double precision check (vebo > 0 and vebo < 1e5),
    ic          double precision check (ic > 0 and ic < 1e4),
    watts       double precision check (watts > 0 and watts < 1e5),
    watts_ref   text check (watts_ref in ('ambient', 'case')),
    watts_at    double precision check (watts_at between -100 and 300),
    tj          double precision check (tj between 0 and 400),
    rth         double precision check (rth > 0 and rth <= 5000),
    hfe_min     double precision check (hfe_min > 0 and hfe_min <= 1e6),
    hfe_max     double precision check (hfe_max > 0 and hfe_max <= 1e6),
    hfe_ic      double precision check (hfe_ic > 0 and hfe_ic < 1e4),
    hfe_vce     double precision check (hfe_vce >= 0 and hfe_vce < 1e5),
    ft          double precision check (ft > 0 and ft < 1e12),
    cob         double precision check (cob > 0 and cob < 1e-3),
    idss_min    double precision check (idss_min > 0 and idss_min < 1e4),
    idss_max    double precision check (idss_max > 0 and idss_max < 1e4),
    gfs         double precision check (gfs > 0 and gfs < 1e3),
    package     text not null default '' check (length(package) <= 20),
    pinout      text check (pinout ~ '^[EBCX]{2,4}$|^[SGDX]{2,4}$'),
    case_lead   text check (case_lead in ('collector', 'emitter', 'base', 'drain', 'gate', 'shield', 'insulated')),
    usual_use   text not null default '' check (length(usual_use) <= 120),
    sure        text not null check (sure in ('sure', 'fair', 'doubtful')),
    source      text not null check (length(source) between 1 and 240),
    version     integer not null default 1,
    updated_at  timestamptz not null default now(),
    check (hfe_min <= hfe_max),
    check ((kind in ('bipolar', 'darlington')) = (polarity in ('npn', 'pnp')))
);
create unique index device_by_type on device (upper(type_number));
create trigger device_before before update on device for each row execute function keep_row_before();

-- Rises with every change of the types, so that whoever keeps them in memory knows that they are stale.
create table device_revision (
    id       smallint primary key default 1 check (id = 1),
    revision bigint not null default 0
);
insert into device_revision default values;
create function device_changed() returns trigger language plpgsql as $$
begin
    update device_revision set revision = revision + 1;
    return null;
end $$;
create trigger device_changed after insert or update or delete or truncate on device
    for each statement execute function device_changed();

-- Lots that are measured to find pairs.
create table match_lot (
    id            uuid primary key,
    name          text not null check (length(name) between 1 and 60),
    type_number   text not null default '' check (length(type_number) <= 40),
    -- at which collector current gain and base voltage were measured
    test_amperes  double precision check (test_amperes > 0 and test_amperes < 1e3),
    -- of the stage that the pair is for
    emitter_ohms  double precision check (emitter_ohms >= 0 and emitter_ohms < 1e6),
    idle_amperes  double precision check (idle_amperes > 0 and idle_amperes < 1e3),
    version       integer not null default 1,
    updated_at    timestamptz not null default now()
);
create unique index match_lot_by_name on match_lot (lower(name));
create table match_piece (
    lot_id     uuid not null references match_lot (id) on delete cascade,
    place      integer not null check (place between 0 and 499),
    label      text not null check (length(label) between 1 and 20),
    gain       double precision not null check (gain > 0 and gain < 1e6),
    base_volts double precision not null check (base_volts > 0 and base_volts <= 5),
    primary key (lot_id, place),
    unique (lot_id, label)
);

-- What was seen of a bought part.
create table inspection (
    id           uuid primary key,
    ordinal      bigint generated always as identity unique,
    type_number  text not null check (length(type_number) between 1 and 40),
    bought_from  text not null default '' check (length(bought_from) <= 120),
    answers      jsonb not null check (jsonb_typeof(answers) = 'array'),
    verdict      text not null
                 check (verdict in ('no sign against it', 'not enough looked at', 'doubtful', 'signs against it')),
    note         text not null default '' check (length(note) <= 2000),
    inspected_at timestamptz not null default now()
);
create trigger inspection_stays before update on inspection for each row execute function refuse_change();
create trigger inspection_is_kept before delete on inspection for each row execute function refuse_change();

-- What was checked after fitting: bias, idle current, power, temperature.
alter table proof add column checks jsonb not null default '[]' check (jsonb_typeof(checks) = 'array');
