//! HTML that is only ever text inside of our own tags, with a style for the printer.

use std::fmt::Write as _;

/// On paper: black on white, nothing cut in two, the address of nothing.
const STYLE: &str = "@page{size:A4;margin:16mm}body{font:11pt/1.45 Georgia,'Literata Variable',serif;color:#111;\
max-width:190mm;margin:8mm auto;padding:0 6mm}h1{font-size:20pt;margin:0}h2{font-size:13.5pt;margin:7mm 0 1.5mm;\
border-bottom:.4mm solid #111;break-after:avoid}h3{font-size:11.5pt;margin:4mm 0 1mm;break-after:avoid}p{margin:1mm 0}\
table{border-collapse:collapse;width:100%;font-size:9.5pt}th,td{text-align:left;padding:.8mm 2mm .8mm 0;\
border-bottom:.15mm solid #999;vertical-align:top}th{font-weight:600}tr,li,figure{break-inside:avoid}td.n{text-align:right;\
font-variant-numeric:tabular-nums;white-space:nowrap}.soft{color:#444}.mark{border-left:1.2mm solid #111;padding:1mm 3mm;\
margin:2mm 0}ul{margin:1mm 0;padding-left:5mm}svg{width:100%;height:auto}figure{margin:3mm 0}@media print{body{margin:0;\
padding:0;max-width:none}}";

/// What such a page may load: nothing but its own style.
pub const POLICY: &str =
    "default-src 'none'; style-src 'unsafe-inline'; base-uri 'none'; frame-ancestors 'none'";

/// A page that grows.
pub struct Page(String);

impl Page {
    /// A page with a title.
    #[must_use]
    pub fn new(title: &str) -> Self {
        let title = text(title);
        Self(format!(
            "<!doctype html>\n<html lang=\"en\"><meta charset=\"utf-8\"><title>{title}</title><style>{STYLE}</style>\n\
             <body><h1>{title}</h1>\n"
        ))
    }

    /// A heading.
    pub fn heading(&mut self, words: &str) {
        let _ = writeln!(self.0, "<h2>{}</h2>", text(words));
    }

    /// A smaller heading.
    pub fn part(&mut self, words: &str) {
        let _ = writeln!(self.0, "<h3>{}</h3>", text(words));
    }

    /// A paragraph; nothing where there is nothing to say.
    pub fn line(&mut self, words: &str) {
        if !words.is_empty() {
            let _ = writeln!(self.0, "<p>{}</p>", text(words));
        }
    }

    /// A paragraph in the background.
    pub fn soft(&mut self, words: &str) {
        if !words.is_empty() {
            let _ = writeln!(self.0, "<p class=\"soft\">{}</p>", text(words));
        }
    }

    /// A paragraph that is not to be overlooked.
    pub fn mark(&mut self, words: &str) {
        let _ = writeln!(self.0, "<p class=\"mark\">{}</p>", text(words));
    }

    /// A list.
    pub fn list(&mut self, lines: &[String]) {
        let items: String = lines.iter().map(|l| format!("<li>{}</li>", text(l))).collect();
        let _ = writeln!(self.0, "<ul>{items}</ul>");
    }

    /// A table; nothing without rows.
    pub fn table(&mut self, header: &[&str], rows: &[Vec<String>]) {
        if rows.is_empty() {
            return;
        }
        let head: String = header.iter().map(|h| format!("<th>{}</th>", text(h))).collect();
        let _ = writeln!(self.0, "<table><thead><tr>{head}</tr></thead><tbody>");
        for row in rows {
            let cells: String = row.iter().map(|c| format!("<td>{}</td>", text(c))).collect();
            let _ = writeln!(self.0, "<tr>{cells}</tr>");
        }
        self.0.push_str("</tbody></table>\n");
    }

    /// A drawing that this program made.
    pub fn drawing(&mut self, svg: &str, caption: &str) {
        let _ = writeln!(
            self.0,
            "<figure>{svg}<figcaption class=\"soft\">{}</figcaption></figure>",
            text(caption)
        );
    }

    /// The whole.
    #[must_use]
    pub fn done(mut self) -> String {
        self.0.push_str("</body></html>\n");
        self.0
    }
}

/// Text inside of a tag.
fn text(words: &str) -> String {
    let clean: String = words.chars().filter(|c| !c.is_control() || *c == '\n').collect();
    clean
        .replace('&', "&amp;")
        .replace('<', "&lt;")
        .replace('>', "&gt;")
        .replace('"', "&quot;")
        .replace('\n', "<br>")
}
