//! Asking the simulated bench over TCP: readings, pitfalls, faults, and the dialogue itself.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

use std::time::{Duration, Instant};

use owl_core::quantity::{Hertz, Volt};
use owl_core::reading::{Mode, ReadQuantity, Setting, Shown};
use owl_instruments::address::Address;
use owl_instruments::answer::AnswerError;
use owl_instruments::meter::{Laid, MeterError, Taken, identify, read};
use owl_instruments::question::Measure;
use owl_instruments::stand_in::{Clips, Kind, StandIn, read_parts};
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;

const PARTS: &str = r#"
[[part]]
set = "Gull"
name = "R4"
ohms = 18400.0
composition = true
neighbours_ohms = 22000.0
[[part]]
set = "Gull"
name = "L2"
ohms = 640.0
henries = 9.0
core_loss = 0.2
[[part]]
set = "Gull"
name = "C6"
farads = 3.3e-8
low_leak_ohms = 60000.0
leak_ohms = 45000.0
leaks_from_volts = 100.0
[[part]]
set = "Gull"
name = "C8"
farads = 1e-8
low_leak_ohms = 8e8
leak_ohms = 1.2e7
leaks_from_volts = 150.0
charge_volts = 38.0
[[part]]
set = "Gull"
name = "C9"
farads = 1.5e-5
esr_ohms = 2.4
low_leak_ohms = 4e6
rated_volts = 300.0
idle_years = 8.0
[[part]]
set = "Gull"
name = "Q3"
gain = 74.0
base_volts = 0.212
"#;

async fn bench() -> StandIn {
    StandIn::start(0, Clips::new(read_parts(PARTS).unwrap(), 7)).await.unwrap()
}

fn at(bench: &StandIn, kind: Kind) -> Address {
    bench.address(kind).unwrap().to_string().parse().unwrap()
}

fn laid(part: &str, state: &'static str) -> Laid {
    Laid { part: format!("Gull/{part}"), state, hot: false }
}

fn of(quantity: ReadQuantity, mode: Mode, hertz: Option<f64>) -> Measure {
    Measure::Part { quantity, mode, frequency: hertz.map(|f| Hertz::new(f).unwrap()) }
}

fn value(taken: &Taken) -> f64 {
    match taken.shown {
        Shown::Value { si } => si,
        Shown::Overrange { .. } => panic!("overrange"),
    }
}

fn near(a: f64, b: f64, share: f64) {
    assert!((a / b - 1.0).abs() < share, "{a} against {b}");
}

#[tokio::test]
async fn a_resistor_reads_its_value_and_low_in_circuit_and_low_when_hot() {
    let bench = bench().await;
    let ohms = of(ReadQuantity::Resistance, Mode::Dc, None);
    let meter = at(&bench, Kind::Multimeter);
    let free = read(meter, ohms, Some(&laid("R4", "LIFT"))).await.unwrap();
    near(value(&free), 18400.0, 0.01);
    assert!(free.identity.contains("multimeter"));
    // Ohm's law: 18.4 kΩ beside 22 kΩ.
    let sits = read(meter, ohms, Some(&laid("R4", "CIRC"))).await.unwrap();
    near(value(&sits), 18400.0 * 22000.0 / 40400.0, 0.01);
    let hot = Laid { hot: true, ..laid("R4", "LIFT") };
    assert!(
        value(&read(meter, ohms, Some(&hot)).await.unwrap()) < 0.9 * 18400.0,
        "it reads low after the iron"
    );
    // Nothing on the clips is beyond every range.
    let empty = read(meter, ohms, Some(&laid("R99", "OUT"))).await.unwrap();
    assert_eq!(empty.shown, Shown::Overrange { ceiling_si: None });
}

