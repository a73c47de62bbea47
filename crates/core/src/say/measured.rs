//! What a meter showed, as it is typed: `2.2uA @400`, `.047u`, `esr 1.8`, `OL`.

use super::extras::{At, Extras};
use super::{Known, Measured, SayError};
use crate::part::PartKind;
use crate::phrase::longest;
use crate::quantity::parse::{self, EntryError};
use crate::quantity::{Ampere, Fraction, Hertz, Quantity, Volt};
use crate::reading::{ReadQuantity, State, usual_state};

/// What is found instead of a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Beyond {
    /// Beyond the meter's range.
    Range,
    /// Nothing passes.
    Open,
    /// Everything does.
    Short,
    /// A go/no-go eye opens.
    EyeOpens,
    /// A go/no-go eye stays closed.
    EyeClosed,
}

/// Words for it.
const BEYOND: &[(&str, Beyond)] = &[
    ("ol", Beyond::Range),
    ("o.l", Beyond::Range),
    ("o.l.", Beyond::Range),
    ("over", Beyond::Range),
    ("over range", Beyond::Range),
    ("overrange", Beyond::Range),
    ("infinite", Beyond::Range),
    ("infinity", Beyond::Range),
    ("∞", Beyond::Range),
    ("open", Beyond::Open),
    ("open circuit", Beyond::Open),
    ("o/c", Beyond::Open),
    ("gone open", Beyond::Open),
    ("gone open circuit", Beyond::Open),
    ("gone short circuit", Beyond::Short),
    ("offen", Beyond::Open),
    ("unterbrochen", Beyond::Open),
    ("short", Beyond::Short),
    ("shorted", Beyond::Short),
    ("shorts", Beyond::Short),
    ("short circuit", Beyond::Short),
    ("dead short", Beyond::Short),
    ("s/c", Beyond::Short),
    ("gone short", Beyond::Short),
    ("kurzschluss", Beyond::Short),
    ("kurzschluß", Beyond::Short),
    ("eye open", Beyond::EyeOpens),
    ("eye opens", Beyond::EyeOpens),
    ("opens", Beyond::EyeOpens),
    ("eye closed", Beyond::EyeClosed),
    ("eye closes", Beyond::EyeClosed),
    ("eye shut", Beyond::EyeClosed),
    ("eye stays closed", Beyond::EyeClosed),
    ("eye stays shut", Beyond::EyeClosed),
    ("stays closed", Beyond::EyeClosed),
    ("stays shut", Beyond::EyeClosed),
    ("closed", Beyond::EyeClosed),
    ("closed and stays closed", Beyond::EyeClosed),
    ("closed stays closed", Beyond::EyeClosed),
    ("closes", Beyond::EyeClosed),
];

/// What opens `words` in the place of a value, and how many of them it takes.
pub(super) fn beyond(words: &[&str]) -> Option<(Beyond, usize)> {
    longest(words, BEYOND.iter().copied())
}

/// Whether a word behind a verb of measuring stands for a value.
pub(super) fn is_said_for_a_value(word: &str) -> bool {
    beyond(&[word]).is_some() || word.eq_ignore_ascii_case("dead")
}

/// The reading of a part that is open, shorted or beyond the range: of a valve its heater, or a short between electrodes.
///
/// # Errors
/// [`SayError::WhichLeads`] for a transistor, [`SayError::NotMeasured`] for what is not measured.
pub(super) fn found(kind: PartKind, name: &str, beyond: Beyond) -> Result<Entered, SayError> {
    use ReadQuantity::{Capacitance, ForwardVoltage, Gain, LeakageEye, LeakageResistance, Resistance};
    let (quantity, value_si) = match (kind, beyond) {
        (
            PartKind::Resistor | PartKind::Coil | PartKind::Fuse | PartKind::Switch | PartKind::Loudspeaker,
            beyond @ (Beyond::Short | Beyond::Open | Beyond::Range),
        ) => (Resistance, (beyond == Beyond::Short).then_some(0.0)),
        // What a capacitance meter calls overrange is a short, or too large for it.
        (PartKind::Capacitor, Beyond::Range) => (Capacitance, None),
        (PartKind::Capacitor, Beyond::Open) => (Capacitance, Some(0.0)),
        (PartKind::Capacitor, Beyond::Short) => (Resistance, Some(0.0)),
        (PartKind::Diode, Beyond::Short) => (ForwardVoltage, Some(0.0)),
        (PartKind::Diode, Beyond::Open | Beyond::Range) => (ForwardVoltage, None),
        (PartKind::Transistor, Beyond::Range) => (Gain, None),
        (PartKind::Transistor, Beyond::Open | Beyond::Short) => return Err(SayError::WhichLeads),
        (PartKind::Capacitor, Beyond::EyeOpens) => (LeakageEye, Some(1.0)),
        (PartKind::Capacitor, Beyond::EyeClosed) => (LeakageEye, Some(0.0)),
        (PartKind::Valve, Beyond::Open | Beyond::Range) => (Resistance, None),
        (PartKind::Valve, Beyond::Short) => (LeakageResistance, Some(0.0)),
        (_, Beyond::EyeOpens | Beyond::EyeClosed) => return Err(SayError::Eye(name.to_owned(), kind)),
        (PartKind::Lamp | PartKind::Ic, _) => return Err(SayError::NotMeasured(name.to_owned(), kind)),
    };
    Ok(Entered::of(quantity, value_si))
}

