//! Networks against an independent brute force, and worked examples of common practice.
#![allow(clippy::unwrap_used, missing_docs)]

use std::ops::ControlFlow;

use owl_core::network::{
    Drive, Kind, SearchError, Stock, Tree, Wanted, search, search_while, shares, spread,
};
use owl_core::preferred::{Series, between};
use owl_core::quantity::{Ampere, Fraction, Volt, Watt};
use proptest::prelude::*;

fn plenty(values: &[f64]) -> Vec<Stock> {
    values.iter().map(|v| Stock::plenty(*v)).collect()
}

fn wanted(target: f64, max_parts: usize) -> Wanted {
    Wanted {
        kind: Kind::Resistor,
        target,
        within: None,
        max_parts,
        pinned: None,
        drive: None,
        power: None,
        voltage: None,
        limit: 10,
    }
}

/// Every network of up to four parts, the slow way and by another road than the search: every multiset of values
/// is split in two in every way, and the halves are joined both ways.
fn brute_force(kind: Kind, target: f64, values: &[f64], max_parts: usize) -> Vec<f64> {
    let mut seen = std::collections::BTreeMap::new();
    let n = values.len();
    let mut all = Vec::new();
    for size in 1..=max_parts {
        let mut picks = vec![0; size];
        'next: loop {
            all.extend(wholes(kind, values, &picks, &mut seen).iter().map(|w| w.1));
            for i in (0..size).rev() {
                if picks[i] + 1 < n {
                    let next = picks[i] + 1;
                    picks[i..].fill(next);
                    continue 'next;
                }
            }
            break;
        }
    }
    let mut errors: Vec<f64> = all.iter().map(|v| (v / target - 1.0).abs()).collect();
    errors.sort_by(f64::total_cmp);
    errors
}

/// The different networks of exactly these parts: a text that tells them apart, and the value.
fn wholes(
    kind: Kind,
    values: &[f64],
    picks: &[usize],
    seen: &mut std::collections::BTreeMap<Vec<usize>, Vec<(String, f64)>>,
) -> Vec<(String, f64)> {
    if let [one] = picks {
        return vec![(format!("{one}"), values[*one])];
    }
    if let Some(known) = seen.get(picks) {
        return known.clone();
    }
    let adds = |s: bool| s == (kind == Kind::Resistor);
    // Operands of a join, flattened, so that a+(b+c) and (a+b)+c have one text.
    let operands = |text: &str, sign: char| -> Vec<String> {
        match text.strip_prefix(sign).and_then(|t| t.strip_suffix('.')) {
            Some(inside) => {
                let (mut depth, mut out, mut word) = (0, vec![], String::new());
                for c in inside.chars() {
                    match c {
                        's' | 'p' => depth += 1,
                        '.' => depth -= 1,
                        ' ' if depth == 0 => {
                            out.push(std::mem::take(&mut word));
                            continue;
                        }
                        _ => {}
                    }
                    word.push(c);
                }
                out.push(word);
                out
            }
            None => vec![text.to_owned()],
        }
    };
    let mut out = std::collections::BTreeMap::new();
    for mask in 1..(1usize << picks.len()) - 1 {
        let of = |want: bool| -> Vec<usize> {
            picks.iter().enumerate().filter(|(i, _)| (mask >> i & 1 == 1) == want).map(|(_, p)| *p).collect()
        };
        for (x, a) in wholes(kind, values, &of(true), seen) {
            for (y, b) in wholes(kind, values, &of(false), seen) {
                for series in [true, false] {
                    let value = if adds(series) { a + b } else { 1.0 / (1.0 / a + 1.0 / b) };
                    let sign = if series { 's' } else { 'p' };
                    let mut parts = operands(&x, sign);
                    parts.extend(operands(&y, sign));
                    parts.sort();
                    out.insert(format!("{sign}{}.", parts.join(" ")), value);
                }
            }
        }
    }
    let out: Vec<(String, f64)> = out.into_iter().collect();
    seen.insert(picks.to_vec(), out.clone());
    out
}

