-- Why: a board without valves is found its way on by a photograph: pins dropped on it open their parts. Each is a part of the
-- ticket and a place, as shares of the picture's width and height.
alter table attachment add column markers jsonb not null default '[]'
    check (jsonb_typeof(markers) = 'array' and jsonb_array_length(markers) <= 300);
