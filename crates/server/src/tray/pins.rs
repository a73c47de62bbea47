//! The pins of an integrated circuit, in the order in which they are probed: what each should show and what it showed.

use owl_core::ic::expected::Feeding;
use owl_core::ic::{Device, Function, Pin, device};
use owl_core::part::PartKind;
use owl_core::quantity::{Quantity, Volt};
use owl_core::tray::TrayPart;
use serde::Serialize;
use utoipa::ToSchema;

use crate::amount::Amount;

/// A circuit whose type the table knows.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CircuitView {
    /// Its type number in the table.
    pub type_number: String,
    /// What it does.
    pub job: String,
    /// What may feed it: `4 V to 20 V`.
    pub supply: String,
    /// What is to be known of it.
    pub note: String,
    /// Where the row comes from.
    pub source: String,
    /// Its pins, in the order in which they are probed.
    pub pins: Vec<PinView>,
}

/// A pin.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PinView {
    /// Its number.
    pub pin: u8,
    /// Its name: `output`.
    pub name: String,
    /// What it should show: `7 V ±0.9 V` once the supply was read, `half the supply` before; empty where nothing says it.
    pub should: String,
    /// What it showed last, in the set.
    pub volts: Option<Amount>,
    /// What it showed last with what hangs on it lifted.
    pub lifted: Option<Amount>,
    /// Whether what it showed fits; null where there is nothing to hold it against.
    pub fits: Option<bool>,
    /// What hangs on it.
    pub hangs: String,
}

impl CircuitView {
    /// What is known of the circuit that sits there; `None` of other parts, and of types that no table knows.
    #[must_use]
    pub fn of(part: &TrayPart) -> Option<Self> {
        let device = part.installed_type().filter(|_| part.kind == PartKind::Ic).and_then(device)?;
        let feeding = device.feeding(|n| read(part, n, false));
        Some(Self {
            type_number: device.type_number.clone(),
            job: device.job.to_string(),
            supply: device.supply_in_words(),
            note: device.note.clone(),
            source: device.source.to_string(),
            pins: device.in_probing_order().into_iter().map(|p| pin_view(part, device, p, feeding)).collect(),
        })
    }
}

/// What a pin showed last of what sits there.
fn read(part: &TrayPart, pin: u8, lifted: bool) -> Option<Volt> {
    let at = |r: &&owl_core::tray::TakenReading| part.is_of_what_sits(r) && r.reading.is_at_pin(pin, lifted);
    part.readings.iter().rfind(at)?.reading.value_si().and_then(|v| Volt::new(v).ok())
}

fn pin_view(part: &TrayPart, device: &Device, pin: &Pin, feeding: Option<Feeding>) -> PinView {
    let volts = |v: Volt| Amount::of(Quantity::Voltage, v.volts());
    let (has, lifted) = (read(part, pin.number, false), read(part, pin.number, true));
    let expected = feeding.and_then(|f| pin.expected(f));
    let fed = feeding.filter(|_| pin.function == Function::Supply).map(|f| {
        let v = f.volts();
        v >= device.supply_least && v <= device.supply_most
    });
    let round = |v: Volt| Amount::rounded(Quantity::Voltage, v.volts(), 3).text;
    PinView {
        pin: pin.number,
        name: pin.name.clone(),
        should: match (pin.function, expected) {
            (Function::Supply, _) => device.supply_in_words(),
            (_, Some(e)) if pin.function == Function::Ground => round(e.volts),
            (_, Some(e)) => format!("{} ±{}", round(e.volts), round(e.within)),
            (_, None) => pin.in_words(),
        },
        fits: fed.or_else(|| Some(expected?.fits(has?))),
        volts: has.map(volts),
        lifted: lifted.map(volts),
        hangs: pin.hangs.clone(),
    }
}
