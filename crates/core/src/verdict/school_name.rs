//! The three schools by name.

use crate::named::named;

named! {
    /// A way of judging parts.
    "school" School {
        /// Evidence decides.
        TestFirst = "test first",
        /// Known-bad families are replaced without testing.
        ReplaceOnSight = "replace on sight",
        /// Everything that is safe and works stays.
        KeepOriginal = "keep original",
    }
}
