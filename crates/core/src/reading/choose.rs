//! Which of the workshop's instruments a reading was taken with where nobody says, and what its way of measuring says
//! of the reading (rule R3m: a way of measuring decides what its number is worth).

use super::{MeterFunction, ReadQuantity, Reading, Setting, Shown};
use crate::part::MadeOf;
use crate::quantity::Hertz;

/// A way of measuring on the bench.
#[derive(Debug, Clone, Copy)]
pub struct OnBench<'a, I> {
    /// Whose it is.
    pub instrument: I,
    /// Whether that is still used.
    pub in_use: bool,
    /// The way.
    pub way: &'a MeterFunction,
}

/// A reading whose instrument is sought.
#[derive(Debug, Clone, Copy)]
pub struct Sought<'a, I> {
    /// What was read.
    pub quantity: ReadQuantity,
    /// How the tester's switch stood, where that was said.
    pub setting: Option<Setting>,
    /// How the part is made.
    pub family: Option<MadeOf>,
    /// At which frequency, where that was said.
    pub test_frequency: Option<Hertz>,
    /// With which instrument, where that was said.
    pub instrument: Option<I>,
    /// With which this quantity was last read, and in which of its ways, the latest first.
    pub last: &'a [(I, String)],
}

/// How far a frequency that was said may be from a way's own, as a share: 1 kHz is 1.005 kHz on some bridges.
const SAME_FREQUENCY: f64 = 0.01;

