//! How long the core takes for the questions that a page asks while someone types.
#![allow(missing_docs, clippy::unwrap_used)]

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use owl_core::feed::search::{Question, diagnose};
use owl_core::feed::{Element, Feed, FeedPart};
use owl_core::marking::{Colour, Hints, read_colours, read_text};
use owl_core::network::{Drive, Kind, Stock, Wanted, search};
use owl_core::part::{Capacitor, CapacitorFamily, Circuit, Family, Part, PartKind, Resistor};
use owl_core::preferred::{Series, between};
use owl_core::quantity::{Ampere, Farad, Fraction, Ohm, Second, Volt, Watt};
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::reform::bench::{Bench, Clip};
use owl_core::reform::forecast::{expected, forecast, lead};
use owl_core::reform::plan::{Ask, Plan, Supply};
use owl_core::reform::run::{Event, Meter, ReformMode, Run};
use owl_core::say::{Tray, understand};
use owl_core::transistor::circuit::{CircuitNeed, Stage};
use owl_core::transistor::device::{Device, device, devices};
use owl_core::transistor::equivalent::equivalents;
use owl_core::transistor::pairs::{Piece, pairs, quads};
use owl_core::verdict::{Case, Policy, School, judge};

/// A tray of 500 parts judged by one school, as when a ticket changes its school.
fn tray(c: &mut Criterion) {
    let ohm = |v: f64| Ohm::new(v).unwrap();
    let resistor = Part::Resistor(Resistor {
        family: Family::CarbonComposition,
        value: ohm(47e3),
        tolerance: Fraction::new(0.1).ok(),
        power: None,
    });
    let electrolytic = Part::Capacitor(Capacitor {
        family: Some(CapacitorFamily::Electrolytic),
        value: Farad::new(32e-6).unwrap(),
        minus: None,
        plus: None,
        rated: Volt::new(350.0).ok(),
        safety: None,
        years: None,
        new: false,
        test_warm: false,
        ppm_per_kelvin: None,
    });
    let free = |q, si| Reading { state: State::Lifted, ..Reading::of(q, Shown::Value { si }) };
    let ohms = [free(ReadQuantity::Resistance, 49e3)];
    let at_work =
        Reading { test_voltage: Volt::new(350.0).ok(), ..free(ReadQuantity::LeakageCurrent, 0.3e-3) };
    let of_can = [free(ReadQuantity::Capacitance, 34e-6), free(ReadQuantity::Esr, 2.0), at_work];
    let circuit = Circuit::default();
    let policy = Policy::of(School::KeepOriginal, false).unwrap();
    let case = |part, readings| Case {
        part,
        position: None,
        readings,
        partners: &[],
        circuit: &circuit,
        looks: &[],
    };
    c.bench_function("judge 500 parts by a school", |b| {
        b.iter(|| {
            for _ in 0..250 {
                black_box(judge(case(&resistor, &ohms), policy));
                black_box(judge(case(&electrolytic, &of_can), policy));
            }
        });
    });
}

fn rules(c: &mut Criterion) {
    c.bench_function("read four bands", |b| {
        b.iter(|| read_text(black_box("orange white yellow silver"), Hints::default()));
    });
    // With every colour that may have become another; the aim is under 200 µs.
    let row = Colour::list("brown grey brown silver").ok().flatten().unwrap_or_default();
    let measured = Hints { measured_si: Some(55e3), ..Hints::default() };
    let resistor = Hints { measured_si: Some(55e3), ..Hints::of(PartKind::Resistor) };
    c.bench_function("four bands with fading, a resistor", |b| {
        b.iter(|| read_colours(black_box(&row), resistor))
    });
    c.bench_function("four colours with fading, every scheme", |b| {
        b.iter(|| read_colours(black_box(&row), measured))
    });
    let six = Colour::list("orange white brown red violet brown").ok().flatten().unwrap_or_default();
    c.bench_function("six colours with fading, every scheme", |b| {
        b.iter(|| read_colours(black_box(&six), measured))
    });
    c.bench_function("a capacitor's print", |b| {
        b.iter(|| read_text(black_box("0.033 µF ±10 % 400 V X7R 8512"), Hints::default()));
    });
    let long = "9".repeat(10_000);
    c.bench_function("ten thousand characters", |b| b.iter(|| read_text(black_box(&long), Hints::default())));
    let dense = "1 ".repeat(60);
    c.bench_function("the longest marking that is looked at", |b| {
        b.iter(|| read_text(black_box(&dense), Hints::default()))
    });
    c.bench_function("understand a sentence", |b| {
        b.iter(|| understand(black_box("R31 390k 10% 1W plate load"), &Tray::default()));
    });
    tray(c);
    networks(c);
    reforming(c);
}

