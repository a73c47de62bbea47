//! What sits in a part's place now, as it is judged: the part as marked or as fitted, what was read of it, and what is
//! known of the circuit round it.

use super::bank::volts_at;
use super::{Fitting, Id, Moment, Tray, TrayPart};
use crate::marking::Meaning;
use crate::marking::fuse;
use crate::marking::temperature::behaviour;
use crate::named::named;
use crate::part::{
    Capacitor, Circuit, Coil, Diode, Fact, Fuse, Ic, JunctionTest, Loudspeaker, MadeOf, Material, Part,
    PartKind, Position, Resistor, Valve, VisualSign,
};
use crate::quantity::{Ampere, Farad, Henry, Ohm, Volt};
use crate::reading::{Reading, Shown, usual};
use crate::supply::before_the_valves_draw;
use crate::transistor::device::by_sheet;
use crate::transistor::type_family::{TypeFamily, type_family};
use crate::valve::valve_type;
use crate::verdict::{Case, Partner, Policy, PolicyNumber};

named! {
    /// Which value a part is judged against.
    "judged against" Against {
        /// What is marked on it.
        Mark = "marked",
        /// What the sheet says.
        Sheet = "sheet",
        /// What was fitted.
        Fitted = "fitted",
    }
}

/// What sits in a place.
#[derive(Debug, Clone)]
pub struct Installed {
    /// The part; `None` without anything to judge against, and of lamps.
    pub part: Option<Part>,
    /// Whether that is the mark, the sheet's value or what was fitted.
    pub against: Option<Against>,
    /// Where it sits.
    pub position: Option<Position>,
    /// What is known of the circuit.
    pub circuit: Circuit,
    /// What is seen on it.
    pub looks: Vec<VisualSign>,
    /// Readings that count, oldest first; what it measured before it went in comes first.
    pub readings: Vec<Reading>,
    /// Which readings those are; `None` for the measurement before fitting.
    pub taken: Vec<Option<Id>>,
}

impl Installed {
    /// The case as it is judged beside its partners; `None` without a part to judge.
    #[must_use]
    pub fn case<'a>(&'a self, partners: &'a [Partner]) -> Option<Case<'a>> {
        Some(Case {
            part: self.part.as_ref()?,
            position: self.position,
            readings: &self.readings,
            partners,
            circuit: &self.circuit,
            looks: &self.looks,
        })
    }

    /// What stands across it when the set runs, where that is known.
    #[must_use]
    pub fn working(&self) -> Option<Volt> {
        self.circuit.get(Fact::Voltage)
    }

    /// The volts to which it is reformed, less what the plan puts on top for a high line: what works across it, or more where
    /// the supply's own stand there before the valves draw (rule R7).
    #[must_use]
    pub fn reforming_volts(&self, policy: &Policy) -> Option<Volt> {
        let there =
            self.position.is_some_and(Position::hangs_on_the_rail) && self.circuit.lets_the_surge_through();
        let winding = self.circuit.get::<Volt>(Fact::Secondary).filter(|_| there);
        let high = policy.number_si(PolicyNumber::LineHigh);
        let empty = winding.map(|v| before_the_valves_draw(v, policy) / high);
        self.working().into_iter().chain(empty).reduce(Volt::max)
    }
}

/// What sits in a part's place now.
#[must_use]
pub fn installed(tray: &Tray, part: &TrayPart) -> Installed {
    let Some(fitting) = part.fitting() else { return found(tray, part, |_| true) };
    let mut readings = Vec::new();
    let mut taken = Vec::new();
    let piece = &fitting.piece;
    let readable = !matches!(piece.kind, PartKind::Lamp | PartKind::Ic);
    if let Some(si) = piece.measured_si.filter(|_| readable) {
        readings.push(Reading::of(usual(piece.kind), Shown::Value { si }));
        taken.push(None);
    }
    for r in part.readings.iter().filter(|r| part.is_of_what_sits(r)) {
        readings.push(r.reading);
        taken.push(Some(r.id));
    }
    Installed {
        part: fitted(tray, part, fitting),
        against: Some(Against::Fitted),
        position: part.position,
        circuit: circuit(tray, part),
        // What is seen on a part that was taken out is not seen on what was fitted.
        looks: vec![],
        readings,
        taken,
    }
}

/// The part as it was found, whatever was fitted since: for the question why it failed, and for what may go in.
#[must_use]
pub fn as_found(tray: &Tray, part: &TrayPart) -> Installed {
    let until = part.first_fitting().map(|f| f.fitted_at);
    found(tray, part, |at| until.is_none_or(|u| at <= u))
}

