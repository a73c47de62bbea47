//! When the sheet, the mark and the meter say different things: by more than 2 : 1 it is a question
//! that stays with the part until somebody answers it, and holds up what is fitted; a lesser difference of sheet and mark
//! is named.

use crate::named::{Named, named};
use crate::part::PartKind;
use crate::quantity::format::{format, signed_percent};
use crate::source::Source;

/// The ratio from which two of the three values are in disagreement.
pub const RATIO: f64 = 2.0;

named! {
    /// Which two values disagree.
    "disagreement" Between {
        /// What the sheet says and what is marked.
        SheetAndMark = "sheet and mark",
        /// What is marked and what the meter says.
        MarkAndMeter = "mark and meter",
        /// What the sheet and the meter say; nothing is marked.
        SheetAndMeter = "sheet and meter",
    }
}

named! {
    /// How a disagreement was explained.
    "explanation" Explanation {
        /// The sheet is wrong.
        Misprint = "the sheet is misprinted",
        /// The mark was read wrongly.
        Misread = "the marking was misread",
        /// Somebody fitted another value.
        WrongPart = "a wrong part was fitted before",
        /// Made so, or altered on purpose.
        Changed = "the set was made or altered so",
        /// The part is no longer what it was.
        Failed = "the part has failed",
        /// The measurement is wrong.
        Mismeasured = "the measurement is wrong",
        /// The part is not the one that the sheet calls so.
        WrongPlace = "it is another part of the sheet",
    }
}

/// The three values of a part, in the base unit of its quantity, and whether the reading was taken in
/// circuit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Values {
    /// What the part is.
    pub part: PartKind,
    /// What the sheet says.
    pub sheet_si: Option<f64>,
    /// What is marked.
    pub marked_si: Option<f64>,
    /// What the meter says.
    pub measured_si: Option<f64>,
    /// Whether other parts lay across it: then a low resistance proves nothing (rule R2).
    pub in_circuit: bool,
}

/// Two values that disagree.
#[derive(Debug, Clone, PartialEq)]
pub struct Disagreement {
    /// Which.
    pub between: Between,
    /// The greater over the lesser.
    pub ratio: f64,
    /// Whether nothing is fitted before it is answered: from [`RATIO`] on.
    pub holds: bool,
    /// In words, as a question.
    pub question: String,
    /// The answers that can be given.
    pub answers: Vec<Explanation>,
    /// Where the rule comes from.
    pub source: Source,
}

/// All disagreements by more than [`RATIO`], in the order in which they are asked: sheet against mark, then the meter
/// against the mark, or against the sheet where nothing is marked; and last, where sheet and mark
/// differ by `named_from` or more and by less than that, the difference, which is named and holds nothing up.
///
/// ```
/// use owl_core::marking::disagreement::{Values, all};
/// use owl_core::part::PartKind;
/// let v = Values { part: PartKind::Resistor, sheet_si: Some(330e3), marked_si: Some(470e3),
///     measured_si: None, in_circuit: false };
/// let named = all(&v, 1.09);
/// assert!(!named[0].holds && named[0].question.contains("+42.4 %"));
/// ```
#[must_use]
pub fn all(values: &Values, named_from: f64) -> Vec<Disagreement> {
    let pair = |a: Option<f64>, b: Option<f64>| Some((a?, b?)).filter(|(a, b)| *a > 0.0 && *b > 0.0);
    let printed = pair(values.sheet_si, values.marked_si);
    let mut found: Vec<Disagreement> = Vec::new();
    found.extend(printed.and_then(|(sheet, mark)| of(values.part, Between::SheetAndMark, sheet, mark)));
    let (between, against) = match (values.marked_si, values.sheet_si) {
        (Some(m), _) => (Between::MarkAndMeter, Some(m)),
        (None, s) => (Between::SheetAndMeter, s),
    };
    if let Some((against, measured)) = pair(against, values.measured_si) {
        // In circuit others lie across it: a resistor can only read low, a capacitor only high.
        let excused = values.in_circuit
            && match values.part {
                PartKind::Resistor | PartKind::Coil => measured < against,
                PartKind::Capacitor => measured > against,
                PartKind::Diode
                | PartKind::Lamp
                | PartKind::Transistor
                | PartKind::Ic
                | PartKind::Valve
                | PartKind::Fuse
                | PartKind::Switch
                | PartKind::Loudspeaker => true,
            };
        found.extend(of(values.part, between, against, measured).filter(|_| !excused));
    }
    if let Some((sheet, mark)) = printed
        && (named_from..=RATIO).contains(&(mark / sheet).max(sheet / mark))
    {
        found.extend(difference(values.part, sheet, mark));
    }
    found
}

