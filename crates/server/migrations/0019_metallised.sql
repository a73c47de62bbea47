-- Metallised paper: a family of its own, known to fail where it protects people.
alter table part drop constraint part_family_check;
alter table part add constraint part_family_check check (
    case kind
        when 'resistor' then family is not null
            and family in ('carbon composition', 'carbon film', 'metal film', 'wirewound', 'fusible')
        when 'capacitor' then family is null
            or family in ('wax paper', 'bitumen paper', 'moulded paper', 'metallised paper', 'mica', 'silver mica',
                          'ceramic class 1', 'ceramic class 2', 'polyester', 'polypropylene', 'polystyrene',
                          'electrolytic', 'tantalum', 'high-voltage ceramic')
        when 'coil' then family is null
            or family in ('field coil', 'choke', 'transformer winding', 'signal coil')
        when 'diode' then family is null or family in ('selenium', 'germanium', 'silicon')
        when 'transistor' then family is null or family in ('germanium', 'silicon')
        else family is null
    end);
