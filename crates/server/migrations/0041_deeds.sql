-- Why: what was drawn, put together, answered, tested or said of the whole set could not be taken back where it was done.
do $$
declare
    tab text;
begin
    foreach tab in array array['bank', 'bank_member', 'feed', 'feed_part', 'feed_node', 'cause', 'explanation', 'junction_test',
                               'ticket']
    loop
        execute format('create trigger zz_deed after insert or update or delete on %I for each row execute function note_deed()', tab);
    end loop;
end $$;
