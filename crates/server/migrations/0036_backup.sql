-- Why: a workshop is told when nobody has written its backup. Each attempt is a row, by whichever server or by hand.
create table backup (
    n        bigint generated always as identity primary key,
    begun_at timestamptz not null default clock_timestamp(),
    ended_at timestamptz check (ended_at >= begun_at),
    file     text not null check (char_length(file) between 1 and 1000),
    bytes    bigint check (bytes > 0),
    -- why it failed, in words
    failed   text check (char_length(failed) between 1 and 1000),
    check (bytes is null or failed is null),
    check ((ended_at is null) = (bytes is null and failed is null))
);
create function tell_of_backup() returns trigger language plpgsql as $$
begin
    perform pg_notify('owl', 'W - -');
    return null;
end $$;
create trigger zz_tell after update on backup for each row execute function tell_of_backup();
