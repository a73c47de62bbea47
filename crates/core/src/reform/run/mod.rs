//! A run: the state machine that leads an electrolytic up to its voltage and empties it.
//!
//! Pure: the state and an event go in, the new state and what is to be said come out; the order to the supply follows
//! from the state. No order goes above a stage of the plan, and so never above the rating. Whatever cannot be
//! trusted (no reading, the same reading for ever, volts the wrong way round) turns the supply off. It is over only
//! when a meter has shown that the part is empty.

pub mod ending;
mod feeding;
mod said;
mod sentence;
mod watch;

use serde::{Deserialize, Serialize};

pub use self::ending::Ending;
pub use self::feeding::Feeding;
pub use self::said::{Said, Weight};
pub use self::sentence::milliamperes;
use self::sentence::words;
use super::plan::Plan;
use crate::named::named;
use crate::quantity::{Second, Volt};
use crate::supply::discharge::SAFE_VOLTS;

named! {
    /// Who turns the supply.
    "mode of reforming" ReformMode {
        /// The technician turns the knob; the station only reads.
        Guided = "guided",
        /// The station drives the simulation that ships with it.
        Simulated = "simulated bench",
    }
}

named! {
    /// What a technician can tell a run.
    "reform command" Command {
        /// Stay at this voltage.
        Hold = "hold",
        /// Go on by the plan.
        Resume = "resume",
        /// Supply off, empty it.
        Stop = "stop",
        /// It is hot or hisses: supply off, it is scrap.
        Hot = "hot",
        /// The discharge resistor is across it.
        Discharge = "discharge",
        /// How fast the simulated bench runs.
        Speed = "speed",
        /// A word for the record.
        Note = "note",
    }
}

/// Where a run is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub enum Phase {
    /// Before the first switch-on: supply off, discharge resistor on.
    Ready {
        /// Whether a meter has shown that the part is empty.
        seen_empty: bool,
    },
    /// The supply is on.
    Feeding(Feeding),
    /// The supply is off and the part is being emptied.
    Emptying(Emptying),
    /// It is over, and the part was seen empty.
    Over {
        /// How.
        ending: Ending,
    },
}

/// How far the emptying is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Emptying {
    /// How the feeding ended.
    pub ending: Ending,
    /// Since when, in second of the run.
    pub since_s: f64,
    /// From how many volts at that moment.
    pub from_volts: f64,
    /// Whether the resistor is across it.
    pub connected: bool,
    /// How many readings in a row were below the safe voltage.
    below: u8,
}

/// What the supply is to do.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Order {
    /// Off, and nothing across the part.
    Off,
    /// So many volts.
    Feed(Volt),
    /// Off, and the discharge resistor across the part.
    Discharge,
}

impl Order {
    /// The volts that it feeds, where it feeds.
    #[must_use]
    pub fn fed(self) -> Option<Volt> {
        match self {
            Self::Feed(volts) => Some(volts),
            Self::Off | Self::Discharge => None,
        }
    }
}

/// Whether a hand may go near.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Touch {
    /// Supply off and measured empty.
    Safe,
    /// Fed, or charged, or not measured since.
    DoNotTouch,
}

/// What a meter showed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Meter {
    /// Across the part; none where it showed nothing usable.
    pub volts: Option<f64>,
    /// Into the part; none where it showed nothing usable.
    pub amperes: Option<f64>,
}

/// What happens to a run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Event {
    /// Somebody says that all is connected and looked at twice.
    Start,
    /// A meter was read.
    Read(Meter),
    /// Time has passed.
    Tick,
    /// Stay at this voltage until told otherwise.
    Hold,
    /// Go on by the plan again.
    Resume,
    /// End it.
    Stop(Ending),
    /// Put the resistor across it.
    Discharge,
    /// The station was away and came back.
    Restarted,
}

