//! The JSON shapes of banks.

use owl_core::bank::advice::Advice;
use owl_core::bank::judge::{Judged, Said};
use owl_core::bank::names::in_one_breath;
use owl_core::bank::share::Share;
use owl_core::bank::{BankKind, Place};
use owl_core::part::PartKind;
use owl_core::quantity::format::percent;
use owl_core::quantity::{Quantity, Second, Unit};
use owl_core::tray::bank::{Bank, Member};
use owl_core::verdict::Outcome;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::table::bank::BankRow;
use crate::tray::load::Loaded;
use crate::tray::uuid;

/// A bank, as told.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct BankBody {
    /// Chosen by the client.
    pub id: Uuid,
    /// The version that was seen; null for a new one.
    pub version: Option<i32>,
    /// What it is called.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// What is in series.
    pub kind: BankKind,
    /// Volts across all of it, as typed.
    #[schema(max_length = 40)]
    pub volts: String,
    /// Its members, from the high end to the low: `C11-C18`.
    #[schema(max_length = 400)]
    pub members: String,
    /// The resistors across them, in the same order; empty where there are none.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub across: String,
    /// What is marked on members of which nothing is known yet.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub marking: String,
    /// What is marked on such resistors.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub across_marking: String,
    /// Of diodes: how many legs of a bridge they make, each a string of its own; one where it does not say.
    #[schema(minimum = 1, maximum = 6)]
    pub legs: Option<usize>,
}

/// That all of a bank goes.
#[derive(Debug, Deserialize, ToSchema)]
pub struct AllGo {
    /// Chosen by the client, so that sending twice decides once.
    pub key: Uuid,
    /// The version of the bank that was seen.
    pub version: i32,
}

/// The banks of a ticket.
#[derive(Debug, Serialize, ToSchema)]
pub struct BanksView {
    /// In the order in which they were put together.
    pub banks: Vec<BankView>,
    /// What there can be in series, with the volts that the set says of it.
    pub kinds: Vec<BankSuggestion>,
}

/// A kind of bank in this set.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankSuggestion {
    /// The kind.
    pub kind: BankKind,
    /// What the names of its members begin with.
    pub letter: String,
    /// Whether resistors lie across its members.
    pub across: bool,
    /// Which volts are meant.
    pub volts_meaning: String,
    /// As many as follow from what is known of the set.
    pub volts: Option<Amount>,
}

/// A bank, judged as a set.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankView {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// What it is called.
    pub name: String,
    /// What is in series.
    pub kind: BankKind,
    /// Volts across all of it.
    pub volts: Amount,
    /// Its members in one breath.
    pub members: String,
    /// The resistors across them in one breath.
    pub across: String,
    /// Its places, from the high end to the low.
    pub places: Vec<BankPlaceView>,
    /// What it is together.
    pub call: Outcome,
    /// Why, the worst first.
    pub said: Vec<BankSaidView>,
    /// What goes.
    pub advice: BankAdviceView,
    /// Numbers of the whole, by their names.
    pub numbers: Vec<BankNumber>,
    /// What goes across each where nothing lies there, in words.
    pub proposed: Option<String>,
    /// What is said before a hand goes in.
    pub cautions: Vec<String>,
    /// Members that nobody has decided on to go.
    pub left: usize,
}

/// A place of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankPlaceView {
    /// The member.
    pub member: BankPartView,
    /// The resistor across it.
    pub across: Option<BankPartView>,
    /// Volts across it.
    pub volts: Option<Amount>,
    /// The most that it may be, where values or leaks are not all known.
    pub worst: Option<Amount>,
    /// Volts as it charges, where they are more.
    pub charging: Option<Amount>,
    /// What it stands.
    pub rated: Option<Amount>,
    /// What it gets of what it stands, a fraction.
    pub load: Option<f64>,
    /// How it is, with what is said of this place.
    pub call: Outcome,
}

/// A part of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankPartView {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// Its name.
    pub name: String,
    /// Its value; of a diode the drop that was read.
    pub value: Option<Amount>,
    /// Whether that was measured.
    pub measured: bool,
}

/// One thing that is said of a bank.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankSaidView {
    /// What follows from it.
    pub call: Outcome,
    /// In words.
    pub text: String,
    /// Where it comes from.
    pub source: String,
}

/// A number of the whole.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankNumber {
    /// What it is.
    pub name: String,
    /// As shown.
    pub text: String,
}

/// What goes.
#[derive(Debug, Serialize, ToSchema)]
pub struct BankAdviceView {
    /// All of it.
    pub whole: bool,
    /// The members, and resistors across them, that go, the others staying.
    pub singly: Vec<String>,
    /// Why.
    pub why: String,
}

fn amount<U: Unit>(v: U) -> Amount {
    Amount::rounded(U::QUANTITY, v.si(), 3)
}

