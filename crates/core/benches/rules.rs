//! How long the core takes for the questions that a page asks while someone types.
#![allow(missing_docs, clippy::unwrap_used)]

use std::hint::black_box;

use criterion::{Criterion, criterion_group, criterion_main};
use owl_core::marking::{Hints, read_text};
use owl_core::network::{Kind, Stock, Wanted, search};
use owl_core::preferred::{Series, between};
use owl_core::say::{Tray, understand};

fn rules(c: &mut Criterion) {
    c.bench_function("read four bands", |b| {
        b.iter(|| read_text(black_box("orange white yellow silver"), Hints::default()));
    });
    c.bench_function("understand a sentence", |b| {
        b.iter(|| understand(black_box("R31 390k 10% 1W plate load"), &Tray::default()));
    });
    for series in [Series::E24, Series::E96] {
        let stock: Vec<Stock> =
            between(series, 1.0, 1e7).into_iter().map(|value| Stock { value, count: None }).collect();
        let wanted = Wanted {
            kind: Kind::Resistor,
            target: 7321.0,
            within: None,
            max_parts: 3,
            drive: None,
            power: None,
            voltage: None,
            limit: 10,
        };
        c.bench_function(&format!("three parts of {series} over seven decades"), |b| {
            b.iter(|| search(black_box(&wanted), &stock));
        });
    }
}

criterion_group! { name = benches; config = Criterion::default().sample_size(20); targets = rules }
criterion_main!(benches);
