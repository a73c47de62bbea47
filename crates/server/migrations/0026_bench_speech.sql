-- a part that is good at one moment and not at the next
alter table part drop constraint part_looks_check;
alter table part add constraint part_looks_check
    check (looks <@ array['domed', 'vented', 'wax out', 'scorched', 'cracked', 'lead broken', 'taped', 'comes and goes']);

-- sentences that the line did not understand, so that it can learn them
create table refused_sentence (
    id bigint generated always as identity primary key,
    ticket_id uuid references ticket (id) on delete set null,
    said_at timestamptz not null default now(),
    sentence text not null check (char_length(sentence) between 1 and 200),
    why text not null check (char_length(why) between 1 and 1000)
);
create index refused_sentence_newest on refused_sentence (said_at desc);
