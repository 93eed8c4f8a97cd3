//! Practice over the wire: who may practise on what, problems judged as in class, glass under somebody's hands.

use crate::process::{Client, Server};
use serde_json::{Value, json};

fn problem(practical: &str) -> Value {
    json!({ "practical": practical, "seed": 7 })
}

#[test]
fn a_stranger_practises_on_nothing_a_group_on_its_own_practical_and_the_desk_on_all() {
    let server = Server::demo();
    let (nobody, desk) = (server.client(), server.desk());
    let (beryl, _) = server.bench("Beryl", "4182");
    let ask = |who: &Client, practical: &str| who.post("/api/v1/practice/problem", &problem(practical));
    assert_eq!(ask(&nobody, "epsom-salt").refusal().0, 401);
    assert_eq!(nobody.post("/api/v1/practice/scales", &json!({ "seed": 1, "how_many": 3 })).refusal().0, 401);
    let own = beryl.get("/api/v1/practice").body;
    let titles: Vec<&str> = own["practicals"].as_array().unwrap().iter().map(|p| p["id"].as_str().unwrap()).collect();
    assert_eq!((titles, own["at_bench"].as_bool()), (vec!["epsom-salt"], Some(true)));
    assert_eq!(ask(&beryl, "epsom-salt").status, 200);
    let (status, words) = ask(&beryl, "vinegar").refusal();
    assert_eq!((status, words.as_str()), (404, "there is no such practical to practise on at this bench"));
    assert!(desk.get("/api/v1/practice").body["practicals"].as_array().unwrap().len() > 20);
    assert_eq!(ask(&desk, "unknown-by-melting").status, 200);
    assert_eq!(ask(&desk, "no-such").refusal().0, 404);
    let by_hand = json!({ "practical": "epsom-salt", "seed": 7, "by_hand": true });
    assert_eq!(desk.post("/api/v1/practice/problem", &by_hand).refusal().0, 404, "nothing is titrated there");
}

#[test]
fn a_problem_tells_no_value_before_its_solution_and_an_answer_is_judged_as_in_class() {
    let server = Server::demo();
    let desk = server.desk();
    let given = desk.post("/api/v1/practice/problem", &problem("hydrochloric-acid-standard"));
    let worked = desk.post("/api/v1/practice/worked", &json!({ "problem": problem("hydrochloric-acid-standard") }));
    let solution = worked.body.as_array().unwrap().iter().find(|r| r["result"] == "c_acid").unwrap().clone();
    let right = solution["comes_to"].as_str().unwrap().split(' ').next().unwrap().to_owned();
    assert!(!given.text.contains(&right), "{right} stands in {}", given.text);

    let judged = |text: &str| {
        let answers = json!({ "c_acid": { "text": text, "unit": "mol/L" } });
        desk.post(
            "/api/v1/practice/judged",
            &json!({ "problem": problem("hydrochloric-acid-standard"), "answers": answers }),
        )
    };
    assert_eq!(judged(&right).body["hints"]["c_acid"]["stands"], "right");
    // Sodium carbonate takes two: as if it took one, by the numbers of this very problem.
    let half = format!("{:.3}", right.parse::<f64>().unwrap() / 2.0);
    let wrong = judged(&half);
    assert_eq!(wrong.body["hints"]["c_acid"]["stands"], "wrong");
    assert_eq!(wrong.body["hints"]["c_acid"]["slip"], "ratio-ignored", "{}", wrong.text);
    assert!(!wrong.text.contains(&right), "a hint gives no value away");
    assert_eq!(judged("a lot").refusal().0, 422);
    let many: serde_json::Map<String, Value> =
        (0..201).map(|n| (format!("r{n}"), json!({ "text": "1", "unit": "" }))).collect();
    let flood = json!({ "problem": problem("vinegar"), "answers": many });
    assert_eq!(desk.post("/api/v1/practice/judged", &flood).refusal().0, 422);
}

#[test]
fn the_slip_in_a_sum_is_the_one_that_was_made_and_no_other() {
    let server = Server::demo();
    let desk = server.desk();
    let sum = desk.post("/api/v1/practice/slip", &problem("vinegar")).body;
    let named = |slip: &Value| {
        desk.post("/api/v1/practice/slip/named", &json!({ "problem": problem("vinegar"), "slip": slip })).body
    };
    let found: Vec<Value> = sum["choices"].as_array().unwrap().iter().map(named).collect();
    let right: Vec<&Value> = found.iter().filter(|f| f["right"] == true).collect();
    assert_eq!((found.len(), right.len()), (5, 1), "{sum}");
    assert_eq!(right[0]["worked"]["label"], sum["label"]);
}

#[test]
fn a_burette_does_what_is_done_to_it_and_no_more_than_a_sitting_of_it() {
    let server = Server::demo();
    let desk = server.desk();
    let burette = |acts: Value, read: Value| {
        let problem = json!({ "practical": "vinegar", "seed": 7, "by_hand": true });
        desk.post("/api/v1/practice/burette", &json!({ "problem": problem, "trial": 1, "acts": acts, "read": read }))
    };
    let empty = burette(json!([]), Value::Null).body;
    assert_eq!((empty["seen"]["empty"].as_bool(), empty["told"].is_null()), (Some(true), true));
    let run = json!([{ "kind": "fill" }, { "kind": "run", "seconds": 60.0 }, { "kind": "swirl" }]);
    let over = burette(run.clone(), json!(["0.30", "48.20"])).body;
    assert_eq!(over["seen"]["flask"], "past");
    let told = &over["told"];
    assert!((told["read"].as_f64().unwrap() - 47.9).abs() < 1e-9);
    assert!(told["end_point"].as_f64().unwrap() < 30.0 && told["delivered"].as_f64().unwrap() > 40.0, "{told}");
    let (status, words) = burette(run, json!(["0.30", "much"])).refusal();
    assert!(status == 422 && words.starts_with("a burette reading: "), "{words}");
    let drops: Vec<Value> = (0..2001).map(|_| json!({ "kind": "drop" })).collect();
    let (status, words) = burette(json!(drops), Value::Null).refusal();
    assert_eq!((status, words.as_str()), (422, "that is more than 2000 at once: begin anew"));
    assert_eq!(burette(json!([{ "kind": "shake" }]), Value::Null).refusal().0, 422);
    let far = json!({ "problem": { "practical": "vinegar", "seed": 7, "by_hand": true }, "trial": 99, "acts": [] });
    assert_eq!(desk.post("/api/v1/practice/burette", &far).refusal().0, 404);
    assert_eq!(desk.post("/api/v1/practice/scales", &json!({ "seed": 1, "how_many": 41 })).refusal().0, 422);
}