/// The ten best networks over seven decades. The aims: three of E24 5 ms, four of E24 100 ms, three of E96 100 ms,
/// four of E96 1 s, four of 400 drawer values with counts 500 ms.
fn networks(c: &mut Criterion) {
    let wanted = |max_parts| Wanted {
        kind: Kind::Resistor,
        target: 7321.0,
        within: None,
        max_parts,
        pinned: None,
        drive: None,
        power: None,
        voltage: None,
        limit: 10,
    };
    for (series, parts) in [(Series::E24, 3), (Series::E24, 4), (Series::E96, 3), (Series::E96, 4)] {
        let stock: Vec<Stock> = between(series, 1.0, 1e7).into_iter().map(Stock::plenty).collect();
        c.bench_function(&format!("{parts} parts of {series} over seven decades"), |b| {
            b.iter(|| search(black_box(&wanted(parts)), &stock));
        });
    }
    // 400 measured values spread over the decades as in drawers: most once or a few times.
    let drawers: Vec<Stock> = between(Series::E96, 10.0, 1e6)
        .into_iter()
        .enumerate()
        .map(|(i, v)| Stock::of(v * (1.0 + (i % 17) as f64 * 1e-3), 1 + (i % 5) as u32))
        .take(400)
        .collect();
    c.bench_function("4 parts of 400 drawer values with counts", |b| {
        b.iter(|| search(black_box(&wanted(4)), &drawers));
    });
    let load = Wanted {
        drive: Some(Drive::Voltage(Volt::new(100.0).unwrap())),
        power: Some(Watt::new(0.5).unwrap()),
        ..wanted(4)
    };
    let e24: Vec<Stock> = between(Series::E24, 1.0, 1e7).into_iter().map(Stock::plenty).collect();
    c.bench_function("4 parts of E24 that carry a load", |b| b.iter(|| search(black_box(&load), &e24)));
}

/// Reforming: an evening in the model, and what a watcher's forecast costs from two hours of readings.
fn reforming(c: &mut Criterion) {
    let supply = Supply {
        volts: Volt::new(450.0).unwrap(),
        series: Some(Ohm::new(33e3).unwrap()),
        series_rating: None,
        limit: None,
    };
    let ask = Ask {
        capacitance: Farad::new(32e-6).unwrap(),
        rated: Volt::new(450.0).unwrap(),
        working: Some(Volt::new(330.0).unwrap()),
        idle_years: 25.0,
        section: None,
        supply,
        polarity_known: true,
        vented: false,
    };
    let plan = Plan::make(&ask, Policy::of(School::TestFirst, false).unwrap()).unwrap();
    c.bench_function("a reform as assumed, to its end", |b| b.iter(|| expected(black_box(&plan))));
    let bench = Bench::with(Clip::Tired, plan.capacitance, plan.rated, plan.idle_years, 3);
    let every = Second::new(5.0).unwrap();
    let whole = lead(Run::new(plan.clone(), ReformMode::Simulated), bench, every);
    let seen: Vec<_> = whole.samples.iter().copied().take_while(|s| s.at_s < 7200.0).collect();
    let mut run = Run::new(plan, ReformMode::Simulated);
    for s in &seen {
        let at = Second::new(s.at_s).unwrap();
        run = run.step(at, Event::Read(Meter { volts: Some(s.volts), amperes: Some(s.amperes) })).run;
        run = run.step(at, Event::Start).run;
    }
    let thinned: Vec<_> = seen.iter().copied().step_by(4).collect();
    c.bench_function("the forecast after two hours", |b| b.iter(|| forecast(black_box(&run), &thinned)));
}

