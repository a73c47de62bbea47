//! What lies on the clips, how it is connected, and what physics makes of that. Laws of circuits (any textbook) but
//! for the heat of composition (common practice, no source).

use std::f64::consts::PI;
use std::time::Instant;

use owl_core::quantity::{Farad, Ohm, Second, Volt};
use owl_core::reform::aged::Aged;
use owl_core::reform::circuit::{Condition, Connected};

use super::fault::Fault;
use super::parts::TruePart;

/// How the part is connected while it is measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Connection {
    /// Both ends in the circuit: its neighbours are measured too.
    InCircuit,
    /// One end free, or out.
    Free,
}

/// The clips of the simulated bench.
#[derive(Debug)]
pub struct Clips {
    parts: Vec<TruePart>,
    /// What lies on them; `None` with nothing.
    laid: Option<usize>,
    /// How it is connected.
    pub connection: Connection,
    /// How long ago it was soldered, in second.
    pub since_soldering_s: f64,
    /// Charge left in it.
    pub charge_volts: f64,
    /// How the voltage knob of the leakage tester stands.
    pub tester_volts: f64,
    /// Whether its switch stands on electrolytic.
    pub on_electrolytic: bool,
    /// How the knob of the reforming supply stands.
    pub supply_volts: f64,
    /// What goes wrong with the instruments.
    pub fault: Option<Fault>,
    /// Where the noise comes from.
    pub seed: u64,
    reforming: Option<(Aged, Condition, Instant)>,
}

/// The simulated reforming supply's resistor.
const SUPPLY: Ohm = Ohm::computed(22e3);
/// So much of its value a composition resistor loses when hot, and how fast that comes back (practice).
const HEAT: (f64, f64) = (0.15, 600.0);

impl Clips {
    /// Empty clips, and the parts that may be laid on them.
    #[must_use]
    pub fn new(parts: Vec<TruePart>, seed: u64) -> Self {
        Self {
            parts,
            laid: None,
            connection: Connection::Free,
            since_soldering_s: 3600.0,
            charge_volts: 0.0,
            tester_volts: 250.0,
            on_electrolytic: false,
            supply_volts: 0.0,
            fault: None,
            seed,
            reforming: None,
        }
    }

    /// Lays a part on the clips by `set/name`; says whether there is such a one. Otherwise they are left empty.
    pub fn lay(&mut self, name: &str) -> bool {
        let found =
            self.parts.iter().position(|p| format!("{}/{}", p.set, p.name).eq_ignore_ascii_case(name.trim()));
        if found != self.laid {
            self.charge_volts = found.and_then(|i| self.parts.get(i)).map_or(0.0, |p| p.charge_volts);
            self.reforming = None;
            self.supply_volts = 0.0;
        }
        self.laid = found;
        found.is_some()
    }

    /// What lies on them.
    #[must_use]
    pub fn part(&self) -> Option<&TruePart> {
        self.laid.and_then(|i| self.parts.get(i))
    }

    fn neighbours(&self) -> Option<f64> {
        self.part().and_then(|p| p.neighbours_ohms).filter(|_| self.connection == Connection::InCircuit)
    }

    /// Resistance to direct current, in ohm; `None` where nothing conducts.
    #[must_use]
    pub fn dc_ohms(&self) -> Option<f64> {
        let part = self.part()?;
        let own = part.ohms.or(part.low_leak_ohms).map(|r| {
            let cold = if part.composition { HEAT.0 * (-self.since_soldering_s / HEAT.1).exp() } else { 0.0 };
            r * (1.0 - cold)
        });
        match (own, self.neighbours()) {
            (Some(a), Some(b)) => Some(a * b / (a + b)),
            (a, b) => a.or(b),
        }
    }

    /// Resistance with alternating current: losses of a coil's core add to its copper.
    #[must_use]
    pub fn ac_ohms(&self, hertz: f64) -> Option<f64> {
        let loss =
            self.part().and_then(|p| p.henries.map(|l| 2.0 * PI * hertz * l * p.core_loss)).unwrap_or(0.0);
        self.dc_ohms().map(|r| r + loss)
    }

    /// What a meter with a volt or less shows as series capacitance, in farad: C (1 + D²), D = 1/(ωRC). So a leak makes
    /// it read high. In circuit its neighbours leak too.
    #[must_use]
    pub fn farads(&self, hertz: f64) -> Option<f64> {
        let part = self.part()?;
        let c = part.farads?;
        Some(c * (1.0 + self.parallel_loss(hertz)?.powi(2)))
    }

    /// Loss of what lies in parallel to the capacitance.
    fn parallel_loss(&self, hertz: f64) -> Option<f64> {
        let part = self.part()?;
        let c = part.farads?;
        let siemens = part.low_leak_ohms.map_or(0.0, f64::recip) + self.neighbours().map_or(0.0, f64::recip);
        Some(siemens / (2.0 * PI * hertz * c))
    }

    /// Loss factor: of the series resistance and of what lies in parallel.
    #[must_use]
    pub fn loss(&self, hertz: f64) -> Option<f64> {
        let part = self.part()?;
        let c = part.farads?;
        Some(2.0 * PI * hertz * c * part.esr_ohms + self.parallel_loss(hertz)?)
    }

    /// What an ESR meter shows, in ohm.
    #[must_use]
    pub fn esr_ohms(&self, hertz: f64) -> Option<f64> {
        let part = self.part()?;
        let c = part.farads?;
        let d = self.parallel_loss(hertz)?;
        let own = part.esr_ohms + d / (1.0 + d * d) / (2.0 * PI * hertz * c);
        Some(self.neighbours().map_or(own, |n| own * n / (own + n)))
    }

    /// What leaks at so many volts, in ampere.
    #[must_use]
    pub fn leak_amperes(&self, volts: f64) -> Option<f64> {
        let part = self.part()?;
        part.farads?;
        let low = part.low_leak_ohms.unwrap_or(f64::INFINITY);
        let ohms = if volts >= part.leaks_from_volts { part.leak_ohms.unwrap_or(low).min(low) } else { low };
        Some(volts / ohms + self.neighbours().map_or(0.0, |n| volts / n))
    }

    /// Volts across it and amperes into it on the reforming supply, as its knob stands, at this moment.
    pub fn on_supply(&mut self) -> (f64, f64) {
        let volts = self.supply_volts;
        let supply = Connected::Supply { volts: Volt::computed(volts), series: SUPPLY, limit: None };
        let now = Instant::now();
        let Some((part, condition, before)) = self.reforming.or_else(|| self.begin(now)) else {
            return (volts, 0.0);
        };
        let passed = Second::computed(now.duration_since(before).as_secs_f64());
        // With the knob at nothing the supply takes nothing back: the part is emptied through its resistor.
        let connected = if volts > 0.0 { supply } else { Connected::Discharge(SUPPLY) };
        let after = condition.after(&part, connected, passed);
        self.reforming = Some((part, after, now));
        let shows = after.shows(&part, connected);
        (shows.volts.volts(), shows.amperes.amperes())
    }

    fn begin(&self, now: Instant) -> Option<(Aged, Condition, Instant)> {
        let part = self.part()?;
        let (c, rated) = (Farad::new(part.farads?).ok()?, Volt::new(part.rated_volts?).ok()?);
        let aged = Aged::assumed(c, rated, part.idle_years);
        Some((aged, Condition::rested(&aged, Volt::computed(self.charge_volts)), now))
    }
}