/// Words for what is read; a value stands behind each.
const WORDS: &[(&str, Word)] = &[
    ("leak", Word::Leak),
    ("leaks", Word::Leak),
    ("leakage", Word::Leak),
    ("leaking", Word::Leak),
    ("leckt", Word::Leak),
    ("insulation", Word::Leak),
    ("esr", Word::Of(ReadQuantity::Esr)),
    ("d", Word::Of(ReadQuantity::DissipationFactor)),
    ("df", Word::Of(ReadQuantity::DissipationFactor)),
    ("tan", Word::Of(ReadQuantity::DissipationFactor)),
    ("drop", Word::Of(ReadQuantity::ForwardVoltage)),
    ("drops", Word::Of(ReadQuantity::ForwardVoltage)),
    ("forward", Word::Of(ReadQuantity::ForwardVoltage)),
    ("vf", Word::Of(ReadQuantity::ForwardVoltage)),
    ("beta", Word::Of(ReadQuantity::Gain)),
    ("dcr", Word::Of(ReadQuantity::Resistance)),
    ("resistance", Word::Of(ReadQuantity::Resistance)),
    ("ohms", Word::Of(ReadQuantity::Resistance)),
    ("ratio", Word::Of(ReadQuantity::TurnsRatio)),
    ("gain", Word::Of(ReadQuantity::Gain)),
    ("hfe", Word::Of(ReadQuantity::Gain)),
    ("icbo", Word::Of(ReadQuantity::CutOffCurrent)),
    ("iceo", Word::Of(ReadQuantity::LeakageCurrent)),
    ("vbe", Word::Of(ReadQuantity::ForwardVoltage)),
    ("breakdown", Word::Of(ReadQuantity::BreakdownVoltage)),
];

/// Words for what is read of a valve.
const VALVE_WORDS: &[(&str, Word)] = &[
    ("emission", Word::Of(ReadQuantity::Emission)),
    ("tests", Word::Of(ReadQuantity::Emission)),
    ("tested", Word::Of(ReadQuantity::Emission)),
    ("gm", Word::Of(ReadQuantity::Transconductance)),
    ("transconductance", Word::Of(ReadQuantity::Transconductance)),
    ("conductance", Word::Of(ReadQuantity::Transconductance)),
    ("slope", Word::Of(ReadQuantity::Transconductance)),
    ("steilheit", Word::Of(ReadQuantity::Transconductance)),
    ("gas", Word::Of(ReadQuantity::GridCurrent)),
    ("grid", Word::Of(ReadQuantity::GridCurrent)),
    ("ig", Word::Of(ReadQuantity::GridCurrent)),
    ("heater", Word::Of(ReadQuantity::Resistance)),
    ("filament", Word::Of(ReadQuantity::Resistance)),
    ("heizung", Word::Of(ReadQuantity::Resistance)),
    ("ohms", Word::Of(ReadQuantity::Resistance)),
    ("h-k", Word::Of(ReadQuantity::HeaterCathode)),
    ("h/k", Word::Of(ReadQuantity::HeaterCathode)),
    ("hk", Word::Of(ReadQuantity::HeaterCathode)),
    ("cathode", Word::Of(ReadQuantity::CathodeCurrent)),
    ("draws", Word::Of(ReadQuantity::CathodeCurrent)),
    ("ik", Word::Of(ReadQuantity::CathodeCurrent)),
    ("leak", Word::Leak),
    ("leaks", Word::Leak),
    ("leakage", Word::Leak),
    ("insulation", Word::Leak),
];

