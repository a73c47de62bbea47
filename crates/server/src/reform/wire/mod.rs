//! The JSON shapes of reforming.

mod plan;
mod run;

pub use plan::{
    DischargeView, LeakageLimitsView, PlanAnswer, PlanQuestion, SimulateAnswer, StageView, SupplyBody,
    planned,
};
pub use run::{
    AcceptanceRow, CanSection, Candidate, CurveView, Desk, ForecastView, LiveEvent, NewCommand, NewMeter,
    NewRun, NewStart, OfPart, PastRun, RunLine, RunView, SaidView, SampleView, StageRow, TouchView, line,
    shown_volts, view,
};
