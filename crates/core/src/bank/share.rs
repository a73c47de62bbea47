//! What each place of a bank gets: of direct volts by what lies across it and leaks through it, of a charge by its farads.

use super::{BankKind, Health, Place, Span};
use crate::network::balance::chain_stands;
use crate::quantity::{Ampere, Farad, Second, Volt};

/// What one place gets.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Share {
    /// Direct volts, once it has settled; `None` where nothing says how they are shared.
    pub volts: Option<Volt>,
    /// The most that it may be, as far as values and leaks are known.
    pub worst: Option<Volt>,
    /// Volts in the moment of charging, as the farads share them.
    pub charging: Option<Volt>,
    /// The most that it may be.
    pub charging_worst: Option<Volt>,
}

impl Share {
    /// What a place gets, settled or charging, whichever is more.
    #[must_use]
    pub fn gets(&self) -> Option<Volt> {
        self.volts.into_iter().chain(self.charging).reduce(Volt::max)
    }

    /// The most that it may get, as far as values and leaks are known.
    #[must_use]
    pub fn at_worst(&self) -> Option<Volt> {
        self.worst.into_iter().chain(self.charging_worst).reduce(Volt::max)
    }
}

/// How much passes in a place at an equal share: low, as it is, high. In siemens.
fn passes(place: &Place, equal: Volt) -> (f64, f64, f64) {
    let of = |i: Ampere| i.amperes() / equal.volts();
    let leak = place.leak.unwrap_or(Span::known(Ampere::ZERO));
    let ohms = place.across.as_ref().map(|a| a.ohms);
    let g = |r: Option<f64>| r.map_or(0.0, |r| 1.0 / r);
    (
        g(ohms.map(|o| o.high.ohms())) + of(leak.low),
        g(ohms.map(|o| o.is.ohms())) + of(leak.is),
        g(ohms.map(|o| o.low.ohms())) + of(leak.high),
    )
}

/// One share of the whole by what resists: its own against all others'. What lets nothing pass takes all.
fn of_whole(volts: Volt, own: f64, others: f64) -> Volt {
    match (own.is_finite(), others.is_finite()) {
        (true, true) => volts * (own / (own + others)),
        (false, _) => volts,
        (true, false) => Volt::ZERO,
    }
}

/// What each place gets of `volts` across all.
///
/// A shorted one gets nothing, an open one all. The worst is reckoned with the place itself as high as it may be and all
/// others as low.
#[must_use]
pub fn shares(volts: Volt, places: &[Place]) -> Vec<Share> {
    let volts = volts.abs();
    let live = |p: &Place| p.health != Health::Shorted;
    let working = places.iter().filter(|p| live(p)).count().max(1);
    let equal = volts / working as f64;
    let resists: Vec<(f64, f64, f64)> = places
        .iter()
        .map(|p| match p.health {
            Health::Shorted => (0.0, 0.0, 0.0),
            Health::Open => (f64::INFINITY, f64::INFINITY, f64::INFINITY),
            Health::Well | Health::Unsure | Health::Tired | Health::Goes => {
                let (low, is, high) = passes(p, equal);
                (1.0 / high, 1.0 / is, 1.0 / low)
            }
        })
        .collect();
    let settled = resists.iter().all(|r| r.1.is_finite() || places.len() == 1)
        || places.iter().any(|p| p.health == Health::Open);
    let sum = |of: fn(&(f64, f64, f64)) -> f64, but: usize| -> f64 {
        resists.iter().enumerate().filter(|(i, _)| *i != but).map(|(_, r)| of(r)).sum()
    };
    let one = |i: usize, p: &Place| {
        if !live(p) {
            return Share {
                volts: Some(Volt::ZERO),
                worst: Some(Volt::ZERO),
                charging: p.farads.map(|_| Volt::ZERO),
                charging_worst: p.farads.map(|_| Volt::ZERO),
            };
        }
        let Some(r) = resists.get(i) else {
            return Share { volts: None, worst: None, charging: None, charging_worst: None };
        };
        Share {
            volts: settled.then(|| of_whole(volts, r.1, sum(|r| r.1, i))),
            worst: settled.then(|| of_whole(volts, r.2, sum(|r| r.0, i))),
            charging: charging(volts, places, i, |f| f.is, |f| f.is),
            charging_worst: charging(volts, places, i, |f| f.low, |f| f.high),
        }
    };
    places.iter().enumerate().map(|(i, p)| one(i, p)).collect()
}

/// What a place gets of a charge, by its own farads and the others'; `None` where one of them is not known.
fn charging(
    volts: Volt,
    places: &[Place],
    at: usize,
    own: fn(&Span<Farad>) -> Farad,
    other: fn(&Span<Farad>) -> Farad,
) -> Option<Volt> {
    let mut others = 0.0;
    let mut mine = None;
    for (i, p) in places.iter().enumerate().filter(|(_, p)| p.health != Health::Shorted) {
        let f = p.farads.as_ref()?;
        if i == at {
            mine = Some(1.0 / own(f).farads());
        } else {
            others += 1.0 / other(f).farads();
        }
    }
    mine.map(|m| of_whole(volts, m, others))
}

