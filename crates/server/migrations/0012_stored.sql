-- Why: what is kept as JSON is a form of the core's own with its version, `{"version": 2, "content": ...}`. What was
-- kept before stands as it was written, the bare content, and is read as version 1.
alter table junction_test drop constraint junction_test_question_check;
alter table junction_test add constraint junction_test_question_check
    check (jsonb_typeof(coalesce(question -> 'content', question) -> 'readings') = 'array');
alter table inspection drop constraint inspection_answers_check;
alter table inspection add constraint inspection_answers_check
    check (jsonb_typeof(coalesce(answers -> 'content', answers)) = 'array');
