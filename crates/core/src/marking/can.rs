//! Several capacitors in one can: `8-8/450`, `20/20/20 @ 450`, `2x8 450V`,
//! `▲40/450 ■20/450 plain 20/25`, `40-40 MFD 450 WV 525 SURGE`.
//!
//! Cannot tell `20/20` (two sections) from 20 µF at 20 V: a number behind a slash is taken as volts
//! only when it is more than twice the largest section, or where signs part the sections; `22/16` is read both ways
//! ([`value_and_volts`]). Values are microfarads unless a unit says otherwise.

use super::volts;
use super::{Code, Meaning, Rating, Section, Value, VoltsKind};
use crate::part::{CapacitorFamily, MadeOf, PartKind};
use crate::preferred::{Series, is_member};
use crate::quantity::{Farad, Volt};
use crate::source::Source;

/// The signs beside the lugs, and how they are named.
const SIGNS: &[(char, &str)] =
    &[('▲', "▲"), ('△', "▲"), ('■', "■"), ('□', "■"), ('◗', "◗"), ('◖', "◗"), ('●', "◗"), ('◐', "◗")];

/// From this number on what stands behind a dash can be volts (practice).
const LEAST_BEHIND_DASH: f64 = 100.0;
/// How much likelier `22/16` is one part of 16 V than two sections: the first a value that is made now, the second a
/// rating (practice). Values of older cans (8, 16, 20, 40, 50) are in no series of today.
const ONE_PART: f64 = 6.0;

/// `22/16`, `470/10` as microfarads and volts, with its weight beside two sections of a can; `None` where the numbers
/// are not both of today's parts.
#[must_use]
pub fn value_and_volts(text: &str) -> Option<(f64, Meaning)> {
    let (value, volts) = text.trim().split_once('/')?;
    let (micro, rated): (f64, f64) = (value.trim().parse().ok()?, volts.trim().parse().ok()?);
    if !volts::is_made(CapacitorFamily::Electrolytic, rated)
        || micro == rated
        || !is_member(Series::E6, micro)
    {
        return None;
    }
    let farads = Farad::new(micro / 1e6).ok().filter(|f| *f > Farad::ZERO)?;
    let source = Source::practice("how cans of today are printed");
    let mut m = Meaning::new(PartKind::Capacitor, Code::PlainText, Value::Capacitance(farads), source);
    m.rating = Rating::new(rated, VoltsKind::Unstated);
    m.made = (micro >= 0.9).then_some(MadeOf::Capacitor(CapacitorFamily::Electrolytic));
    m.because.push("a value and a rating that are made now: µF and volts".to_owned());
    Some((ONE_PART, m))
}

/// A piece of what is printed.
#[derive(Debug, Clone, PartialEq)]
enum Piece {
    Number(f64),
    Times,
    Joint(char),
    Micro,
    Pico,
    Volts(VoltsKind),
    Surge,
    At,
    Sign(&'static str),
}

/// Reads a can with at least two sections, or one with a sign, a slash or a surge rating; `None` if
/// `text` is none.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let pieces = pieces(text)?;
    let looks =
        pieces.iter().any(|p| matches!(p, Piece::Sign(_) | Piece::Joint(_) | Piece::Times | Piece::Surge));
    let rated = pieces.iter().filter(|p| matches!(p, Piece::Volts(_))).count();
    if !looks && rated < 2 {
        return None;
    }
    let mut can = Can::default();
    can.take(&pieces)?;
    can.meaning()
}

#[derive(Default)]
struct Can {
    sections: Vec<Section>,
    /// Index of the first section that no volts were read for.
    open: usize,
    micro: bool,
}

impl Can {
    fn take(&mut self, pieces: &[Piece]) -> Option<()> {
        let mut sign: Option<&str> = None;
        let mut i = 0;
        while let Some(piece) = pieces.get(i) {
            let next = pieces.get(i + 1);
            match piece {
                Piece::Sign(s) => {
                    sign = Some(s);
                    // Signs may stand behind their value too: 40▲.
                    if matches!(next, None | Some(Piece::Joint(_)))
                        && let Some(last) = self.sections.last_mut()
                    {
                        last.sign = sign.take().map(str::to_owned);
                    }
                }
                Piece::Number(n) => match next {
                    Some(Piece::Volts(kind)) => {
                        if matches!(pieces.get(i + 2), Some(Piece::Surge)) {
                            self.surge(*n)?;
                            i += 2;
                        } else {
                            self.volts(*n, *kind)?;
                            i += 1;
                        }
                    }
                    Some(Piece::Surge) => {
                        self.surge(*n)?;
                        i += 1;
                    }
                    Some(Piece::Times) => {
                        let Some(Piece::Number(value)) = pieces.get(i + 2) else { return None };
                        if n.fract() != 0.0 || !(1.0..=6.0).contains(n) {
                            return None;
                        }
                        for _ in 0..*n as usize {
                            self.section(*value, sign)?;
                        }
                        i += 2;
                    }
                    _ if self.is_volts(pieces, i, *n) => self.volts(*n, VoltsKind::Unstated)?,
                    _ => {
                        self.section(*n, sign.take())?;
                    }
                },
                Piece::Surge => {
                    let Some(Piece::Number(n)) = next else { return None };
                    self.surge(*n)?;
                    i += if matches!(pieces.get(i + 2), Some(Piece::Volts(_))) { 2 } else { 1 };
                }
                Piece::Micro => self.micro = true,
                Piece::Pico => return None,
                Piece::Times | Piece::Volts(_) => return None,
                Piece::Joint(_) | Piece::At => {}
            }
            i += 1;
        }
        Some(())
    }