/// What a bank is as a whole.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Whole {
    /// Farads of capacitors in series, ohms of resistors; `None` of diodes, or where one is not known.
    pub value_si: Option<f64>,
    /// The same by the marks.
    pub marked_si: Option<f64>,
    /// How far the greatest is over the least, as a fraction.
    pub spread: Option<f64>,
    /// What all together stand, by the weakest and resistors of their tolerance; `None` where a rating is not known.
    pub stands: Option<Volt>,
    /// What is stored, joule.
    pub energy_joules: Option<f64>,
    /// Until it is empty through the resistors across it; `None` where one keeps its charge.
    pub empties_in: Option<Second>,
    /// What flows through the resistors.
    pub current: Option<Ampere>,
}

/// The whole of a bank with so much across it, empty once `safe` is left.
#[must_use]
pub fn whole(kind: BankKind, volts: Volt, places: &[Place], shares: &[Share], safe: Volt) -> Whole {
    let live: Vec<(&Place, &Share)> =
        places.iter().zip(shares).filter(|(p, _)| p.health != Health::Shorted).collect();
    let farads: Option<Vec<f64>> = live.iter().map(|(p, _)| p.farads.map(|f| f.is.farads())).collect();
    let ohms: Option<Vec<f64>> =
        live.iter().map(|(p, _)| p.across.as_ref().map(|a| a.ohms.is.ohms())).collect();
    let series = |all: &[f64]| 1.0 / all.iter().map(|c| 1.0 / c).sum::<f64>();
    let marked = |of: &dyn Fn(&Place) -> Option<f64>| places.iter().map(of).collect::<Option<Vec<f64>>>();
    let (value_si, marked_si) = match kind {
        BankKind::Capacitors => {
            (farads.as_deref().map(series), marked(&|p| p.marked.map(Farad::farads)).as_deref().map(series))
        }
        BankKind::Resistors => (
            ohms.as_ref().map(|o| o.iter().sum()),
            marked(&|p| Some(p.across.as_ref()?.marked?.ohms())).map(|o| o.iter().sum()),
        ),
        BankKind::Diodes => (None, None),
    };
    let sorted = if kind == BankKind::Capacitors { &farads } else { &ohms };
    let stored = farads.as_ref().and_then(|f| {
        f.iter().zip(&live).map(|(c, (_, s))| Some(0.5 * c * s.volts.or(s.charging)?.volts().powi(2))).sum()
    });
    Whole {
        value_si,
        marked_si,
        spread: sorted.as_deref().and_then(spread),
        stands: stands(&live),
        energy_joules: stored,
        empties_in: farads.as_deref().zip(ohms.as_deref()).and_then(|(f, r)| empties(f, r, &live, safe)),
        current: ohms.as_ref().map(|o| Ampere::computed(volts.volts().abs() / o.iter().sum::<f64>())),
    }
}

fn stands(live: &[(&Place, &Share)]) -> Option<Volt> {
    let ratings: Vec<Volt> = live.iter().map(|(p, _)| p.rated).collect::<Option<_>>()?;
    let weakest = ratings.into_iter().reduce(Volt::min)?;
    Some(chain_stands(weakest, u32::try_from(live.len()).unwrap_or(u32::MAX)))
}

fn spread(all: &[f64]) -> Option<f64> {
    let most = all.iter().copied().reduce(f64::max)?;
    let least = all.iter().copied().reduce(f64::min)?;
    (all.len() > 1 && least > 0.0).then(|| most / least - 1.0)
}

/// Until the sum of all is no more than `safe`: each empties through its own resistor, V e^(−t/RC).
fn empties(farads: &[f64], ohms: &[f64], live: &[(&Place, &Share)], safe: Volt) -> Option<Second> {
    let rows: Vec<(f64, f64)> = farads
        .iter()
        .zip(ohms)
        .zip(live)
        .map(|((c, r), (_, s))| Some((s.volts?.volts(), c * r)))
        .collect::<Option<_>>()?;
    let left = |t: f64| rows.iter().map(|(v, rc)| v * (-t / rc).exp()).sum::<f64>();
    let (mut low, mut high) = (0.0, rows.iter().map(|r| r.1).fold(0.0, f64::max) * 40.0);
    if left(0.0) <= safe.volts() {
        return Some(Second::ZERO);
    }
    for _ in 0..60 {
        let middle = f64::midpoint(low, high);
        if left(middle) > safe.volts() { low = middle } else { high = middle }
    }
    Some(Second::computed(high))
}
