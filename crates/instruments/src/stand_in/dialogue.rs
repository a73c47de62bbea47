//! What a simulated instrument answers to a line: IEEE 488.2 common commands, SCPI-1999 style, and its own `SIM:`.

use std::collections::VecDeque;
use std::time::Duration;

use super::MAKER;
use super::clips::{Clips, Connection};
use super::fault::Fault;
use super::header::is;
use super::meters::{Function, Kind, read};

/// What it says, when, and whether it hangs up then.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Said {
    /// With the end of the line.
    pub text: String,
    /// After how long.
    pub after: Duration,
    /// Whether it hangs up.
    pub hangs_up: bool,
}

/// The side of one conversation.
#[derive(Debug)]
pub struct Dialogue {
    kind: Kind,
    function: Option<Function>,
    frequency: f64,
    errors: VecDeque<(i32, &'static str)>,
    readings: u64,
    last: Option<String>,
}

/// A query has an answer, a command has none, and what is refused goes on the list of errors.
type Outcome = Result<Option<String>, (i32, &'static str)>;

const UNDEFINED: (i32, &str) = (-113, "Undefined header");
const MISSING: (i32, &str) = (-109, "Missing parameter");
const RANGE: (i32, &str) = (-222, "Data out of range");
const ILLEGAL: (i32, &str) = (-224, "Illegal parameter value");
const BY_HAND: (i32, &str) = (-221, "Settings conflict; this knob is turned by hand");
/// How many errors are kept (SCPI-1999, volume 1, 4.9: the last becomes "Queue overflow"; memory).
const QUEUE: usize = 16;

impl Dialogue {
    /// An instrument that was just switched on.
    #[must_use]
    pub fn new(kind: Kind) -> Self {
        Self {
            kind,
            function: kind.functions().first().copied(),
            frequency: kind.first_frequency(),
            errors: VecDeque::new(),
            readings: 0,
            last: None,
        }
    }

    /// Answers a line of one or more commands; `None` where nothing is answered.
    pub fn line(&mut self, line: &str, clips: &mut Clips) -> Option<Said> {
        let mut answers = Vec::new();
        for command in line.split(';').map(str::trim).filter(|c| !c.is_empty()) {
            match self.command(command, clips) {
                Ok(Some(answer)) => answers.push(answer),
                Ok(None) => {}
                Err(e) => self.note(e),
            }
        }
        if answers.is_empty() {
            return None;
        }
        let said = Said { text: format!("{}\n", answers.join(";")), after: Duration::ZERO, hangs_up: false };
        match clips.fault {
            None => Some(said),
            Some(Fault::Silent) => None,
            Some(Fault::Slow(ms)) => Some(Said { after: Duration::from_millis(ms), ..said }),
            Some(Fault::Partial) => {
                let half = said.text.len() / 2;
                Some(Said { text: said.text.chars().take(half).collect(), hangs_up: true, ..said })
            }
            Some(Fault::Garbage) => Some(Said { text: "\u{1}?#4.7k!\n".to_owned(), ..said }),
            Some(Fault::Endless) => Some(Said { text: "9".repeat(20_000), ..said }),
            Some(Fault::NotANumber | Fault::Overrange) => Some(said),
        }
    }

    fn note(&mut self, e: (i32, &'static str)) {
        if self.errors.len() < QUEUE {
            self.errors.push_back(e);
        } else if let Some(last) = self.errors.back_mut() {
            *last = (-350, "Queue overflow");
        }
    }

    fn command(&mut self, command: &str, clips: &mut Clips) -> Outcome {
        let (header, parameter) = command.split_once(char::is_whitespace).unwrap_or((command, ""));
        let parameter = parameter.trim();
        if let Some(rest) = header.strip_prefix('*') {
            return self.common(rest);
        }
        if let Some(rest) = after(header, "CONFigure") {
            let function = Function::of(self.kind, rest).ok_or(UNDEFINED)?;
            self.function = Some(function);
            return Ok(None);
        }
        if let Some(rest) = after(header, "MEASure").and_then(|r| r.strip_suffix('?')) {
            self.function = Some(Function::of(self.kind, rest).ok_or(UNDEFINED)?);
            return Ok(Some(self.reading(clips)));
        }
        match () {
            () if is(header, "READ?") => Ok(Some(self.reading(clips))),
            () if is(header, "FETCh?") => self.last.clone().map(Some).ok_or((-230, "Data corrupt or stale")),
            () if is(header, "CONFigure?") => {
                Ok(self.function.map(|f| f.header().chars().filter(|c| !c.is_ascii_lowercase()).collect()))
            }
            () if is(header, "SYSTem:ERRor?") || is(header, "SYSTem:ERRor:NEXT?") => {
                let (code, words) = self.errors.pop_front().unwrap_or((0, "No error"));
                Ok(Some(format!("{code},\"{words}\"")))
            }
            () if is(header, "SYSTem:VERSion?") => Ok(Some("1999.0".to_owned())),
            () if is(header, "SENSe:FREQuency?") => Ok(Some(written(self.frequency))),
            () if is(header, "SENSe:FREQuency") => self.tune(parameter),
            () if is(header, "SOURce:VOLTage?") => Ok(Some(written(match self.kind {
                Kind::LeakageTester => clips.tester_volts,
                Kind::ReformingSupply => clips.supply_volts,
                Kind::Multimeter | Kind::LcrMeter | Kind::TransistorTester => 0.0,
            }))),
            () if is(header, "SENSe:MODE?") && self.kind == Kind::LeakageTester => {
                Ok(Some(if clips.on_electrolytic { "ELEC" } else { "PAP" }.to_owned()))
            }
            // The knobs of what puts volts on a part are turned by hand, on the simulated bench too.
            () if is(header, "SOURce:VOLTage") || is(header, "OUTPut") || is(header, "SENSe:MODE") => {
                Err(BY_HAND)
            }
            () => simulate(header, parameter, clips),
        }
    }

    fn tune(&mut self, parameter: &str) -> Outcome {
        let hertz: f64 = parameter.parse().map_err(|_| MISSING)?;
        if self.kind != Kind::LcrMeter || !(20.0..=1e6).contains(&hertz) {
            return Err(RANGE);
        }
        self.frequency = hertz;
        Ok(None)
    }

    fn common(&mut self, command: &str) -> Outcome {
        match command.to_ascii_uppercase().as_str() {
            "IDN?" => Ok(Some(format!("{MAKER} {},1,{}", self.kind.called(), env!("CARGO_PKG_VERSION")))),
            "RST" => {
                (self.function, self.frequency) =
                    (self.kind.functions().first().copied(), self.kind.first_frequency());
                self.last = None;
                Ok(None)
            }
            "CLS" => {
                self.errors.clear();
                Ok(None)
            }
            "OPC" | "WAI" => Ok(None),
            "OPC?" => Ok(Some("1".to_owned())),
            "TST?" => Ok(Some("0".to_owned())),
            // Bit 2 of the status byte: something is on the list of errors.
            "STB?" => Ok(Some(if self.errors.is_empty() { "0" } else { "4" }.to_owned())),
            // Bit 5 of the event register: a command was not understood.
            "ESR?" => Ok(Some(if self.errors.is_empty() { "0" } else { "32" }.to_owned())),
            _ => Err(UNDEFINED),
        }
    }

    fn reading(&mut self, clips: &mut Clips) -> String {
        self.readings += 1;
        let value = match (clips.fault, self.function) {
            (Some(Fault::Overrange), _) | (_, None) => None,
            (Some(Fault::NotANumber), _) => return "9.91E+37".to_owned(),
            (_, Some(f)) => read(f, self.frequency, clips, self.readings),
        };
        let text = value.map_or_else(|| "9.90000E+37".to_owned(), written);
        self.last = Some(text.clone());
        text
    }
}

/// `CONF:CAP` behind `CONFigure` leaves `CAP`.
fn after<'a>(header: &'a str, root: &str) -> Option<&'a str> {
    let (first, rest) = header.trim_start_matches(':').split_once(':')?;
    is(first, root).then_some(rest)
}

fn written(value: f64) -> String {
    format!("{value:+.6E}")
}

/// What a hand does at the simulated bench.
fn simulate(header: &str, parameter: &str, clips: &mut Clips) -> Outcome {
    let number = || parameter.parse::<f64>().ok().filter(|v| v.is_finite() && *v >= 0.0).ok_or(ILLEGAL);
    let text = parameter.trim_matches('"');
    match () {
        () if is(header, "SIMulate:CLIP") => {
            clips.lay(text);
        }
        () if is(header, "SIMulate:CLIP?") => {
            let name = clips.part().map_or_else(String::new, |p| format!("{}/{}", p.set, p.name));
            return Ok(Some(format!("\"{name}\"")));
        }
        () if is(header, "SIMulate:STATe") => {
            clips.connection = match text.to_ascii_uppercase().as_str() {
                "CIRC" => Connection::InCircuit,
                "PULL" | "LIFT" | "OUT" => Connection::Free,
                _ => return Err(ILLEGAL),
            };
        }
        () if is(header, "SIMulate:HEAT") => clips.since_soldering_s = number()?,
        () if is(header, "SIMulate:DISCharge") => clips.charge_volts = 0.0,
        () if is(header, "SIMulate:TESTer:VOLTage") => clips.tester_volts = number()?.min(1000.0),
        () if is(header, "SIMulate:TESTer:MODE") => {
            clips.on_electrolytic = match text.to_ascii_uppercase().as_str() {
                "ELEC" => true,
                "PAP" => false,
                _ => return Err(ILLEGAL),
            };
        }
        () if is(header, "SIMulate:SUPPly:VOLTage") => {
            let volts = number()?.min(500.0);
            // What happened until the knob was turned is reckoned first.
            clips.on_supply();
            clips.supply_volts = volts;
        }
        () if is(header, "SIMulate:FAULt") => {
            let (name, ms) = text.split_once(',').unwrap_or((text, "3000"));
            clips.fault = match name.trim().to_ascii_uppercase().as_str() {
                "NONE" => None,
                "SIL" => Some(Fault::Silent),
                "SLOW" => Some(Fault::Slow(ms.trim().parse().map_err(|_| ILLEGAL)?)),
                "PART" => Some(Fault::Partial),
                "GARB" => Some(Fault::Garbage),
                "NAN" => Some(Fault::NotANumber),
                "OVER" => Some(Fault::Overrange),
                "ENDL" => Some(Fault::Endless),
                _ => return Err(ILLEGAL),
            };
        }
        () => return Err(UNDEFINED),
    }
    Ok(None)
}
