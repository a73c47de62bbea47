//! The whole way from a sentence to a verdict, over HTTP, for a table of cases as they come to a bench: each row names
//! its source, or says that there is none.

use serde_json::{Value, json};

use crate::support::Server;

const CASES: &str = include_str!("../cases/bench.csv");

#[derive(serde::Deserialize)]
struct Case {
    what: String,
    school: String,
    sentences: String,
    verdict: String,
    says: String,
    source: String,
}

#[tokio::test]
async fn every_case_of_the_bench_is_judged_as_it_should_be() {
    let s = Server::empty().await;
    let mut wrong: Vec<String> = Vec::new();
    let mut cases = csv::Reader::from_reader(CASES.as_bytes());
    for case in cases.deserialize::<Case>() {
        let case = case.unwrap();
        assert!(!case.source.is_empty(), "{}", case.what);
        let new = json!({"name": case.what, "source": "mains transformer", "devices": "valves", "school": case.school});
        let (status, ticket) = s.post("/api/tickets", new).await;
        assert_eq!(status, 201, "{}: {ticket}", case.what);
        let id = ticket["id"].as_str().unwrap();
        let mut refused = None;
        for sentence in case.sentences.split(';').map(str::trim) {
            let (status, said) = s.say(id, sentence).await;
            if status != 200 {
                refused = Some(format!("{sentence}: {}", said["detail"]));
            }
        }
        let (_, now) = s.whole(&format!("/api/tickets/{id}")).await;
        let name = case.sentences.rsplit(';').next().unwrap().trim().split(' ').next().unwrap();
        let part = now["parts"].as_array().unwrap().iter().find(|p| p["name"] == name);
        let judgement = part.map_or(&Value::Null, |p| &p["judgement"]);
        let told = format!("{}{}", judgement["reasons"], judgement["next"]);
        if refused.is_some() || judgement["verdict"] != case.verdict.as_str() || !told.contains(&case.says) {
            wrong.push(format!(
                "{}: {} and not {} ('{}'), {told} {}",
                case.what,
                judgement["verdict"],
                case.verdict,
                case.says,
                refused.unwrap_or_default()
            ));
        }
    }
    assert!(wrong.is_empty(), "{} cases:\n{}", wrong.len(), wrong.join("\n"));
}
