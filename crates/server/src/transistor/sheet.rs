//! A type as it is sent: its limits as numbers and as text, its package from below.

use owl_core::drawers::Condition;
use owl_core::quantity::Quantity;
use owl_core::quantity::format::format;
use owl_core::transistor::device::{CaseLead, PowerReference, Sure};
use owl_core::transistor::package::{Lead, Mount, Package, Shape, package};
use owl_core::transistor::{Device, DeviceKind, Material, Polarity};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::library::Types;
use crate::amount::Amount;
use crate::table::device::Stocked;

/// A type; null is not known.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct TypeView {
    /// Its number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// Its kind.
    pub kind: DeviceKind,
    /// Its polarity.
    pub polarity: Polarity,
    /// Its material.
    pub material: Option<Material>,
    /// Collector to base, or drain to gate.
    pub vcbo: Option<Amount>,
    /// Collector to emitter, or drain to source.
    pub vceo: Option<Amount>,
    /// Emitter to base, or gate to source.
    pub vebo: Option<Amount>,
    /// Collector or drain current.
    pub ic: Option<Amount>,
    /// Dissipation.
    pub power: Option<Amount>,
    /// Where its temperature is held.
    pub power_reference: Option<PowerReference>,
    /// At how many °C it is quoted.
    pub power_at: Option<f64>,
    /// The junction's limit, °C.
    pub tj: Option<f64>,
    /// Thermal resistance to the reference, K/W: as published, otherwise what the rating means.
    pub rth: Option<f64>,
    /// Least gain.
    pub hfe_min: Option<f64>,
    /// Greatest gain.
    pub hfe_max: Option<f64>,
    /// At which collector current.
    pub hfe_ic: Option<Amount>,
    /// At which collector voltage.
    pub hfe_vce: Option<Amount>,
    /// Transition frequency.
    pub ft: Option<Amount>,
    /// Output capacitance.
    pub cob: Option<Amount>,
    /// Drain current at zero gate volts: the least.
    pub idss_min: Option<Amount>,
    /// Drain current at zero gate volts: the most.
    pub idss_max: Option<Amount>,
    /// Least transconductance, siemens.
    pub gfs: Option<f64>,
    /// Its leads from below; null where package or leads are not known.
    pub outline: Option<OutlineView>,
    /// Its package.
    pub package: String,
    /// Its leads as letters, in the order of the package.
    pub pinout: Option<String>,
    /// What its case is connected to.
    pub case: Option<CaseLead>,
    /// What it is usually used for.
    #[serde(rename = "use")]
    pub usual_use: String,
    /// How far the row is to be trusted.
    pub sure: Sure,
    /// Where the row comes from.
    pub source: String,
    /// Lines as they are read on a sheet.
    pub lines: Vec<SheetLine>,
    /// The workshop's own row, where it has added or corrected this type.
    pub own: Option<OwnRow>,
    /// Where pieces of it lie.
    pub drawers: Vec<StockView>,
}

/// The workshop's own row.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct OwnRow {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// Whether it corrects a row of the table, which is kept.
    pub corrects: bool,
}

/// A line of a sheet.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SheetLine {
    /// What.
    pub label: String,
    /// How much; empty where it is not known.
    pub text: String,
}

/// Pieces in a drawer.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StockView {
    /// The lot.
    pub lot: Uuid,
    /// How many.
    pub count: i32,
    /// Where.
    pub place: String,
    /// In which condition.
    pub condition: Condition,
}

impl From<&Stocked> for StockView {
    fn from(s: &Stocked) -> Self {
        Self { lot: s.lot, count: s.count, place: s.place.clone(), condition: s.condition }
    }
}

/// A package from below.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct OutlineView {
    /// Its name.
    pub package: String,
    /// What holds it down.
    pub mount: Mount,
    /// How the leads come out.
    pub shape: Shape,
    /// How it looks.
    pub about: String,
    /// From hole to hole, millimetre.
    pub hole_millimetres: Option<f64>,
    /// Its leads, in their order.
    pub leads: Vec<LeadView>,
    /// What the case is connected to.
    pub case: Option<CaseLead>,
}

/// A lead from below.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LeadView {
    /// To the right, a share of half the width.
    pub x: f64,
    /// Upwards, a share of half the width.
    pub y: f64,
    /// What it is connected to; null where that is not known.
    pub electrode: Option<Lead>,
    /// Its letter; empty where that is not known.
    pub letter: String,
}

impl OutlineView {
    /// Of a package alone, its leads numbered.
    #[must_use]
    pub fn numbered(p: &Package) -> Self {
        Self {
            package: p.package.clone(),
            mount: p.mount,
            shape: p.shape,
            about: p.about.clone(),
            hole_millimetres: p.hole_millimetres,
            leads: p
                .spots()
                .iter()
                .enumerate()
                .map(|(i, s)| LeadView {
                    x: s.x_share,
                    y: s.y_share,
                    electrode: None,
                    letter: (i + 1).to_string(),
                })
                .collect(),
            case: None,
        }
    }

    /// Of a type; `None` where its package is not known.
    #[must_use]
    pub fn of(d: &Device) -> Option<Self> {
        let p = package(&d.package)?;
        let leads: &[Lead] = d.pinout.as_ref().map_or(&[], |p| p.leads());
        Some(Self {
            package: p.package.clone(),
            mount: p.mount,
            shape: p.shape,
            about: p.about.clone(),
            hole_millimetres: p.hole_millimetres,
            leads: p
                .spots()
                .iter()
                .enumerate()
                .map(|(i, s)| LeadView {
                    x: s.x_share,
                    y: s.y_share,
                    electrode: leads.get(i).copied(),
                    letter: leads.get(i).map_or_else(String::new, |l| l.letter().to_string()),
                })
                .collect(),
            case: d.case,
        })
    }
}

