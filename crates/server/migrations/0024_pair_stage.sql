-- Why: what a difference of base volts means hangs on the stage that a pair is for; and two places of transistors that
-- the trade tells apart.
alter table match_lot add column stage text
    check (stage in ('small signal', 'driver', 'class A output', 'push-pull output with transformer',
                     'complementary output', 'quasi-complementary output', 'mixer or oscillator',
                     'intermediate frequency', 'radio frequency', 'radio frequency driver',
                     'radio frequency power', 'AM final', 'regulator', 'switch'));
insert into sits (kind, position) values
    ('transistor', 'quasi-complementary output'), ('transistor', 'RF driver');
