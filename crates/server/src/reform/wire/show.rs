//! How a run is shown: what is on it, what to do now, whether a hand may go near, and what is foreseen.

use owl_core::named::Named;
use owl_core::quantity::{Ampere, Second, Volt};
use owl_core::reform::Sample;
use owl_core::reform::forecast::Forecast;
use owl_core::reform::run::{Ending, Phase, Touch, milliamperes};
use owl_core::reform::shape::curve_shape;
use time::OffsetDateTime;

use super::run::{AcceptanceRow, BandView, ForecastView, QueuedRun, RunView, SaidView, StageRow, TouchView};
use crate::amount::Amount;
use crate::error::ApiError;
use crate::table::reform::RunRow;
use crate::table::reform_samples::SaidRow;

/// Volts as they stand on the sign.
fn shown_volts(volts: f64) -> String {
    if volts.abs() >= 100.0 { format!("{volts:.0} V") } else { live_volts(volts).text }
}

fn span(seconds: f64) -> String {
    let minutes = (seconds / 60.0).round().max(0.0);
    if minutes < 60.0 {
        format!("{minutes:.0} min")
    } else {
        format!("{:.0} h {:.0} min", (minutes / 60.0).floor(), minutes % 60.0)
    }
}

/// A run in a line.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn line(row: &RunRow) -> Result<QueuedRun, ApiError> {
    let run = &row.run;
    let section = if row.section.is_empty() { String::new() } else { format!(" {}", row.section) };
    let place = row.position.map(|p| format!(" · {p}")).unwrap_or_default();
    let state = match &run.phase {
        Phase::Ready { .. } => span(row.expected_s),
        Phase::Feeding(f) => format!("{} of {}", f.stage + 1, run.plan.stages.len()),
        Phase::Emptying(e) if e.connected => "emptying".to_owned(),
        Phase::Emptying(_) => "may be charged".to_owned(),
        Phase::Over { ending } => ending.to_string(),
    };
    Ok(QueuedRun {
        id: row.id,
        part_id: row.part_id,
        ticket_id: row.ticket_id,
        part: format!("{}{section}", row.part),
        set: row.set.clone(),
        what: format!("{} {}{place}", run.plan.capacitance, run.plan.rated),
        mode: run.mode,
        phase: row.phase().to_owned(),
        state,
        safe: run.touch() == Touch::Safe && !row.adrift(),
        charged: matches!(run.phase, Phase::Feeding(_) | Phase::Emptying(_)),
        planned_at: None,
    })
}

/// A run with everything but its curve.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn view(
    row: &RunRow,
    said: &[SaidRow],
    foreseen: Option<&(Forecast, Vec<Sample>)>,
) -> Result<RunView, ApiError> {
    let run = &row.run;
    let from = run.fed_from_s.unwrap_or(run.now_s);
    let feeding = match &run.phase {
        Phase::Feeding(f) => Some(f),
        Phase::Ready { .. } | Phase::Emptying(_) | Phase::Over { .. } => None,
    };
    let ending: Option<Ending> = match &run.phase {
        Phase::Emptying(e) => Some(e.ending),
        Phase::Over { ending } => Some(*ending),
        Phase::Ready { .. } | Phase::Feeding(_) => None,
    };
    let a = &run.plan.acceptance;
    let limit_row = |name: &str, limit: Ampere| AcceptanceRow {
        name: name.to_owned(),
        limit: live_current(limit.amperes()).text,
        decides: limit == a.below,
    };
    let now_stage = match (feeding, ending) {
        (Some(f), _) => Some(f.stage),
        (None, Some(_)) if run.met => Some(run.plan.stages.len()),
        _ => None,
    };
    let adrift = row.adrift();
    Ok(RunView {
        line: line(row)?,
        sentence: if adrift { ADRIFT.to_owned() } else { run.sentence() },
        touch: touch(row),
        ending,
        scrap: ending.is_some_and(Ending::scrap),
        volts: run.volts.map(live_volts),
        amperes: run.amperes.map(live_current),
        ordered: run.order().fed().map(|v| v.to_string()),
        stage_s: feeding.map(|f| run.now_s - f.since_s),
        empty_in_s: run.empty_in().map(Second::seconds),
        held: feeding.is_some_and(|f| f.hold),
        adrift,
        speed: row.speed,
        at_s: run.now_s - from,
        aim: run.plan.aim.volts(),
        limit: a.below.amperes(),
        peak: run.plan.peak_current.amperes(),
        expected_s: row.expected_s,
        acceptance: vec![
            limit_row("bench figure", a.bench),
            limit_row("older military", a.military),
            limit_row("new parts", a.modern),
        ],
        rests_on: format!(
            "{} asks for {} at {}",
            row.school,
            live_current(a.below.amperes()).text,
            run.plan.aim
        ),
        stages: run
            .plan
            .stages
            .iter()
            .enumerate()
            .map(|(n, s)| StageRow {
                volts: s.volts.to_string(),
                go_on_below: live_current(s.go_on_below.amperes()).text,
                state: match now_stage {
                    Some(now) if n < now => "done",
                    Some(now) if n == now => "now",
                    _ => "to come",
                },
            })
            .collect(),
        cautions: run.plan.cautions.clone(),
        said: said
            .iter()
            .map(|s| Ok(SaidView { at_s: s.at_s - from, weight: s.weight, text: s.text.clone() }))
            .collect::<Result<_, ApiError>>()?,
        forecast: foreseen.map(|(f, samples)| forecast(row, f, samples, from)),
        leakage: row.leakage().map(|(volts, amperes)| format!("{amperes} at {volts}")),
        thinned: row.thinned.clone(),
    })
}