/// What a word says that is read, of such a part.
fn word_of(kind: PartKind, word: &str) -> Option<Word> {
    let all = if kind == PartKind::Valve { VALVE_WORDS } else { WORDS };
    all.iter().find(|(w, _)| word.eq_ignore_ascii_case(w)).map(|(_, said)| *said)
}

/// What a word alone names, where a short or nothing at all stands for its value: `hk short`, `heater open`.
pub(super) fn named_alone(kind: PartKind, words: &[&str]) -> Option<ReadQuantity> {
    let named: Vec<&&str> = words.iter().filter(|w| !w.eq_ignore_ascii_case("current")).collect();
    match named.as_slice() {
        [one] => match word_of(kind, one)? {
            Word::Of(of) => Some(of),
            Word::Leak => Some(ReadQuantity::LeakageResistance),
        },
        _ => None,
    }
}

#[derive(Clone, Copy)]
enum Word {
    Of(ReadQuantity),
    /// Current, insulation or percent, by its unit.
    Leak,
}

pub(super) fn is_beyond(word: &str) -> bool {
    beyond(&[word]).is_some_and(|(b, _)| matches!(b, Beyond::Range | Beyond::Open))
}

/// A value as it was entered, with what it is a value of.
#[derive(Debug, Clone, PartialEq)]
pub struct Entered {
    /// What was read.
    pub quantity: ReadQuantity,
    /// In the base unit; `None` beyond the meter's range.
    pub value_si: Option<f64>,
    /// Other values that it could be, as they are written.
    pub others: Vec<String>,
    /// At which voltage, where that was typed with it.
    pub test_voltage: Option<Volt>,
}

impl Entered {
    /// A value that can be no other.
    pub(super) fn of(quantity: ReadQuantity, value_si: Option<f64>) -> Self {
        Self { quantity, value_si, others: vec![], test_voltage: None }
    }
}

/// What is typed into a reading's field alone. `of` is what is being read; leakage may be typed as current,
/// insulation or percent whichever of the three is asked for, by its unit.
///
/// # Errors
/// [`SayError::Entry`] for what is no value.
pub fn read_entry(of: ReadQuantity, text: &str) -> Result<Entered, SayError> {
    let text = text.trim().trim_start_matches('=').trim();
    if is_beyond(text) {
        // An open capacitor has no capacitance; what a capacitance meter calls overrange is a short, or too large for it.
        let open = of == ReadQuantity::Capacitance && text.eq_ignore_ascii_case("open");
        return Ok(Entered::of(of, open.then_some(0.0)));
    }
    let shorts = matches!(
        of,
        ReadQuantity::Resistance | ReadQuantity::LeakageResistance | ReadQuantity::ForwardVoltage
    );
    if of.is_leakage()
        && let Some(entered) = eye_entry(text)?
    {
        return Ok(entered);
    }
    if shorts && matches!(beyond(&[text]), Some((Beyond::Short, _))) {
        return Ok(Entered::of(of, Some(0.0)));
    }
    if of.is_leakage() {
        return leak(text, Some(of));
    }
    if of == ReadQuantity::CutOffCurrent {
        // Typed as leakage is; insulation or percent is none.
        return match leak(text, Some(ReadQuantity::LeakageCurrent))? {
            e if e.quantity == ReadQuantity::LeakageCurrent => Ok(Entered { quantity: of, ..e }),
            _ => Err(SayError::Wants(of.called().to_owned(), "a current, such as 4uA")),
        };
    }
    if of == ReadQuantity::Transconductance {
        return conductance(text);
    }
    value(of, text)
}

/// From this on a bare number for a transconductance is micromho, as American testers show it (practice: no receiving valve
/// has a hundred mA/V).
const MICROMHO_FROM: f64 = 100.0;

/// `2.1`, `2.1 mA/V`, `2100`, `2100 umho`.
fn conductance(text: &str) -> Result<Entered, SayError> {
    let of = ReadQuantity::Transconductance;
    match text.parse::<f64>() {
        Ok(n) if n >= MICROMHO_FROM => value(of, &format!("{text}umho")),
        Ok(_) => value(of, &format!("{text}mA/V")),
        Err(_) => value(of, text),
    }
}

