-- Why: what falls short of its place goes in only when somebody says why; that stays with it.
alter table fitting add column despite text not null default '' check (length(despite) <= 400);

-- And a difference of sheet and mark may be explained by the place: it is another part of the sheet.
alter table explanation drop constraint explanation_answer_check;
alter table explanation add check (answer in ('the sheet is misprinted', 'the marking was misread',
    'a wrong part was fitted before', 'the set was made or altered so', 'the part has failed', 'the measurement is wrong',
    'it is another part of the sheet'));
