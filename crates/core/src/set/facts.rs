//! What is known of a set's supply as a whole: asked once, and taken over by every part that it counts for.
//!
//! A part may still say something else of itself: what is said there wins (a second rectifier for the bias has a winding
//! of its own).

use serde::{Deserialize, Serialize};

use crate::part::{Circuit, Fact, PartKind, Position};
use crate::quantity::{Ampere, Hertz, Ohm, Volt};
use crate::supply::barretter::Barretter;
use crate::supply::heater::{AroundALamp, Ballast, Member, Settled, settled};
use crate::supply::rectifier::Arrangement;

/// From this on a supply is a line (memory: extra-low voltage ends at 50 V AC); below, a battery.
pub const LINE_FROM: Volt = Volt::computed(50.0);

/// The most rails of a set, and members of its heater chain.
pub const MOST_ROWS: usize = 40;
/// The longest name of a rail or a heater.
pub const LONGEST_NAME: usize = 40;

/// A rail, as the sheet or the meter has it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Rail {
    /// What it is called: `HT 1`.
    pub name: String,
    /// Its volts against the chassis.
    pub volts: Volt,
}

/// A chain of heaters and lamps across the line, as it is in the set.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Heaters {
    /// Heaters and lamps, in their order.
    pub members: Vec<Member>,
    /// Dropper, ballast or resistance cord in series with them, at the position for the lower line where it has two.
    pub ballast: Option<Ohm>,
    /// The same at the position for the higher line.
    pub ballast_high: Option<Ohm>,
    /// A barretter in the place of either.
    pub barretter: Option<Barretter>,
}

impl Heaters {
    /// What takes up the rest of the line, at each of its positions.
    pub fn ballasts(&self) -> impl Iterator<Item = Ballast> {
        let ohms = [self.ballast, self.ballast_high].into_iter().flatten().map(Ballast::Resistor);
        ohms.chain(self.barretter.map(Ballast::Barretter))
    }
}

/// What is known of a set's supply.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct SetFacts {
    /// The facts that all of its parts share; only such as are [`Fact::is_of_the_set`].
    shared: Circuit,
    /// How its rectifier is connected.
    pub rectifier: Option<Arrangement>,
    /// Its rails.
    pub rails: Vec<Rail>,
    /// Its heater chain.
    pub heaters: Heaters,
}

impl SetFacts {
    /// What all parts share.
    #[must_use]
    pub fn shared(&self) -> &Circuit {
        &self.shared
    }

    /// What is known: the facts that all parts share, of which what is no fact of a set is left out; how the rectifier is
    /// connected, the rails and the heater chain.
    #[must_use]
    pub fn new(facts: &Circuit, rectifier: Option<Arrangement>, rails: Vec<Rail>, heaters: Heaters) -> Self {
        let mut shared = Circuit::default();
        for (fact, value) in facts.known().filter(|(f, _)| f.is_of_the_set()) {
            // It was a fact of that circuit: it is one of this.
            let _known = shared.set_si(fact, value);
        }
        Self { shared, rectifier, rails, heaters }
    }

    /// The same with other facts shared.
    #[must_use]
    pub fn sharing(self, facts: &Circuit) -> Self {
        Self::new(facts, self.rectifier, self.rails, self.heaters)
    }

    /// What becomes of a fact of the set that is `typed` beside one of its parts, of which `own` was known: the set with it,
    /// where the set gains by it, and the part's own. What the set did not know is the set's; what it knows already is
    /// nobody's own; what differs holds for that part alone, as the winding of a second rectifier does. Nothing typed takes
    /// away the part's own, and where there was none the set's.
    #[must_use]
    pub fn said_at_a_part(
        &self,
        fact: Fact,
        kind: PartKind,
        own: &Circuit,
        typed: &Circuit,
    ) -> (Option<Self>, Circuit) {
        // A rectifier's limit comes with what else its valve says.
        let told = |circuit: &Circuit, f: Fact| circuit.known().find(|(k, _)| *k == f).map(|(_, v)| v);
        let belongs = |f: Fact| f == fact || (fact == Fact::FirstFilterLimit && f.comes_with_the_rectifier());
        let without = |circuit: &Circuit| {
            let mut left = Circuit::default();
            for (f, v) in circuit.known().filter(|(f, _)| !belongs(*f)) {
                // It was a fact of that circuit: it is one of this.
                let _known = left.set_si(f, v);
            }
            left
        };
        let with = |circuit: &Circuit| {
            let mut all = without(circuit);
            all.overlay(typed);
            all
        };
        let (new, here, set) = (told(typed, fact), told(own, fact), told(&self.shared, fact));
        match (new, set) {
            (None, Some(_)) if here.is_none() && counts(fact, kind) => {
                (Some(self.clone().sharing(&without(&self.shared))), without(own))
            }
            (None, _) => (None, without(own)),
            (Some(_), None) if counts(fact, kind) => {
                (Some(self.clone().sharing(&with(&self.shared))), without(own))
            }
            (Some(v), Some(known)) if v == known && counts(fact, kind) => (None, without(own)),
            (Some(_), _) => (None, with(own)),
        }
    }

