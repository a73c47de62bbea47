//! A record that an older release wrote, as it is written now.
//!
//! | version | what differs |
//! |---|---|
//! | 1 | a fitting's `safety` is yes or no, taken from words in its description; parts have no `to_do` |
//! | 2 | `safety` is the class that is printed on the piece, or null; what is to be done on a part is kept with it; a
//! reading does not name its ticket, a fitting not why it went in although it fell short |
//! | 3 | a reading names its ticket (`ticket_id`), a fitting says `despite` what it went in; nothing says whether a chassis
//! may be live although the class does not say so |
//! | 4 | the ticket says it in `hot_chassis`; a safety tick has the `value` that was measured for it, or null |
//! | 5 | a part says in `roles` what may have died with it, a change of which `stage` it is; both may be missing; the ticket has
//! one `class` |
//! | 6 | the ticket says how it is fed in `source`, what it works with in `devices`, its `highest_volts` or null, and in `facts`
//! what is known of its supply; there are no banks |
//! | 7 | `banks` and `bank_members`: parts in series that share the volts; a proof says whether it `worked` |
//! | 8 | a proof says its `outcome`, and a change can have several; a photograph has `markers`; the bytes of attachments stand
//! in their rows |
//! | 9 | they lie beside the rows |

use owl_core::named::Named;
use owl_core::part::SafetyClass;
use owl_core::proof::ProofOutcome;
use owl_core::set::{Devices, PowerSource};
use serde_json::{Value, json};

/// Brings the rows of a record to the version that is read.
pub fn upgrade(rows: &mut Value, version: u64) {
    // What is to be done is worked out anew once the record is in, whatever it says.
    for part in rows["parts"].as_array_mut().into_iter().flatten() {
        part["to_do"] = json!("to measure");
    }
    if version < 8 {
        for picture in rows["attachments"].as_array_mut().into_iter().flatten() {
            picture["markers"] = json!([]);
        }
        for proof in rows["proofs"].as_array_mut().into_iter().flatten() {
            let outcome =
                if proof["worked"] == json!(true) { ProofOutcome::Better } else { ProofOutcome::AsBefore };
            proof["outcome"] = json!(outcome.name());
        }
    }
    if version < 7 {
        rows["banks"] = json!([]);
        rows["bank_members"] = json!([]);
    }
    if version < 6 {
        three_answers(&mut rows["ticket"]);
    }
    if version > 2 {
        return;
    }
    let ticket = rows["ticket"]["id"].clone();
    for reading in rows["readings"].as_array_mut().into_iter().flatten() {
        reading["ticket_id"] = ticket.clone();
    }
    for fitting in rows["fittings"].as_array_mut().into_iter().flatten() {
        fitting["despite"] = json!("");
    }
    if version > 1 {
        return;
    }
    for fitting in rows["fittings"].as_array_mut().into_iter().flatten() {
        let said = fitting["safety"] == json!(true);
        let words = fitting["description"].as_str().unwrap_or_default();
        let class = words
            .split(|c: char| !c.is_ascii_alphanumeric())
            .find_map(|w| SafetyClass::from_name(w).ok())
            .filter(|_| said);
        fitting["safety"] = json!(class.map(Named::name));
    }
}

/// What the one class said of a set, as the migration of the database has it.
fn three_answers(ticket: &mut Value) {
    let class = ticket["class"].as_str().unwrap_or_default().to_owned();
    let hot = ticket["hot_chassis"] == json!(true);
    let low = ticket["line_volts"].as_f64().is_none_or(|v| v < 50.0);
    let source = match class.as_str() {
        _ if hot => PowerSource::LiveChassis,
        "live chassis" => PowerSource::LiveChassis,
        "battery" => PowerSource::Battery,
        "solid state" if low => PowerSource::Battery,
        _ => PowerSource::Transformer,
    };
    let devices = if class == "solid state" { Devices::Transistors } else { Devices::Valves };
    ticket["source"] = json!(source.name());
    ticket["devices"] = json!(devices.name());
    ticket["highest_volts"] = if class == "high voltage" { json!(1000.0) } else { Value::Null };
    ticket["facts"] = json!({});
}
