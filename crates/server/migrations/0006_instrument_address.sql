-- Why: readings come in from instruments that answer over the network. Only what a person entered here is ever asked.

alter table instrument add column address text check (length(address) between 3 and 60);
alter table instrument drop constraint instrument_kind_check;
alter table instrument add constraint instrument_kind_check check (kind in (
    'multimeter', 'LCR meter', 'ESR meter', 'leakage tester', 'transistor tester', 'insulation tester', 'reforming supply'));
