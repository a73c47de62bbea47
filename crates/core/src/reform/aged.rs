//! An aged electrolytic: what its oxide lets through, and how it grows back.
//!
//! Two areas of oxide lie in parallel. Most of it is whole and insulates. A small share has dissolved with the
//! years; it is *formed* only to a voltage V_f that is lower than the rating, and leaks steeply as it is approached:
//!
//! * i_ox = i_w · (e^(k (v/V_f − 1)) − e^(−k)): high-field conduction (Güntherschulze and Betz: memory);
//! * dV_f/dt = i_ox / q · (1 − V_f/V_a): each coulomb grows oxide (Faraday: memory), up to the voltage V_a to which
//!   the part was formed when it was made;
//! * i_par = v / R_p: a path that never heals, in bad parts; in sound ones R_p · C is thousands of seconds;
//! * both leak twice as much for each 10 K; the can warms by v · i against its surface, and vents above a limit.
//!
//! From that follows what is seen at the bench: a jump at each step of voltage, then a fall about as 1/t.
//! What is assumed and from where stands in `data/aged.csv`. Left out: dielectric absorption, the recovery of charge
//! after a discharge, capacitance that changes while the oxide grows.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::named::named;
use crate::quantity::{Ampere, Farad, Hertz, Ohm, Second, Volt};
use crate::source::Source;
use crate::table::rows;
use crate::verdict::electrolytic::tan_delta;

named! {
    /// A number that the model assumes.
    "assumption" Assumed {
        /// Exponent of leakage at the formed voltage.
        Steepness = "steepness",
        /// Ampere for each farad at the formed voltage.
        WeakCurrent = "weak_current_per_farad",
        /// Charge that forms the whole oxide.
        Growth = "growth_coulombs_per_farad_volt_squared",
        /// Share of the oxide that is weak.
        WeakShare = "weak_share",
        /// Formed voltage over rating when made.
        FormedWhenMade = "formed_when_made",
        /// Formed voltage over rating of a part used lately.
        FormedFresh = "formed_fresh",
        /// What years take from it at most.
        FormedLost = "formed_lost",
        /// In how many years.
        YearsToLose = "years_to_lose",
        /// Insulation times capacitance of whole oxide.
        Sound = "sound_seconds",
        /// Thermal resistance.
        Warmth = "kelvin_per_watt",
        /// Heat capacity.
        HeatCapacity = "joule_per_kelvin",
        /// Warming that doubles leakage.
        Doubling = "kelvin_to_double",
        /// Warming at which it vents.
        Vent = "kelvin_to_vent",
    }
}

/// A row of the table of what is assumed.
#[derive(Debug, Clone, Deserialize)]
pub struct Assumption {
    /// Which number.
    pub name: Assumed,
    /// Its value, in its unit.
    pub value: f64,
    /// Its unit.
    pub unit: String,
    /// What it is.
    pub what: String,
    /// Where it comes from.
    pub source: Source,
}

static ASSUMPTIONS: LazyLock<Vec<Assumption>> =
    LazyLock::new(|| rows("aged.csv", include_str!("../../data/aged.csv")));

/// All that the model assumes, with where it comes from.
#[must_use]
pub fn assumptions() -> &'static [Assumption] {
    &ASSUMPTIONS
}

/// At which a loss angle is stated (IEC 60384-4: 100 or 120 Hz).
const RIPPLE: Hertz = Hertz::computed(120.0);

/// What is assumed for one of them, in its unit.
fn assumed(name: Assumed) -> f64 {
    ASSUMPTIONS
        .iter()
        .find(|a| a.name == name)
        .map(|a| a.value)
        .unwrap_or_else(|| panic!("aged.csv lacks {name}"))
}

/// An aged electrolytic, as it is before anybody feeds it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Aged {
    /// Its capacitance.
    pub capacitance: Farad,
    /// In series with it.
    pub esr: Ohm,
    /// The voltage to which its weak oxide is formed.
    pub formed: Volt,
    /// The voltage to which it was formed when it was made: no oxide grows beyond.
    pub formed_when_made: Volt,
    /// What the weak oxide passes at its formed voltage.
    pub weak_current: Ampere,
    /// Charge in coulomb that forms the weak oxide by one volt.
    pub coulombs_per_volt: f64,
    /// The path in parallel that never heals.
    pub parallel: Ohm,
    /// How it starts above the room, in kelvin.
    pub warm_kelvin: f64,
}

