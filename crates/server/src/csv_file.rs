//! A file of CSV that a browser sends: rows that can be read are kept, others are told line by line. A file that is too
//! large is read to its end and thrown away, so that the answer arrives; it is never kept in memory.

use axum::body::Body as HttpBody;
use serde::Serialize;
use tokio_stream::StreamExt;
use utoipa::ToSchema;

use crate::error::ApiError;

/// The largest file that is taken, in kilobytes: some fifty thousand rows.
pub const LARGEST_KB: usize = 8 * 1024;
/// Past this nobody listens any more.
const MOST_DRAINED: usize = 256 * 1024 * 1024;
/// The most rows.
const MOST_ROWS: usize = 60_000;
/// The most bad rows that are told one by one.
const MOST_TOLD: usize = 100;

/// What an import did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportView {
    /// Rows that were new.
    pub added: u64,
    /// Rows that changed something that was there.
    pub changed: u64,
    /// Rows that were not taken; the first hundred of them.
    pub refused: Vec<RowRefused>,
    /// How many were not taken in all.
    pub refused_in_all: u64,
}

/// A row that was not taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct RowRefused {
    /// Its line in the file.
    pub line: u64,
    /// The column to blame, where one is.
    pub column: Option<String>,
    /// What is wrong.
    #[serde(serialize_with = "crate::dialect::said")]
    pub why: String,
}

/// Why a row is not taken: the column to blame, and what is wrong.
pub struct Refusal {
    /// The column.
    pub column: Option<String>,
    /// What is wrong, in words.
    pub why: String,
}

/// What was read of a file.
pub struct Rows<T> {
    /// What was read, with its line.
    pub taken: Vec<T>,
    /// What was not.
    pub refused: Vec<RowRefused>,
    /// How many were not in all.
    pub refused_in_all: u64,
}

impl<T> Rows<T> {
    fn refuse(&mut self, line: u64, refusal: Refusal) {
        self.refused_in_all += 1;
        if self.refused.len() < MOST_TOLD {
            self.refused.push(RowRefused { line, column: refusal.column, why: refusal.why });
        }
    }
}

/// The whole of a file.
///
/// # Errors
/// 413 for one that is too large.
pub async fn whole(body: HttpBody) -> Result<Vec<u8>, ApiError> {
    within(body, LARGEST_KB).await
}

/// The whole of a file of at most so many kilobytes.
///
/// # Errors
/// 413 for one that is larger.
pub async fn within(body: HttpBody, most_kb: usize) -> Result<Vec<u8>, ApiError> {
    let mut stream = body.into_data_stream();
    let (mut bytes, mut seen) = (Vec::new(), 0usize);
    while let Some(chunk) = stream.next().await {
        let chunk = chunk.map_err(|_| ApiError::Malformed("the file broke off on its way".to_owned()))?;
        seen += chunk.len();
        if seen > MOST_DRAINED {
            break;
        }
        if seen > most_kb * 1024 {
            bytes = Vec::new();
        } else {
            bytes.extend_from_slice(&chunk);
        }
    }
    if seen > most_kb * 1024 { Err(ApiError::TooLarge(most_kb)) } else { Ok(bytes) }
}

/// Reads every row: `header` reads the first, `row` each of the others with its line, and may keep a memory of what it
/// has seen.
///
/// # Errors
/// 422 for a file without our header or with too many rows.
pub fn rows<H, T>(
    bytes: &[u8],
    header: impl FnOnce(&[&str]) -> Result<H, String>,
    mut row: impl FnMut(&H, &[&str], u64) -> Result<T, Refusal>,
) -> Result<Rows<T>, ApiError> {
    if bytes.is_empty() {
        return Err(ApiError::field("file", "the file is empty"));
    }
    let mut reader = csv::ReaderBuilder::new().flexible(true).from_reader(bytes);
    let first = match reader.byte_headers() {
        Ok(h) => text(h).ok_or_else(|| ApiError::field("file", "the header is not UTF-8 text"))?,
        Err(e) => return Err(ApiError::field("file", format!("the header cannot be read: {e}"))),
    };
    let width = first.len();
    let first: Vec<&str> = first.iter().map(String::as_str).collect();
    let header = header(&first).map_err(|e| ApiError::field("file", e))?;
    let mut out = Rows { taken: vec![], refused: vec![], refused_in_all: 0 };
    let whole_row = |why: String| Refusal { column: None, why };
    let mut record = csv::ByteRecord::new();
    loop {
        match reader.read_byte_record(&mut record) {
            Ok(true) => {}
            Ok(false) => break,
            Err(e) => {
                out.refuse(e.position().map_or(0, csv::Position::line), whole_row(e.to_string()));
                continue;
            }
        }
        let line = record.position().map_or(0, |p| line_of(bytes, p));
        if record.iter().all(|f| f.iter().all(u8::is_ascii_whitespace)) {
            continue;
        }
        if record.len() > width {
            let why = format!("{} fields where the header has {width}: a comma too many?", record.len());
            out.refuse(line, whole_row(why));
            continue;
        }
        let Some(fields) = text(&record) else {
            out.refuse(line, whole_row("this is not UTF-8 text".to_owned()));
            continue;
        };
        let fields: Vec<&str> = fields.iter().map(String::as_str).collect();
        match row(&header, &fields, line) {
            Ok(_) if out.taken.len() == MOST_ROWS => {
                return Err(ApiError::field("file", format!("more than {MOST_ROWS} rows: split the file")));
            }
            Ok(t) => out.taken.push(t),
            Err(refusal) => out.refuse(line, refusal),
        }
    }
    Ok(out)
}

/// The line on which a record stands: the reader names the first of the empty lines before it.
fn line_of(bytes: &[u8], position: &csv::Position) -> u64 {
    let start = usize::try_from(position.byte()).unwrap_or(0).min(bytes.len());
    let empty = bytes[start..].iter().take_while(|b| matches!(b, b'\r' | b'\n'));
    position.line() + empty.filter(|b| **b == b'\n').count() as u64
}

fn text(record: &csv::ByteRecord) -> Option<Vec<String>> {
    record.iter().map(|f| String::from_utf8(f.to_vec()).ok()).collect()
}

/// A cell that no spreadsheet takes for a formula.
#[must_use]
pub fn safe(cell: &str) -> String {
    let formula = cell.starts_with(['=', '+', '@', '\t', '\r'])
        || cell.starts_with('-') && cell.parse::<f64>().is_err();
    if formula { format!("'{cell}") } else { cell.to_owned() }
}