/// An equivalents query over fifty thousand types, as a workshop may have imported them; pairs and quads of the largest lot.
fn types(c: &mut Criterion) {
    let library: Vec<Device> = (0..50_000u32)
        .map(|i| {
            let of = &devices()[i as usize % devices().len()];
            // Each is a little different, so that none is skipped for being the same.
            let scale = 0.5 + f64::from(i % 977) / 500.0;
            Device {
                type_number: format!("{}-{i}", of.type_number),
                vceo_volts: of.vceo_volts.map(|v| v * scale),
                ic_amperes: of.ic_amperes.map(|v| v * scale),
                ..of.clone()
            }
        })
        .collect();
    let wanted = device("2N2219A").unwrap();
    let stocked = |t: &str| u32::from(t.ends_with('7'));
    let sheet = CircuitNeed::default();
    c.bench_function("equivalents among 50,000 types", |b| {
        b.iter(|| black_box(equivalents(wanted, &sheet, &library, stocked, 40)));
    });
    let circuit = CircuitNeed {
        stage: Some(Stage::Complementary),
        supply_volts: Some(24.0),
        load_ohms: Some(8.0),
        other_material: true,
        ..CircuitNeed::default()
    };
    c.bench_function("equivalents for a circuit among 50,000 types", |b| {
        b.iter(|| black_box(equivalents(wanted, &circuit, &library, stocked, 40)));
    });
    let lot: Vec<Piece> = (0..24u32)
        .map(|i| Piece {
            gain: 60.0 + f64::from(i * 37 % 101),
            base_volts: 0.6 + f64::from(i * 53 % 97) / 2000.0,
        })
        .collect();
    c.bench_function("pairs of 24", |b| b.iter(|| black_box(pairs(&lot, None).unwrap())));
    c.bench_function("5 pairs out of 24", |b| b.iter(|| black_box(pairs(&lot, Some(5)).unwrap())));
    c.bench_function("quads of 24", |b| b.iter(|| black_box(quads(&lot).unwrap())));
}

/// A feed of 20 nodes and 60 parts with one leaking capacitor, every node read.
fn feeds(c: &mut Criterion) {
    let part = |name: String, a: &str, b: &str, element| FeedPart {
        name,
        element,
        a: a.into(),
        b: b.into(),
        tolerance: None,
        rating: None,
    };
    let build = |leak: Option<usize>| {
        let mut parts = Vec::new();
        for i in 0..20 {
            let from = if i % 5 == 0 { "rail".to_owned() } else { format!("n{}", i - 1) };
            let to = format!("n{i}");
            let ohms = Ohm::new(1800.0 + 700.0 * i as f64).unwrap();
            parts.push(part(format!("R{i}"), &from, &to, Element::Resistor(ohms)));
            let across = match leak {
                Some(at) if at == i => Element::Resistor(Ohm::new(9e3).unwrap()),
                _ => Element::Capacitor(None),
            };
            parts.push(part(format!("C{i}"), &to, "ground", across));
            parts.push(part(format!("V{i}"), &to, "ground", Element::Current(Ampere::new(9e-4).unwrap())));
        }
        Feed::new(Volt::new(250.0).unwrap(), "ground", parts).unwrap()
    };
    let (good, bad) = (build(None), build(Some(7)));
    let truth = bad.healthy();
    let read: Vec<_> = good.nodes().iter().map(|n| (n.clone(), truth.volts(n).unwrap())).collect();
    c.bench_function("the guilty part among 60 on 20 nodes", |b| {
        b.iter(|| diagnose(black_box(&Question { feed: &good, measured: &read, meter: None })).unwrap());
    });
}

criterion_group! { name = benches; config = Criterion::default().sample_size(20); targets = rules, types, feeds }
criterion_main!(benches);
