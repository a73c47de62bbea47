-- The bytes of a picture can lie in a store of objects, named by their sum, instead of in its row; and a record carries them
-- apart from its rows. Why: a ticket with seven large photographs could not be written out as one document.
alter table attachment add column bytes bigint, add column sha256 bytea;
update attachment set bytes = octet_length(content), sha256 = sha256(content);
alter table attachment
    alter column bytes set not null, add check (bytes > 0),
    alter column sha256 set not null, add check (octet_length(sha256) = 32),
    alter column content drop not null;
comment on column attachment.content is 'null: in the store, under sha256';
create index attachment_by_sum on attachment (sha256) where content is null;

-- As it was, but for the bytes of the attachments, which are not even read.
do $$
declare
    whole text := pg_get_functiondef('ticket_rows_before_banks(uuid)'::regprocedure);
    old text := 'to_jsonb(a) order by a.added_at, a.id';
begin
    if position(old in whole) = 0 then
        raise exception 'the rows of a ticket are not written as this step knows them';
    end if;
    execute replace(whole, old, 'jsonb_build_object(
            ''id'', a.id, ''ticket_id'', a.ticket_id, ''part_id'', a.part_id, ''name'', a.name, ''media'', a.media,
            ''width'', a.width, ''height'', a.height, ''small'', a.small, ''added_at'', a.added_at, ''markers'', a.markers,
            ''bytes'', a.bytes, ''sha256'', a.sha256) order by a.added_at, a.id');
end $$;
