//! The numbers of a school, each with its name, its range and its source (`data/school.csv`).

use std::sync::LazyLock;

use serde::Deserialize;

use super::school_name::School;
use crate::named::named;
use crate::quantity::Quantity;
use crate::source::Source;
use crate::table::rows;

named! {
    /// A number that a school judges by.
    "policy number" PolicyNumber {
        /// Its own limit beside a resistor's marked tolerance.
        LimitFraction = "limit_fraction",
        /// Share of a limit from which a part is watched.
        WatchFrom = "watch_from",
        /// How far halves of a pair may be apart.
        PairFraction = "pair_fraction",
        /// How far halves of a winding may be apart.
        WindingFraction = "winding_fraction",
        /// How far a winding may be off the sheet.
        CoilFraction = "coil_fraction",
        /// Watts of a new resistor over what it dissipates.
        WattFactor = "watt_factor",
        /// How long composition counts as hot after the iron.
        CoolSeconds = "cool_seconds",
        /// Share of the bias that a grid may be lifted.
        GridShiftOfBias = "grid_shift_of_bias",
        /// How far a grid may be lifted at most.
        GridShiftVolts = "grid_shift_volts",
        /// Share of that from which a capacitor is watched.
        GridWatchShare = "grid_watch_share",
        /// How much of the rail a leak may take.
        FeedDropFraction = "feed_drop_fraction",
        /// Share of a feed resistor's watts that may be used.
        FeedRatingShare = "feed_rating_share",
        /// How much of the AVC voltage a leak may take.
        AvcLossFraction = "avc_loss_fraction",
        /// Paper whose insulation times capacitance is no more is finished.
        FinishedSeconds = "finished_seconds",
        /// Insulation times capacitance of film as new.
        NewSeconds = "new_seconds",
        /// Insulation of small film as new.
        NewOhms = "new_ohms",
        /// A test below this says nothing of leakage at work.
        LowTestVolts = "low_test_volts",
        /// From this rating on a capacitor must pass a leakage test.
        UnprovenVolts = "unproven_volts",
        /// How far below its mark an electrolytic may read.
        ElectrolyticLow = "electrolytic_low",
        /// How far above its mark an electrolytic may read.
        ElectrolyticHigh = "electrolytic_high",
        /// An electrolytic that has lost this much is dried out.
        DriedFraction = "dried_fraction",
        /// ESR and dissipation that pass over those of a new part.
        EsrFactor = "esr_factor",
        /// Times its limit from which ESR condemns in circuit.
        EsrClearlyBad = "esr_clearly_bad",
        /// Leakage that passes on a tester that shows percent.
        LeakagePercent = "leakage_percent",
        /// Milliampere for each microfarad by the bench figure.
        BenchMaPerMicrofarad = "bench_ma_per_microfarad",
        /// A capacitor below this is shorted.
        ShortOhms = "short_ohms",
        /// Below this the meter's leads count.
        LeadOhms = "lead_ohms",
        /// An electrolytic older than this is past its age.
        ElectrolyticYears = "electrolytic_years",
        /// How far inductance or ratio may fall before shorted turns are suspected.
        ShortedTurnsFraction = "shorted_turns_fraction",
        /// Insulation below which a part in a tuned circuit goes.
        TunedOhms = "tuned_ohms",
        /// How far an inductance may be below its mark.
        InductanceFraction = "inductance_fraction",
        /// The line at its highest over what the sheet assumes.
        LineHigh = "line_high",
        /// A winding's volts without load over those with it.
        NoLoad = "no_load",
        /// Rating of a plate blocking part over its rail.
        BlockingFactor = "blocking_factor",
        /// The same where the plate is modulated.
        ModulatedFactor = "modulated_factor",
        /// A place with no more volts across it is one of low voltage.
        LowPlaceVolts = "low_place_volts",
        /// Rating of film that is enough there.
        LowPlaceFilm = "low_place_film",
        /// Rating of mica and ceramic that is enough there.
        LowPlaceRating = "low_place_rating",
        /// Ripple current of a reservoir over the load's.
        RippleFactor = "ripple_factor",
        /// How far a part in a tuned circuit may be off at most.
        TunedFraction = "tuned_fraction",
        /// Reverse volts of a rectifier over those that it sees.
        ReverseFactor = "reverse_factor",
        /// Current of a rectifier over the load's.
        DiodeCurrentFactor = "diode_current_factor",
        /// How far the voltage goes up at a time when reforming, as a share of the aim.
        ReformStep = "reform_step",
        /// The least time at each voltage.
        ReformDwellSeconds = "reform_dwell_seconds",
        /// The least time at the last voltage.
        ReformHoldSeconds = "reform_hold_seconds",
        /// Times its share of the limit at which the voltage goes on.
        ReformGoOn = "reform_go_on",
        /// Heat that a faulty part may be given.
        ReformHeatWatts = "reform_heat_watts",
        /// Time at one voltage after which a part is given up.
        ReformPatienceSeconds = "reform_patience_seconds",
        /// Without a reading of the meter for so long the supply goes off.
        ReformSilenceSeconds = "reform_silence_seconds",
        /// The same where a hand types the readings.
        ReformSilenceByHandSeconds = "reform_silence_by_hand_seconds",
        /// How far a volt reading may be off the sheet and still be called right.
        ChartNear = "chart_near",
        /// From where on it is called off.
        ChartOff = "chart_off",
        /// How far two points that belong together may be apart.
        ChartPair = "chart_pair",
        /// In which time a discharge resistor is to empty the part.
        ReformDischargeSeconds = "reform_discharge_seconds",
    }
}

/// A row of the table: a number in each school.
#[derive(Debug, Clone, Deserialize)]
pub struct NumberRow {
    /// Which number.
    pub setting: PolicyNumber,
    test_first: f64,
    tight: f64,
    replace_on_sight: f64,
    keep_original: f64,
    /// The least that a copy may have, in the base unit.
    pub least: f64,
    /// The most that a copy may have, in the base unit.
    pub most: f64,
    /// What it is measured in.
    pub quantity: Quantity,
    /// What it is, in words.
    pub label: String,
    /// Where it comes from.
    pub source: Source,
}

impl NumberRow {
    /// The number in a school, in the base unit.
    #[must_use]
    pub fn of(&self, school: School, tight: bool) -> f64 {
        match school {
            School::TestFirst if tight => self.tight,
            School::TestFirst => self.test_first,
            School::ReplaceOnSight => self.replace_on_sight,
            School::KeepOriginal => self.keep_original,
        }
    }
}

static ROWS: LazyLock<Vec<NumberRow>> =
    LazyLock::new(|| rows("school.csv", include_str!("../../data/school.csv")));

/// All numbers, in the order of the table.
#[must_use]
pub fn numbers() -> &'static [NumberRow] {
    &ROWS
}

/// The row of a number; `None` only if the table lacks it, which a test rules out.
#[must_use]
pub fn row(number: PolicyNumber) -> Option<&'static NumberRow> {
    ROWS.iter().find(|r| r.setting == number)
}
