//! All of it: readings, verdicts with their rules, changes, curves, before and after.

use owl_core::named::Named;
use owl_core::proof::ProofOutcome;
use uuid::Uuid;

use super::page::Page;
use super::{ReportData, day, moment};
use crate::app::App;
use crate::chart::wire::{ChartCell, WhichRuns};
use crate::dialect::put;
use crate::error::ApiError;
use crate::tray::wire::PartView;

/// The page.
pub async fn page(app: &App, id: Uuid, t: &ReportData) -> Result<String, ApiError> {
    let mut p = Page::new(&t.ticket.name);
    p.soft(&format!(
        "{} · {} · {} · {}",
        t.workshop.name,
        put(&t.ticket.class.in_words),
        t.ticket.school,
        day(t.today)
    ));
    intake(&mut p, t);
    power(&mut p, app, id).await?;
    voltages(&mut p, app, id).await?;
    feeds(&mut p, app, id).await?;
    p.heading("Parts");
    for part in &t.parts {
        tell_part(&mut p, part);
        curves(&mut p, app, part).await?;
    }
    changes(&mut p, t);
    soaks(&mut p, t);
    p.line(&t.closing.words);
    Ok(p.done())
}

fn intake(p: &mut Page, t: &ReportData) {
    let i = &t.ticket.intake;
    p.heading("Intake");
    p.line(&t.ticket.complaint);
    p.line(&i.symptoms.join(", "));
    let said = |label: &str, text: &str| (!text.is_empty()).then(|| vec![label.to_owned(), text.to_owned()]);
    let amount = |label: &str, a: &Option<crate::amount::Amount>| {
        a.as_ref().map(|a| vec![label.to_owned(), a.text.clone()])
    };
    let rows: Vec<Vec<String>> = [
        said("wanted", &i.wants),
        said("supply", &i.supply),
        said("earlier work", &i.earlier_work),
        amount("line", &i.line),
        amount("draws", &i.watts),
        amount("line of the sheet", &i.sheet_line),
        amount("ohms a volt of the sheet's meter", &i.sheet_ohms_per_volt),
    ]
    .into_iter()
    .flatten()
    .collect();
    p.table(&["", ""], &rows);
}

async fn power(p: &mut Page, app: &App, id: Uuid) -> Result<(), ApiError> {
    let log = crate::first_power::view(app, id).await?;
    if log.ups.is_empty() {
        return Ok(());
    }
    p.heading("First power");
    let rows: Vec<Vec<String>> = log
        .ups
        .iter()
        .map(|u| {
            let text =
                |a: &Option<crate::amount::Amount>| a.as_ref().map(|a| a.text.clone()).unwrap_or_default();
            let signs: Vec<String> = u.signs.iter().map(|s| put(s.name())).collect();
            let says = u.says.as_ref().map(|s| s.call.to_string()).unwrap_or_default();
            vec![
                moment(u.done_at),
                u.volts.text.clone(),
                text(&u.bulb),
                text(&u.current),
                put(u.story.name()),
                [signs.join(", "), u.note.clone()].join(" ").trim().to_owned(),
                says,
            ]
        })
        .collect();
    p.table(&["when", "volts", "lamp", "current", "the lamp", "noticed", "so"], &rows);
    Ok(())
}

