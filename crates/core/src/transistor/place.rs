//! Which stage a place on the tray is, what that stage really asks, and what is known of it by the part's facts.

use super::circuit::{CircuitNeed, Stage};
use crate::part::{Circuit, Fact, Position};

/// The facts that a stage hangs on, in the order in which they are asked: volts, then what makes current and watts, then
/// what makes speed.
#[must_use]
pub fn asks(stage: Option<Stage>) -> &'static [Fact] {
    use Fact::{
        BaseLower, BaseUpper, CaseTemperature, LoadResistance, PeakCurrent, Rail, RestCurrent, Voltage,
        WorkingFrequency,
    };
    match stage {
        None => &[Rail, PeakCurrent],
        Some(Stage::SmallSignal | Stage::Driver) => &[Rail, LoadResistance, RestCurrent],
        Some(Stage::ClassA) => &[Rail, RestCurrent, LoadResistance, CaseTemperature],
        Some(Stage::TransformerPushPull | Stage::Complementary | Stage::QuasiComplementary) => {
            &[Rail, LoadResistance, PeakCurrent, CaseTemperature]
        }
        Some(Stage::RadioFrequency | Stage::Intermediate | Stage::Mixer) => {
            &[Rail, WorkingFrequency, RestCurrent]
        }
        Some(Stage::RadioDriver | Stage::RadioPower | Stage::ModulatedFinal) => {
            &[Rail, PeakCurrent, WorkingFrequency, CaseTemperature]
        }
        Some(Stage::Regulator) => &[Rail, Voltage, PeakCurrent, CaseTemperature],
        Some(Stage::Switch) => &[Rail, PeakCurrent, BaseUpper, BaseLower],
    }
}

/// What a place asks of a transistor, as far as its facts are known: the same for Fit and for the transistor desk.
#[must_use]
pub fn need(stage: Option<Stage>, facts: &Circuit) -> CircuitNeed {
    let fact = |f: Fact| facts.get_si(f);
    // A load's current is what its collector carries, too.
    let peak = fact(Fact::PeakCurrent).or(fact(Fact::LoadCurrent));
    let across_it = fact(Fact::Voltage).filter(|_| stage == Some(Stage::Regulator));
    CircuitNeed {
        stage,
        supply_volts: fact(Fact::Rail),
        load_ohms: fact(Fact::LoadResistance),
        peak_amperes: peak,
        rest_amperes: fact(Fact::RestCurrent),
        // A regulator's pass transistor turns into heat what it holds back.
        dissipated_watts: across_it.zip(peak).map(|(v, i)| v * i),
        case_celsius: fact(Fact::CaseTemperature),
        hertz: fact(Fact::WorkingFrequency),
        least_gain: fact(Fact::LeastGain),
        upper_ohms: fact(Fact::BaseUpper),
        lower_ohms: fact(Fact::BaseLower),
        other_material: false,
    }
}

/// The position on the tray that a stage is.
#[must_use]
pub fn position_of(stage: Stage) -> Position {
    match stage {
        Stage::SmallSignal => Position::AudioStage,
        Stage::Driver => Position::Driver,
        Stage::ClassA => Position::SingleEnded,
        Stage::TransformerPushPull => Position::PushPull,
        Stage::Complementary => Position::HalfBridge,
        Stage::QuasiComplementary => Position::QuasiComplementary,
        Stage::RadioFrequency => Position::RfStage,
        Stage::Intermediate => Position::IfStage,
        Stage::Mixer => Position::Mixer,
        Stage::RadioDriver => Position::RfDriver,
        Stage::RadioPower => Position::RfPower,
        Stage::ModulatedFinal => Position::AmFinal,
        Stage::Regulator => Position::Regulator,
        Stage::Switch => Position::Switch,
    }
}

/// The stage that a position is, as far as one follows from it.
#[must_use]
pub fn stage_at(position: Position) -> Option<Stage> {
    match position {
        // Where nobody said which, the one that asks for the most.
        Position::Output | Position::PushPull => Some(Stage::TransformerPushPull),
        Position::AudioStage => Some(Stage::SmallSignal),
        Position::Driver => Some(Stage::Driver),
        Position::SingleEnded => Some(Stage::ClassA),
        Position::HalfBridge => Some(Stage::Complementary),
        Position::QuasiComplementary => Some(Stage::QuasiComplementary),
        Position::RfDriver => Some(Stage::RadioDriver),
        Position::RfPower => Some(Stage::RadioPower),
        Position::AmFinal => Some(Stage::ModulatedFinal),
        Position::RfStage => Some(Stage::RadioFrequency),
        Position::IfStage => Some(Stage::Intermediate),
        Position::Mixer | Position::Oscillator => Some(Stage::Mixer),
        Position::Regulator => Some(Stage::Regulator),
        Position::Switch => Some(Stage::Switch),
        _ => None,
    }
}
