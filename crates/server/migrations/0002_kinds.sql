-- Why: the reader reads more than resistors. A part knows what kind it is; what the sheet and the mark
-- say of it is in the base unit of that kind; the reading that was accepted is kept as it was. And when
-- sheet, mark and meter disagree, the answer that somebody gave is kept with the values it was given for.

alter table part rename column sheet_ohm to sheet;
alter table part rename column marked_ohm to marked;
alter table part drop constraint part_name_check;
alter table part drop constraint part_family_check;
alter table part alter column family drop not null;
alter table part add column kind text not null default 'resistor'
    check (kind in ('resistor', 'capacitor', 'coil', 'diode', 'lamp'));
alter table part alter column kind drop default;
-- the reading of the marking that was put on the part
alter table part add column mark jsonb;
alter table part add constraint part_name_check check (
    name ~ '^[RCLDP][A-Z]?[0-9]{1,4}[A-Z]?$'
    and left(name, 1) = case kind when 'resistor' then 'R' when 'capacitor' then 'C' when 'coil' then 'L'
                                  when 'diode' then 'D' else 'P' end);
alter table part add constraint part_family_check check (
    case kind
        when 'resistor' then family is not null
            and family in ('carbon composition', 'carbon film', 'metal film', 'wirewound', 'fusible')
        when 'capacitor' then family is null
            or family in ('wax paper', 'bitumen paper', 'moulded paper', 'mica', 'silver mica', 'ceramic class 1',
                          'ceramic class 2', 'polyester', 'polypropylene', 'polystyrene', 'electrolytic',
                          'tantalum', 'high-voltage ceramic')
        else family is null
    end);
alter table part add constraint part_position_is_a_resistors check (kind = 'resistor' or position is null);

create table explanation (
    id          uuid primary key,
    ordinal     bigint generated always as identity unique,
    part_id     uuid not null references part (id) on delete cascade,
    pair        text not null check (pair in ('sheet and mark', 'mark and meter', 'sheet and meter')),
    -- the values as they were when it was answered, in the base unit of the part
    sheet       double precision,
    marked      double precision,
    measured    double precision,
    question    text not null check (length(question) between 1 and 400),
    answer      text not null check (answer in ('the sheet is misprinted', 'the marking was misread',
                                                'a wrong part was fitted before', 'the set was made or altered so',
                                                'the part has failed', 'the measurement is wrong')),
    note        text not null default '' check (length(note) <= 2000),
    answered_at timestamptz not null default now()
);
create index explanation_of_part on explanation (part_id, ordinal);
create trigger explanation_stays before update on explanation for each row execute function refuse_change();
create trigger explanation_is_kept before delete on explanation for each row execute function refuse_change();