impl Aged {
    /// What is assumed of a part of that capacitance and rating that has lain idle for so many years.
    ///
    /// The weak oxide's formed voltage is rating × (0.9 − 0.55 (1 − e^(−years/15))).
    #[must_use]
    pub fn assumed(capacitance: Farad, rated: Volt, idle_years: f64) -> Self {
        let c = capacitance.farads();
        let lost = assumed(Assumed::FormedLost)
            * (1.0 - (-idle_years.max(0.0) / assumed(Assumed::YearsToLose)).exp());
        let made = rated * assumed(Assumed::FormedWhenMade);
        let tan = tan_delta(capacitance, rated).map_or(0.25, |t| t.fraction());
        Self {
            capacitance,
            esr: capacitance.reactance(RIPPLE) * tan,
            formed: rated * (assumed(Assumed::FormedFresh) - lost),
            formed_when_made: made,
            weak_current: Ampere::computed(c * assumed(Assumed::WeakCurrent)),
            coulombs_per_volt: assumed(Assumed::Growth) * assumed(Assumed::WeakShare) * c * made.volts(),
            parallel: Second::computed(assumed(Assumed::Sound)) / capacitance,
            warm_kelvin: 0.0,
        }
    }

    /// What leaks through it at `volts`, with its weak oxide formed to `formed` and `kelvin` above the room, in ampere:
    /// through the weak oxide, and through the path in parallel.
    #[must_use]
    pub fn leakage_amperes(&self, volts: f64, formed: f64, kelvin: f64) -> (f64, f64) {
        let k = assumed_steepness();
        let warmer = (kelvin / doubling()).clamp(-10.0, 20.0).exp2();
        // Beyond e⁴⁰ nothing is left to be told apart, and no supply follows.
        let field = (k * (volts.max(0.0) / formed.max(1e-3) - 1.0)).min(40.0);
        let weak = self.weak_current.amperes() * (field.exp() - (-k).exp()).max(0.0);
        (weak * warmer, volts / self.parallel.ohms().max(1e-3) * warmer)
    }

    /// How fast the weak oxide is formed, in volt a second, by so many ampere through it.
    #[must_use]
    pub fn growth_volts_per_second(&self, oxide_amperes: f64, formed: f64) -> f64 {
        let room = (1.0 - formed / self.formed_when_made.volts()).max(0.0);
        if self.coulombs_per_volt > 0.0 { oxide_amperes / self.coulombs_per_volt * room } else { 0.0 }
    }

    /// How fast the can warms, in kelvin a second, by so many watt at `kelvin` above the room.
    #[must_use]
    pub fn warming_kelvin_per_second(watts: f64, kelvin: f64) -> f64 {
        (watts - kelvin / assumed_warmth()) / heat_capacity()
    }

    /// How warm the can is above the room after so many seconds of so many watt.
    #[must_use]
    pub fn warmth_after(watts: f64, kelvin: f64, seconds: f64) -> f64 {
        let end = watts * assumed_warmth();
        end + (kelvin - end) * (-seconds / (assumed_warmth() * heat_capacity())).exp()
    }

    /// Whether it has vented.
    #[must_use]
    pub fn vents_at(kelvin: f64) -> bool {
        kelvin >= vent()
    }
}

macro_rules! looked_up {
    ($($name:ident = $which:ident;)+) => {
        $(/// Looked up once: the sums ask for it a hundred thousand times a second.
        fn $name() -> f64 {
            static VALUE: LazyLock<f64> = LazyLock::new(|| assumed(Assumed::$which));
            *VALUE
        })+
    };
}
looked_up! {
    assumed_steepness = Steepness;
    doubling = Doubling;
    assumed_warmth = Warmth;
    heat_capacity = HeatCapacity;
    vent = Vent;
}
