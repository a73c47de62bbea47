//! What each simulated instrument measures of the clips, and how closely.

use owl_core::reform::bench::noise;

use super::clips::Clips;
use super::header::is;

/// An instrument of the simulated bench.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// Volts, ohms, diode drops, capacitance.
    Multimeter,
    /// Capacitance, losses, inductance, with alternating current.
    LcrMeter,
    /// Leakage at the voltage of its knob.
    LeakageTester,
    /// A reforming supply with its meter.
    ReformingSupply,
    /// Gain and base voltage.
    TransistorTester,
}

impl Kind {
    /// All of them, in the order of their ports.
    pub const ALL: [Self; 5] = [
        Self::Multimeter,
        Self::LcrMeter,
        Self::LeakageTester,
        Self::ReformingSupply,
        Self::TransistorTester,
    ];

    /// What it calls itself.
    #[must_use]
    pub fn called(self) -> &'static str {
        match self {
            Self::Multimeter => "multimeter",
            Self::LcrMeter => "LCR and ESR meter",
            Self::LeakageTester => "leakage tester",
            Self::ReformingSupply => "reforming supply",
            Self::TransistorTester => "transistor tester",
        }
    }

    /// What it can measure: headers behind `CONFigure` and `MEASure`.
    #[must_use]
    pub fn functions(self) -> &'static [Function] {
        use Function as F;
        match self {
            Self::Multimeter => &[F::Ohms, F::Diode, F::Capacitance, F::Volts],
            Self::LcrMeter => &[F::Capacitance, F::Esr, F::Loss, F::Inductance, F::AcOhms],
            Self::LeakageTester => &[F::LeakCurrent, F::LeakOhms, F::LeakPercent],
            Self::ReformingSupply => &[F::Volts, F::Amperes],
            Self::TransistorTester => &[F::Gain, F::BaseVolts, F::Diode],
        }
    }

    /// The frequency that it measures with when it is switched on.
    #[must_use]
    pub fn first_frequency(self) -> f64 {
        if self == Self::LcrMeter { 1000.0 } else { 100.0 }
    }
}

/// Something to be measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Function {
    /// Direct-current resistance.
    Ohms,
    /// Resistance with alternating current.
    AcOhms,
    /// Forward drop.
    Diode,
    /// Series capacitance.
    Capacitance,
    /// Equivalent series resistance.
    Esr,
    /// Loss factor.
    Loss,
    /// Inductance.
    Inductance,
    /// Volts on the clips.
    Volts,
    /// Current into them.
    Amperes,
    /// Leakage current.
    LeakCurrent,
    /// Insulation.
    LeakOhms,
    /// Leakage in percent.
    LeakPercent,
    /// Gain of a transistor.
    Gain,
    /// Base to emitter.
    BaseVolts,
}

impl Function {
    /// Its header.
    #[must_use]
    pub fn header(self) -> &'static str {
        match self {
            Self::Ohms => "RESistance",
            Self::AcOhms => "RESistance:AC",
            Self::Diode => "DIODe",
            Self::Capacitance => "CAPacitance",
            Self::Esr => "ESR",
            Self::Loss => "DISSipation",
            Self::Inductance => "INDuctance",
            Self::Volts => "VOLTage:DC",
            Self::Amperes => "CURRent:DC",
            Self::LeakCurrent => "LEAKage:CURRent",
            Self::LeakOhms => "LEAKage:RESistance",
            Self::LeakPercent => "LEAKage:PERCent",
            Self::Gain => "HFE",
            Self::BaseVolts => "VBE",
        }
    }

    /// The function of a kind that was typed.
    #[must_use]
    pub fn of(kind: Kind, typed: &str) -> Option<Self> {
        kind.functions().iter().copied().find(|f| is(typed, f.header()))
    }

    /// Share of the reading, counts of the display, worth of the finest count, and the ceiling.
    fn accuracy(self) -> (f64, f64, f64, f64) {
        match self {
            Self::Ohms => (0.004, 6000.0, 0.1, 60e6),
            Self::AcOhms | Self::Esr => (0.008, 20000.0, 1e-3, 20e6),
            Self::Diode | Self::BaseVolts => (0.008, 3000.0, 1e-3, 3.0),
            Self::Capacitance => (0.008, 20000.0, 1e-13, 2e-2),
            Self::Loss => (0.01, 20000.0, 1e-4, 10.0),
            Self::Inductance => (0.008, 20000.0, 1e-7, 200.0),
            Self::Volts => (0.004, 60000.0, 1e-2, 1000.0),
            Self::Amperes => (0.006, 20000.0, 1e-6, 0.1),
            Self::LeakCurrent => (0.02, 2000.0, 1e-9, 2e-2),
            Self::LeakOhms => (0.03, 2000.0, 1e3, 2e10),
            Self::LeakPercent => (0.03, 1000.0, 1e-3, 1.0),
            Self::Gain => (0.02, 1000.0, 1.0, 1000.0),
        }
    }
}

