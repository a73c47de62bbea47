-- Resistors in series with a meter: a place of their own.
insert into sits (kind, position) values ('resistor', 'meter multiplier');

-- What leaks from collector to base with the emitter open is a reading of its own.
alter table reading drop constraint reading_quantity_check;
alter table reading add constraint reading_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'cut_off_current', 'inductance', 'forward_voltage',
                        'turns_ratio', 'gain', 'breakdown_voltage'));

-- What may have died with an output transistor that shorted, by its role: which part of the set it is, or why the set has
-- none. Null where nobody asked. A role that is not there is still to be named; nothing is put on the tray for it.
alter table part add column roles jsonb check (roles is null or (kind = 'transistor' and jsonb_typeof(roles) = 'object'));
update part t
set roles = jsonb_build_object(
    'emitter resistor', 'on the tray', 'resistor from base to emitter', 'on the tray', 'driver', 'on the tray',
    'fellow output transistor', 'on the tray', 'bias diode or thermistor', 'on the tray',
    'protection transistor', 'on the tray', 'resistor across the output', 'on the tray')
where exists (select from part s where s.suspect_of = t.id);

-- Changes that are one: a stage that is fitted with one press.
alter table change add column stage uuid;
create index change_stage on change (stage) where stage is not null;
