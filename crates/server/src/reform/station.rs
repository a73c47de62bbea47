//! The reforming bench of this server: its name on leases, and what it foresees.

use std::collections::HashMap;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

use owl_core::reform::Sample;
use owl_core::reform::forecast::{Forecast, forecast};
use owl_core::reform::run::Phase;
use tokio::sync::watch;
use uuid::Uuid;

use crate::aside::aside;
use crate::database::Database;
use crate::error::ApiError;
use crate::table::reform::RunRow;
use crate::table::reform_samples;

/// How often the end is foreseen anew.
const FORESEE: Duration = Duration::from_secs(4);
/// From so many readings the end is foreseen.
const FORESEEN_FROM: i64 = 400;

type Foreseen = (Instant, Arc<(Forecast, Vec<Sample>)>);

/// The reforming bench of this server: its name on leases, what it foresaw last, and when to end streams.
#[derive(Debug)]
pub struct Station {
    /// Its name.
    pub id: Uuid,
    stop: watch::Sender<bool>,
    foreseen: Mutex<HashMap<Uuid, Foreseen>>,
}

impl Default for Station {
    fn default() -> Self {
        Self { id: Uuid::new_v4(), stop: watch::Sender::new(false), foreseen: Mutex::default() }
    }
}

impl Station {
    /// Ends the streams and the driving.
    pub fn stop(&self) {
        self.stop.send_replace(true);
    }

    /// Hears of the end.
    #[must_use]
    pub fn stopping(&self) -> watch::Receiver<bool> {
        self.stop.subscribe()
    }

    /// What is foreseen of a run, anew every few seconds.
    pub(super) async fn foresee(
        &self,
        db: &Database,
        row: &RunRow,
    ) -> Result<Option<Arc<(Forecast, Vec<Sample>)>>, ApiError> {
        if !matches!(row.run.phase, Phase::Feeding(_)) {
            return Ok(None);
        }
        let known = self.foreseen.lock().ok().and_then(|f| f.get(&row.id).cloned());
        if let Some((at, known)) = known
            && at.elapsed() < FORESEE
        {
            return Ok(Some(known));
        }
        let samples: Vec<Sample> = reform_samples::after(db, row.id, 0, FORESEEN_FROM)
            .await?
            .iter()
            .map(reform_samples::SampleRow::sample)
            .collect();
        let run = row.run.clone();
        let foreseen = aside(move || forecast(&run, &samples).map(|f| (f, samples))).await?.map(Arc::new);
        if let (Some(f), Ok(mut all)) = (&foreseen, self.foreseen.lock()) {
            all.retain(|_, (at, _)| at.elapsed() < 10 * FORESEE);
            all.insert(row.id, (Instant::now(), f.clone()));
        }
        Ok(foreseen)
    }
}