/// What is typed of a go/no-go eye: `opens at 50 V`, `closed and stays closed`; `None` where it is none.
fn eye_entry(text: &str) -> Result<Option<Entered>, SayError> {
    let words: Vec<&str> = text.split_whitespace().collect();
    let Some((seen @ (Beyond::EyeOpens | Beyond::EyeClosed), used)) = beyond(&words) else { return Ok(None) };
    let behind = words[used..].join(" ");
    let volts = behind.trim_start_matches("at ").trim_start_matches('@').trim();
    let test_voltage = if volts.is_empty() {
        None
    } else {
        let said = parse::parse(Quantity::Voltage, volts)?;
        Some(Volt::new(said[0].value).map_err(EntryError::Quantity)?)
    };
    let opens = if seen == Beyond::EyeOpens { 1.0 } else { 0.0 };
    let quantity = ReadQuantity::LeakageEye;
    Ok(Some(Entered { test_voltage, ..Entered::of(quantity, Some(opens)) }))
}

/// Whether a word says what is read.
pub(super) fn is_a_word(kind: PartKind, word: &str) -> bool {
    word_of(kind, word).is_some()
}

impl Measured {
    /// The value with its conditions: `measures 349 Ω`, `leakage 35 µA at 300 V`.
    #[must_use]
    pub fn value_in_words(&self) -> String {
        let value = match self.value_si {
            None => format!("{} is beyond the meter's range", self.quantity.called()),
            Some(v) if self.quantity == ReadQuantity::LeakageEye => self.quantity.written(v),
            Some(v) => {
                let name = match self.quantity {
                    ReadQuantity::Resistance | ReadQuantity::Capacitance => "measures",
                    other => other.called(),
                };
                format!("{name} {}", self.quantity.written(v))
            }
        };
        let volts = self.test_voltage.map(|v| format!(" at {v}")).unwrap_or_default();
        let hertz = self.test_frequency.map(|f| format!(" at {f}")).unwrap_or_default();
        format!("{value}{volts}{hertz}")
    }
}

fn value(of: ReadQuantity, text: &str) -> Result<Entered, SayError> {
    let entries = parse::parse(of.quantity(), text)?;
    for e in &entries {
        checked(of, e.value)?;
    }
    let others = entries[1..].iter().map(|e| of.written(e.value)).collect();
    Ok(Entered { others, ..Entered::of(of, Some(entries[0].value)) })
}

/// Refuses what no meter shows: a value below zero, except of a drop.
fn checked(of: ReadQuantity, value: f64) -> Result<(), EntryError> {
    match of.quantity() {
        Quantity::Voltage => Volt::new(value).map(|_| ()),
        Quantity::Fraction | Quantity::Ratio => {
            if value < 0.0 {
                return Err(EntryError::NotANumber(value.to_string()));
            }
            Fraction::new(value).map(|_| ())
        }
        Quantity::Current => {
            if value < 0.0 {
                return Err(EntryError::NotANumber(format!("{value} A: leakage is typed without its sign")));
            }
            Ampere::new(value).map(|_| ())
        }
        _ => crate::quantity::Ohm::new(value).map(|_| ()),
    }
    .map_err(EntryError::Quantity)
}

/// Leakage as current, insulation or percent, by its unit; by what was asked for without one.
fn leak(text: &str, asked: Option<ReadQuantity>) -> Result<Entered, SayError> {
    let suffix = text.trim_start_matches(|c: char| c.is_ascii_digit() || "., +-−".contains(c)).trim();
    let lower = suffix.to_lowercase();
    let of = if lower.ends_with('%') || lower == "percent" {
        ReadQuantity::LeakagePercent
    } else if lower.ends_with('a') || lower.ends_with("amp") || lower.ends_with("amps") {
        ReadQuantity::LeakageCurrent
    } else if suffix.is_empty() {
        asked.ok_or_else(|| SayError::LeakWithoutUnit(text.to_owned()))?
    } else if matches!(suffix, "u" | "µ" | "μ" | "m" | "n") {
        // Leakage in micro and milli is a current.
        return value(ReadQuantity::LeakageCurrent, &format!("{text}A"));
    } else {
        ReadQuantity::LeakageResistance
    };
    if of == ReadQuantity::LeakageCurrent && suffix.is_empty() {
        // A bare number on a leakage tester is microampere.
        return value(of, &format!("{text}uA"));
    }
    if of == ReadQuantity::LeakagePercent && suffix.is_empty() {
        return value(of, &format!("{text}%"));
    }
    value(of, text)
}

