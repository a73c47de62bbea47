//! A sheet of labels for the drawers, as SVG in millimetres: three columns on A4, to print and cut.

use std::fmt::Write;

use crate::dialect::put;
use owl_core::drawers::Lot;

/// A4 and the label on it, in millimetres.
const SHEET: (f64, f64) = (210.0, 297.0);
const LABEL: (f64, f64) = (60.0, 18.0);
const EDGE: f64 = 12.0;
const COLUMNS: usize = 3;

/// The sheet; as tall as it must be for all labels, page under page.
#[must_use]
pub fn sheet(lots: &[Lot]) -> String {
    let lines: Vec<[String; 3]> = lots
        .iter()
        .map(|lot| [put(&lot.piece.value_text()), put(&lot.piece.to_string()), lot.place.clone()])
        .collect();
    labels(&lines)
}

/// Labels of three lines each, the first of them large.
#[must_use]
pub fn labels(lines: &[[String; 3]]) -> String {
    let per_page = COLUMNS * ((SHEET.1 - 2.0 * EDGE) / LABEL.1) as usize;
    let pages = lines.len().div_ceil(per_page).max(1);
    let height = SHEET.1 * pages as f64;
    let mut out = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0}mm\" height=\"{height}mm\" viewBox=\"0 0 {0} {height}\">\n\
         <style>text{{font-family:Commissioner,sans-serif;fill:#000}} .v{{font-size:6px;font-weight:700}} \
         .d{{font-size:2.7px}} rect{{fill:none;stroke:#000;stroke-width:.2}}</style>\n",
        SHEET.0
    );
    for (i, [title, middle, foot]) in lines.iter().enumerate() {
        let (page, on_page) = (i / per_page, i % per_page);
        let x = EDGE + (on_page % COLUMNS) as f64 * LABEL.0;
        let y = SHEET.1 * page as f64 + EDGE + (on_page / COLUMNS) as f64 * LABEL.1;
        let _written = writeln!(
            out,
            "<rect x=\"{x}\" y=\"{y}\" width=\"{}\" height=\"{}\"/>\
             <text class=\"v\" x=\"{}\" y=\"{}\">{}</text>\
             <text class=\"d\" x=\"{}\" y=\"{}\">{}</text>\
             <text class=\"d\" x=\"{}\" y=\"{}\">{}</text>",
            LABEL.0,
            LABEL.1,
            x + 2.5,
            y + 7.2,
            escaped(title, 16),
            x + 2.5,
            y + 11.4,
            escaped(middle, 44),
            x + 2.5,
            y + 15.4,
            escaped(foot, 44),
        );
    }
    out.push_str("</svg>\n");
    out
}

/// At most so many characters, safe inside of XML.
fn escaped(text: &str, most: usize) -> String {
    let short: String = text.chars().filter(|c| !c.is_control()).take(most).collect();
    short.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}

#[cfg(test)]
mod tests {
    use super::*;
    use owl_core::drawers::{Condition, Piece};
    use owl_core::part::PartKind;

    #[test]
    fn what_is_on_a_label_is_text_and_pages_follow_each_other() {
        let lot = Lot {
            piece: Piece { value_si: Some(4700.0), ..Piece::new(PartKind::Resistor) },
            count: 1,
            place: "<b>\"box\" & 2".to_owned(),
            condition: Condition::New,
            measured_si: vec![],
            price_hundredths: None,
            low_water: 0,
        };
        let one = sheet(std::slice::from_ref(&lot));
        assert!(one.contains("4.7 kΩ") && one.contains("&lt;b&gt;&quot;box&quot; &amp; 2"));
        assert!(sheet(&vec![lot; 46]).contains("height=\"594mm\""));
        assert!(sheet(&[]).contains("</svg>"));
    }
}
