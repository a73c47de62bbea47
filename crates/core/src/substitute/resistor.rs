//! A resistor for a resistor (rules.md, R7: "Resistors").

use super::{Choice, Choices, Line, Refused};
use crate::network::{Drive, Found, Kind, Stock, Tree, Wanted, search, shares};
use crate::part::size::{at_least, one_up, sizes};
use crate::part::{Family, PartKind, Position, Resistor};
use crate::preferred::{Series, between, neighbours};
use crate::quantity::write::{percent, signed_percent};
use crate::quantity::{Fraction, Ohm, Volt, Watt};
use crate::source::Source;
use crate::verdict::{Policy, PolicyNumber};

/// The rating that is assumed of a part whose size is not known (practice: the usual size).
const ASSUMED_WATTS: f64 = 0.5;
/// How far a single part may be off before it is refused, at the least (practice).
const LEAST_WINDOW: f64 = 0.05;

/// What is wanted in place of a part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Need {
    /// The part that goes.
    pub part: Resistor,
    /// The value wanted: the sheet's where there is one, otherwise the mark.
    pub value: Ohm,
    /// Where it sits.
    pub position: Option<Position>,
    /// Volts across it at work, where known.
    pub volts: Option<Volt>,
}

/// Why nothing can be proposed.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum SubstituteError {
    /// No value to look for.
    #[error("a value above zero is needed to look for a substitute")]
    NoValue,
    /// More watts than any size.
    #[error("{0} is more than the largest resistor in the table; share it among several by a network")]
    TooManyWatts(Watt),
}

/// Proposes what to fit, best first, and names near misses that must not be fitted.
///
/// # Errors
/// [`SubstituteError`] where there is nothing to look for.
pub fn choose(need: &Need, policy: &Policy) -> Result<Choices, SubstituteError> {
    let wanted = need.value.ohms();
    if wanted <= 0.0 {
        return Err(SubstituteError::NoValue);
    }
    let load = Load::of(need, policy)?;
    let mut out = Choices { choices: vec![], refused: vec![] };
    singles(need, &load, &mut out);
    pairs(need, &load, &mut out);
    refuse_by_family(need, &load, &mut out);
    out.choices.sort_by_key(rank);
    Ok(out)
}

/// Error class first, then number of parts, then the error itself.
fn rank(c: &Choice) -> (u8, usize, i64) {
    let error = c.deviation.fraction().abs();
    let class = match error {
        e if e <= 0.006 => 0,
        e if e <= 0.025 => 1,
        _ => 2,
    };
    (class, c.ratings.len(), (error * 1e6) as i64)
}

/// What the new part must carry.
struct Load {
    /// The least rating allowed.
    least: Watt,
    /// The rating proposed.
    proposed: Watt,
    /// Why.
    lines: Vec<Line>,
    cautions: Vec<Line>,
}

impl Load {
    fn of(need: &Need, policy: &Policy) -> Result<Self, SubstituteError> {
        let (mut lines, mut cautions) = (vec![], vec![]);
        let old = need.part.power.map_or(ASSUMED_WATTS, Watt::watts);
        if need.part.power.is_none() {
            cautions.push(line(
                "the old part's watts are not known: ½ W is assumed; compare its size",
                Source::practice("usual size"),
            ));
        }
        let dissipated = need.volts.map(|v| v.volts() * v.volts() / need.value.ohms());
        let needed = dissipated.map_or(0.0, |p| p * policy.number_si(PolicyNumber::WattFactor));
        let least = Watt::new(old.max(needed)).map_err(|_| SubstituteError::NoValue)?;
        let proposed = if needed > old { at_least(least) } else { one_up(least).or_else(|| at_least(least)) };
        let proposed = proposed.ok_or(SubstituteError::TooManyWatts(least))?.power;
        if let (Some(p), Some(v)) = (dissipated.and_then(|p| Watt::new(p).ok()), need.volts) {
            lines.push(line(
                &format!(
                    "{v} across {} is {p}; × {} = {}",
                    need.value,
                    policy.number_si(PolicyNumber::WattFactor),
                    Watt::new(needed).unwrap_or(p)
                ),
                policy.source.clone(),
            ));
        }
        lines.push(line(
            &format!("{proposed} where {} was: one size up lives longer", Watt::new(old).unwrap_or(least)),
            Source::practice("wattage up one size for life"),
        ));
        Ok(Self { least, proposed, lines, cautions })
    }
}

fn line(text: &str, source: Source) -> Line {
    Line { text: text.to_owned(), source }
}

/// How the new part is made.
fn family(need: &Need, power: Watt) -> Family {
    let radio_frequency =
        need.position.and_then(|p| p.facts(PartKind::Resistor)).is_some_and(|f| f.radio_frequency);
    match need.part.family {
        Family::Fusible => Family::Fusible,
        Family::Wirewound if !radio_frequency && power.watts() >= 2.0 => Family::Wirewound,
        _ if radio_frequency => Family::CarbonFilm,
        _ if power.watts() > 5.0 => Family::Wirewound,
        Family::Wirewound | Family::CarbonComposition | Family::CarbonFilm | Family::MetalFilm => {
            Family::MetalFilm
        }
    }
}

fn deviation(need: &Need, value: f64) -> Fraction {
    let off = value / need.value.ohms() - 1.0;
    // Below one part in a hundred thousand it is the same value.
    Fraction::new(if off.abs() < 1e-5 { 0.0 } else { off }).unwrap_or(Fraction::ZERO)
}

