//! What goes wrong with an instrument.

/// What goes wrong with an instrument, for tests.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fault {
    /// It answers nothing.
    Silent,
    /// It answers late, by so many milliseconds.
    Slow(u64),
    /// It hangs up after half an answer.
    Partial,
    /// It answers nonsense.
    Garbage,
    /// It has no number.
    NotANumber,
    /// It is beyond its range.
    Overrange,
    /// It never ends its line.
    Endless,
}