impl TypeView {
    /// A type, with what the workshop has of it.
    #[must_use]
    pub fn of(d: &Device, types: Option<&Types>, stock: &[Stocked]) -> Self {
        let amount = |q, v: Option<f64>| v.map(|v| Amount::of(q, v));
        let own = types.and_then(|t| t.own(&d.type_number)).map(|(id, version)| OwnRow {
            id,
            version,
            corrects: owl_core::transistor::device::device(&d.type_number).is_some(),
        });
        use Quantity::{Capacitance, Current, Frequency, Power, Voltage};
        Self {
            type_number: d.type_number.clone(),
            kind: d.kind,
            polarity: d.polarity,
            material: d.material,
            vcbo: amount(Voltage, d.vcbo_volts),
            vceo: amount(Voltage, d.vceo_volts),
            vebo: amount(Voltage, d.vebo_volts),
            ic: amount(Current, d.ic_amperes),
            power: amount(Power, d.power_watts),
            power_reference: d.power_reference,
            power_at: d.power_at_celsius,
            tj: d.junction_celsius,
            rth: d.thermal_resistance(),
            hfe_min: d.gain_min,
            hfe_max: d.gain_max,
            hfe_ic: amount(Current, d.gain_at_amperes),
            hfe_vce: amount(Voltage, d.gain_at_volts),
            ft: amount(Frequency, d.ft_hertz),
            cob: amount(Capacitance, d.cob_farads),
            idss_min: amount(Current, d.idss_min_amperes),
            idss_max: amount(Current, d.idss_max_amperes),
            gfs: d.gfs_siemens,
            outline: OutlineView::of(d),
            package: d.package.clone(),
            pinout: d.pinout.map(|p| p.to_string()),
            case: d.case,
            usual_use: d.usual_use.clone(),
            sure: d.sure,
            source: d.source.to_string(),
            lines: lines(d),
            own,
            drawers: stock.iter().map(StockView::from).collect(),
        }
    }
}

/// The sheet, line by line; what is not known stands there empty.
fn lines(d: &Device) -> Vec<SheetLine> {
    let text = |q, v: Option<f64>| v.map_or_else(String::new, |v| format(q, v).to_string());
    let at = |text: String, more: String| {
        if text.is_empty() || more.is_empty() { text } else { format!("{text} {more}") }
    };
    use Quantity::{Capacitance, Current, Frequency, Power, Voltage};
    let base = d.kind.has_base();
    let name = |bipolar: &str, field: &str| if base { bipolar.to_owned() } else { field.to_owned() };
    let power = match (d.power_reference, d.power_at_celsius) {
        (Some(PowerReference::Ambient), Some(t)) => format!("in free air at {t} °C"),
        (Some(PowerReference::Case), Some(t)) => format!("with the case at {t} °C"),
        _ => String::new(),
    };
    let mut lines = vec![
        (name("collector to base", "drain to gate"), text(Voltage, d.vcbo_volts)),
        (name("collector to emitter", "drain to source"), text(Voltage, d.vceo_volts)),
    ];
    if d.vcer_volts.is_some() {
        lines.push(("collector to emitter, a resistor at the base".to_owned(), text(Voltage, d.vcer_volts)));
    }
    lines.extend([
        (name("emitter to base", "gate to source"), text(Voltage, d.vebo_volts)),
        (name("collector current", "drain current"), text(Current, d.ic_amperes)),
        ("dissipation".to_owned(), at(text(Power, d.power_watts), power)),
        ("junction at most".to_owned(), d.junction_celsius.map_or_else(String::new, |t| format!("{t} °C"))),
    ]);
    if base {
        let span = match (d.gain_min, d.gain_max) {
            (Some(a), Some(b)) => format!("{a} to {b}"),
            (Some(a), None) => format!("{a} and more"),
            (None, Some(b)) => format!("up to {b}"),
            (None, None) => String::new(),
        };
        let current = d.gain_at_amperes.map_or_else(String::new, |i| format!("at {}", format(Current, i)));
        let volts = d.gain_at_volts.map_or_else(String::new, |v| format!("and {}", format(Voltage, v)));
        lines.push(("gain".to_owned(), at(at(span, current), volts)));
        lines.push(("transition frequency".to_owned(), text(Frequency, d.ft_hertz)));
        lines.push(("output capacitance".to_owned(), text(Capacitance, d.cob_farads)));
    } else {
        let idss = match (d.idss_min_amperes, d.idss_max_amperes) {
            (Some(a), Some(b)) => format!("{} to {}", format(Current, a), format(Current, b)),
            _ => String::new(),
        };
        lines.push(("drain current at zero gate volts".to_owned(), idss));
        let gfs = d.gfs_siemens.map_or_else(String::new, |g| format!("{:.1} mA per volt and more", g * 1e3));
        lines.push(("transconductance".to_owned(), gfs));
    }
    if d.leads_vary {
        lines.push(("leads".to_owned(), "in another order from some makers: test the piece".to_owned()));
    }
    let case = d.case.map_or_else(String::new, |c| c.to_string());
    lines.push(("case".to_owned(), case));
    lines.into_iter().map(|(label, text)| SheetLine { label, text }).collect()
}
