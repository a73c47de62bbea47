-- Why: the line understands CR1, VR1, LP1 and T1 as sheets write them, and the database refused them. What older releases kept
-- under such a letter stays as it was: a capacitor CR1, a coil LP1.
alter table part drop constraint part_name_check;
alter table part add constraint part_name_check check (
    name ~ '^([RCLDPQU][A-Z]?|TR|IC|VR|T)[0-9]{1,4}[A-Z]?$'
    and kind = any (case
        when name ~ '^TR' then array['transistor']
        when name ~ '^IC' then array['integrated circuit']
        when name ~ '^VR' then array['resistor']
        when name ~ '^CR' then array['diode', 'capacitor']
        when name ~ '^LP' then array['lamp', 'coil']
        when name ~ '^T' then array['coil']
        else case left(name, 1)
            when 'R' then array['resistor'] when 'C' then array['capacitor'] when 'L' then array['coil']
            when 'D' then array['diode'] when 'Q' then array['transistor'] when 'U' then array['integrated circuit']
            else array['lamp'] end
        end));
