//! What an instrument's words mean.
//!
//! SCPI-1999, volume 1, 7.2.1: 9.9E37 stands for infinity and 9.91E37 for "not a number" (memory).

use owl_core::reading::Shown;

/// An answer that says nothing.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum AnswerError {
    /// The instrument says that it has no number.
    #[error("the instrument has no number to give; look at its leads and its range")]
    NotANumber,
    /// Not what was asked for.
    #[error("the instrument answers '{0}', which is no number")]
    Garbage(String),
}

const INFINITY: f64 = 9.9e37;
const NOT_A_NUMBER: f64 = 9.91e37;

/// Reads a number, or that it is beyond the range.
///
/// # Errors
/// [`AnswerError`] for everything else.
pub fn number(line: &str) -> Result<Shown, AnswerError> {
    let text = line.trim();
    let garbage = || AnswerError::Garbage(text.chars().filter(|c| !c.is_control()).take(40).collect());
    // What a number looks like, and nothing that `parse` would also take, such as "inf".
    let plain = |c: char| c.is_ascii_digit() || matches!(c, '+' | '-' | '.' | 'e' | 'E');
    if text.eq_ignore_ascii_case("nan") {
        return Err(AnswerError::NotANumber);
    }
    if text.is_empty() || text.len() > 40 || !text.chars().all(plain) {
        return Err(garbage());
    }
    let value: f64 = text.parse().map_err(|_| garbage())?;
    let near = |to: f64| (value.abs() / to - 1.0).abs() < 1e-4;
    if near(NOT_A_NUMBER) {
        Err(AnswerError::NotANumber)
    } else if near(INFINITY) {
        Ok(Shown::Overrange { ceiling_si: None })
    } else if value.is_finite() && value.abs() < 1e30 {
        Ok(Shown::Value { si: value })
    } else {
        Err(garbage())
    }
}

/// An entry of an instrument's list of errors: `-113,"Undefined header"`. `None` when there is none.
///
/// # Errors
/// [`AnswerError::Garbage`] for what is no such entry.
pub fn error(line: &str) -> Result<Option<String>, AnswerError> {
    let text = line.trim();
    let garbage = || AnswerError::Garbage(text.chars().filter(|c| !c.is_control()).take(40).collect());
    let (code, words) = text.split_once(',').unwrap_or((text, ""));
    let code: i32 = code.trim().parse().map_err(|_| garbage())?;
    let words: String =
        words.trim().trim_matches('"').chars().filter(|c| !c.is_control()).take(120).collect();
    Ok((code != 0).then(|| format!("{words} ({code})")))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_infinities_and_nonsense_are_told_apart() {
        // SCPI-1999, 7.2.1 (memory): 9.9E37 is infinity, 9.91E37 is not a number.
        assert_eq!(number("+4.70000E+03\r\n"), Ok(Shown::Value { si: 4700.0 }));
        assert_eq!(number("9.9E37"), Ok(Shown::Overrange { ceiling_si: None }));
        assert_eq!(number("-9.90000000E+37"), Ok(Shown::Overrange { ceiling_si: None }));
        assert_eq!(number("9.91E37"), Err(AnswerError::NotANumber));
        assert_eq!(number("NAN"), Err(AnswerError::NotANumber));
        for nonsense in ["", "inf", "4.7k", "1,2", "\u{0}\u{7}", "1e999", "0x10", "+-3", "4.7.1"] {
            assert!(matches!(number(nonsense), Err(AnswerError::Garbage(_))), "{nonsense:?}");
        }
        assert_eq!(error("0,\"No error\""), Ok(None));
        assert_eq!(error("-113,\"Undefined header\""), Ok(Some("Undefined header (-113)".to_owned())));
        assert!(error("hello").is_err());
    }

    proptest::proptest! {
        /// Whatever an instrument says, a number is one that can be, and nothing of it is taken for another.
        #[test]
        fn any_answer_is_a_number_that_can_be_or_none(line in "\\PC{0,60}|[-+0-9.eE]{0,45}\r?\n?") {
            if let Ok(Shown::Value { si }) = number(&line) {
                proptest::prop_assert!(si.is_finite() && si.abs() < 1e30);
                proptest::prop_assert_eq!(line.trim().parse::<f64>().ok(), Some(si));
            }
            if let Err(AnswerError::Garbage(told)) = number(&line) {
                proptest::prop_assert!(told.chars().count() <= 40 && !told.chars().any(char::is_control));
            }
            if let Ok(Some(words)) = error(&line) {
                proptest::prop_assert!(words.len() < 600);
            }
        }

        /// A number that an instrument writes is the number.
        #[test]
        fn a_number_is_read_as_it_is_written(value in -1e12_f64..1e12) {
            proptest::prop_assert_eq!(number(&format!("{value:+.9E}\n")).ok(), {
                let si = format!("{value:+.9E}").parse().unwrap();
                Some(Shown::Value { si })
            });
        }
    }
}