/// A run.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Run {
    /// Its plan.
    pub plan: Plan,
    /// Who turns the supply.
    #[serde(rename = "way")]
    pub mode: ReformMode,
    /// Where it is.
    pub phase: Phase,
    /// The time of its last event, in second since its start.
    pub now_s: f64,
    /// When a meter was last read, in second.
    pub read_s: f64,
    /// When the supply was switched on, in second; none before.
    pub fed_from_s: Option<f64>,
    /// The last volts read.
    pub volts: Option<f64>,
    /// The last amperes read.
    pub amperes: Option<f64>,
    /// The last volts and amperes of a part that had settled at its voltage: what it leaks.
    pub leak: Option<(f64, f64)>,
    /// Whether the limits were met at the last voltage.
    pub met: bool,
    /// Whether somebody was warned that no reading comes.
    warned: bool,
}

/// What follows from an event.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// The run afterwards.
    pub run: Run,
    /// What is to be said, in order.
    pub said: Vec<Said>,
}

impl Run {
    /// A run that waits for the proof that the part is empty.
    #[must_use]
    pub fn new(plan: Plan, mode: ReformMode) -> Self {
        Self {
            plan,
            mode,
            phase: Phase::Ready { seen_empty: false },
            now_s: 0.0,
            read_s: 0.0,
            fed_from_s: None,
            volts: None,
            amperes: None,
            leak: None,
            met: false,
            warned: false,
        }
    }

    /// Lets an event happen at a time since the run's start. What comes with an earlier time than the last is late: a
    /// late reading is not looked at, and everything else counts as of now.
    #[must_use]
    pub fn step(mut self, at: Second, event: Event) -> Step {
        let mut said = Vec::new();
        let late = at.seconds() < self.now_s;
        self.now_s = self.now_s.max(at.seconds());
        match event {
            Event::Read(_) if late => {
                said.push(Said::note(self.now_s, "a reading came late and was not looked at"))
            }
            Event::Read(meter) => self.read(meter, &mut said),
            Event::Tick => {}
            Event::Start => self.start(&mut said),
            Event::Hold => self.hold(true, &mut said),
            Event::Resume => self.hold(false, &mut said),
            Event::Stop(ending) => {
                if matches!(self.phase, Phase::Feeding(_)) {
                    // Nobody calls it reformed but the readings.
                    let ending = if ending == Ending::Reformed { Ending::ByHand } else { ending };
                    self.end(ending, &mut said);
                }
            }
            Event::Discharge => {
                if let Phase::Emptying(e) = &mut self.phase {
                    e.connected = true;
                    e.since_s = self.now_s;
                }
            }
            Event::Restarted => self.restarted(&mut said),
        }
        self.watch_silence(&mut said);
        Step { run: self, said }
    }

    /// What the supply is to do now.
    #[must_use]
    pub fn order(&self) -> Order {
        match &self.phase {
            Phase::Ready { .. } => Order::Discharge,
            Phase::Feeding(f) => {
                let stage = self.plan.stages.get(f.stage).or(self.plan.stages.last());
                stage.map_or(Order::Off, |s| {
                    Order::Feed(if s.volts < self.plan.rated { s.volts } else { self.plan.rated })
                })
            }
            Phase::Emptying(e) if e.connected => Order::Discharge,
            Phase::Emptying(_) | Phase::Over { .. } => Order::Off,
        }
    }

    /// Whether a hand may go near.
    #[must_use]
    pub fn touch(&self) -> Touch {
        let empty = self.volts.is_some_and(|v| v.abs() < SAFE_VOLTS);
        match self.phase {
            Phase::Ready { seen_empty: true } | Phase::Over { .. } if empty => Touch::Safe,
            _ => Touch::DoNotTouch,
        }
    }

    /// Seconds until the part is safe by reckoning, while it is being emptied; it is measured all the same.
    #[must_use]
    pub fn empty_in(&self) -> Option<Second> {
        let Phase::Emptying(e) = &self.phase else { return None };
        if !e.connected {
            return None;
        }
        let whole = self.plan.empties_in(Volt::computed(e.from_volts)).seconds();
        Some(Second::computed((whole - (self.now_s - e.since_s)).max(0.0)))
    }

    fn start(&mut self, said: &mut Vec<Said>) {
        if !matches!(self.phase, Phase::Ready { .. }) {
            return;
        }
        if self.touch() != Touch::Safe {
            said.push(Said::warning(self.now_s, "not switched on: measure first that it is empty"));
            return;
        }
        self.phase = Phase::Feeding(Feeding::begin(0, self.now_s));
        (self.read_s, self.fed_from_s) = (self.now_s, Some(self.now_s));
        let first = self.stage_words(0);
        said.push(Said::note(self.now_s, &format!("switched on: {first}")));
    }