#[tokio::test]
async fn the_traps_of_the_bench_are_built_in() {
    let bench = bench().await;
    let (lcr, multimeter) = (at(&bench, Kind::LcrMeter), at(&bench, Kind::Multimeter));
    // Alternating ohms of a coil are not its copper.
    let ac = read(lcr, of(ReadQuantity::Resistance, Mode::Ac, Some(1000.0)), Some(&laid("L2", "OUT")))
        .await
        .unwrap();
    let dc = read(multimeter, of(ReadQuantity::Resistance, Mode::Dc, None), Some(&laid("L2", "OUT")))
        .await
        .unwrap();
    near(value(&dc), 640.0, 0.01);
    assert!(value(&ac) > 10.0 * 640.0, "{}", value(&ac));
    assert_eq!(ac.frequency.map(Hertz::hertz), Some(1000.0), "it says at which frequency");
    // A leaky paper part reads more than it has at low volts: C (1 + D²), D = 1/(ωRC).
    let c = read(lcr, of(ReadQuantity::Capacitance, Mode::Ac, Some(120.0)), Some(&laid("C6", "OUT")))
        .await
        .unwrap();
    let d = 1.0 / (2.0 * std::f64::consts::PI * 120.0 * 60e3 * 3.3e-8);
    near(value(&c), 3.3e-8 * (1.0 + d * d), 0.02);
    assert!(value(&c) > 1.3 * 3.3e-8);
    // Charge left in a capacitor falsifies ohms; discharged, it does not.
    let ohms = of(ReadQuantity::Resistance, Mode::Dc, None);
    let charged =
        value(&read(multimeter, ohms, Some(&laid("C8", "OUT"))).await.unwrap_or_else(|e| panic!("{e}")));
    bench.clips.lock().unwrap().charge_volts = 0.0;
    let empty = read(multimeter, ohms, Some(&laid("C8", "OUT"))).await.unwrap();
    assert!(empty.shown == Shown::Overrange { ceiling_si: None } && charged > 0.0, "{charged} and {empty:?}");
}

#[tokio::test]
async fn a_leakage_tester_says_its_volts_and_its_switch_and_the_wrong_one_passes_bad_paper() {
    let bench = bench().await;
    let tester = at(&bench, Kind::LeakageTester);
    let leak = of(ReadQuantity::LeakageCurrent, Mode::Dc, None);
    let paper = read(tester, leak, Some(&laid("C8", "OUT"))).await.unwrap();
    assert_eq!((paper.voltage.map(Volt::volts), paper.setting), (Some(250.0), Some(Setting::Paper)));
    near(value(&paper), 250.0 / 1.2e7, 0.05);
    bench.clips.lock().unwrap().on_electrolytic = true;
    let wrong = read(tester, leak, Some(&laid("C8", "OUT"))).await.unwrap();
    assert_eq!(wrong.setting, Some(Setting::Electrolytic));
    assert!((value(&wrong) - 250.0 / 1.2e7).abs() > 2e-7, "its digits are too coarse for paper");
    // At a few volts it hides what it does at work.
    bench.clips.lock().unwrap().on_electrolytic = false;
    bench.clips.lock().unwrap().tester_volts = 25.0;
    assert!(value(&read(tester, leak, Some(&laid("C8", "OUT"))).await.unwrap()) < 1e-7);
}

#[tokio::test]
async fn the_reforming_supply_is_read_and_never_set() {
    let bench = bench().await;
    let supply = at(&bench, Kind::ReformingSupply);
    let on_clips = laid("C9", "OUT");
    near(1.0 + value(&read(supply, Measure::Volts, Some(&on_clips)).await.unwrap()), 1.0, 1e-3);
    {
        let mut clips = bench.clips.lock().unwrap();
        clips.on_supply();
        clips.supply_volts = 60.0;
    }
    tokio::time::sleep(Duration::from_millis(400)).await;
    let (volts, amperes) = (
        value(&read(supply, Measure::Volts, None).await.unwrap()),
        value(&read(supply, Measure::Current, None).await.unwrap()),
    );
    assert!(volts > 30.0 && volts < 60.0 && amperes > 0.0, "{volts} V, {amperes} A");
    let answers =
        say(&bench, Kind::ReformingSupply, "SOUR:VOLT 300\nOUTP ON\nSYST:ERR?\nSYST:ERR?\nSOUR:VOLT?\n", 3)
            .await;
    assert!(answers[0].contains("turned by hand") && answers[1].contains("turned by hand"), "{answers:?}");
    assert!(answers[2].starts_with("+6.0"), "{answers:?}");
}

