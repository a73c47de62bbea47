-- a proof says better, as before or worse; what left the set as it was is proven anew once something else is mended
alter table proof add column outcome text;
alter table proof disable trigger proof_stays;
-- Nobody said that a set was worse for what did not work.
update proof set outcome = case when worked then 'better' else 'as before' end;
alter table proof enable trigger proof_stays;
alter table proof alter column outcome set not null;
alter table proof add constraint proof_outcome_check check (outcome in ('better', 'as before', 'worse'));
alter table proof drop column worked;
alter table proof drop constraint proof_fitting_id_key;
create index proof_of_change on proof (change_id, proven_at);
create unique index one_good_proof on proof (change_id) where outcome = 'better';

-- the last word on a change
create view last_proof as
    select distinct on (change_id) id, change_id, outcome, seen, checks, proven_at from proof
    order by change_id, proven_at desc, id desc;

-- a go/no-go eye that opens or stays closed is a reading of leakage as well
alter table reading drop constraint reading_quantity_check;
alter table reading add constraint reading_quantity_check
    check (quantity in ('resistance', 'capacitance', 'esr', 'dissipation_factor', 'leakage_current',
                        'leakage_resistance', 'leakage_percent', 'leakage_eye', 'cut_off_current', 'inductance',
                        'forward_voltage', 'turns_ratio', 'gain', 'breakdown_voltage', 'pin_voltage'));
alter table reading add constraint reading_eye_opens_or_not check (quantity <> 'leakage_eye' or value in (0, 1));
