//! A record that comes in is held to the limits of the screens before any of it reaches the database: so many rows, moments
//! that a clock can have shown, numbers and texts that a form would take, and files that are what they say.

use serde_json::{Map, Value};
use time::OffsetDateTime;
use time::format_description::well_known::Rfc3339;
use uuid::Uuid;

use super::container::Pieces;
use crate::attachment::{MOST as MOST_FILES, picture};
use crate::error::ApiError;
use crate::picture_store;
use crate::upload::not_written;

/// The most parts of a tray, and the most rows of any other list.
const MOST_PARTS: usize = 2000;
const MOST_ROWS: usize = 200_000;
/// The longest text of a field, in bytes; what a form takes is shorter.
const LONGEST: usize = 16_000;
/// Counters and numbers beyond these stand in no ticket.
const LARGEST_COUNT: i64 = 1_000_000_000;
const LARGEST_NUMBER: f64 = 1e18;
/// No set was repaired by this program before.
const FIRST_YEAR: i32 = 1990;

fn refused(table: &str, why: impl std::fmt::Display) -> ApiError {
    ApiError::field("file", format!("this record says what no ticket can: {why} ({table})"))
}

/// Holds every list of a record to the limits; `now` is what the clock says.
///
/// # Errors
/// 422 with what is beyond them.
pub fn check(rows: &Value, tables: &[&str], now: OffsetDateTime) -> Result<(), ApiError> {
    if let Value::Object(ticket) = &rows["ticket"] {
        fields("ticket", ticket, now)?;
    }
    for table in tables {
        let Value::Array(all) = &rows[table] else { continue };
        let most = match *table {
            "attachments" => usize::from(MOST_FILES),
            "parts" => MOST_PARTS,
            _ => MOST_ROWS,
        };
        if all.len() > most {
            return Err(refused(table, format!("{} rows, at most {most} are taken", all.len())));
        }
        for row in all.iter().filter_map(Value::as_object) {
            fields(table, row, now)?;
        }
    }
    Ok(())
}

fn fields(table: &str, row: &Map<String, Value>, now: OffsetDateTime) -> Result<(), ApiError> {
    for (name, value) in row {
        match value {
            Value::String(text) if name.ends_with("_at") || name == "at" => {
                let moment = OffsetDateTime::parse(text, &Rfc3339);
                let sane = moment.is_ok_and(|m| m.year() >= FIRST_YEAR && m < now + time::Duration::days(2));
                if !sane {
                    let text: String = text.chars().take(40).collect();
                    return Err(refused(table, format!("'{text}' is no moment of a repair")));
                }
            }
            Value::String(text) if text.len() > LONGEST && !is_file(table, name) => {
                return Err(refused(table, format!("{name} is {} letters long", text.len())));
            }
            Value::Number(n) => {
                let counter = matches!(name.as_str(), "version" | "ordinal" | "place" | "n");
                let beyond = if counter {
                    n.as_i64().is_none_or(|n| n.abs() > LARGEST_COUNT)
                } else {
                    n.as_f64().is_none_or(|n| n.abs() > LARGEST_NUMBER)
                };
                if beyond {
                    return Err(refused(table, format!("{name} is {n}")));
                }
            }
            _ => {}
        }
    }
    Ok(())
}

fn is_file(table: &str, name: &str) -> bool {
    table == "attachments" && matches!(name, "content" | "small")
}

/// Every file of a record as an upload of it would be kept, put by in `kept`; those that are kept so already stay as they
/// are. They come out of `given`, where the record is a container, or out of their rows (before version 9).
///
/// # Errors
/// 422 for a file that is not there, or not what it says.
pub fn clean_files(
    rows: &mut Value,
    mut given: Option<&mut Pieces>,
    kept: &mut Pieces,
) -> Result<(), ApiError> {
    for row in rows["attachments"].as_array_mut().into_iter().flatten() {
        let id = row["id"].as_str().and_then(|id| id.parse::<Uuid>().ok());
        let id = id.ok_or_else(|| refused("attachments", "a file without an id"))?;
        let found = match (&mut given, bytes_of(&row["content"])) {
            (Some(files), _) => files.read(id).map_err(not_written)?,
            (None, Some(content)) => Some(content),
            (None, None) => {
                let why =
                    "this record names pictures or sheets that are not in it: take the .tar, which has them";
                return Err(ApiError::field("file", why));
            }
        };
        let content = found.ok_or_else(|| refused("attachments", "a file that is not in the container"))?;
        let content = clean(row, content)?;
        if let Value::Object(row) = row {
            row.remove("content");
            row.insert("bytes".to_owned(), content.len().into());
            row.insert("sha256".to_owned(), text_of(&picture_store::sum(&content)));
        }
        kept.put(id, &content).map_err(not_written)?;
    }
    Ok(())
}

