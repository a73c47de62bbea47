//! The documents keep their word: every example of docs/api.md is asked and answered as it is printed there.

use serde_json::Value;

use crate::support::{Server, root};

/// Whether `answer` says all that `printed` says: objects may have more, lists begin so, numbers agree to five digits.
fn says(answer: &Value, printed: &Value, at: &str) -> Result<(), String> {
    let no = || Err(format!("{at}: {answer} is not {printed}"));
    match (answer, printed) {
        (Value::Object(a), Value::Object(p)) => {
            p.iter().try_for_each(|(k, v)| says(a.get(k).unwrap_or(&Value::Null), v, &format!("{at}.{k}")))
        }
        (Value::Array(a), Value::Array(p)) if a.len() >= p.len() => {
            a.iter().zip(p).enumerate().try_for_each(|(i, (a, p))| says(a, p, &format!("{at}[{i}]")))
        }
        (Value::Number(a), Value::Number(p)) => {
            let (a, p) = (a.as_f64().unwrap(), p.as_f64().unwrap());
            if (a - p).abs() <= 2e-4 * p.abs() { Ok(()) } else { no() }
        }
        _ if answer == printed => Ok(()),
        _ => no(),
    }
}

fn block<'a>(section: &'a str, kind: &str) -> &'a str {
    let start =
        section.split_once(&format!("```json {kind}\n")).unwrap_or_else(|| panic!("no {kind}: {section}")).1;
    start.split_once("```").unwrap().0
}

#[tokio::test]
async fn every_example_of_the_computing_interface_is_answered_as_printed() {
    let s = Server::empty().await;
    let doc = std::fs::read_to_string(root().join("docs/api.md")).unwrap();
    let mut asked = Vec::new();
    for section in doc.split("\n## POST ").skip(1) {
        let path = section.lines().next().unwrap();
        let question: Value = serde_json::from_str(block(section, "request")).unwrap();
        let printed: Value = serde_json::from_str(block(section, "answer")).unwrap();
        let (status, answer) = s.post(path, question).await;
        assert_eq!(status, 200, "{path}: {answer}");
        if let Err(e) = says(&answer, &printed, path) {
            panic!("{e}");
        }
        asked.push(path.to_owned());
    }
    // And every computing address of the interface has its example.
    let (_, api) = s.get("/api/openapi.json").await;
    for (path, item) in api["paths"].as_object().unwrap() {
        let tool = item["post"]["tags"][0] == "tools" && !path.contains("stream");
        let sheet = path.starts_with("/api/supply/") || path == "/api/values";
        assert!(!tool || sheet || asked.contains(path), "{path} has no example in docs/api.md");
    }
    assert!(asked.len() >= 14, "{asked:?}");
}
