-- A set whose chassis may be live although its class does not say so: a transistor set without a transformer.
alter table ticket add column hot_chassis boolean not null default false;

-- Lists are gone through before first power and before closing as well, and some of their lines are measured, in the base
-- unit of what is measured.
alter table safety_tick add column value double precision check (value >= 0 and value < 1e18);
