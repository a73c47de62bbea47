-- Collector volts as they are registered where the base is never open, and types that makers have with their leads in
-- another order.
alter table device
    add column vcer double precision check (vcer > 0 and vcer < 1e5),
    add column leads_vary boolean not null default false;

-- Output stages by their class, and power at radio frequency.
insert into sits (kind, position) values
    ('transistor', 'single-ended output'), ('transistor', 'push-pull output'),
    ('transistor', 'output without transformer'), ('transistor', 'RF power'), ('transistor', 'AM final');