fn agrees(kind: Kind, target: f64, values: &[f64], max_parts: usize, limit: usize) {
    let question = Wanted { kind, limit, ..wanted(target, max_parts) };
    let ours: Vec<f64> =
        search(&question, &plenty(values)).unwrap().networks.iter().map(|f| f.error.abs()).collect();
    let theirs = brute_force(kind, target, values, max_parts);
    assert_eq!(ours.len(), limit.min(theirs.len()));
    for (a, b) in ours.iter().zip(&theirs) {
        assert!((a - b).abs() < 1e-9, "{target} of {values:?}: {ours:?} for {:?}", &theirs[..limit]);
    }
}

#[test]
fn the_search_agrees_with_brute_force_over_a_whole_series() {
    let values = between(Series::E12, 10.0, 1e4);
    for target in [118.0, 1234.5, 3.3, 99_999.0, 5000.0] {
        agrees(Kind::Resistor, target, &values, 3, 10);
    }
    agrees(Kind::Capacitor, 6.2e-9, &between(Series::E6, 1e-10, 1e-7), 3, 10);
    agrees(Kind::Resistor, 17.0, &between(Series::E24, 1.0, 1e3), 2, 20);
    agrees(Kind::Resistor, 17.0, &values, 1, 5);
    // A chain found by way of each of its parts must not crowd out the next best network.
    agrees(Kind::Resistor, 2506.95, &[206.0, 823.0], 3, 6);
}

/// Common practice, no source: 180 Ω with 3.3 kΩ across it makes 170 Ω within half a percent; two
/// 33 kΩ in parallel make 16.5 kΩ.
#[test]
fn the_usual_makeshifts_are_found() {
    let found =
        search(&Wanted { limit: 3, ..wanted(170.0, 2) }, &plenty(&[180.0, 3300.0, 150.0, 1000.0])).unwrap();
    let best = &found.networks[0];
    assert_eq!(best.tree.expression(Kind::Resistor), "3.3k ∥ 180");
    assert!((best.value - 170.69).abs() < 0.01 && best.error.abs() < 0.005);
    let two = search(&wanted(16.5e3, 2), &plenty(&[33e3, 10e3])).unwrap();
    assert_eq!(two.networks[0].tree, Tree::Parallel(vec![Tree::Part(33e3), Tree::Part(33e3)]));
    assert!(two.networks[0].error.abs() < 1e-12);
}

#[test]
fn stock_that_is_used_up_is_not_used_twice() {
    let one = [Stock::of(100.0, 1), Stock::of(47.0, 2)];
    let found = search(&Wanted { limit: 50, ..wanted(200.0, 3) }, &one).unwrap();
    let hundreds = |t: &Tree| t.parts().iter().filter(|v| **v == 100.0).count();
    let small = |t: &Tree| t.parts().iter().filter(|v| **v == 47.0).count();
    assert!(found.networks.iter().all(|f| hundreds(&f.tree) <= 1 && small(&f.tree) <= 2));
    assert!((found.networks[0].value - 194.0).abs() < 1e-9, "{}", found.networks[0].value);
    let none = [Stock::of(100.0, 0)];
    assert!(search(&wanted(100.0, 3), &none).unwrap().networks.is_empty());
}