const ADRIFT: &str = "Nobody drives this run: the server that did is gone. It may be charged: do not touch.";

fn touch(row: &RunRow) -> TouchView {
    let run = &row.run;
    let safe = run.touch() == Touch::Safe && !row.adrift();
    let on = run.volts.map(|v| format!("{} on the capacitor", shown_volts(v)));
    let why = match &run.phase {
        _ if row.adrift() => "not measured since".to_owned(),
        Phase::Ready { .. } if run.volts.is_none() => "not measured yet".to_owned(),
        Phase::Emptying(e) if !e.connected => "it may be charged".to_owned(),
        Phase::Ready { .. } | Phase::Over { .. } if safe => {
            format!("{} measured, supply off", run.volts.map_or_else(String::new, shown_volts))
        }
        _ => on.unwrap_or_else(|| "it may be charged".to_owned()),
    };
    TouchView { safe, word: if safe { "Safe to touch" } else { "Do not touch" }.to_owned(), why }
}

fn forecast(row: &RunRow, f: &Forecast, samples: &[Sample], from: f64) -> ForecastView {
    let run = &row.run;
    let left = f.done_s.map(|d| (d - run.now_s).max(0.0));
    let since = match &run.phase {
        Phase::Feeding(stage) => stage.since_s,
        Phase::Ready { .. } | Phase::Emptying(_) | Phase::Over { .. } => 0.0,
    };
    let first = samples.partition_point(|s| s.at_s < since);
    let looks = curve_shape(&samples[first..]);
    let give_or_take = f.done_s.map(|_| format!("± {}", span(f.give_or_take_s)));
    let words = match (left, f.ending) {
        (Some(left), _) => format!("About {} more", span(left)),
        (None, Some(e)) => format!("As it looks it ends: {e}"),
        (None, None) => "No end in sight".to_owned(),
    };
    ForecastView {
        done_at: left.map(|l| OffsetDateTime::now_utc() + time::Duration::seconds_f64(l / row.speed)),
        give_or_take,
        words,
        look: looks,
        look_words: looks.sentence().to_owned(),
        band: f
            .band
            .iter()
            .map(|(t, least, most)| BandView { at_s: t - from, least: *least, most: *most })
            .collect(),
    }
}

/// Volts as they are read across a room: one decimal, whatever the size.
fn live_volts(value: f64) -> Amount {
    amount(value, format!("{value:.1}"), "V")
}

/// A current as it is read across a room: always in milliampere, so that no prefix jumps while it falls.
fn live_current(value: f64) -> Amount {
    let number = milliamperes(Ampere::computed(value));
    amount(value, number, "mA")
}

fn amount(value: f64, number: String, unit: &str) -> Amount {
    // A meter's minus zero is nothing.
    let number = if number.trim_start_matches('-').chars().all(|c| c == '0' || c == '.') {
        number.trim_start_matches('-').to_owned()
    } else {
        number.replace('-', "−")
    };
    Amount { value, text: format!("{number} {unit}"), number, unit: unit.to_owned() }
}

impl RunRow {
    /// What it leaks at its last fed reading, where that says something of the part.
    #[must_use]
    pub fn leakage(&self) -> Option<(Volt, Ampere)> {
        self.run.leak.map(|(v, i)| (Volt::computed(v), Ampere::computed(i.max(0.0))))
    }

    /// The phase as it is stored.
    #[must_use]
    pub fn phase(&self) -> &'static str {
        match self.run.phase {
            Phase::Ready { .. } => "ready",
            Phase::Feeding(_) => "feeding",
            Phase::Emptying(_) => "emptying",
            Phase::Over { .. } => "over",
        }
    }

    /// How it ended, as it is stored.
    #[must_use]
    pub fn ending(&self) -> Option<&'static str> {
        match &self.run.phase {
            Phase::Over { ending } => Some(ending.name()),
            Phase::Emptying(e) => Some(e.ending.name()),
            Phase::Ready { .. } | Phase::Feeding(_) => None,
        }
    }
}