async fn voltages(p: &mut Page, app: &App, id: Uuid) -> Result<(), ApiError> {
    let first = crate::chart::of(app, id).await?;
    if first.runs.is_empty() {
        return Ok(());
    }
    p.heading("Voltages");
    // Two sets beside each other: the first against each later one.
    let later: Vec<Option<Uuid>> = match first.runs.len() {
        1 => vec![None],
        _ => first.runs.iter().skip(1).map(|r| Some(r.id)).collect(),
    };
    for after in later {
        let chart = crate::chart::view_of(app, id, &WhichRuns { before: first.before, after }).await?;
        let name = |id: Option<Uuid>| chart.runs.iter().find(|r| Some(r.id) == id);
        let label = |id: Option<Uuid>| {
            name(id).map_or(String::new(), |r| {
                r.line.as_ref().map_or(r.name.clone(), |l| format!("{}, line {}", r.name, l.text))
            })
        };
        let cell = |c: &Option<ChartCell>| {
            c.as_ref().map_or(String::new(), |c| {
                let off = c.deviation_text.clone().unwrap_or_default();
                format!("{} {off} {}", c.volts.text, c.status).trim().to_owned()
            })
        };
        let rows: Vec<Vec<String>> = chart
            .points
            .iter()
            .filter(|x| x.before.is_some() || x.after.is_some())
            .map(|x| {
                vec![
                    x.name.clone(),
                    x.role.as_deref().map_or_else(|| x.note.clone(), put),
                    x.sheet.as_ref().map(|a| a.text.clone()).unwrap_or_default(),
                    cell(&x.before),
                    cell(&x.after),
                    x.change.clone().unwrap_or_default(),
                ]
            })
            .collect();
        p.table(&["point", "", "sheet", &label(chart.before), &label(chart.after), "change"], &rows);
        for pair in chart.pairs.iter().filter(|x| !x.agree) {
            p.line(&format!("{} – {}: {}", pair.a, pair.b, put(&pair.text)));
        }
    }
    Ok(())
}

async fn feeds(p: &mut Page, app: &App, id: Uuid) -> Result<(), ApiError> {
    for feed in crate::feed::drawn::of(app, id).await?.feeds {
        p.heading(&format!("Feed: {}", feed.name));
        p.list(&feed.told.lines().map(str::to_owned).collect::<Vec<_>>());
        if let Some(answer) = &feed.answer {
            p.mark(&answer.says);
            let rows: Vec<Vec<String>> = answer
                .suspects
                .iter()
                .map(|s| vec![s.text.clone(), format!("{:.2}", s.explains), s.because.clone()])
                .collect();
            p.table(&["suspect", "fit", "because"], &rows);
        }
    }
    Ok(())
}

fn tell_part(p: &mut Page, part: &PartView) {
    p.part(&format!("{} · {}", part.strip.name, put(&part.in_words)));
    let place = part.strip.position.map(|x| put(x.name())).unwrap_or_default();
    p.soft([place, part.strip.place.clone(), part.strip.note.clone()].join(" · ").trim_matches([' ', '·']));
    let value = |a: &Option<crate::amount::Amount>| a.as_ref().map_or("–".to_owned(), |a| a.text.clone());
    let measured = part.measured.as_ref().and_then(|r| r.measured.as_ref()).map(|a| a.text.clone());
    p.line(&format!(
        "sheet {}, marked {}, measured {}",
        value(&part.strip.sheet),
        value(&part.strip.marked),
        measured.unwrap_or_else(|| "–".to_owned())
    ));
    let rows: Vec<Vec<String>> = part
        .readings
        .iter()
        .map(|r| {
            let how = [
                r.mode.to_string(),
                r.test_voltage.clone().unwrap_or_default(),
                r.test_frequency.clone().unwrap_or_default(),
                if r.hot { "hot".to_owned() } else { String::new() },
            ];
            let voided = r.voided.as_ref().map(|w| format!("voided: {w}")).unwrap_or_default();
            vec![
                moment(r.taken_at),
                r.called.clone(),
                r.measured.as_ref().map_or("over range".to_owned(), |a| a.text.clone()),
                put(r.state.name()),
                how.iter().filter(|s| !s.is_empty()).cloned().collect::<Vec<_>>().join(", "),
                r.instrument.clone(),
                voided,
            ]
        })
        .collect();
    p.table(&["when", "what", "read", "state", "how", "with", ""], &rows);
    if let Some(d) = &part.decision {
        let against =
            if d.offered == d.decided { String::new() } else { format!(" (offered: {})", d.offered) };
        let why = if d.why.is_empty() { String::new() } else { format!(": {}", d.why) };
        p.mark(&format!("Decided: {}{against}{why}. Rests on {}.", d.decided, d.school));
        p.list(
            &d.reasons
                .iter()
                .map(|r| format!("{} {} ({})", r.rule, put(&r.text), r.source))
                .collect::<Vec<_>>(),
        );
    } else if let Some(j) = &part.judgement {
        p.line(&format!("Verdict: {}, not decided.", j.verdict));
    }
    if let Some(a) = part.cause.as_ref().and_then(|c| c.answer.as_ref()) {
        p.line(&format!("Why it failed: {}", a.text));
    }
    for f in &part.fittings {
        let measured = match &f.measured {
            Some(m) => format!(", measured {}", m.text),
            None if f.unmeasured => ", not measured before".to_owned(),
            None => String::new(),
        };
        let proof = f.proof.as_ref().map_or(String::new(), |x| {
            let outcome = match x.outcome {
                ProofOutcome::Better => "Proven",
                ProofOutcome::AsBefore => "As before",
                ProofOutcome::Worse => "Worse",
            };
            let earlier = if x.earlier.is_empty() {
                String::new()
            } else {
                format!(" (earlier: {})", x.earlier.join("; "))
            };
            format!(" {outcome}: {}{earlier}", x.seen)
        });
        let undone = if f.withdrawn_at.is_some() { " Taken out again." } else { "" };
        let despite = if f.despite.is_empty() {
            String::new()
        } else {
            format!(" It fell short of its place; it went in because: {}.", f.despite)
        };
        p.line(&format!(
            "Fitted {}: {}{measured}.{despite}{proof}{undone}",
            moment(f.fitted_at),
            f.description
        ));
    }
}