/// Kirchhoff's and Ohm's laws, worked by hand: 10 V over 60 Ω + (80 Ω ∥ 80 Ω).
#[test]
fn each_part_has_its_share() {
    let tree = Tree::Series(vec![Tree::Part(60.0), Tree::Parallel(vec![Tree::Part(80.0), Tree::Part(80.0)])]);
    let by_volts = shares(&tree, Kind::Resistor, Some(Drive::Voltage(Volt::new(10.0).unwrap())));
    let volts: Vec<f64> = by_volts.iter().map(|s| s.volts.unwrap()).collect();
    assert!(volts.iter().zip([6.0, 4.0, 4.0]).all(|(a, b)| (a - b).abs() < 1e-12), "{volts:?}");
    assert!((by_volts[0].watts.unwrap() - 0.6).abs() < 1e-12);
    assert!((by_volts[1].amperes.unwrap() - 0.05).abs() < 1e-12);
    let by_current = shares(&tree, Kind::Resistor, Some(Drive::Current(Ampere::new(0.1).unwrap())));
    assert!((by_current[2].watts.unwrap() - 0.2).abs() < 1e-12);
    assert!(shares(&tree, Kind::Resistor, None)[0].volts.is_none());
    // Capacitors: 30 V over 10 nF in series with 20 nF stands 20 V on the smaller one.
    let caps = Tree::Series(vec![Tree::Part(10e-9), Tree::Part(20e-9)]);
    let c = shares(&caps, Kind::Capacitor, Some(Drive::Voltage(Volt::new(30.0).unwrap())));
    assert!((c[0].volts.unwrap() - 20.0).abs() < 1e-9 && c[0].watts.is_none());
}

/// `s(100 p(47 33))`, as tests/cases/network/make.py writes it.
fn network(text: &str) -> Tree {
    fn one(rest: &mut &str) -> Tree {
        if let Some(inside) = rest.strip_prefix("s(").or_else(|| rest.strip_prefix("p(")) {
            let series = rest.starts_with('s');
            *rest = inside;
            let mut parts = vec![];
            loop {
                parts.push(one(rest));
                match rest.chars().next() {
                    Some(' ') => *rest = &rest[1..],
                    _ => break,
                }
            }
            *rest = &rest[1..];
            return if series { Tree::Series(parts) } else { Tree::Parallel(parts) };
        }
        let end = rest.find([' ', ')']).unwrap_or(rest.len());
        let (number, tail) = rest.split_at(end);
        *rest = tail;
        Tree::Part(number.parse().unwrap())
    }
    let mut rest = text;
    one(&mut rest)
}

/// The circuit simulator ngspice 39, by tests/cases/network/make.py: the volts across each part.
#[test]
fn the_shares_agree_with_a_circuit_simulator() {
    let rows = csv::Reader::from_reader(include_str!("cases/network/ngspice.csv").as_bytes())
        .deserialize::<(String, f64, usize, f64, String)>()
        .map(Result::unwrap)
        .collect::<Vec<_>>();
    assert!(rows.len() > 150);
    for (text, volts, part, across, _) in rows {
        let tree = network(&text);
        let drive = Some(Drive::Voltage(Volt::new(volts).unwrap()));
        let ours = shares(&tree, Kind::Resistor, drive)[part].volts.unwrap();
        assert!((ours - across).abs() <= 2e-6 * volts, "{text}, part {part}: {ours} for {across}");
    }
}

#[test]
fn a_network_is_written_as_a_person_would() {
    let tree = network("p(s(100 p(4700 33000)) 1000000)");
    assert_eq!(tree.expression(Kind::Resistor), "(100 + (4.7k ∥ 33k)) ∥ 1M");
    assert_eq!(tree.parts(), [100.0, 4700.0, 33e3, 1e6]);
    assert_eq!(Tree::Part(2.2e-8).expression(Kind::Capacitor), "22n");
}

#[test]
fn a_rating_leaves_out_what_would_burn() {
    let question = Wanted {
        drive: Some(Drive::Voltage(Volt::new(20.0).unwrap())),
        power: Some(Watt::new(0.25).unwrap()),
        limit: 5,
        ..wanted(1000.0, 2)
    };
    // 20 V over 1 kΩ is 0.4 W: one quarter-watt part burns, two halves of it do not.
    let found = search(&question, &plenty(&[1000.0, 2000.0, 500.0])).unwrap();
    assert_eq!(found.networks[0].tree.parts().len(), 2);
    assert!(found.networks.iter().all(|f| f.shares.iter().all(|s| s.watts.unwrap() <= 0.25)));
    let no_load = Wanted { drive: None, ..question };
    assert_eq!(search(&no_load, &plenty(&[1.0])), Err(SearchError::RatingWithoutLoad));
}