fn found(tray: &Tray, part: &TrayPart, counts: impl Fn(Moment) -> bool) -> Installed {
    let (sits, against) = marked(tray, part);
    let counted = part.readings.iter().filter(|r| r.voided_at.is_none() && counts(r.taken_at));
    let (readings, taken) = counted.map(|r| (r.reading, Some(r.id))).unzip();
    Installed {
        part: sits,
        against,
        position: part.position,
        circuit: circuit(tray, part),
        looks: part.looks.clone(),
        readings,
        taken,
    }
}

/// What is known of the circuit: what the whole set and its pair share, its share of a bank, the feed as it stands on the tray, and over
/// all what was said of this part.
fn circuit(tray: &Tray, part: &TrayPart) -> Circuit {
    let mut circuit = tray.shared(part);
    if let Some(feed) = part.fed_by.and_then(|id| tray.part(id)) {
        let fitted = feed.fitting();
        let ohms = fitted.and_then(|f| f.piece.value_si).or(feed.marked_si).or(feed.sheet_si);
        let watts = fitted.and_then(|f| f.piece.power).or(feed.power).map(|w| w.watts());
        for (fact, value) in [(Fact::FeedResistor, ohms), (Fact::FeedPower, watts)] {
            // A value of nothing says nothing of the feed.
            if let Some(v) = value.filter(|v| *v > 0.0) {
                let _known = circuit.set_si(fact, v);
            }
        }
    }
    // In a bank it has its share of the volts, and not what stands across all.
    if let Some(v) = volts_at(tray, part).filter(|v| *v > Volt::ZERO) {
        [Fact::Rail, Fact::Secondary].into_iter().for_each(|f| circuit.forget(f));
        let _known = circuit.set_si(Fact::Voltage, v.volts());
    }
    circuit.overlay(&part.said);
    circuit
}

/// The newest test of its junctions, of what was fitted or without a fitting of what was found: which of the part's
/// tests that is.
#[must_use]
pub fn newest_junctions(part: &TrayPart, fitting: Option<&Fitting>) -> Option<usize> {
    let first = part.first_fitting();
    part.junctions.iter().rposition(|j| match fitting {
        Some(f) => j.taken_at > f.fitted_at,
        None => first.is_none_or(|f| j.taken_at <= f.fitted_at),
    })
}

fn junctions(part: &TrayPart, fitting: Option<&Fitting>) -> Option<JunctionTest> {
    newest_junctions(part, fitting).and_then(|i| part.junctions.get(i)).map(|j| j.test)
}

/// What was fitted, as it is judged; `None` of a lamp.
fn fitted(tray: &Tray, part: &TrayPart, f: &Fitting) -> Option<Part> {
    let piece = &f.piece;
    match piece.kind {
        PartKind::Resistor => Some(Part::Resistor(Resistor {
            family: piece.family.and_then(MadeOf::resistor)?,
            value: Ohm::new(piece.value_si?).ok()?,
            tolerance: piece.tolerance,
            power: piece.power,
        })),
        PartKind::Capacitor => Some(Part::Capacitor(Capacitor {
            family: piece.family.and_then(MadeOf::capacitor),
            value: Farad::new(piece.value_si?).ok()?,
            minus: piece.tolerance,
            plus: piece.tolerance,
            rated: piece.volts,
            safety: piece.safety,
            years: None,
            new: true,
            test_warm: false,
            ppm_per_kelvin: None,
        })),
        PartKind::Coil => Some(Part::Coil(Coil {
            family: piece.family.and_then(MadeOf::coil),
            resistance: None,
            inductance: piece.value_si.and_then(|v| Henry::new(v).ok()),
        })),
        PartKind::Diode => {
            Some(Part::Diode(Diode { family: piece.family.and_then(MadeOf::diode), plates: 1 }))
        }
        PartKind::Transistor => {
            Some(Part::Transistor(by_sheet(tray.device(&piece.type_number), junctions(part, Some(f)))))
        }
        PartKind::Ic => Some(Part::Ic(Ic { device: crate::ic::device(&piece.type_number) })),
        PartKind::Valve => Some(valve(tray, Some(&piece.type_number))),
        PartKind::Fuse => Some(Part::Fuse(Fuse {
            rated: Ampere::new(piece.value_si?).ok()?,
            speed: fuse::speed_of(&piece.type_number),
            volts: piece.volts,
        })),
        PartKind::Switch => Some(Part::Switch),
        PartKind::Loudspeaker => Some(Part::Loudspeaker(Loudspeaker {
            impedance: Ohm::new(piece.value_si?).ok()?,
            power: piece.power,
        })),
        PartKind::Lamp => None,
    }
}