/// Sheet and mark that are not the same and not far apart.
fn difference(part: PartKind, sheet: f64, mark: f64) -> Option<Disagreement> {
    let quantity = part.quantity()?;
    let question = format!(
        "Marked {}, {} from the sheet's {}: an earlier repair, a change in production, a misreading, or another part \
         of the sheet?",
        format(quantity, mark),
        signed_percent(mark / sheet - 1.0),
        format(quantity, sheet)
    );
    Some(Disagreement {
        between: Between::SheetAndMark,
        ratio: (mark / sheet).max(sheet / mark),
        holds: false,
        question,
        answers: vec![
            Explanation::WrongPart,
            Explanation::Changed,
            Explanation::Misread,
            Explanation::WrongPlace,
            Explanation::Misprint,
        ],
        source: Source::practice("what differs from the sheet is named before something is fitted by it"),
    })
}

fn of(part: PartKind, between: Between, first: f64, second: f64) -> Option<Disagreement> {
    let ratio = if first > second { first / second } else { second / first };
    if ratio <= RATIO {
        return None;
    }
    let quantity = part.quantity()?;
    let (a, b) = (format(quantity, first), format(quantity, second));
    let times = |name: &str| {
        let n = write_ratio(ratio);
        if second > first { format!("{n} times the {name}") } else { format!("1/{n} of the {name}") }
    };
    let (question, answers) = match between {
        Between::SheetAndMark => (
            format!(
                "Marked {b}, {} ({a}): misprint, misread, or a wrong part fitted before?",
                times("sheet")
            ),
            vec![Explanation::Misprint, Explanation::Misread, Explanation::WrongPart, Explanation::Changed],
        ),
        Between::MarkAndMeter => (
            format!(
                "Measures {b}, {} ({a}): a failed part, a misread mark, or the measurement?",
                times("mark")
            ),
            vec![Explanation::Failed, Explanation::Misread, Explanation::Mismeasured],
        ),
        Between::SheetAndMeter => (
            format!(
                "Measures {b}, {} ({a}): a failed part, a misprint, or another part fitted before?",
                times("sheet")
            ),
            vec![
                Explanation::Failed,
                Explanation::Misprint,
                Explanation::WrongPart,
                Explanation::Mismeasured,
            ],
        ),
    };
    let source = Source::practice("three values that disagree by more than 2 : 1 are asked about");
    Some(Disagreement { between, ratio, holds: true, question, answers, source })
}

fn write_ratio(ratio: f64) -> String {
    let digits = if ratio < 9.95 { 1 } else { 0 };
    let text = format!("{ratio:.digits$}");
    text.strip_suffix(".0").map(str::to_owned).unwrap_or(text)
}

impl Disagreement {
    /// Whether an answer can be given to it.
    #[must_use]
    pub fn takes(&self, answer: Explanation) -> bool {
        self.answers.contains(&answer)
    }

    /// The names of its answers.
    #[must_use]
    pub fn answer_names(&self) -> Vec<&'static str> {
        self.answers.iter().map(|a| a.name()).collect()
    }
}