/// All that a search with a limit of results above their number brings, the slow way: everything, then weighed.
fn by_hand(question: &Wanted, stock: &[Stock]) -> Vec<f64> {
    let free = Wanted {
        drive: None,
        power: None,
        voltage: None,
        pinned: None,
        within: None,
        limit: 100,
        ..*question
    };
    // Few enough values that a hundred networks are all there are.
    let all =
        search(&free, &stock.iter().map(|s| Stock { power: None, voltage: None, ..*s }).collect::<Vec<_>>());
    let stands = |f: &owl_core::network::Found| {
        let carried = shares(&f.tree, question.kind, question.drive);
        carried.iter().zip(&f.picks).all(|(s, i)| {
            let (power, voltage) =
                (stock[*i].power.or(question.power), stock[*i].voltage.or(question.voltage));
            s.watts.zip(power).is_none_or(|(w, p)| w <= p.watts() * (1.0 + 1e-9))
                && s.volts.zip(voltage).is_none_or(|(v, most)| v.abs() <= most.volts() * (1.0 + 1e-9))
        })
    };
    let all = all.unwrap().networks;
    assert!(all.len() < 100, "too many to be sure");
    let keeps = |f: &&owl_core::network::Found| {
        stands(f)
            && f.error.abs() <= question.within.unwrap_or(0.25)
            && question.pinned.is_none_or(|p| f.picks.contains(&p))
    };
    all.iter().filter(keeps).map(|f| f.error.abs()).collect()
}

#[test]
fn a_part_that_must_be_in_it_is_in_it() {
    let values = between(Series::E12, 10.0, 1e4);
    let stock = plenty(&values);
    let at = values.iter().position(|v| *v == 180.0).unwrap();
    for (target, parts) in [(170.0, 2), (170.0, 3), (170.0, 4), (1234.0, 4), (20.0, 4)] {
        let question = Wanted { pinned: Some(at), limit: 30, ..wanted(target, parts) };
        let pinned = search(&question, &stock).unwrap();
        assert!(pinned.networks.iter().all(|f| f.picks.contains(&at)));
        // The one part that there is: everything that holds it once, as near as the free search reaches.
        let free = search(&Wanted { pinned: None, limit: 100, ..question }, &stock).unwrap();
        let reach = free.networks.last().unwrap().error.abs() * (1.0 - 1e-9);
        let once = |f: &&owl_core::network::Found| f.picks.iter().filter(|i| **i == at).count() == 1;
        let errors =
            |all: Vec<f64>| -> Vec<f64> { all.into_iter().filter(|e| *e < reach).take(30).collect() };
        let theirs = errors(free.networks.iter().filter(once).map(|f| f.error.abs()).collect());
        let ours = errors(pinned.networks.iter().map(|f| f.error.abs()).collect());
        assert!(ours.len() == theirs.len() && ours.iter().zip(&theirs).all(|(a, b)| (a - b).abs() < 1e-9));
    }
    // Common practice, no source: 3.3 kΩ across a 180.
    let across = Wanted { pinned: Some(at), limit: 1, ..wanted(170.0, 2) };
    assert_eq!(search(&across, &stock).unwrap().networks[0].tree.expression(Kind::Resistor), "3.3k ∥ 180");
    let missing = Wanted { pinned: Some(9999), ..wanted(170.0, 2) };
    assert_eq!(search(&missing, &stock), Err(SearchError::Pinned));
}

#[test]
fn each_part_is_held_against_its_own_rating() {
    let own = |value, watts| Stock { power: Watt::new(watts).ok(), ..Stock::plenty(value) };
    // 30 V over 300 Ω is 3 W: two 150 Ω carry one and a half each.
    let stock = [own(150.0, 1.0), own(151.0, 2.0), own(300.0, 2.0)];
    let question =
        Wanted { drive: Some(Drive::Voltage(Volt::new(30.0).unwrap())), limit: 100, ..wanted(300.0, 2) };
    let found = search(&question, &stock).unwrap();
    assert_eq!(found.networks[0].tree, Tree::Series(vec![Tree::Part(151.0), Tree::Part(151.0)]));
    let errors: Vec<f64> = found.networks.iter().map(|f| f.error.abs()).collect();
    assert_eq!(errors, by_hand(&question, &stock));
}

