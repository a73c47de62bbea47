//! Text as it is typed into a form: its length checked, and what PostgreSQL cannot hold left out.

use crate::error::ApiError;

/// Free text, of at most so many characters; PostgreSQL holds no zero bytes.
pub fn checked_text(field: &str, text: &str, most: usize) -> Result<String, ApiError> {
    let count = text.chars().count();
    if count > most {
        return Err(ApiError::field(
            field,
            format!("that is {count} characters long; there is room for {most}"),
        ));
    }
    Ok(text.replace('\0', "").trim().to_owned())
}
