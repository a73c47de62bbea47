-- Why: the workshop chooses its words once, and every sentence follows. Where none are chosen, they are the British
-- trade's.
alter table workshop
    add column valve text not null default 'valve' check (valve in ('valve', 'tube')),
    add column supply text not null default 'HT' check (supply in ('HT', 'B+')),
    add column anode text not null default 'anode' check (anode in ('anode', 'plate')),
    add column earth text not null default 'earth' check (earth in ('earth', 'ground')),
    add column heater text not null default 'heater' check (heater in ('heater', 'filament'));
