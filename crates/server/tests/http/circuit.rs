//! Integrated circuits: volts at their pins are readings like any, and the verdict follows.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

#[tokio::test]
async fn volts_at_the_pins_are_readings_and_condemn_a_circuit_last() {
    let s = Server::empty().await;
    s.import("kind,type,value,count,place\nintegrated circuit,TDA2003,,2,tin 7\n").await;
    let t = s.ticket(&["U3 TDA2002", "R1 1k 10%"]).await;
    let u3 = part(&t, "U3")["id"].as_str().unwrap().to_owned();
    let take = |pin: Value, typed: &'static str, state: &'static str| {
        let (s, u3) = (&s, &u3);
        async move {
            let r = json!({"key": Uuid::new_v4(), "typed": typed, "pin": pin, "state": state});
            s.post(&format!("/api/parts/{u3}/readings"), r).await
        }
    };
    for (pin, field) in [(Value::Null, "pin"), (json!(65), "pin"), (json!(0), "pin")] {
        let (status, e) = take(pin, "4", "in circuit").await;
        assert_eq!((status, e["field"].as_str()), (422, Some(field)), "{e}");
    }
    let (status, p) = take(json!(5), "13.6", "in circuit").await;
    assert_eq!((status, p["readings"][0]["called"].as_str()), (201, Some("pin 5")), "{p}");
    assert_eq!(p["judgement"]["verdict"], "measure again");
    for (pin, typed) in [(3, "0"), (2, ".62"), (4, "12.9")] {
        assert_eq!(take(json!(pin), typed, "in circuit").await.0, 201);
    }
    let now = s.get(&format!("/api/parts/{u3}")).await.1;
    let pins = now["circuit"]["pins"].as_array().unwrap();
    let output = pins.iter().find(|p| p["pin"] == 4).unwrap();
    assert_eq!(
        (output["should"].as_str(), output["fits"].as_bool()),
        (Some("6.8 V ±1.56 V"), Some(false)),
        "{now}"
    );
    let (status, p) = take(json!(4), "12.8", "lifted").await;
    assert_eq!((status, p["judgement"]["verdict"].as_str()), (201, Some("replace")), "{p}");
    let (_, found) = s.get(&format!("/api/parts/{u3}/substitutes")).await;
    let first = &found["choices"][0];
    let number = first["entry"]["type_number"].as_str();
    assert_eq!((number, first["from"].as_str()), (Some("TDA2003"), Some("drawers")), "{found}");
    // A negative voltage is one, and it goes out and comes in again.
    assert_eq!(take(json!(1), "-0.4", "in circuit").await.0, 201);
    let ticket = t["id"].as_str().unwrap();
    let doc = s.get(&format!("/api/tickets/{ticket}/record.json")).await.1;
    let there = Server::empty().await;
    assert_eq!(there.post("/api/tickets/import", doc).await.0, 201);
    let again = there.get(&format!("/api/parts/{u3}")).await.1;
    assert_eq!(again["circuit"], s.get(&format!("/api/parts/{u3}")).await.1["circuit"]);
    // A resistor has no pins.
    let r1 = part(&t, "R1")["id"].as_str().unwrap();
    let r = json!({"key": Uuid::new_v4(), "typed": "1k", "pin": 2, "state": "lifted"});
    assert_eq!(s.post(&format!("/api/parts/{r1}/readings"), r).await.0, 422);
}
