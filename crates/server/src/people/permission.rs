//! What each operation of the interface needs (rule R22). What stands nowhere here is for the owner alone, and a test says
//! that nothing stands nowhere.

use axum::http::Method;
use owl_core::people::Permission;

/// What has to be known of whoever asks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Needs {
    /// Nothing: this is the way in.
    Nobody,
    /// Who it is.
    Somebody,
    /// That the person may do it.
    Permission(Permission),
}

/// What an operation needs, by its method and its address as the routes write it.
#[must_use]
pub fn needed(method: &Method, path: &str) -> Needs {
    use Needs::Permission as P;
    use Permission::{Decide, Keep, Look, Measure, Own};
    if matches!(path, "/api/session" | "/api/session/link" | "/api/health" | "/api/live") {
        return Needs::Nobody;
    }
    if path.starts_with("/api/account") || path == "/api/countersign" {
        return Needs::Somebody;
    }
    if path.starts_with("/api/people") {
        return P(Own);
    }
    if method == Method::GET || method == Method::HEAD {
        return P(Look);
    }
    // A ticket goes for good.
    if method == Method::DELETE && path == "/api/tickets/{id}" {
        return P(Own);
    }
    match path {
        "/api/combine"
        | "/api/combine/stream"
        | "/api/decode"
        | "/api/diagnose"
        | "/api/judge"
        | "/api/network/share"
        | "/api/parts/{id}/foresee"
        | "/api/proofs/heard"
        | "/api/reform/plan"
        | "/api/reform/simulate"
        | "/api/substitute"
        | "/api/supply/chart"
        | "/api/supply/discharge"
        | "/api/supply/field-coil"
        | "/api/supply/heaters"
        | "/api/supply/limiter"
        | "/api/supply/rectifier"
        | "/api/supply/ripple"
        | "/api/supply/series"
        | "/api/supply/touch"
        | "/api/tickets/{id}/understand"
        | "/api/transistors/diode"
        | "/api/transistors/equivalents"
        | "/api/transistors/gain"
        | "/api/transistors/identify"
        | "/api/transistors/inspect"
        | "/api/transistors/pairs"
        | "/api/understand"
        | "/api/values" => P(Look),
        // What one sentence, one change or one undoing decides is asked for where it is understood.
        "/api/attachments/{id}/markers"
        | "/api/banks/{id}"
        | "/api/changes/{id}/proof"
        | "/api/chart/points/{id}"
        | "/api/chart/runs/{id}/readings"
        | "/api/drawers/{id}/count"
        | "/api/feeds/{id}"
        | "/api/fittings/{id}/proof"
        | "/api/parts/{id}"
        | "/api/parts/{id}/causes"
        | "/api/parts/{id}/explanations"
        | "/api/parts/{id}/junctions"
        | "/api/parts/{id}/meter"
        | "/api/parts/{id}/readings"
        | "/api/parts/{id}/suspects"
        | "/api/readings/{id}/void"
        | "/api/reform/runs"
        | "/api/reform/runs/{id}"
        | "/api/reform/runs/{id}/command"
        | "/api/reform/runs/{id}/leakage"
        | "/api/reform/runs/{id}/readings"
        | "/api/reform/runs/{id}/supply"
        | "/api/say"
        | "/api/soaks/{id}/checks"
        | "/api/tickets"
        | "/api/tickets/{id}"
        | "/api/tickets/{id}/attachments"
        | "/api/tickets/{id}/banks"
        | "/api/tickets/{id}/chart/points"
        | "/api/tickets/{id}/chart/runs"
        | "/api/tickets/{id}/chart/valves"
        | "/api/tickets/{id}/deeds/undo"
        | "/api/tickets/{id}/feeds"
        | "/api/tickets/{id}/parts"
        | "/api/tickets/{id}/say"
        | "/api/transistors/inspections"
        | "/api/transistors/measure" => P(Measure),
        "/api/transistors/lots/{id}" => P(if method == Method::DELETE { Keep } else { Measure }),
        "/api/attachments/{id}"
        | "/api/banks/{id}/go"
        | "/api/changes/{id}/undo"
        | "/api/fittings/{id}/withdrawal"
        | "/api/parts/{id}/decisions"
        | "/api/parts/{id}/fittings"
        | "/api/parts/{id}/stage"
        | "/api/reform/runs/{id}/start"
        | "/api/tickets/{id}/changes"
        | "/api/tickets/{id}/closing"
        | "/api/tickets/{id}/power"
        | "/api/tickets/{id}/safety"
        | "/api/tickets/{id}/soaks" => P(Decide),
        "/api/drawers"
        | "/api/drawers/import"
        | "/api/drawers/{id}"
        | "/api/instruments"
        | "/api/instruments/{id}"
        | "/api/instruments/{id}/identify"
        | "/api/policies"
        | "/api/policies/{id}"
        | "/api/tickets/import"
        | "/api/transistors/types"
        | "/api/transistors/types/import"
        | "/api/transistors/types/{id}"
        | "/api/workshop/dialect" => P(Keep),
        _ => P(Own),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Operations that are for the owner by intention, not by omission.
    const OWNERS: [(&str, &str); 1] = [("delete", "/api/tickets/{id}")];

    #[test]
    fn every_operation_says_what_it_needs() {
        let document = serde_json::to_value(crate::router::openapi()).unwrap();
        let paths = document["paths"].as_object().unwrap();
        assert!(paths.len() > 100);
        for (path, item) in paths {
            for (method, operation) in item.as_object().unwrap() {
                let verb: Method = method.to_uppercase().parse().unwrap();
                if !operation.is_object() || path.starts_with("/api/people") {
                    continue;
                }
                let own = needed(&verb, path) == Needs::Permission(Permission::Own);
                let meant = OWNERS.contains(&(method.as_str(), path.as_str()));
                assert_eq!(own, meant, "{method} {path}");
            }
        }
        assert_eq!(needed(&Method::POST, "/api/something/new"), Needs::Permission(Permission::Own));
    }
}