/// What an electrolytic setting still shows: it passes what ruins a grid.
const COARSE_AMPERES: f64 = 1e-5;
/// Beyond this the paper setting shows overrange.
const PAPER_CEILING: f64 = 2e-4;
/// The test current with which a multimeter measures ohms: it takes the volts of a charge for those of its current.
const OHMS_AMPERES: f64 = 1e-4;

/// Reads a function; `None` is overrange.
pub fn read(function: Function, hertz: f64, clips: &mut Clips, n: u64) -> Option<f64> {
    let true_value = truly(function, hertz, clips)?;
    let (share, display, finest, ceiling) = function.accuracy();
    // One error that the instrument always has, and one that flickers.
    let own = share * 0.4 * noise(clips.seed, function as u64);
    let flicker = share * 0.05 * noise(clips.seed ^ 0xF1, n);
    // And one that wanders, slowly, as an instrument warms.
    let drift = share * 0.1 * (n as f64 / 60.0).sin();
    let value = true_value * (1.0 + own + flicker + drift);
    let (finest, ceiling) = match function {
        Function::LeakCurrent if clips.on_electrolytic => (COARSE_AMPERES, ceiling),
        Function::LeakCurrent => (finest, PAPER_CEILING),
        _ => (finest, ceiling),
    };
    if value.abs() > ceiling {
        return None;
    }
    let range = (value.abs() / (finest * display)).max(1.0).log10().ceil();
    let count = finest * 10f64.powf(range);
    Some((value / count).round() * count)
}

fn truly(function: Function, hertz: f64, clips: &mut Clips) -> Option<f64> {
    let at = clips.tester_volts;
    match function {
        // A charged part drives the meter: what it shows is nobody's resistance.
        Function::Ohms if clips.charge_volts.abs() > 0.01 => Some(clips.charge_volts.abs() / OHMS_AMPERES),
        Function::Ohms => clips.dc_ohms(),
        Function::AcOhms => clips.ac_ohms(hertz),
        // A tester shows a base to emitter drop as a diode's.
        Function::Diode => clips.part().and_then(|p| p.drop_volts.or(p.base_volts)),
        Function::Capacitance => clips.farads(hertz),
        Function::Esr => clips.esr_ohms(hertz),
        Function::Loss => clips.loss(hertz),
        Function::Inductance => clips.part().and_then(|p| p.henries),
        Function::Volts => {
            if clips.supply_volts > 0.0 || clips.part().is_some_and(|p| p.rated_volts.is_some()) {
                Some(clips.on_supply().0)
            } else {
                Some(clips.charge_volts)
            }
        }
        Function::Amperes => Some(clips.on_supply().1),
        Function::LeakCurrent => clips.leak_amperes(at).or(Some(0.0)),
        Function::LeakOhms => clips.leak_amperes(at).filter(|i| *i > 0.0).map(|i| at / i),
        // A tester that shows percent holds the leak against what charges the part in a second.
        Function::LeakPercent => {
            let c = clips.part().and_then(|p| p.farads)?;
            clips.leak_amperes(at).map(|i| i / (c * at))
        }
        Function::Gain => clips.part().and_then(|p| p.gain),
        Function::BaseVolts => clips.part().and_then(|p| p.base_volts),
    }
}