fn singles(need: &Need, load: &Load, out: &mut Choices) {
    let Some(near) = neighbours(Series::E24, need.value.ohms()) else { return };
    let mut values = vec![near.nearest];
    values.extend([near.below, near.above].into_iter().filter(|v| *v != near.nearest));
    let window = need.part.tolerance_fraction().max(LEAST_WINDOW);
    let body_volts = at_least(load.proposed).map(|s| s.volts);
    for value in values {
        let Ok(ohm) = Ohm::new(value) else { continue };
        let off = deviation(need, value);
        let family = family(need, load.proposed);
        let description = format!("{} {family}, {ohm}", load.proposed);
        if off.fraction().abs() > window {
            let because = format!(
                "{} from {}: more than the {} of the old part",
                signed_percent(off.fraction()),
                need.value,
                percent(window)
            );
            out.refused.push(Refused { description, because });
            continue;
        }
        if let (Some(v), Some(limit)) = (need.volts, body_volts)
            && v.volts().abs() > limit.volts()
        {
            let because = format!(
                "{v} across one body of {}: {limit} is its limit; put several in series",
                load.proposed
            );
            out.refused.push(Refused { description, because });
            continue;
        }
        let mut passes = vec![value_line(need, off, "E24")];
        passes.extend(load.lines.iter().cloned());
        out.choices.push(Choice {
            description,
            value: ohm,
            power: load.proposed,
            family,
            deviation: off,
            network: None,
            ratings: vec![load.proposed],
            passes,
            cautions: load.cautions.clone(),
        });
    }
}

fn value_line(need: &Need, off: Fraction, series: &str) -> Line {
    let source = Source::standard("IEC 60063:2015");
    if off == Fraction::ZERO {
        line(&format!("{} is what is wanted, and in {series}", need.value), source)
    } else {
        line(&format!("{} from {}, values of {series}", signed_percent(off.fraction()), need.value), source)
    }
}

/// Two parts: the nearest that share the load evenly enough, each of a size of its own.
fn pairs(need: &Need, load: &Load, out: &mut Choices) {
    let wanted = need.value.ohms();
    let values: Vec<Stock> =
        between(Series::E12, wanted / 30.0, wanted * 30.0).into_iter().map(Stock::plenty).collect();
    // The volts at which the whole carries its rating: from them come the shares.
    let Ok(volts) = Volt::new((load.proposed.watts() * wanted).sqrt()) else { return };
    let question = Wanted {
        kind: Kind::Resistor,
        target: wanted,
        within: Some(0.02),
        max_parts: 2,
        pinned: None,
        drive: Some(Drive::Voltage(volts)),
        power: None,
        voltage: None,
        limit: 24,
    };
    let Ok(found) = search(&question, &values) else { return };
    let mut two: Vec<_> = found.networks.into_iter().filter(|f| f.shares.len() == 2).collect();
    // Even shares first: two parts of half the watts are what is in a drawer.
    let unevenness =
        |f: &Found| f.shares.iter().filter_map(|s| s.watts).fold(0.0, f64::max) / load.proposed.watts();
    two.sort_by(|a, b| {
        let class = |f: &Found| u8::from(f.error.abs() > 0.006);
        class(a).cmp(&class(b)).then(unevenness(a).total_cmp(&unevenness(b)))
    });
    for f in two.into_iter().take(3) {
        let Some(choice) = of_pair(need, load, &f) else { continue };
        out.choices.push(choice);
    }
}

fn of_pair(need: &Need, load: &Load, found: &Found) -> Option<Choice> {
    let Found { tree, value, shares: carried, .. } = found;
    let ratings: Vec<Watt> = carried
        .iter()
        .map(|s| at_least(Watt::new(s.watts? * (1.0 - 0.02)).ok()?).map(|size| size.power))
        .collect::<Option<_>>()?;
    if let Some(v) = need.volts {
        let across = shares(tree, Kind::Resistor, Some(Drive::Voltage(v)));
        let holds = across.iter().zip(&ratings).all(|(s, r)| {
            at_least(*r).is_some_and(|size| s.volts.unwrap_or(0.0).abs() <= size.volts.volts())
        });
        if !holds {
            return None;
        }
    }
    let family = family(need, *ratings.first()?);
    let off = deviation(need, *value);
    let each: Vec<String> = tree
        .parts()
        .iter()
        .zip(&ratings)
        .zip(carried)
        .map(|((v, r), s)| {
            let share = s.watts.unwrap_or(0.0) / load.proposed.watts() * 100.0;
            format!(
                "{} {r} carries {share:.0} %",
                Ohm::new(*v).map_or_else(|_| String::new(), |o| o.to_string())
            )
        })
        .collect();
    let how = if matches!(tree, Tree::Parallel(_)) { "in parallel" } else { "in series" };
    Some(Choice {
        description: format!("{} {how}, {family}", tree.expression(Kind::Resistor)),
        value: Ohm::new(*value).ok()?,
        power: load.proposed,
        family,
        deviation: off,
        network: Some(tree.clone()),
        ratings,
        passes: vec![value_line(need, off, "E12"), line(&each.join("; "), Source::handbook("Ohm's law"))],
        cautions: load.cautions.clone(),
    })
}

/// Names what a hurried hand would reach for and must not.
fn refuse_by_family(need: &Need, load: &Load, out: &mut Choices) {
    if let Some(facts) = need.position.and_then(|p| p.facts(PartKind::Resistor))
        && facts.radio_frequency
    {
        out.refused.push(Refused {
            description: format!("{} wirewound, {}", load.proposed, need.value),
            because: format!(
                "{}: a wound part has inductance, and radio frequency flows here",
                facts.position
            ),
        });
    }
    let smaller = sizes().iter().rev().find(|s| s.power.watts() < load.least.watts() * (1.0 - 1e-9));
    if let Some(size) = smaller {
        out.refused.push(Refused {
            description: format!("{} of any kind, {}", size.power, need.value),
            because: format!("{} at least is needed here", load.least),
        });
    }
}