    /// Whether a bare number is volts: behind `@`, or behind a slash and more than twice any section.
    fn is_volts(&self, pieces: &[Piece], at: usize, n: f64) -> bool {
        let before = at.checked_sub(1).and_then(|i| pieces.get(i));
        let signed = pieces.iter().any(|p| matches!(p, Piece::Sign(_)));
        let largest = self.sections.iter().map(|s| s.capacitance.farads() * 1e6).fold(0.0, f64::max);
        match before {
            Some(Piece::At) => true,
            // Where signs part the sections, a slash parts capacitance and volts.
            Some(Piece::Joint('/')) if signed => true,
            Some(Piece::Joint('/') | Piece::Micro) => largest > 0.0 && n > 2.0 * largest,
            // 8-450, .05-600: no can has a section so far above the others.
            Some(Piece::Joint('-' | '–')) => largest > 0.0 && n >= LEAST_BEHIND_DASH && n > 2.0 * largest,
            // A number that follows another without a joint is its volts.
            Some(Piece::Number(_)) => largest > 0.0 && n > 2.0 * largest,
            _ => false,
        }
    }

    fn section(&mut self, micro: f64, sign: Option<&str>) -> Option<()> {
        if !(micro > 0.0 && micro <= 50_000.0) || self.sections.len() >= 6 {
            return None;
        }
        let capacitance = Farad::new(micro / 1e6).ok()?;
        self.sections.push(Section { sign: sign.map(str::to_owned), capacitance, rating: None });
        Some(())
    }

    fn volts(&mut self, volts: f64, kind: VoltsKind) -> Option<()> {
        if self.sections.len() == self.open || volts > 2000.0 {
            return None;
        }
        for s in &mut self.sections[self.open..] {
            s.rating = Rating::new(volts, kind);
        }
        self.open = self.sections.len();
        Some(())
    }

    fn surge(&mut self, volts: f64) -> Option<()> {
        let surge = Volt::new(volts).ok()?;
        // A surge rating lies a little above the working volts; that of the 450 V sections is not that
        // of a 25 V one in the same can.
        for r in self.sections.iter_mut().filter_map(|s| s.rating.as_mut()) {
            if (1.0..=1.5).contains(&(volts / r.volts.volts())) {
                r.surge.get_or_insert(surge);
            }
        }
        Some(())
    }

    fn meaning(mut self) -> Option<Meaning> {
        let first = self.sections.first()?.clone();
        let source = Source::practice("how makers printed cans; signs beside the lugs");
        let value = Value::Capacitance(first.capacitance);
        let single = self.sections.len() == 1;
        // A slash with nothing behind it is no rating.
        if single && first.rating.is_none() && first.sign.is_none() {
            return None;
        }
        let code = if single { Code::PlainText } else { Code::Can };
        let mut m = Meaning::new(PartKind::Capacitor, code, value, source);
        let same = self.sections.iter().all(|s| s.rating == first.rating);
        m.rating = if same { first.rating } else { None };
        m.because.push(match self.sections.len() {
            1 => "capacitance and volts".to_owned(),
            n => format!("{n} sections in one can"),
        });
        if !self.micro {
            m.because.push("values on a can are µF".to_owned());
        }
        if first.capacitance.farads() >= 0.9e-6 {
            m.made = Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic));
        }
        if !single {
            m.notes.push("one common negative, unless its lugs say otherwise".to_owned());
            m.sections = std::mem::take(&mut self.sections);
        }
        Some(m)
    }
}

/// Takes the text apart; `None` for anything that does not belong on a can.
fn pieces(text: &str) -> Option<Vec<Piece>> {
    let mut found = Vec::new();
    let mut rest = text.trim();
    while let Some(c) = rest.chars().next() {
        if c.is_whitespace() || c == ',' || c == ';' || c == ':' {
            rest = &rest[c.len_utf8()..];
        } else if let Some((_, sign)) = SIGNS.iter().find(|(s, _)| *s == c) {
            found.push(Piece::Sign(sign));
            rest = &rest[c.len_utf8()..];
        } else if c == '@' {
            found.push(Piece::At);
            rest = &rest[1..];
        } else if matches!(c, '+' | '-' | '/' | '–' | '&') {
            found.push(Piece::Joint(c));
            rest = &rest[c.len_utf8()..];
        } else if c.is_ascii_digit() || c == '.' {
            let end = rest.find(|c: char| !(c.is_ascii_digit() || c == '.')).unwrap_or(rest.len());
            found.push(Piece::Number(rest[..end].parse().ok()?));
            rest = &rest[end..];
        } else {
            let end = rest
                .find(|c: char| !(c.is_alphabetic() || matches!(c, '~' | '.' | '=')))
                .unwrap_or(rest.len())
                .max(c.len_utf8());
            found.push(word(&rest[..end])?);
            rest = &rest[end..];
        }
    }
    (!found.is_empty()).then_some(found)
}

fn word(word: &str) -> Option<Piece> {
    let lower: String = word.to_lowercase().replace(['μ', 'µ'], "u").chars().filter(|c| *c != '.').collect();
    Some(match lower.as_str() {
        "x" | "×" => Piece::Times,
        "uf" | "mfd" | "mf" | "u" | "mfds" => Piece::Micro,
        "pf" | "mmf" | "mmfd" | "uuf" | "nf" | "n" | "p" => Piece::Pico,
        "surge" | "sv" | "peak" | "vsurge" | "vpk" => Piece::Surge,
        "plain" | "blank" | "none" => Piece::Sign("plain"),
        "triangle" => Piece::Sign("▲"),
        "square" => Piece::Sign("■"),
        "half" | "halfmoon" | "semicircle" => Piece::Sign("◗"),
        _ => match volts::printed(&format!("1{word}")) {
            Some(v) if v.surge => Piece::Surge,
            Some(v) => Piece::Volts(v.kind),
            None => return None,
        },
    })
}
