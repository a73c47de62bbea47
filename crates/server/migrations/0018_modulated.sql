-- A plate blocking part where the plate is modulated.
insert into sits (kind, position) values ('capacitor', 'modulated plate blocking');