    /// The line: as it is now, else the one for which the set is made. Volts of a battery are no line.
    #[must_use]
    pub fn line(&self, rated: Option<Volt>) -> Option<Volt> {
        self.shared.get::<Volt>(Fact::Line).or(rated.filter(|v| *v >= LINE_FROM))
    }

    /// The ripple's frequency behind its rectifier: the line's, or twice that where both halves charge.
    #[must_use]
    pub fn ripple(&self) -> Option<Hertz> {
        let line: Hertz = self.shared.get(Fact::Frequency)?;
        Some(match self.rectifier? {
            Arrangement::HalfWave => line,
            Arrangement::FullWave | Arrangement::Bridge => line * 2.0,
        })
    }

    /// How the heater chain settles on that line with its ballast, at each of its positions.
    #[must_use]
    pub fn settled(&self, rated: Option<Volt>) -> Vec<(Ballast, Settled)> {
        let Some(line) = self.line(rated) else { return vec![] };
        let at = |b: Ballast| Some((b, settled(line, &self.heaters.members, b).ok()?));
        self.heaters.ballasts().filter_map(at).collect()
    }

    /// The chain round a lamp of that name on that line, and what such a lamp draws there: by its own entry, where it has one
    /// or is the only lamp, else by what the chain carries. `None` where no chain is known.
    #[must_use]
    pub fn around_a_lamp(&self, name: &str, rated: Option<Volt>) -> Option<(AroundALamp, Ampere)> {
        let line = self.line(rated)?;
        let members = &self.heaters.members;
        let named = members.iter().position(|m| m.lamp && m.name.eq_ignore_ascii_case(name));
        let mut lamps = members.iter().enumerate().filter(|(_, m)| m.lamp);
        let only = match (lamps.next(), lamps.next()) {
            (Some((i, _)), None) => Some(i),
            _ => None,
        };
        let at = named.or(only);
        let around = AroundALamp::of(line, members, at, self.heaters.ballasts().next())?;
        let own = at.and_then(|i| members.get(i)).map(|m| m.current);
        Some((around, own.unwrap_or(around.current)))
    }

    /// The rail, where the set has only one: which of several a part hangs on is the part's to say.
    #[must_use]
    pub fn only_rail(&self) -> Option<Volt> {
        match self.rails.as_slice() {
            [one] => Some(one.volts),
            _ => None,
        }
    }

    /// The rail on which such a part hangs in its position: the only one; of several, that of the reservoir is the highest,
    /// since none behind it has more.
    fn rail_at(&self, kind: PartKind, position: Option<Position>) -> Option<Volt> {
        let position = position.filter(|p| p.hangs_on_the_only_rail(kind))?;
        let highest = || self.rails.iter().map(|r| r.volts.abs()).reduce(Volt::max);
        self.only_rail().or_else(|| highest().filter(|_| position == Position::Reservoir))
    }

    /// What a part takes over: what counts for such a part in its position. Without the line now, the line for which the set
    /// is made (`rated`) stands for it.
    #[must_use]
    pub fn around(&self, kind: PartKind, position: Option<Position>, rated: Option<Volt>) -> Circuit {
        let mut circuit = Circuit::default();
        let mut put = |fact: Fact, value: f64| {
            // What cannot be a fact says nothing.
            let _known = circuit.set_si(fact, value);
        };
        if let Some(v) = self.line(rated) {
            put(Fact::Line, v.volts());
        }
        for (fact, value) in self.shared.known().filter(|(f, _)| counts(*f, kind)) {
            put(fact, value);
        }
        if let Some(f) = self.ripple() {
            put(Fact::RippleFrequency, f.hertz());
        }
        if let Some(v) = self.rail_at(kind, position) {
            put(Fact::Rail, v.volts());
        }
        circuit
    }
}

/// Whether a fact of the set counts for a kind of part: the current of the supply flows through its rectifier, its chokes and
/// into its capacitors; what a stage or a lamp draws is its own.
fn counts(fact: Fact, kind: PartKind) -> bool {
    fact != Fact::LoadCurrent || matches!(kind, PartKind::Capacitor | PartKind::Diode | PartKind::Coil)
}
