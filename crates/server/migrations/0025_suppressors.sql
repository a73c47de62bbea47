-- Why: what lies across a rectifier, a vibrator's winding, an output transformer or a contact in the line takes other
-- volts each; a snubber is known by what it does.
insert into sits (kind, position) values
    ('capacitor', 'rectifier snubber'), ('capacitor', 'vibrator buffer'), ('capacitor', 'output snubber'),
    ('capacitor', 'mains contact'), ('resistor', 'mains contact'), ('resistor', 'rectifier snubber');
