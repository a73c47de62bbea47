//! Asking an instrument for a reading: one conversation on a connection of its own.
//!
//! A late answer must never be taken for the answer to the next question, so a connection is thrown away with the
//! conversation. Where it breaks in the middle, the whole is tried once more.

use std::time::Duration;

use owl_core::quantity::{Hertz, Volt};
use owl_core::reading::{Setting, Shown};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use tokio::time::timeout;

use crate::address::Address;
use crate::answer::{AnswerError, error, number};
use crate::question::Measure;

/// How long a connection may take.
const CONNECT: Duration = Duration::from_secs(2);
/// How long an answer may take unless it is a measurement.
const ANSWER: Duration = Duration::from_secs(2);
/// How long a measurement may take.
const MEASURE: Duration = Duration::from_secs(8);
/// The longest line that is read.
const LONGEST: usize = 4096;

/// Why there is no reading.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum MeterError {
    /// Nobody there.
    #[error("nothing answers at {0}: is it switched on, and is the address right?")]
    Unreachable(Address),
    /// It says nothing.
    #[error("the instrument at {address} says nothing for {seconds} s")]
    Silent {
        /// Where.
        address: Address,
        /// For how long it was waited.
        seconds: u64,
    },
    /// It hung up in the middle.
    #[error("the instrument at {0} hung up in the middle of an answer")]
    HungUp(Address),
    /// It will not stop talking.
    #[error("the instrument at {0} sends more than a line")]
    TooLong(Address),
    /// It does not do that.
    #[error("the instrument refuses: {0}")]
    Refused(String),
    /// It cannot measure that at all.
    #[error("no instrument is asked for that")]
    NotAsked,
    /// It answers nonsense.
    #[error(transparent)]
    Answer(#[from] AnswerError),
}

/// A reading as an instrument gave it.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken {
    /// What it showed.
    pub shown: Shown,
    /// At which frequency it says that it measured.
    pub frequency: Option<Hertz>,
    /// At which voltage.
    pub voltage: Option<Volt>,
    /// How its switch stands.
    pub setting: Option<Setting>,
    /// What it calls itself.
    pub identity: String,
}

/// What to tell a stand-in beforehand: what lies on its clips. Real instruments never hear it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Laid {
    /// The part as `set/part`.
    pub part: String,
    /// How it is connected: `CIRC`, `PULL`, `LIFT`, `OUT`.
    pub state: &'static str,
    /// Whether it was just soldered.
    pub hot: bool,
}

/// Asks an instrument for a reading.
///
/// # Errors
/// [`MeterError`] in words that say where to look.
pub async fn read(address: Address, measure: Measure, laid: Option<&Laid>) -> Result<Taken, MeterError> {
    match once(address, measure, laid).await {
        Err(MeterError::HungUp(_)) => once(address, measure, laid).await,
        other => other,
    }
}

async fn once(address: Address, measure: Measure, laid: Option<&Laid>) -> Result<Taken, MeterError> {
    let chooses = measure.chooses().ok_or(MeterError::NotAsked)?;
    let mut line = Line::open(address).await?;
    let identity = line.ask("*IDN?", ANSWER).await?;
    line.tell("*CLS").await?;
    if let Some(laid) = laid.filter(|_| is_stand_in(&identity)) {
        line.tell(&format!("SIM:CLIP \"{}\"", laid.part.replace(['"', '\n', ';'], " "))).await?;
        line.tell(&format!("SIM:STAT {}", laid.state)).await?;
        line.tell(if laid.hot { "SIM:HEAT 0" } else { "SIM:HEAT 3600" }).await?;
    }
    for command in &chooses {
        line.tell(command).await?;
    }
    if let Some(refusal) = error(&line.ask("SYST:ERR?", ANSWER).await?)? {
        return Err(MeterError::Refused(refusal));
    }
    let shown = number(&line.ask("READ?", MEASURE).await?)?;
    let mut taken = Taken { shown, frequency: None, voltage: None, setting: None, identity };
    if measure.has_frequency() {
        taken.frequency = positive(&line.ask("SENS:FREQ?", ANSWER).await?).and_then(|v| Hertz::new(v).ok());
    }
    if measure.has_voltage() {
        taken.voltage = positive(&line.ask("SOUR:VOLT?", ANSWER).await?).and_then(|v| Volt::new(v).ok());
        taken.setting = match line.ask("SENS:MODE?", ANSWER).await?.trim() {
            "PAP" => Some(Setting::Paper),
            "ELEC" => Some(Setting::Electrolytic),
            _ => None,
        };
    }
    Ok(taken)
}

fn positive(line: &str) -> Option<f64> {
    match number(line) {
        Ok(Shown::Value { si }) if si > 0.0 => Some(si),
        _ => None,
    }
}

/// Whether it is the simulated bench that ships with the product.
#[must_use]
pub fn is_stand_in(identity: &str) -> bool {
    identity.starts_with(crate::stand_in::MAKER)
}

/// What an instrument calls itself.
///
/// # Errors
/// [`MeterError`] in words that say where to look.
pub async fn identify(address: Address) -> Result<String, MeterError> {
    Line::open(address).await?.ask("*IDN?", ANSWER).await
}

/// A connection on which lines go to and fro.
struct Line {
    address: Address,
    stream: TcpStream,
    rest: Vec<u8>,
}

impl Line {
    async fn open(address: Address) -> Result<Self, MeterError> {
        match timeout(CONNECT, TcpStream::connect(address.socket())).await {
            Ok(Ok(stream)) => Ok(Self { address, stream, rest: vec![] }),
            _ => Err(MeterError::Unreachable(address)),
        }
    }

    async fn tell(&mut self, command: &str) -> Result<(), MeterError> {
        let line = format!("{command}\n");
        match timeout(ANSWER, self.stream.write_all(line.as_bytes())).await {
            Ok(Ok(())) => Ok(()),
            _ => Err(MeterError::HungUp(self.address)),
        }
    }

    async fn ask(&mut self, question: &str, wait: Duration) -> Result<String, MeterError> {
        self.tell(question).await?;
        timeout(wait, self.line())
            .await
            .map_err(|_| MeterError::Silent { address: self.address, seconds: wait.as_secs() })?
    }

    async fn line(&mut self) -> Result<String, MeterError> {
        loop {
            if let Some(end) = self.rest.iter().position(|b| *b == b'\n') {
                let line: Vec<u8> = self.rest.drain(..=end).collect();
                return Ok(String::from_utf8_lossy(&line).trim().to_owned());
            }
            if self.rest.len() > LONGEST {
                return Err(MeterError::TooLong(self.address));
            }
            let mut some = [0; 512];
            match self.stream.read(&mut some).await {
                Ok(n) if n > 0 => self.rest.extend_from_slice(some.get(..n).unwrap_or_default()),
                // Half a line is no answer.
                _ => return Err(MeterError::HungUp(self.address)),
            }
        }
    }
}