/// What is kept of a file; its row then says what it is.
fn clean(row: &mut Value, content: Vec<u8>) -> Result<Vec<u8>, ApiError> {
    if picture::is_pdf(&content) {
        if row["media"] != "application/pdf" {
            return Err(refused("attachments", "a file that is not what it says"));
        }
        row["small"] = Value::Null;
        return Ok(content);
    }
    let small = bytes_of(&row["small"]);
    if small.is_some_and(|small| picture::is_as_kept(&content, &small)) && row["media"] != "application/pdf" {
        return Ok(content);
    }
    let kept = picture::kept(&content)?;
    row["media"] = kept.media.into();
    row["width"] = kept.width.into();
    row["height"] = kept.height.into();
    row["small"] = text_of(&kept.small);
    Ok(kept.content)
}

/// PostgreSQL's own notation of bytes: hexadecimal after `\x`.
fn bytes_of(value: &Value) -> Option<Vec<u8>> {
    hex::decode(value.as_str()?.strip_prefix("\\x")?).ok()
}

fn text_of(bytes: &[u8]) -> Value {
    Value::String(format!("\\x{}", hex::encode(bytes)))
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use super::*;

    fn said(rows: Value) -> String {
        let now = OffsetDateTime::parse("2031-05-17T12:00:00Z", &Rfc3339).unwrap();
        check(&rows, &["parts", "readings", "attachments"], now)
            .err()
            .map(|e| e.to_string())
            .unwrap_or_default()
    }

    #[test]
    fn what_no_screen_could_show_is_refused_before_it_is_kept() {
        assert_eq!(said(json!({"ticket": {"name": "x", "closed_at": "2031-05-16T09:00:00.25+00:00"}})), "");
        for (row, why) in [
            (json!({"taken_at": "infinity"}), "no moment of a repair"),
            (json!({"taken_at": "-4713-01-01T00:00:00Z"}), "no moment of a repair"),
            (json!({"taken_at": "2999-01-01T00:00:00Z"}), "no moment of a repair"),
            (json!({"ordinal": 9_223_372_036_854_775_807_i64}), "ordinal is 9223372036854775807"),
            (json!({"value": 1e300}), "value is 1e+300"),
            (json!({"typed": "x".repeat(20_000)}), "typed is 20000 letters long"),
        ] {
            let all = said(json!({"ticket": {}, "readings": [row]}));
            assert!(all.contains(why), "{why}: {all}");
        }
        let many = vec![json!({}); 61];
        assert!(said(json!({"attachments": many})).contains("61 rows, at most 60"));
    }

    #[test]
    fn a_file_that_is_not_what_it_says_does_not_come_in() {
        let said = |row: Value| {
            let mut rows = json!({ "attachments": [row] });
            let mut kept = Pieces::in_file(tempfile::tempfile().unwrap());
            clean_files(&mut rows, None, &mut kept).err().map(|e| e.to_string()).unwrap_or_default()
        };
        let id = Uuid::from_u128(1);
        let hex = text_of(b"<svg onload=alert(1)>");
        assert!(
            said(json!({"id": id, "media": "image/png", "content": hex, "small": hex}))
                .contains("this is no JPEG")
        );
        let pdf = text_of(b"%PDF-1.7");
        assert!(said(json!({"id": id, "media": "image/png", "content": pdf})).contains("not what it says"));
        assert!(said(json!({"id": id, "media": "image/png"})).contains("take the .tar"));
        assert_eq!(said(json!({"id": id, "media": "application/pdf", "content": pdf})), "");
        assert_eq!(bytes_of(&text_of(&[0, 255, 16])), Some(vec![0, 255, 16]));
        assert_eq!((bytes_of(&json!("\\x0")), bytes_of(&json!("zz"))), (None, None));
    }
}
