//! The demo's transistors: junctions, a lot to be paired, a bought part.

use anyhow::{Context, bail};
use axum::extract::State;
use owl_core::transistor::circuit::Stage;
use serde::Deserialize;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::transistor::identify::{DiodeReading, IdentifyQuestion};
use crate::transistor::inspection::{self, InspectionAnswer, InspectionQuestion, NewInspection};
use crate::transistor::junction::{self, NewJunctions};
use crate::transistor::lot;
use crate::transistor::lot::wire::{LotTyped, PieceTyped};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoLot {
    name: String,
    type_number: String,
    stage: Option<Stage>,
    test_current: String,
    emitter_resistor: String,
    idle_current: String,
    pieces: Vec<[String; 3]>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoInspection {
    type_number: String,
    bought_from: String,
    note: String,
    answers: Vec<InspectionAnswer>,
}

fn words(e: crate::error::ApiError) -> anyhow::Error {
    anyhow::anyhow!(e.to_string())
}

/// Six readings in the order first and second both ways, first and third, second and third; of a PNP the black probe
/// is the one that is named first.
pub async fn load_junctions(
    app: &App,
    part: Uuid,
    leads: [&String; 3],
    volts: &[String],
    pnp: bool,
) -> anyhow::Result<()> {
    let [a, b, c] = leads;
    let pairs = [(a, b), (b, a), (a, c), (c, a), (b, c), (c, b)];
    if volts.len() != pairs.len() {
        bail!("six readings are needed");
    }
    let readings = pairs
        .iter()
        .zip(volts)
        .map(|((first, second), typed)| {
            let (red, black) = if pnp { (second, first) } else { (first, second) };
            DiodeReading {
                red: (*red).clone(),
                black: (*black).clone(),
                volts: None,
                typed: Some(typed.clone()),
            }
        })
        .collect();
    let question = IdentifyQuestion {
        readings,
        gains: vec![],
        in_circuit: false,
        celsius: None,
        meter_current: None,
        further: None,
    };
    let new = NewJunctions { key: Uuid::now_v7(), question };
    let _done = junction::keep(State(app.clone()), Id(part), Body(new)).await.map_err(words)?;
    Ok(())
}

/// A lot to be paired.
pub async fn load_lot(app: &App, l: &DemoLot) -> anyhow::Result<()> {
    let new = LotTyped {
        name: l.name.clone(),
        type_number: l.type_number.clone(),
        stage: l.stage,
        test_current: l.test_current.clone(),
        emitter_resistor: l.emitter_resistor.clone(),
        idle_current: l.idle_current.clone(),
        pieces: l
            .pieces
            .iter()
            .map(|[label, gain, base_volts]| PieceTyped {
                label: label.clone(),
                gain: gain.clone(),
                base_volts: base_volts.clone(),
            })
            .collect(),
        version: None,
    };
    let done = lot::add(State(app.clone()), Id(Uuid::now_v7()), Body(new)).await;
    done.map(|_| ()).map_err(words).with_context(|| format!("demo lot {}", l.name))
}

/// A bought part that was inspected.
pub async fn load_inspection(app: &App, i: &DemoInspection) -> anyhow::Result<()> {
    let new = NewInspection {
        key: Uuid::now_v7(),
        question: InspectionQuestion { type_number: i.type_number.clone(), answers: i.answers.clone() },
        bought_from: i.bought_from.clone(),
        note: i.note.clone(),
    };
    let done = inspection::keep(State(app.clone()), Body(new)).await;
    done.map(|_| ()).map_err(words).with_context(|| format!("demo inspection of {}", i.type_number))
}