async fn curves(p: &mut Page, app: &App, part: &PartView) -> Result<(), ApiError> {
    for run in crate::table::reform::of_part(&app.db, part.strip.id).await? {
        let svg = crate::reform::record::drawing(app, &run).await?;
        p.drawing(
            &svg,
            &format!("{} reformed: {}", part.strip.name, run.ending().unwrap_or_else(|| run.phase())),
        );
    }
    Ok(())
}

fn changes(p: &mut Page, t: &ReportData) {
    p.heading("Changes, in their order");
    let rows: Vec<Vec<String>> = t
        .changes
        .changes
        .iter()
        .map(|c| {
            let proven = match (c.outcome, c.undone_at.is_some()) {
                (_, true) => "taken back".to_owned(),
                (Some(ProofOutcome::Better), false) if c.alone => "proven alone".to_owned(),
                (Some(ProofOutcome::Better), false) => "proven with others open".to_owned(),
                (Some(other), false) => other.to_string(),
                (None, false) if c.is_open => "not proven".to_owned(),
                (None, false) => String::new(),
            };
            let over = if c.over_open.is_empty() {
                String::new()
            } else {
                format!("started anyway: {}", c.over_open)
            };
            vec![
                moment(c.begun_at),
                c.kind.to_string(),
                c.what.clone(),
                proven,
                [c.seen.clone().unwrap_or_default(), over].join(" ").trim().to_owned(),
            ]
        })
        .collect();
    p.table(&["when", "kind", "what", "", "seen"], &rows);
    let out: Vec<String> = t
        .changes
        .taken_out
        .iter()
        .filter(|o| !o.bag.is_empty())
        .map(|o| format!("{} lies in {}", o.part, o.bag))
        .collect();
    p.list(&out);
}

fn soaks(p: &mut Page, t: &ReportData) {
    for s in &t.closing.soaks {
        p.heading(&format!("Soak test, begun {}, ran {}", moment(s.begun_at), s.ran));
        let rows: Vec<Vec<String>> = s
            .checks
            .iter()
            .map(|c| {
                vec![c.after.clone(), if c.well { "well" } else { "not well" }.to_owned(), c.seen.clone()]
            })
            .collect();
        p.table(&["after", "", "seen"], &rows);
    }
}