/// The reading in a sentence about a part of `kind`, and how many of the words it takes; `None` where they are
/// none.
pub(super) fn spoken(kind: PartKind, words: &[&str]) -> Result<Option<Entered>, SayError> {
    let Some(first) = words.first() else { return Ok(None) };
    let (word, behind) = match word_of(kind, first) {
        Some(word) => (Some(word), &words[1..]),
        None => (None, words),
    };
    let is_said = |w: &&str| *w != "=" && !(kind == PartKind::Valve && w.eq_ignore_ascii_case("current"));
    let behind: Vec<&str> = behind.iter().copied().filter(is_said).collect();
    let text = behind.join(" ");
    let of = match (word, kind) {
        (Some(Word::Leak), _) => {
            if text.is_empty() {
                return Err(SayError::Wants((*first).to_owned(), "a value, such as 2.2uA, 80M or 2%"));
            }
            if is_beyond(&text) {
                return Ok(Some(Entered::of(ReadQuantity::LeakageResistance, None)));
            }
            return leak(&text, None).map(Some);
        }
        (Some(Word::Of(of)), _) => of,
        (None, PartKind::Capacitor) => ReadQuantity::Capacitance,
        (None, PartKind::Coil) => of_coil(&text),
        (None, PartKind::Diode) => ReadQuantity::ForwardVoltage,
        (None, PartKind::Resistor | PartKind::Fuse | PartKind::Switch | PartKind::Loudspeaker) => {
            ReadQuantity::Resistance
        }
        (None, PartKind::Transistor) => ReadQuantity::Gain,
        (None, PartKind::Valve) => match of_valve(&text) {
            Some(of) => of,
            None => return Ok(None),
        },
        (None, PartKind::Lamp | PartKind::Ic) => return Ok(None),
    };
    if text.is_empty() {
        return Err(SayError::Wants((*first).to_owned(), "a value"));
    }
    let entered = read_entry(of, &text);
    match (entered, word) {
        (Ok(e), _) => Ok(Some(e)),
        (Err(e), Some(_)) => Err(e),
        (Err(_), None) => Ok(None),
    }
}

/// A valve's bare value is known by its unit: percent of a good one, or a transconductance.
fn of_valve(text: &str) -> Option<ReadQuantity> {
    let suffix = text.trim_start_matches(|c: char| c.is_ascii_digit() || "., ".contains(c)).to_lowercase();
    match suffix.as_str() {
        "%" | "percent" => Some(ReadQuantity::Emission),
        s if s.ends_with("a/v") || s.ends_with("mho") || s.ends_with("mhos") => {
            Some(ReadQuantity::Transconductance)
        }
        _ => None,
    }
}

/// A coil is read in henry where its unit says so, otherwise in ohm.
fn of_coil(text: &str) -> ReadQuantity {
    let suffix = text.trim_start_matches(|c: char| c.is_ascii_digit() || "., ".contains(c));
    match parse::quantity_of_unit(suffix) {
        Some(Quantity::Inductance) => ReadQuantity::Inductance,
        _ => ReadQuantity::Resistance,
    }
}

/// A reading with how it was taken, from what else was said; `at` is the condition that was said with it.
pub(super) fn measured(
    kind: PartKind,
    entered: &Entered,
    at: Option<At>,
    extras: &Extras,
    known: Option<&Known>,
) -> Measured {
    let of = entered.quantity;
    let (mut test_voltage, mut test_frequency) = (None, None);
    match at {
        Some(At::Volts(v)) => test_voltage = Some(v),
        Some(At::Hertz(f)) => test_frequency = Some(f),
        Some(At::Bare(n)) if of.measured_as().is_leakage() => test_voltage = Volt::new(n).ok(),
        Some(At::Bare(n)) => test_frequency = Hertz::new(n).ok(),
        None => {}
    }
    Measured {
        pin: None,
        quantity: of,
        value_si: entered.value_si,
        state: extras
            .state
            .or(usual_state(kind, of))
            .or(known.and_then(|k| k.state))
            .unwrap_or(State::InCircuit),
        hot: extras.hot == Some(true),
        mode: extras.mode,
        test_voltage,
        test_frequency,
    }
}
