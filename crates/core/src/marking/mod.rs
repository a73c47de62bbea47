//! What a marking means: colours, codes and printed text, each in a file of its own with its table
//! as data. [`read::read_text`] and [`read::read_colours`] try every code that fits, weigh the
//! meanings and rank them; [`encode`] goes the other way.
//!
//! | what is seen | where it is read |
//! |---|---|
//! | bands, dots, stripes | [`colours`] by the layouts of [`scheme`], with [`fading`] |
//! | diode bands | [`diode`] |
//! | `4K7J`, `R33` | [`letter_code`] |
//! | `103`, `4702`, `68C` on a chip | [`chip_code`] |
//! | `RCR20G103JS` | [`mil_style`] |
//! | `4.7k 5% 1W` | [`plain_text`] |
//! | `2A104K`, `473`, `p47` | [`digit_code`] |
//! | `0.05 MFD 400 WVDC`, `X2 275V~` | [`printed`], with [`volts`], [`temperature`], [`date`] |
//! | `20/20/20 @ 450`, `▲40/350` | [`can`] |
//! | `100uH`, `4R7` on a choke | [`choke`] |
//! | `#47` | [`lamp`] |

pub mod can;
pub mod chip_code;
pub mod choke;
pub mod colour;
pub mod colours;
pub mod date;
pub mod digit_code;
pub mod diode;
pub mod disagreement;
pub mod encode;
mod error;
pub mod fading;
pub mod fuse;
mod hints;
pub mod lamp;
pub mod letter_code;
pub mod loudspeaker;
mod meaning;
pub mod mil_capacitor;
pub mod mil_style;
pub mod plain_text;
pub mod printed;
pub mod read;
pub mod remark;
pub mod scheme;
pub mod stored;
pub mod table;
pub mod temperature;
pub mod transistor;
mod type_number;
pub mod valve;
pub mod volts;
mod weigh;

pub use colour::Colour;
pub use error::MarkingError;
pub use hints::Hints;
pub use meaning::{Meaning, Rating, Section, Tolerance, Value, VoltsKind};
pub use read::{read_colours, read_text};
pub use scheme::Scheme;

use crate::named::named;

named! {
    /// A way of marking a part.
    "code" Code {
        /// Rings of colour round the body.
        ColourBands = "colour bands",
        /// Four bands and a fifth for the failure rate.
        FailureRateBands = "bands with failure rate",
        /// Body, end and dot.
        BodyEndDot = "body-end-dot",
        /// R, K, M as the point, a letter for the tolerance.
        LetterCode = "letter code",
        /// Three or four digits on a chip.
        ChipCode = "chip code",
        /// Two digits and a letter on a chip.
        Eia96 = "EIA-96 code",
        /// A military part number.
        MilStyle = "MIL part number",
        /// Numbers and units in words.
        PlainText = "plain text",
        /// Digits and the number of zeros, in picofarad.
        DigitCode = "digit code",
        /// Several capacitors in one can.
        Can = "can sections",
        /// Six dots on mica by RETMA, EIA, JAN, MIL.
        MicaDots = "EIA or MIL mica dots",
        /// Three, five or six dots on mica by RMA.
        MicaRma = "RMA mica dots",
        /// Dots or bands on ceramic.
        CeramicDots = "ceramic dots or bands",
        /// Bands on moulded paper.
        PaperBands = "moulded paper bands",
        /// Stripes on polyester.
        FilmStripes = "film stripes",
        /// Dots on tantalum.
        TantalumDots = "tantalum dots",
        /// Bands on a choke, in microhenry.
        ChokeBands = "choke bands",
        /// Bands on a military choke.
        MilChokeBands = "MIL choke bands",
        /// Digits on a choke, in microhenry.
        ChokeCode = "choke code",
        /// The number of a dial lamp.
        LampNumber = "lamp number",
        /// Bands on a diode.
        DiodeBands = "diode bands",
        /// A registered type number.
        TypeNumber = "type number",
        /// No resistance at all.
        Link = "zero-ohm link",
    }
}
