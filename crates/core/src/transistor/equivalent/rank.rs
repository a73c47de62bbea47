//! How near a candidate comes, and a quick look at many thousands without a word written.

use std::cmp::Ordering;

use super::cell::collector_emitter;
use super::current::common_current;
use super::limit::{LimitCheck, LimitName, LimitState};
use super::power::powers;
use crate::transistor::circuit::{CircuitNeed, Stage};
use crate::transistor::device::Device;
use crate::transistor::gain;
use crate::transistor::pin_map::LeadMatch;
use crate::transistor::rule::{RuleNumber, number};

/// Hard limits as numbers.
pub(super) struct Limits {
    watts: Option<(f64, f64)>,
    vcbo: Option<f64>,
    vceo: Option<f64>,
    ic: Option<f64>,
    ft: Option<f64>,
    /// The least gain that does, and at which current where that is said.
    gain: Option<(f64, Option<f64>)>,
}

/// What decides the order before anything is written.
#[derive(Debug, PartialEq)]
pub(super) struct Rank {
    short: u8,
    audio: bool,
    elsewhere: bool,
    other: bool,
    unknown: u8,
    far: f64,
}

impl Rank {
    pub(super) fn cmp(&self, other: &Self) -> Ordering {
        (self.short > 0)
            .cmp(&(other.short > 0))
            .then(self.audio.cmp(&other.audio))
            .then(self.elsewhere.cmp(&other.elsewhere))
            .then(self.other.cmp(&other.other))
            .then(self.short.cmp(&other.short))
            .then(self.unknown.min(1).cmp(&other.unknown.min(1)))
            .then(self.far.total_cmp(&other.far))
    }
}

impl Limits {
    pub(super) fn of(wanted: &Device, need: &CircuitNeed) -> Self {
        let volts = need.volts().map(|a| a.si);
        Self {
            vcbo: volts.or(wanted.vcbo_volts),
            vceo: volts.or(wanted.collector_volts()),
            ic: need.amperes().map(|a| a.si).or(wanted.ic_amperes),
            ft: need.transition().map(|a| a.si).or_else(|| {
                let radio = need.stage.is_some_and(Stage::is_radio);
                wanted.ft_hertz.filter(|_| radio).map(|f| f * number(RuleNumber::TransitionLow))
            }),
            gain: need.gain_asked(),
            watts: need.watts().map(|a| (a.si, need.celsius())),
        }
    }

    pub(super) fn rank(&self, wanted: &Device, need: &CircuitNeed, d: &Device, in_drawers: u32) -> Rank {
        let (watts, has_watts, _) = powers(wanted, self.watts, d);
        let mut short = 0;
        let mut unknown = 0;
        let mut check = |needed: Option<f64>, has: Option<f64>| match (needed, has) {
            (Some(n), Some(h)) if h >= n * (1.0 - 1e-9) => {}
            (Some(_), Some(_)) => short += 1,
            _ => unknown += 1,
        };
        check(self.vcbo, d.vcbo_volts);
        check(self.vceo, collector_emitter(wanted, need, d));
        check(self.ic, d.ic_amperes);
        check(watts, has_watts);
        if self.ft.is_some() {
            check(self.ft, d.ft_hertz);
        }
        if let Some((least, at)) = self.gain {
            let at = common_current(at, wanted, d);
            check(Some(least), at.and_then(|i| gain::at(d, i).ok()).and_then(|s| s.min));
        }
        let mut far = distance(wanted.vceo_volts, d.vceo_volts)
            + distance(wanted.ic_amperes, d.ic_amperes)
            + distance(wanted.power_watts, d.power_watts)
            + distance(wanted.ft_hertz, d.ft_hertz)
            + distance(wanted.gain_min, d.gain_min);
        if d.package != wanted.package {
            far += 1.0;
        }
        let own = d.is_called(&wanted.type_number);
        let radio = need.stage.is_some_and(Stage::is_radio);
        // What decides and is not known does not pass.
        if radio && (d.ft_hertz.is_none() || collector_emitter(wanted, need, d).is_none()) {
            short += 1;
        }
        if own {
            (short, unknown) = (0, 0);
        }
        let audio = !own && radio && d.is_for_audio();
        Rank { short, audio, elsewhere: in_drawers == 0, other: !own, unknown, far }
    }
}

/// How far two ratings are apart, in factors of e; unknown counts as far.
fn distance(a: Option<f64>, b: Option<f64>) -> f64 {
    match (a, b) {
        (Some(a), Some(b)) if a > 0.0 && b > 0.0 => (b / a).ln().abs(),
        _ => 1.0,
    }
}

/// How near it comes, 0 to 1: ratings that are alike, gain, speed, package and leads, each with its share.
pub(super) fn score(wanted: &Device, d: &Device, cells: &[LimitCheck], leads: LeadMatch) -> f64 {
    let near = |a, b| (-distance(a, b) / 2.0).exp();
    let state = |name: LimitName, share: f64| {
        cells.iter().find(|c| c.name == name).map_or(0.0, |c| match c.state {
            LimitState::Pass => share,
            LimitState::Unknown => share / 3.0,
            LimitState::Short => 0.0,
        })
    };
    if d == wanted {
        return 1.0;
    }
    let leads = match leads {
        LeadMatch::Straight => 1.0,
        LeadMatch::Turned => 0.9,
        LeadMatch::Bent => 0.7,
        LeadMatch::Crossed => 0.4,
        LeadMatch::Wired => 0.2,
        LeadMatch::Unknown => 0.3,
    };
    let ratings = near(wanted.vceo_volts, d.vceo_volts)
        + near(wanted.ic_amperes, d.ic_amperes)
        + near(wanted.power_watts, d.power_watts);
    let unlike = if wanted.kind.has_base() {
        state(LimitName::Gain, 0.2) + 0.1 * near(wanted.gain_min, d.gain_min)
    } else {
        state(LimitName::Idss, 0.2) + state(LimitName::Transconductance, 0.1)
    };
    (ratings * 0.1
        + unlike
        + state(LimitName::Transition, 0.1)
        + 0.1 * near(wanted.ft_hertz, d.ft_hertz)
        + state(LimitName::Package, 0.08)
        + state(LimitName::Material, 0.02)
        + 0.1 * leads)
        .clamp(0.0, 1.0)
}
