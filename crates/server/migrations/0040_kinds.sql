-- Why: half of what is taken out of a set could not be put on the tray: valves first of all, then fuses, the contacts of
-- switches and relays, and loudspeakers. A transistor may be called T1, as German sheets have it.

alter table part drop constraint part_kind_check;
alter table part add constraint part_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit', 'valve', 'fuse',
                    'switch', 'loudspeaker'));
alter table lot drop constraint lot_kind_check;
alter table lot add constraint lot_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit', 'valve', 'fuse',
                    'switch', 'loudspeaker'));
alter table fitting drop constraint fitting_kind_check;
alter table fitting add constraint fitting_kind_check
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp', 'transistor', 'integrated circuit', 'valve', 'fuse',
                    'switch', 'loudspeaker'));

alter table part drop constraint part_name_check;
alter table part add constraint part_name_check check (
    name ~ '^([RCLDPQUVFSK][A-Z]?|TR|IC|T|SP)[0-9]{1,4}[A-Z]?$'
    and kind = any (case
        when name ~ '^TR' then array['transistor']
        when name ~ '^IC' then array['integrated circuit']
        when name ~ '^VR' then array['resistor']
        when name ~ '^CR' then array['diode', 'capacitor']
        when name ~ '^LP' then array['lamp', 'coil']
        when name ~ '^LS' then array['loudspeaker']
        when name ~ '^SP' then array['loudspeaker']
        when name ~ '^RL' then array['switch', 'resistor']
        when name ~ '^T' then array['coil', 'transistor']
        else case left(name, 1)
            when 'R' then array['resistor'] when 'C' then array['capacitor'] when 'L' then array['coil']
            when 'D' then array['diode'] when 'Q' then array['transistor'] when 'U' then array['integrated circuit']
            when 'V' then array['valve'] when 'F' then array['fuse'] when 'S' then array['switch']
            when 'K' then array['switch'] else array['lamp'] end
        end));

insert into sits (kind, position) values
    ('valve', 'mixer'), ('valve', 'oscillator'), ('valve', 'RF stage'), ('valve', 'IF stage'), ('valve', 'detector'),
    ('valve', 'audio stage'), ('valve', 'driver'), ('valve', 'output stage'), ('valve', 'push-pull output'),
    ('valve', 'rectifier'), ('valve', 'regulator'), ('valve', 'tuning indicator'), ('valve', 'RF driver'),
    ('valve', 'RF power');

alter table part drop constraint part_looks_check;
alter table part add constraint part_looks_check
    check (looks <@ array['domed', 'vented', 'wax out', 'scorched', 'cracked', 'lead broken', 'taped', 'comes and goes',
                          'getter white', 'cap loose', 'base loose', 'rattles', 'noisy when tapped', 'glows blue inside',
                          'plate glows red', 'pins dirty']);

alter table reading drop constraint reading_quantity_check;
alter table reading add constraint reading_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'leakage_eye', 'cut_off_current', 'inductance',
                        'forward_voltage', 'turns_ratio', 'gain', 'breakdown_voltage', 'pin_voltage', 'emission',
                        'transconductance', 'cathode_current', 'grid_current', 'heater_cathode'));
alter table instrument_way drop constraint instrument_way_quantity_check;
alter table instrument_way add constraint instrument_way_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'inductance', 'forward_voltage', 'turns_ratio',
                        'gain', 'breakdown_voltage', 'emission', 'transconductance', 'cathode_current', 'grid_current',
                        'heater_cathode'));
alter table instrument drop constraint instrument_kind_check;
alter table instrument add constraint instrument_kind_check check (kind in (
    'multimeter', 'LCR meter', 'ESR meter', 'leakage tester', 'transistor tester', 'valve tester', 'insulation tester',
    'reforming supply'));