#[tokio::test]
async fn what_goes_wrong_is_said_in_words() {
    let bench = bench().await;
    let meter = at(&bench, Kind::Multimeter);
    let ohms = of(ReadQuantity::Resistance, Mode::Dc, None);
    let fault = |name: &str| {
        let line = format!("SIM:FAUL \"{name}\"\n");
        let bench = &bench;
        async move { say(bench, Kind::Multimeter, &line, 0).await }
    };
    for (name, expected) in [
        ("PART", MeterError::HungUp(meter)),
        ("GARB", MeterError::Answer(AnswerError::Garbage("?#4.7k!".to_owned()))),
        ("ENDL", MeterError::TooLong(meter)),
    ] {
        fault(name).await;
        let refused = read(meter, ohms, None).await.unwrap_err();
        // Nonsense instead of an identity is met at the list of errors.
        assert_eq!(refused, expected, "{name}");
    }
    fault("NAN").await;
    assert_eq!(read(meter, ohms, None).await.unwrap_err(), MeterError::Answer(AnswerError::NotANumber));
    fault("OVER").await;
    assert_eq!(read(meter, ohms, None).await.unwrap().shown, Shown::Overrange { ceiling_si: None });
    fault("SLOW,300").await;
    assert!(read(meter, ohms, Some(&laid("R4", "OUT"))).await.is_ok(), "slow is not silent");
    fault("SIL").await;
    let begin = Instant::now();
    assert!(matches!(read(meter, ohms, None).await, Err(MeterError::Silent { seconds: 2, .. })));
    assert!(begin.elapsed() < Duration::from_secs(4));
    fault("NONE").await;
    assert!(identify(meter).await.unwrap().starts_with("Restless Owl,Simulated"));
    // What it does not measure it refuses, by its list of errors.
    let refused = read(meter, of(ReadQuantity::Inductance, Mode::Ac, None), None).await.unwrap_err();
    assert_eq!(refused, MeterError::Refused("Undefined header (-113)".to_owned()));
    drop(bench);
    tokio::time::sleep(Duration::from_millis(50)).await;
    assert_eq!(read(meter, ohms, None).await.unwrap_err(), MeterError::Unreachable(meter));
}

/// Says lines on a connection and reads so many answers.
async fn say(bench: &StandIn, kind: Kind, lines: &str, answers: usize) -> Vec<String> {
    let mut stream = TcpStream::connect(bench.address(kind).unwrap()).await.unwrap();
    stream.write_all(lines.as_bytes()).await.unwrap();
    let mut all = Vec::new();
    let mut read = BufReader::new(stream).lines();
    for _ in 0..answers {
        let line = tokio::time::timeout(Duration::from_secs(3), read.next_line()).await.unwrap().unwrap();
        all.push(line.unwrap());
    }
    if answers == 0 {
        tokio::time::sleep(Duration::from_millis(60)).await;
    }
    all
}

#[tokio::test]
async fn the_common_commands_and_the_list_of_errors() {
    // IEEE 488.2-1992, 10 (memory): *IDN? has four fields, *OPC? answers 1, *CLS empties the list of errors.
    let bench = bench().await;
    let lines = "*IDN?\n*RST;*OPC?\nNONSENSE 3\n*ESR?\nSYST:ERR?;SYST:ERR?\n*CLS\nSYSTem:VERSion?\nconfigure:capacitance\nCONF?\n*STB?\n";
    let a = say(&bench, Kind::Multimeter, lines, 7).await;
    assert_eq!(a[0].split(',').count(), 4);
    assert_eq!(a[1..6], ["1", "32", "-113,\"Undefined header\";0,\"No error\"", "1999.0", "CAP"]);
    assert_eq!(a[6], "0");
    let a = say(&bench, Kind::Multimeter, "FETC?\nSYST:ERR?\nMEAS:VOLT:DC?\nFETC?\n", 3).await;
    assert!(a[0].starts_with("-230"), "{a:?}");
    assert_eq!(a[1], a[2], "what was measured can be fetched again");
    // Readings repeat: the same seed, the same part, the same digits.
    let again = StandIn::start(0, Clips::new(read_parts(PARTS).unwrap(), 7)).await.unwrap();
    let ohms = of(ReadQuantity::Resistance, Mode::Dc, None);
    let one = read(at(&bench, Kind::Multimeter), ohms, Some(&laid("R4", "OUT"))).await.unwrap();
    let two = read(at(&again, Kind::Multimeter), ohms, Some(&laid("R4", "OUT"))).await.unwrap();
    assert_eq!(one, two);
}

#[tokio::test]
async fn the_transistor_tester_measures_gain_and_base() {
    let bench = bench().await;
    let lines = "SIM:CLIP \"Gull/Q3\"\nMEAS:HFE?\nMEAS:VBE?\nMEAS:RES?\nSYST:ERR?\n";
    let a = say(&bench, Kind::TransistorTester, lines, 3).await;
    near(a[0].parse().unwrap(), 74.0, 0.03);
    near(a[1].parse().unwrap(), 0.212, 0.02);
    assert!(a[2].starts_with("-113"), "it has no ohms: {a:?}");
}

#[test]
fn a_file_of_parts_that_makes_no_sense_is_refused_by_name() {
    assert!(
        read_parts("[[part]]\nset = \"A\"\nname = \"R1\"\nohms = -3.0")
            .unwrap_err()
            .to_string()
            .contains("A/R1: ohms")
    );
    assert!(read_parts("[[part]]\nresistance = 3").is_err());
    assert!(read_parts("nonsense").is_err());
    assert_eq!(read_parts("").unwrap(), vec![]);
}