/// The place in `bench` of the way: the one whose frequency was said, else that of the instrument that was said, else
/// the one last used for this, else the first that measures it. `None` where none does.
///
/// Nobody who does not say so puts a paper part on the electrolytic setting.
#[must_use]
pub fn choose<I: Copy + Eq>(bench: &[OnBench<'_, I>], sought: &Sought<'_, I>) -> Option<usize> {
    let wanted = sought.quantity.measured_as();
    let setting = sought.setting.or_else(|| sought.family.and_then(Setting::of));
    let first = |also: &dyn Fn(&OnBench<'_, I>) -> bool| {
        bench.iter().position(|b| {
            let switched = setting.is_none_or(|s| b.way.setting.is_none_or(|own| own == s));
            b.in_use && b.way.quantity == wanted && switched && also(b)
        })
    };
    let at_frequency = sought.test_frequency.and_then(|f| {
        first(&|b| b.way.test_frequency.is_some_and(|own| (own / f - 1.0).abs() < SAME_FREQUENCY))
    });
    let usual = || match sought.instrument {
        Some(said) => first(&|b| b.instrument == said),
        None => (sought.last.iter())
            .find_map(|(instrument, way)| first(&|b| b.instrument == *instrument && b.way.name == *way)),
    };
    at_frequency.or_else(usual).or_else(|| first(&|_| true))
}

/// The places in `bench` of the ways that can have shown `value_si`, the first first: with what it was measured, where the
/// instrument that stands first ends below it. `setting` is how a tester's switch belongs for such a part.
#[must_use]
pub fn reaching<I>(
    bench: &[OnBench<'_, I>],
    quantity: ReadQuantity,
    value_si: f64,
    setting: Option<Setting>,
) -> Vec<usize> {
    let wanted = quantity.measured_as();
    let reaches = |b: &OnBench<'_, I>| {
        let holds = b.way.ceiling_si().is_none_or(|end| value_si.abs() <= end * (1.0 + ROUNDING));
        let switched = setting.is_none_or(|s| b.way.setting.is_none_or(|own| own == s));
        b.in_use && b.way.quantity == wanted && switched && holds
    };
    (0..bench.len()).filter(|i| reaches(&bench[*i])).collect()
}

/// What a last range may be exceeded by in the binary digits of a decimal number, as a share.
const ROUNDING: f64 = 1e-9;

/// A value that the way cannot have shown.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("it ends at {}", .quantity.written(*.ceiling_si))]
pub struct BeyondRange {
    /// What was read.
    pub quantity: ReadQuantity,
    /// What was said to be shown, in the base unit.
    pub value_si: f64,
    /// Where its last range ends, in the base unit.
    pub ceiling_si: f64,
}

impl MeterFunction {
    /// Fills in what this way of measuring says of a reading: how it measures where that was not said, how closely, and
    /// beyond the range, where that ends.
    ///
    /// # Errors
    /// [`BeyondRange`] for a value that it cannot have shown.
    pub fn read(&self, reading: &mut Reading, mode_said: bool) -> Result<(), BeyondRange> {
        if !mode_said {
            reading.mode = self.mode;
        }
        reading.test_voltage = reading.test_voltage.or(self.test_voltage);
        reading.test_frequency = reading.test_frequency.or(self.test_frequency);
        reading.setting = reading.setting.or(self.setting);
        let ceiling = self.ceiling_si();
        match (&mut reading.shown, ceiling) {
            (Shown::Value { si }, Some(ceiling_si)) if si.abs() > ceiling_si * (1.0 + ROUNDING) => {
                return Err(BeyondRange { quantity: reading.quantity, value_si: *si, ceiling_si });
            }
            (Shown::Value { si }, _) => reading.accuracy = self.accuracy_at_si(*si),
            (Shown::Overrange { ceiling_si }, _) => *ceiling_si = ceiling,
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::part::CapacitorFamily;
    use crate::quantity::Fraction;
    use crate::reading::{Mode, Range};

    fn way(name: &str, quantity: ReadQuantity) -> MeterFunction {
        let ranges = vec![Range {
            up_to_si: 2e6,
            of_reading: Fraction::computed(0.008),
            counts: 3.0,
            resolution_si: 100.0,
        }];
        MeterFunction {
            name: name.to_owned(),
            quantity,
            mode: Mode::Ac,
            test_frequency: None,
            test_voltage: None,
            setting: None,
            ranges,
        }
    }

    fn at(hertz: f64, of: MeterFunction) -> MeterFunction {
        MeterFunction { test_frequency: Some(Hertz::computed(hertz)), ..of }
    }

    fn sought(quantity: ReadQuantity) -> Sought<'static, u8> {
        Sought { quantity, setting: None, family: None, test_frequency: None, instrument: None, last: &[] }
    }

    /// Three instruments: one and two measure resistance, three measures capacitance at two frequencies.
    fn chosen(sought: &Sought<'_, u8>, in_use: bool) -> Option<usize> {
        let (r, c) = (ReadQuantity::Resistance, ReadQuantity::Capacitance);
        let all = [way("ohms", r), way("bridge", r), at(100.0, way("slow", c)), at(1000.0, way("fast", c))];
        let whose = [1, 2, 3, 3];
        let bench: Vec<_> =
            all.iter().zip(whose).map(|(way, instrument)| OnBench { instrument, in_use, way }).collect();
        choose(&bench, sought)
    }

    #[test]
    fn what_was_said_goes_before_what_was_last_used_and_that_before_the_first() {
        let r = sought(ReadQuantity::Resistance);
        assert_eq!(chosen(&r, true), Some(0), "the first that measures it");
        let last = [(3, "slow".to_owned()), (2, "bridge".to_owned())];
        assert_eq!(chosen(&Sought { last: &last, ..r }, true), Some(1), "last used for this");
        assert_eq!(chosen(&Sought { last: &last, instrument: Some(1), ..r }, true), Some(0), "said");
        assert_eq!(
            chosen(&Sought { instrument: Some(3), ..r }, true),
            Some(0),
            "one that cannot is not taken"
        );
        assert_eq!(chosen(&r, false), None, "none in use");
        assert_eq!(chosen(&sought(ReadQuantity::Gain), true), None, "none measures it");
    }

    #[test]
    fn a_frequency_that_was_said_picks_the_way() {
        let c = sought(ReadQuantity::Capacitance);
        let f = |hertz| Sought { test_frequency: Some(Hertz::computed(hertz)), ..c };
        assert_eq!((chosen(&f(1004.0), true), chosen(&f(100.0), true)), (Some(3), Some(2)));
        assert_eq!(chosen(&f(400.0), true), Some(2), "none is near: the first");
    }

    #[test]
    fn nobody_puts_a_paper_part_on_the_electrolytic_setting_unasked() {
        let leak =
            |setting| MeterFunction { setting: Some(setting), ..way("leak", ReadQuantity::LeakageCurrent) };
        let ways = [leak(Setting::Electrolytic), leak(Setting::Paper)];
        let bench: Vec<_> = ways.iter().map(|way| OnBench { instrument: 1u8, in_use: true, way }).collect();
        let paper = Some(MadeOf::Capacitor(CapacitorFamily::WaxPaper));
        let leaks = Sought { family: paper, ..sought(ReadQuantity::LeakageCurrent) };
        assert_eq!(choose(&bench, &leaks), Some(1));
        assert_eq!(
            choose(&bench, &Sought { setting: Some(Setting::Electrolytic), ..leaks }),
            Some(0),
            "said"
        );
    }

    #[test]
    fn what_the_first_cannot_have_shown_was_measured_with_one_that_can() {
        let mut long = way("bridge", ReadQuantity::Resistance);
        long.ranges[0].up_to_si = 20e6;
        let all = [way("ohms", ReadQuantity::Resistance), way("slow", ReadQuantity::Capacitance), long];
        let bench: Vec<_> = all.iter().map(|way| OnBench { instrument: 1u8, in_use: true, way }).collect();
        let of = |value| reaching(&bench, ReadQuantity::Resistance, value, None);
        assert_eq!((of(2e6), of(3e6), of(30e6)), (vec![0, 2], vec![2], vec![]));
    }

    #[test]
    fn a_way_says_how_closely_it_measures_and_where_it_ends() {
        let ohms = at(50.0, way("ohms", ReadQuantity::Resistance));
        let mut shown = Reading::of(ReadQuantity::Resistance, Shown::Value { si: 47e3 });
        assert_eq!(ohms.read(&mut shown, false), Ok(()));
        assert_eq!((shown.mode, shown.test_frequency), (Mode::Ac, Some(Hertz::computed(50.0))));
        assert_eq!(shown.uncertainty().as_deref(), Some("±680 Ω"));
        let mut said = Reading { test_frequency: Some(Hertz::computed(60.0)), ..shown };
        said.mode = Mode::Dc;
        assert_eq!(ohms.read(&mut said, true), Ok(()));
        assert_eq!((said.mode, said.test_frequency), (Mode::Dc, Some(Hertz::computed(60.0))), "as was said");
        let mut over = Reading::of(ReadQuantity::Resistance, Shown::Overrange { ceiling_si: None });
        assert_eq!(ohms.read(&mut over, false), Ok(()));
        assert_eq!(over.shown, Shown::Overrange { ceiling_si: Some(2e6) });
        let mut beyond = Reading::of(ReadQuantity::Resistance, Shown::Value { si: 3e6 });
        let refused = ohms.read(&mut beyond, false).expect_err("it ends at 2 MΩ");
        assert_eq!(refused.to_string(), "it ends at 2 MΩ");
    }
}
