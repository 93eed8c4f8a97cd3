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
    let (beryl, _) = server.bench("Beryl", "418234");
    let ask = |who: &Client, practical: &str| who.post("/api/v1/practice/problem", &problem(practical));
    assert_eq!(ask(&nobody, "epsom-salt").refusal().0, 401);
    assert_eq!(nobody.post("/api/v1/practice/scales", &json!({ "seed": 1, "how_many": 3 })).refusal().0, 401);
    let own = beryl.get("/api/v1/practice").body;
    let titles: Vec<&str> = own["practicals"].as_array().unwrap().iter().map(|p| p["id"].as_str().unwrap()).collect();
    assert_eq!((titles, own["at_bench"].as_bool()), (vec!["epsom-salt"], Some(true)));
    let asked = ask(&beryl, "epsom-salt");
    assert_eq!((asked.status, &asked.body["seen"]), (200, &json!([])), "what is to be seen is theirs to see");
    assert!(!ask(&desk, "epsom-salt").body["seen"].as_array().unwrap().is_empty());
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
    assert_eq!((status, words.as_str()), (422, "that is more than 2000 at once: start again"));
    assert_eq!(burette(json!([{ "kind": "shake" }]), Value::Null).refusal().0, 422);
    let far = json!({ "problem": { "practical": "vinegar", "seed": 7, "by_hand": true }, "trial": 99, "acts": [] });
    assert_eq!(desk.post("/api/v1/practice/burette", &far).refusal().0, 404);
    assert_eq!(desk.post("/api/v1/practice/scales", &json!({ "seed": 1, "how_many": 41 })).refusal().0, 422);
}

/// A class that was never there: on the board at once, in no list of the record, and nobody joins it.
#[test]
fn a_rehearsal_plays_on_the_board_and_stands_in_no_list() {
    let server = Server::demo();
    let desk = server.desk();
    let begin = |groups: usize, pace: u32| {
        let class = json!({ "practical": "vinegar", "groups": groups, "pace": pace, "slips_at_bench": 50, "slips_in_sums": 50, "seed": 3 });
        desk.post("/api/v1/rehearsals", &class)
    };
    assert_eq!(begin(3, 61).refusal(), (422, "a rehearsal runs from 1 to 60 times as fast as a real class".into()));
    assert_eq!(begin(41, 60).refusal().0, 422);
    let begun = begin(3, 60);
    assert_eq!((begun.status, begun.body["rehearsal"].as_bool()), (201, Some(true)), "{}", begun.text);
    let run = begun.body["id"].as_i64().unwrap();
    let board = || desk.get(&format!("/api/v1/runs/{run}/board")).body;
    let said = |board: &Value| board["run"]["rehearsing"]["said"].as_u64().unwrap();
    let mut now = board();
    while said(&now) < 12 {
        std::thread::sleep(std::time::Duration::from_millis(50));
        now = board();
    }
    assert!(now["run"]["entered"].as_u64().unwrap() > 0 && now["run"]["begun"].as_u64().unwrap() > 0);
    let to = format!("/api/v1/runs/{run}/rehearsal");
    assert_eq!(desk.put(&to, &json!({ "pace": null })).status, 204);
    let still = said(&board());
    assert_eq!(board()["run"]["rehearsing"]["pace"], Value::Null);
    for list in ["/shelf", "/classes", "/prepare", "/search?q=made-up", "/search?q=Group"] {
        let found = desk.get(&format!("/api/v1{list}"));
        assert!(
            found.status == 200 && !found.text.contains("made-up") && !found.text.contains("Group 1"),
            "{list}: {}",
            found.text
        );
    }
    let code = begun.body["code"].as_str().unwrap();
    assert_eq!(server.client().post("/api/v1/join", &json!({ "code": code })).refusal().0, 404);
    assert_eq!(desk.get(&format!("/api/v1/runs/{run}/whole.zip")).refusal().0, 403);
    let other = server.colleague(&desk);
    assert_eq!(other.put(&to, &json!({ "pace": 1 })).refusal().0, 404, "somebody else's");
    assert_eq!(other.get("/api/v1/rehearsals").body, json!([]));
    assert_eq!(desk.put("/api/v1/runs/1/rehearsal", &json!({ "pace": 1 })).refusal().0, 404, "that class is there");

    // It goes on where it stood, and nothing is said twice.
    assert_eq!(desk.put(&to, &json!({ "pace": 60 })).status, 204);
    while said(&board()) < still + 5 {
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
}

/// After a start of the server a rehearsal stands still, and goes on where it was.
#[test]
fn a_rehearsal_goes_on_after_a_start_of_the_server() {
    let server = Server::start(crate::commands::record(), &[]);
    let desk = server.desk();
    let class =
        json!({ "practical": "vinegar", "groups": 2, "pace": 60, "slips_at_bench": 0, "slips_in_sums": 0, "seed": 3 });
    let run = desk.post("/api/v1/rehearsals", &class).body["id"].as_i64().unwrap();
    let said = |desk: &Client| {
        let board = desk.get(&format!("/api/v1/runs/{run}/board")).body;
        board["run"]["rehearsing"]["said"].as_u64()
    };
    while said(&desk).unwrap() < 8 {
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    let server = Server::start(server.kill(), &[]);
    let desk = desk.at(&server);
    assert_eq!(said(&desk), None, "nobody has let it go on");
    assert_eq!(desk.put(&format!("/api/v1/runs/{run}/rehearsal"), &json!({ "pace": 60 })).status, 204);
    assert!(said(&desk).unwrap() >= 8);
    let before = said(&desk).unwrap();
    while said(&desk).unwrap() < before + 3 {
        std::thread::sleep(std::time::Duration::from_millis(50));
    }
    drop(desk);
    let folder = server.kill();
    let (ok, told, _) = crate::commands::run(&["verify", "--data", folder.path().to_str().unwrap()], "");
    assert!(ok, "{told}");
}