/// The part by its mark, or by the sheet where nothing is marked.
fn marked(tray: &Tray, p: &TrayPart) -> (Option<Part>, Option<Against>) {
    let against = match (p.marked_si, p.sheet_si) {
        (Some(_), _) => Some(Against::Mark),
        (None, Some(_)) => Some(Against::Sheet),
        (None, None) => None,
    };
    let value = p.marked_si.or(p.sheet_si);
    let part = match p.kind {
        PartKind::Resistor => resistor(p, value).map(Part::Resistor),
        PartKind::Capacitor => capacitor(p, value).map(Part::Capacitor),
        PartKind::Coil => Some(Part::Coil(Coil {
            family: p.family.and_then(MadeOf::coil),
            resistance: p.winding,
            inductance: value.and_then(|v| Henry::new(v).ok()),
        })),
        PartKind::Diode => Some(Part::Diode(Diode {
            family: p.family.and_then(MadeOf::diode),
            plates: p.plates.unwrap_or(1),
        })),
        PartKind::Transistor => {
            let mut t = by_sheet(p.type_number().and_then(|t| tray.device(t)), junctions(p, None));
            // What no table knows is known by its series.
            let series = p.type_number().and_then(|t| type_family(t, true));
            t.material = t.material.or(p.family.and_then(MadeOf::diode).and_then(Material::of));
            t.material = t.material.or(series.and_then(|s| s.material));
            t.polarity = t.polarity.or(series.and_then(|s| s.polarity));
            t.power |= series.and_then(TypeFamily::power) == Some(true);
            Some(Part::Transistor(t))
        }
        PartKind::Ic => p.type_number().map(|t| Part::Ic(Ic { device: crate::ic::device(t) })),
        PartKind::Valve => Some(valve(tray, p.type_number())),
        PartKind::Fuse => {
            value.and_then(|v| Ampere::new(v).ok()).filter(|a| *a > Ampere::ZERO).map(|rated| {
                let notes = p.mark.iter().flat_map(|m| &m.notes);
                let speed = notes.filter_map(|n| fuse::speed_of(n)).next();
                Part::Fuse(Fuse { rated, speed, volts: p.mark.as_ref().and_then(Meaning::least_rating) })
            })
        }
        PartKind::Switch => Some(Part::Switch),
        PartKind::Loudspeaker => {
            value.and_then(|v| Ohm::new(v).ok()).filter(|r| *r > Ohm::ZERO).map(|impedance| {
                Part::Loudspeaker(Loudspeaker {
                    impedance,
                    power: p.power.or(p.mark.as_ref().and_then(|m| m.power)),
                })
            })
        }
        PartKind::Lamp => None,
    };
    // A winding is judged by its ohms, and those are the sheet's.
    let winding = p.kind == PartKind::Coil && p.winding.is_some();
    (part, if winding { Some(Against::Sheet) } else { against })
}

/// A valve of which at least the number is known, or nothing: what is read of it counts all the same.
fn valve(tray: &Tray, type_number: Option<&str>) -> Part {
    let in_chain = !tray.set().heaters.members.is_empty();
    Part::Valve(Valve { of: type_number.and_then(valve_type), in_chain })
}

fn resistor(p: &TrayPart, value_si: Option<f64>) -> Option<Resistor> {
    Some(Resistor {
        family: p.family.and_then(MadeOf::resistor)?,
        value: Ohm::new(value_si?).ok()?,
        tolerance: p.tolerance,
        power: p.power,
    })
}

/// The coefficient in what was read of a marking: `N750: −750 ppm/K`.
fn coefficient(in_words: &str) -> Option<f64> {
    behaviour(in_words.split(':').next()?)?.ppm_per_kelvin
}

fn capacitor(p: &TrayPart, value_si: Option<f64>) -> Option<Capacitor> {
    let mark = p.mark.as_ref();
    let sides = mark.and_then(|m| m.tolerance).and_then(crate::marking::Tolerance::sides);
    Some(Capacitor {
        family: p.family.and_then(MadeOf::capacitor),
        value: Farad::new(value_si?).ok()?,
        minus: sides.map(|s| s.0).or(p.tolerance),
        plus: sides.map(|s| s.1).or(p.tolerance),
        rated: mark.and_then(Meaning::least_rating),
        safety: mark.and_then(|m| m.safety),
        years: p.years,
        new: false,
        test_warm: p.test_warm,
        ppm_per_kelvin: mark.and_then(|m| m.temperature.as_deref()).and_then(coefficient),
    })
}