fn part_view(loaded: &Loaded, part: Uuid, value: Option<Amount>, measured: bool) -> Option<BankPartView> {
    let row = loaded.row(part).ok()?;
    Some(BankPartView { id: row.id, version: row.version, name: row.name.clone(), value, measured })
}

fn place_view(
    loaded: &Loaded,
    at: usize,
    member: Member,
    place: &Place,
    share: &Share,
    said: &[Said],
) -> Option<BankPlaceView> {
    let (gets, worst) = (share.gets(), share.at_worst());
    let of_resistor = place.across.as_ref().map(|a| (amount(a.ohms.is), a.measured));
    let own = loaded.part(uuid(member.part)).ok()?;
    let read = owl_core::tray::verdict::measured(own);
    let value = match (own.kind, &of_resistor) {
        (PartKind::Resistor, Some((ohms, _))) => Some(ohms.clone()),
        (PartKind::Diode, _) => read.and_then(|(q, v)| Some(Amount::rounded(q, v?, 3))),
        _ => place.farads.map(|f| amount(f.is)),
    };
    let worst_call = said.iter().filter(|s| s.places.contains(&at)).map(|s| s.call).next();
    Some(BankPlaceView {
        member: part_view(loaded, uuid(member.part), value, place.measured)?,
        across: member.across.and_then(|id| {
            let known = of_resistor.clone();
            let measured = known.as_ref().is_some_and(|k| k.1);
            part_view(loaded, uuid(id), known.map(|k| k.0), measured)
        }),
        volts: share.volts.map(amount),
        worst: worst.filter(|w| gets.is_none_or(|g| *w > g * 1.005)).map(amount),
        charging: share.charging.filter(|c| share.volts.is_none_or(|v| *c > v * 1.005)).map(amount),
        rated: place.rated.map(amount),
        load: gets.zip(place.rated).map(|(v, rated)| v / rated),
        call: worst_call.unwrap_or(Outcome::Keep),
    })
}

impl BankView {
    /// A bank as it is shown.
    #[must_use]
    pub fn of(row: &BankRow, loaded: &Loaded, bank: &Bank, places: &[Place], judged: &Judged) -> Self {
        let names = |of: &dyn Fn(&Member) -> Option<owl_core::tray::Id>| {
            let all: Vec<&str> =
                bank.members.iter().filter_map(|m| Some(loaded.tray.part(of(m)?)?.name.as_str())).collect();
            in_one_breath(&all)
        };
        let rows = bank.members.iter().zip(places).zip(&judged.shares).enumerate();
        let advice = match &judged.advice {
            Advice::Stays => BankAdviceView { whole: false, singly: vec![], why: String::new() },
            Advice::Singly { parts, why } => {
                BankAdviceView { whole: false, singly: parts.clone(), why: why.clone() }
            }
            Advice::Whole { why } => BankAdviceView { whole: true, singly: vec![], why: why.clone() },
        };
        Self {
            id: row.id,
            version: row.version,
            name: row.name.clone(),
            kind: row.kind,
            volts: Amount::of(Quantity::Voltage, row.volts),
            members: names(&|m| Some(m.part)),
            across: names(&|m| m.across),
            places: rows
                .filter_map(|(i, ((m, p), s))| place_view(loaded, i, *m, p, s, &judged.said))
                .collect(),
            call: judged.call,
            said: judged
                .said
                .iter()
                .map(|s| BankSaidView { call: s.call, text: s.text.clone(), source: s.source.to_string() })
                .collect(),
            advice,
            numbers: numbers(row.kind, judged),
            proposed: judged.proposed.map(|p| {
                let bodies =
                    if p.bodies > 1 { format!(", as {} bodies in series", p.bodies) } else { String::new() };
                format!("{} of {} across each{bodies}", p.ohms, p.watts)
            }),
            cautions: judged.cautions.clone(),
            left: bank.members.iter().filter(|m| super::stays(&loaded.tray, m.part)).count(),
        }
    }
}

/// The numbers of the whole that are known.
fn numbers(kind: BankKind, judged: &Judged) -> Vec<BankNumber> {
    let whole = &judged.whole;
    let quantity = if kind == BankKind::Resistors { Quantity::Resistance } else { Quantity::Capacitance };
    let of = |q: Quantity| move |v: f64| Amount::rounded(q, v, 3).text;
    let off = whole
        .value_si
        .zip(whole.marked_si)
        .map(|(is, marked)| format!("{}, marked {}", of(quantity)(is), of(quantity)(marked)));
    let rows = [
        ("together", off.or(whole.value_si.map(of(quantity)))),
        ("spread", whole.spread.map(percent)),
        ("stands", whole.stands.map(|v| amount(v).text)),
        ("through the resistors", whole.current.map(|i| amount(i).text)),
        ("stored", whole.energy_joules.map(|j| format!("{j:.1} J"))),
        ("down to 5 V", whole.empties_in.map(|t: Second| amount(t).text)),
    ];
    rows.into_iter()
        .filter_map(|(name, text)| Some(BankNumber { name: name.to_owned(), text: text? }))
        .collect()
}
