//! Anything a student types is hostile input: each is answered with what is wrong, and nothing is lost.

use crate::process::{Server, entry, groups_of, reading};
use serde_json::{Value, json};

#[test]
fn what_is_no_reading_is_refused_in_words() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let cases: &[(&str, &str, &str)] = &[
        ("", "g", "no number was typed"),
        ("heavy", "g", "'h' does not belong to a number (character 1 of 'heavy')"),
        ("1e400", "g", "this number is beyond any measurement"),
        ("-53.11", "g", "mass of the dish with dry crystals cannot be negative: -53.11 g"),
        ("53.11", "mg", "mass of the dish with dry crystals is read in g, not in 'mg'"),
        ("1,23.5", "g", "a number has one decimal point or comma"),
        ("5,311", "g", "is this 5311, or 5.311? type it without the comma, or with a point"),
        ("53.11 mg", "", "is read in g, not in ''"),
        ("53.11 mg", "g", "is read in g, not in '53.11 mg'"),
        ("53.1🧪", "g", "'🧪' does not belong to a number (character 5"),
        ("<script>alert(1)</script>", "g", "'<' does not belong to a number"),
        ("999999999", "g", "shows at most 300 g"),
    ];
    for (i, (text, unit, words)) in cases.iter().enumerate() {
        let sent =
            galena.post("/api/v1/bench/entries", &entry(100 + i as u128, id, &reading("m_dish_crystals", text, unit)));
        let (status, detail) = sent.refusal();
        assert_eq!(status, 422, "{text}");
        assert!(detail.contains(words), "{text}: {detail}");
    }
    let long =
        galena.post("/api/v1/bench/entries", &entry(200, id, &reading("m_dish_crystals", &"5".repeat(10_000), "g")));
    assert!(long.refusal().1.contains("at most 40 characters; this has 10000"));
    let huge =
        galena.post("/api/v1/bench/entries", &entry(201, id, &reading("m_dish_crystals", &"5".repeat(40_000), "g")));
    assert_eq!(huge.refusal().0, 422);
    // What stood before stands, and what could not be taken left no trace.
    let view = galena.get("/api/v1/bench").body;
    assert_eq!(
        (view["entered"]["m_dish"]["text"].as_str(), view["entered"].get("m_dish_crystals")),
        (Some("50.08"), None)
    );
    assert!(!server.said().contains("script") && !server.said().contains("panicked"), "{}", server.said());
}

#[test]
fn what_names_nothing_or_makes_no_sense_is_refused() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let post = |body: &Value| galena.post("/api/v1/bench/entries", &entry(7, id, body)).refusal().0;
    assert_eq!(post(&reading("m_nothing", "1.00", "g")), 404);
    assert_eq!(post(&json!({ "kind": "observation", "symbol": "fizz", "choice": "sings" })), 422);
    // A unit that nobody knows is kept, and judged as such; an endless one is not.
    let endless = "furlong".repeat(6);
    assert_eq!(post(&json!({ "kind": "answer", "result": "percent_yield", "text": "62", "unit": endless })), 422);
    assert_eq!(post(&json!({ "kind": "answer", "result": "n_carbonate", "text": "6.2", "unit": "mmol" })), 404);
    assert_eq!(post(&json!({ "kind": "step", "step": 99, "done": true })), 404);
    assert_eq!(post(&json!({ "kind": "prize" })), 422);
    let mut correction = entry(8, id, &reading("m_dish", "50.80", "g"));
    correction["supersedes"] = json!(uuid::Uuid::from_u128(12345));
    assert_eq!(
        galena.post("/api/v1/bench/entries", &correction).refusal(),
        (422, "a correction says why; the earlier value stays".into())
    );
    correction["reason"] = json!("misread");
    assert_eq!(galena.post("/api/v1/bench/entries", &correction).refusal().0, 409);
    let garbled = galena.send("/api/v1/bench/entries", b"{\"id\": ", &[("x-keen-beaker", "1")]);
    assert_eq!(garbled.refusal().0, 422);
}

#[test]
fn a_replay_is_stored_once_and_other_content_under_its_id_is_refused() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let first = entry(9, id, &reading("m_dish_crystals", "53.11", "g"));
    let kept = galena.post("/api/v1/bench/entries", &first).body;
    let again = galena.post("/api/v1/bench/entries", &first).body;
    assert_eq!((kept["again"].as_bool(), again["again"].as_bool()), (Some(false), Some(true)));
    assert_eq!(kept["seq"], again["seq"]);
    let other = galena.post("/api/v1/bench/entries", &entry(9, id, &reading("m_dish_crystals", "53.10", "g")));
    let (status, words) = other.refusal();
    assert_eq!(status, 409);
    assert!(!words.contains("53.11"), "a refusal shows nothing of others: {words}");
    // Nor can another group find out what stands under an id.
    let (beryl, beryl_id) = server.bench("Beryl", "418234");
    let probe = beryl.post("/api/v1/bench/entries", &entry(9, beryl_id, &reading("m_dish_crystals", "53.11", "g")));
    assert_eq!(probe.refusal().0, 409);
}

#[test]
fn a_closed_run_takes_nothing_new() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let desk = server.desk();
    assert_eq!(desk.put("/api/v1/runs/1/closed", &json!({ "closed": true })).status, 204);
    let late = entry(10, id, &reading("m_dish_crystals", "53.11", "g"));
    let (status, words) = galena.post("/api/v1/bench/entries", &late).refusal();
    assert_eq!((status, words.contains("closed")), (409, true), "{words}");
    assert_eq!(desk.put("/api/v1/runs/1/closed", &json!({ "closed": false })).status, 204);
    assert_eq!(galena.post("/api/v1/bench/entries", &late).status, 200);
}

#[test]
fn hostile_names_stay_data_in_the_export() {
    let server = Server::demo();
    let desk = server.desk();
    let names = ["=HYPERLINK(\"http://x.test\")", "<img src=x onerror=alert(1)>", "Quartz, \"the second\""];
    let opened = desk
        .post("/api/v1/runs", &json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&names) }));
    assert_eq!(opened.status, 201, "{}", opened.text);
    let csv = desk.get(&format!("/api/v1/runs/{}/export.csv", opened.body["id"]));
    let rows: Vec<String> = csv::Reader::from_reader(csv.text.as_bytes())
        .records()
        .map(|r| r.unwrap().get(0).unwrap().to_owned())
        .collect();
    assert_eq!(rows, ["'=HYPERLINK(\"http://x.test\")", names[1], names[2]]);
    assert!(csv.text.contains("\r\n"));
    let twice = desk.post(
        "/api/v1/runs",
        &json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&["Talc", " Talc "]) }),
    );
    assert_eq!(twice.refusal(), (422, "two groups are called 'Talc'".into()));
}