/// Common practice, no source: unlike capacitors in series share the volts unequally, the smallest has the most.
#[test]
fn capacitors_in_series_are_held_against_their_volts() {
    let stock = [
        Stock { voltage: Volt::new(100.0).ok(), ..Stock::of(10e-9, 2) },
        Stock { voltage: Volt::new(250.0).ok(), ..Stock::of(22e-9, 2) },
        Stock { voltage: Volt::new(50.0).ok(), ..Stock::of(6.8e-9, 1) },
    ];
    for parts in 2..=4 {
        let question = Wanted {
            kind: Kind::Capacitor,
            drive: Some(Drive::Voltage(Volt::new(180.0).unwrap())),
            limit: 100,
            within: Some(0.9),
            ..wanted(5e-9, parts)
        };
        let found = search(&question, &stock).unwrap();
        let errors: Vec<f64> = found.networks.iter().map(|f| f.error.abs()).collect();
        assert!(!errors.is_empty());
        if parts < 4 {
            assert_eq!(errors, by_hand(&question, &stock));
        }
    }
}

/// Handbook: two equal parts of 10 % are 10 % at worst and 10/√2 by the sum of squares; the small one across a large
/// one hardly counts.
#[test]
fn tolerances_add_up_two_ways() {
    let tree = network("s(100 100)");
    let s = spread(&tree, Kind::Resistor, &[(0.1, 0.1), (0.1, 0.1)]);
    assert!((s.low - 180.0).abs() < 1e-9 && (s.high - 220.0).abs() < 1e-9);
    assert!((s.root_sum_square - 0.1 / 2f64.sqrt()).abs() < 1e-12);
    let across = spread(&network("p(100 10000)"), Kind::Resistor, &[(0.0, 0.0), (0.2, 0.2)]);
    assert!(across.root_sum_square < 0.0021 && across.high < 99.3);
    let found =
        search(&wanted(200.0, 2), &[Stock { tolerance: Fraction::new(0.05).ok(), ..Stock::plenty(100.0) }]);
    assert!((found.unwrap().networks[0].spread.unwrap().high - 210.0).abs() < 1e-9);
}

#[test]
fn a_search_can_be_stopped_and_shows_its_best_so_far() {
    let stock = plenty(&between(Series::E96, 1.0, 1e6));
    let mut seen = Vec::new();
    let stopped = search_while(&wanted(7321.0, 4), &stock, &mut |best| {
        seen.push(best());
        if seen.len() == 3 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    })
    .unwrap();
    assert!(!stopped.complete && seen.len() == 3 && seen[2].len() == 10);
    assert!(seen[2][9].error.abs() <= seen[1][9].error.abs());
    let whole = search(&wanted(7321.0, 4), &stock).unwrap();
    assert!(whole.complete && whole.networks[0].error.abs() <= stopped.networks[0].error.abs());
}

#[test]
fn values_that_do_not_belong_together_are_given_up_as_soon_as_any() {
    // Ohms and farads in one list: sums in which the farads do not count at all, thousands of them alike.
    let farads = between(Series::E24, 1e-12, 1e-4);
    let mixed: Vec<f64> = between(Series::E24, 1.0, 1e6).into_iter().chain(farads).collect();
    assert!(mixed.len() > 300);
    let mut asked = 0;
    let stopped = search_while(&Wanted { limit: 100, ..wanted(7321.0, 4) }, &plenty(&mixed), &mut |_| {
        asked += 1;
        if asked == 20 { ControlFlow::Break(()) } else { ControlFlow::Continue(()) }
    })
    .unwrap();
    assert!(!stopped.complete && !stopped.networks.is_empty(), "the best so far is answered");
}

