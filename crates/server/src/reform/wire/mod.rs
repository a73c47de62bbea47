//! The JSON shapes of reforming.

mod plan;
mod run;
mod show;

pub use plan::{
    DischargeView, LeakageLimitsView, PlanAnswer, PlanQuestion, SimulateAnswer, StageView, SupplyBody,
    planned,
};
pub use run::{
    AcceptanceRow, BandView, CanSection, Candidate, CurveView, Desk, FaultBody, ForecastView, LiveEvent,
    NewCommand, NewMeter, NewRun, NewStart, OfPart, PastRun, QueuedRun, RunView, SaidView, SampleView,
    StageRow, TouchView,
};
pub use show::{line, view};