    fn hold(&mut self, hold: bool, said: &mut Vec<Said>) {
        if let Phase::Feeding(f) = &mut self.phase
            && f.hold != hold
        {
            f.hold = hold;
            let text = if hold { "held at this voltage" } else { "goes on by the plan" };
            said.push(Said::note(self.now_s, text));
        }
    }

    fn read(&mut self, meter: Meter, said: &mut Vec<Said>) {
        let finite = |v: Option<f64>| v.filter(|v| v.is_finite());
        let (volts, amperes) = (finite(meter.volts), finite(meter.amperes));
        match self.phase {
            Phase::Feeding(_) => {
                // Half a reading is none: the clock of silence runs on.
                let (Some(v), Some(i)) = (volts, amperes) else { return };
                (self.volts, self.amperes) = (Some(v), Some(i));
                self.read_s = self.now_s;
                self.warned = false;
                self.judge_reading(v, i, said);
            }
            Phase::Ready { .. } | Phase::Emptying(_) | Phase::Over { .. } => {
                let Some(v) = volts else { return };
                (self.volts, self.amperes) = (Some(v), amperes);
                self.read_s = self.now_s;
                self.off_reading(v, said);
            }
        }
    }

    /// A reading while the supply is off.
    fn off_reading(&mut self, volts: f64, said: &mut Vec<Said>) {
        let empty = volts.abs() < SAFE_VOLTS;
        match &mut self.phase {
            Phase::Ready { seen_empty } => {
                if empty != *seen_empty {
                    let text = if empty {
                        "measured empty".to_owned()
                    } else {
                        format!("{} are still on it: discharge it first", words(volts))
                    };
                    said.push(if empty {
                        Said::note(self.now_s, &text)
                    } else {
                        Said::warning(self.now_s, &text)
                    });
                }
                *seen_empty = empty;
            }
            Phase::Emptying(e) => {
                e.below = if empty && e.connected { e.below.saturating_add(1) } else { 0 };
                if e.below >= ENOUGH {
                    let ending = e.ending;
                    self.phase = Phase::Over { ending };
                    said.push(Said::note(
                        self.now_s,
                        &format!("empty: {} measured. {}", words(volts), ending.sentence()),
                    ));
                }
            }
            Phase::Over { ending } => {
                if !empty {
                    let text = format!("{} came back: it is discharged again", words(volts));
                    said.push(Said::warning(self.now_s, &text));
                    self.phase = Phase::Emptying(Emptying {
                        ending: *ending,
                        since_s: self.now_s,
                        from_volts: volts.abs(),
                        connected: true,
                        below: 0,
                    });
                }
            }
            Phase::Feeding(_) => {}
        }
    }

    /// The supply goes off and the part is emptied.
    fn end(&mut self, ending: Ending, said: &mut Vec<Said>) {
        let order = self.order().fed().map_or(0.0, Volt::volts);
        // A meter that cannot be trusted does not tell how little is on it.
        let from_volts =
            if ending.trusts_meter() { self.volts.map_or(order, f64::abs) } else { self.plan.rated.volts() };
        self.phase = Phase::Emptying(Emptying {
            ending,
            since_s: self.now_s,
            from_volts,
            connected: ending != Ending::Interrupted,
            below: 0,
        });
        let text = format!("supply off, emptying. {}", ending.sentence());
        said.push(if ending == Ending::Reformed {
            Said::note(self.now_s, &text)
        } else {
            Said::stop(self.now_s, &text)
        });
    }

    fn restarted(&mut self, said: &mut Vec<Said>) {
        match &mut self.phase {
            Phase::Feeding(_) => self.end(Ending::Interrupted, said),
            Phase::Emptying(e) => {
                (e.connected, e.below) = (false, 0);
                said.push(Said::stop(
                    self.now_s,
                    "the station was away while it was being emptied: it may be charged",
                ));
            }
            Phase::Ready { seen_empty } => *seen_empty = false,
            Phase::Over { .. } => {}
        }
    }
}

/// How many readings in a row are believed.
const ENOUGH: u8 = 2;