/// The published count of series-parallel networks of unlabelled parts: 1, 2, 4, 10 (OEIS A000084); with one value.
#[test]
fn as_many_topologies_as_there_are() {
    for (parts, all) in [(1, 1), (2, 3), (3, 7), (4, 17)] {
        let found = search(&Wanted { limit: 100, ..wanted(1.0, parts) }, &plenty(&[1.0])).unwrap();
        assert_eq!((found.networks.len(), found.searched), (all, all as u64));
    }
}

#[test]
fn questions_without_sense_are_refused() {
    let v = plenty(&[100.0]);
    assert_eq!(search(&wanted(0.0, 2), &v), Err(SearchError::Target));
    assert_eq!(search(&wanted(f64::NAN, 2), &v), Err(SearchError::Target));
    assert_eq!(search(&wanted(10.0, 0), &v), Err(SearchError::Parts(0)));
    assert_eq!(search(&wanted(10.0, 5), &v), Err(SearchError::Parts(5)));
    assert_eq!(search(&wanted(10.0, 2), &[]), Err(SearchError::NoValues));
    assert_eq!(search(&wanted(10.0, 2), &plenty(&[-5.0])), Err(SearchError::Value));
    assert_eq!(search(&Wanted { limit: 0, ..wanted(10.0, 2) }, &v), Err(SearchError::Limit(0)));
    assert_eq!(search(&Wanted { within: Some(-1.0), ..wanted(10.0, 2) }, &v), Err(SearchError::Within));
    assert!(matches!(search(&wanted(10.0, 3), &plenty(&vec![1.0; 1401])), Err(SearchError::TooMany(1401))));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]
    /// Any handful of values, any target: the errors are those of the brute force.
    #[test]
    fn the_search_agrees_with_brute_force_whatever_the_values(
        values in prop::collection::btree_set(1u32..1000, 1..9),
        target in 0.1f64..3000.0,
        capacitor in any::<bool>(),
        parts in 1usize..5,
    ) {
        let values: Vec<f64> = values.into_iter().map(f64::from).collect();
        let kind = if capacitor { Kind::Capacitor } else { Kind::Resistor };
        agrees(kind, target, &values, parts, 6);
    }

    /// Ratings leave out what would burn and nothing else.
    #[test]
    fn ratings_leave_out_what_would_burn(
        values in prop::collection::btree_set(1u32..100, 1..4),
        target in 1.0f64..150.0,
        load in 0.1f64..10.0,
        watts in 0.1f64..20.0,
        by_current in any::<bool>(),
    ) {
        let drive = if by_current {
            Drive::Current(Ampere::new(load / 10.0).unwrap())
        } else {
            Drive::Voltage(Volt::new(load * 10.0).unwrap())
        };
        let values: Vec<f64> = values.into_iter().map(f64::from).collect();
        let stock = plenty(&values);
        let question = Wanted {
            drive: Some(drive), power: Watt::new(watts).ok(), limit: 100, within: Some(0.9), ..wanted(target, 3)
        };
        let ours: Vec<f64> = search(&question, &stock).unwrap().networks.iter().map(|f| f.error.abs()).collect();
        let theirs = by_hand(&question, &stock);
        prop_assert_eq!(ours.len(), theirs.len());
        prop_assert!(ours.iter().zip(&theirs).all(|(a, b)| (a - b).abs() < 1e-9));
    }

    /// The shares of a network add up to what drives it.
    #[test]
    fn watts_add_up(a in 1.0f64..1e4, b in 1.0f64..1e4, c in 1.0f64..1e4, volts in 0.1f64..500.0) {
        let tree = Tree::Parallel(vec![Tree::Part(c), Tree::Series(vec![Tree::Part(a), Tree::Part(b)])]);
        let sum: f64 = shares(&tree, Kind::Resistor, Some(Drive::Voltage(Volt::new(volts).unwrap())))
            .iter().map(|s| s.watts.unwrap()).sum();
        let whole = volts * volts / tree.value(Kind::Resistor);
        prop_assert!((sum - whole).abs() <= 1e-9 * whole);
    }
}
