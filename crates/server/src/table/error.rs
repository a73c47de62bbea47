//! What can go wrong between the program and its rows. What people are told of it is said in [`crate::error`].

/// A kind of row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Row {
    /// A ticket.
    Ticket,
    /// A part.
    Part,
    /// A change on a ticket.
    Change,
    /// What went in for a part.
    Fitting,
    /// A point of a voltage chart.
    Point,
    /// A set of readings of a voltage chart.
    ChartRun,
    /// A supply branch.
    Feed,
    /// A bank of parts in series.
    Bank,
    /// A reforming run.
    ReformRun,
    /// A soak test.
    Soak,
    /// A photo or file.
    Attachment,
    /// A lot of the drawers.
    Lot,
    /// A lot of transistors to be matched.
    MatchLot,
    /// A type of the workshop's own.
    Device,
    /// An instrument.
    Instrument,
    /// A copy of a school.
    Policy,
    /// Somebody of the workshop.
    Person,
    /// A session of somebody's.
    Session,
    /// A token of somebody's scripts.
    Token,
}

/// What the tables answer with instead of rows.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is none with that id.
    #[error("no such row: {0:?}")]
    Gone(Row),
    /// One of that name is there already.
    #[error("{0:?} named '{1}' is there already")]
    Taken(Row, String),
    /// It was written since it was last read.
    #[error("{0:?} was changed in the meantime")]
    Changed(Row),
    /// The section of the part is being reformed.
    #[error("the section lies on the reforming bench already")]
    OnTheReformingBench,
    /// Rows from outside that do not hold together; the database's own words.
    #[error("rows refused: {0}")]
    Refused(String),
    /// A row that cannot be.
    #[error("stored row: {0}")]
    Broken(String),
    /// The database.
    #[error(transparent)]
    Database(#[from] sqlx::Error),
}

impl StoreError {
    /// A row that cannot be, and why.
    pub fn broken(why: impl std::fmt::Display) -> Self {
        Self::Broken(why.to_string())
    }

    /// What the database answered to the writing of a named row: a name that is there already is told apart.
    pub fn naming(row: Row, name: &str, e: sqlx::Error) -> Self {
        match &e {
            sqlx::Error::Database(d) if d.is_unique_violation() => Self::Taken(row, name.to_owned()),
            _ => Self::Database(e),
        }
    }
}
