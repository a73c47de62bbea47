//! A dual or triple can becomes separate parts with the common negative kept.

use super::{Choice, ChoiceReason, Choices, Need, OldPart, SubstituteError, first};
use crate::drawers::Lot;
use crate::part::{Capacitor, Part, Position};
use crate::quantity::{Farad, Volt};
use crate::source::Source;
use crate::verdict::Policy;

/// One section of a can.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Can {
    /// Its capacitance.
    pub capacitance: Farad,
    /// Its rated volts, where they are known.
    pub volts: Option<Volt>,
}

/// What goes in for a can.
#[derive(Debug, Clone, PartialEq)]
pub struct CanChoice {
    /// One for each section, in the order of the sections; `None` where nothing fits that one.
    pub sections: Vec<Option<Choice>>,
    /// What is refused for each section.
    pub refused: Vec<Choices>,
    /// How it is wired.
    pub wiring: Vec<ChoiceReason>,
}

impl CanChoice {
    /// All of it as one choice, where every section has one; and what is refused, section by section.
    #[must_use]
    pub fn choices(self) -> Choices {
        let description = self.description();
        let mut out = Choices { advice: self.wiring, ..Choices::default() };
        for (i, section) in self.refused.into_iter().enumerate() {
            let named = |mut r: super::Refused| {
                r.description = format!("section {}: {}", i + 1, r.description);
                r
            };
            out.refused.extend(section.refused.into_iter().take(3).map(named));
            out.asks.extend(section.asks.into_iter().filter(|f| !out.asks.contains(f)).collect::<Vec<_>>());
        }
        let Some(sections) = self.sections.into_iter().collect::<Option<Vec<Choice>>>() else { return out };
        let Some(first) = sections.first() else { return out };
        let mut whole = Choice {
            description,
            pieces: vec![],
            network: None,
            watts: None,
            deviation: None,
            passes: vec![],
            cautions: vec![],
            effects: vec![],
            margins: vec![],
            price_hundredths: sections.iter().map(|s| s.price_hundredths).sum(),
            ..first.clone()
        };
        for (i, s) in sections.into_iter().enumerate() {
            whole.pieces.extend(s.pieces);
            whole.passes.push(ChoiceReason {
                rule: "R7",
                text: format!("section {}: {}", i + 1, s.description),
                source: Source::practice("cans become separate parts"),
            });
            whole
                .cautions
                .extend(s.cautions.into_iter().filter(|c| !whole.cautions.contains(c)).collect::<Vec<_>>());
            whole.margins.extend(s.margins);
        }
        out.choices.push(whole);
        out
    }

    /// In a line: what goes in for each section.
    #[must_use]
    pub fn description(&self) -> String {
        let of = |c: &Option<Choice>| {
            c.as_ref().map_or_else(|| "nothing yet".to_owned(), |c| c.description.clone())
        };
        format!(
            "{} separate: {}",
            self.sections.len(),
            self.sections.iter().map(of).collect::<Vec<_>>().join(" + ")
        )
    }
}

/// Separate parts for the sections of a can. The pieces of a drawer are counted: what one section takes is not there
/// for the next.
///
/// # Errors
/// [`SubstituteError`] where a section has no value.
pub fn choose_can(
    need: &Need<'_>,
    old: &Capacitor,
    sections: &[Can],
    policy: &Policy,
    lots: &[Lot],
) -> Result<CanChoice, SubstituteError> {
    let mut left: Vec<Lot> = lots.to_vec();
    let mut out = CanChoice { sections: vec![], refused: vec![], wiring: wiring(sections.len()) };
    for (n, section) in sections.iter().enumerate() {
        let one = OldPart::Part(Part::Capacitor(Capacitor {
            value: section.capacitance,
            rated: section.volts.or(old.rated),
            ..*old
        }));
        let position = need.position.map(|p| place_of(p, n));
        let need = Need { gone: &one, value_si: Some(section.capacitance.farads()), position, ..*need };
        let mut found = first(&need, policy, &left)?;
        let best = if found.choices.is_empty() { None } else { Some(found.choices.remove(0)) };
        if let Some(choice) = &best {
            choice.take_from(&mut left);
        }
        out.sections.push(best);
        out.refused.push(found);
    }
    Ok(out)
}

/// Where a section of a can sits: only the first one of a reservoir's is held to the rectifier, the others are fed through
/// a choke or a resistor.
#[must_use]
pub fn place_of(position: Position, section: usize) -> Position {
    if position == Position::Reservoir && section > 0 { Position::Smoothing } else { position }
}

fn wiring(sections: usize) -> Vec<ChoiceReason> {
    let line = |text: String| ChoiceReason {
        rule: "R7",
        text,
        source: Source::practice("cans become separate parts"),
    };
    vec![
        line(format!(
            "one strip with {} lugs beside the old can, insulated, clear of the cover and of what gets hot",
            sections + 1
        )),
        line(format!(
            "all {sections} minus leads on one lug, and that to where the can's minus went: through a bias resistor \
             that is not the chassis"
        )),
        line(
            "each plus to the wires of its own section: note the can's signs before they are cut".to_owned(),
        ),
        line("leave the old can in place unconnected, or hide the new ones in its shell".to_owned()),
    ]
}
