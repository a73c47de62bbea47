-- Why: an integrated circuit is judged by the volts at its pins, in the set; a reading says at which.
alter table reading drop constraint reading_quantity_check;
alter table reading add constraint reading_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'cut_off_current', 'inductance', 'forward_voltage',
                        'turns_ratio', 'gain', 'breakdown_voltage', 'pin_voltage'));
alter table reading drop constraint reading_value_check;
alter table reading add constraint reading_value_check check (
    value > -1e300 and value < 1e300 and (value >= 0 or quantity in ('forward_voltage', 'pin_voltage')));
alter table reading add column pin smallint check (pin between 1 and 64);
alter table reading add constraint reading_names_its_pin check ((pin is not null) = (quantity = 'pin_voltage'));
