//! A record that comes in is held to the limits of the screens before any of it reaches the database: so many rows, moments
//! that a clock can have shown, numbers and texts that a form would take, and files that are what they say.

use serde_json::{Map, Value};
use time::OffsetDateTime;
use time::format_description::well_known::Rfc3339;

use crate::attachment::{MOST as MOST_FILES, picture};
use crate::error::ApiError;

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
            "attachments" => usize::try_from(MOST_FILES).unwrap_or(0),
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

/// Every file of a record as an upload of it would be kept; those that are kept so already stay as they are.
///
/// # Errors
/// 422 for a file that is not what it says.
pub fn clean_files(rows: &mut Value) -> Result<(), ApiError> {
    for row in rows["attachments"].as_array_mut().into_iter().flatten() {
        let content =
            bytes_of(&row["content"]).ok_or_else(|| refused("attachments", "a file without bytes"))?;
        if picture::is_pdf(&content) {
            if row["media"] != "application/pdf" {
                return Err(refused("attachments", "a file that is not what it says"));
            }
            row["small"] = Value::Null;
            continue;
        }
        let small = bytes_of(&row["small"]);
        if small.is_some_and(|small| picture::is_as_kept(&content, &small))
            && row["media"] != "application/pdf"
        {
            continue;
        }
        let kept = picture::kept(&content)?;
        row["media"] = kept.media.into();
        row["width"] = kept.width.into();
        row["height"] = kept.height.into();
        row["content"] = text_of(&kept.content);
        row["small"] = text_of(&kept.small);
    }
    Ok(())
}

/// PostgreSQL's own notation of bytes: hexadecimal after `\x`.
fn bytes_of(value: &Value) -> Option<Vec<u8>> {
    let hex = value.as_str()?.strip_prefix("\\x")?.as_bytes();
    let digit = |b: u8| char::from(b).to_digit(16).and_then(|d| u8::try_from(d).ok());
    let (pairs, rest) = hex.as_chunks::<2>();
    rest.is_empty().then_some(())?;
    pairs.iter().map(|[a, b]| Some(digit(*a)? << 4 | digit(*b)?)).collect()
}

fn text_of(bytes: &[u8]) -> Value {
    use std::fmt::Write;
    let mut out = String::with_capacity(2 * bytes.len() + 2);
    out.push_str("\\x");
    for b in bytes {
        let _written = write!(out, "{b:02x}");
    }
    Value::String(out)
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
        let hex = text_of(b"<svg onload=alert(1)>");
        let mut rows = json!({"attachments": [{"media": "image/png", "content": hex, "small": hex}]});
        assert!(clean_files(&mut rows).is_err());
        let mut pdf =
            json!({"attachments": [{"media": "image/png", "content": text_of(b"%PDF-1.7"), "small": null}]});
        assert!(clean_files(&mut pdf).is_err());
        assert_eq!(bytes_of(&text_of(&[0, 255, 16])), Some(vec![0, 255, 16]));
        assert_eq!((bytes_of(&json!("\\x0")), bytes_of(&json!("zz"))), (None, None));
    }
}
