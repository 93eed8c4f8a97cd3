//! Designing a practical through the interface: by form and by text, undone and redone, published, imported, copied.

use crate::process::{Client, Server};
use serde_json::{Value, json};

fn post(desk: &Client, address: &str, body: &Value) -> Value {
    let reply = desk.post(address, body);
    assert!(reply.status < 300, "{address}: {} {}", reply.status, reply.body);
    reply.body
}

fn planned(value: &str) -> Value {
    json!({ "kind": "edits", "what": "planned", "edits": [
        { "kind": "set", "path": ["materials", 0, "planned"], "value": value },
    ] })
}

/// Says the change on the step that is shown.
fn change(desk: &Client, view: &Value, change: &Value) -> Value {
    let body = json!({ "step": view["draft"]["step"], "change": change });
    post(desk, &format!("/api/v1/practicals/{}/draft", view["id"].as_str().unwrap()), &body)
}

fn kinds(view: &Value) -> Vec<&str> {
    view["plan"]["notes"].as_array().unwrap().iter().filter_map(|n| n["what"]["kind"].as_str()).collect()
}

const EPSOM: &str = "/api/v1/practicals/epsom-salt";

/// 2.4 g of carbonate are 99 % of what 25.0 mmol of acid take: near the edge; 3.0 g are not.
#[test]
fn a_change_is_planned_at_once_undone_redone_and_published() {
    let server = Server::demo();
    let desk = server.desk();
    let shown = desk.get(EPSOM).body;
    assert_eq!((&shown["draft"], &shown["published"], &shown["problems"]), (&Value::Null, &json!(1), &json!([])));
    let near = change(&desk, &shown, &planned("2.5 ± 0.1 g"));
    assert_eq!(near["plan"]["notes"][0]["what"]["near_edge"], true);
    assert!(kinds(&near).contains(&"said-two-ways"), "the reading still expects 3.00 g");
    let back = change(&desk, &near, &json!({ "kind": "undo" }));
    assert_eq!(back["plan"]["notes"][0]["what"]["near_edge"], false);
    assert_eq!((&back["draft"]["can_undo"], &back["draft"]["can_redo"]), (&json!(false), &json!(true)));
    let again = change(&desk, &back, &json!({ "kind": "redo" }));
    let published = post(&desk, &format!("{EPSOM}/publish"), &json!({ "step": again["draft"]["step"] }));
    assert_eq!((&published["published"], &published["draft"]), (&json!(2), &Value::Null));
    let versions = desk.get(&format!("{EPSOM}/versions")).body;
    assert_eq!((&versions[0]["by"], &versions[1]["by"]), (&json!("R. Ashdown"), &Value::Null));
    let item = &versions[0]["changes"][0];
    assert_eq!(
        (&item["item"], &item["before"], &item["after"]),
        (&json!("materials › carbonate › planned"), &json!("3.0 ± 0.1 g"), &json!("2.5 ± 0.1 g"))
    );
    // The class that is at work keeps the version that it began with.
    assert_eq!(desk.get("/api/v1/runs/1/board").body["readings"][0]["range"], json!([2.9, 3.1]));
}

#[test]
fn broken_text_is_kept_and_the_form_waits_on_the_last_that_could_be_read() {
    let server = Server::demo();
    let desk = server.desk();
    let shown = desk.get(EPSOM).body;
    let text = shown["text"].as_str().unwrap().replace("visits = 2", "visits = = 2");
    let broken = change(&desk, &shown, &json!({ "kind": "text", "text": text }));
    assert_eq!((&broken["text"], &broken["file_is_earlier"]), (&json!(text), &json!(true)));
    assert_eq!(broken["problems"][0]["place"]["line"], 8);
    assert_eq!(broken["file"]["visits"], 2, "as it last could be read");
    let refused =
        desk.post(&format!("{EPSOM}/draft"), &json!({ "step": broken["draft"]["step"], "change": planned("2 g") }));
    assert!(refused.refusal().1.starts_with("the text cannot be read at the moment"));
    let refused = desk.post(&format!("{EPSOM}/publish"), &json!({ "step": broken["draft"]["step"] }));
    assert!(refused.refusal().1.contains("1 to mend before it can be published, the first on line 8"));
    let mended = change(&desk, &broken, &json!({ "kind": "text", "text": shown["text"] }));
    assert_eq!((&mended["problems"], &mended["file_is_earlier"]), (&json!([]), &json!(false)));
}

#[test]
fn two_instructors_are_told_of_each_other() {
    let server = Server::demo();
    let (one, other) = (server.desk(), server.desk());
    let shown = one.get(EPSOM).body;
    change(&one, &shown, &planned("2.9 ± 0.1 g"));
    let late = other.post(&format!("{EPSOM}/draft"), &json!({ "step": null, "change": planned("2.8 g") }));
    let (status, detail) = late.refusal();
    assert_eq!(status, 409);
    assert!(detail.contains("somebody else saved first"), "{detail}");
    assert!(one.get(EPSOM).body["text"].as_str().unwrap().contains("2.9 ± 0.1 g"));
}

#[test]
fn a_practical_is_begun_copied_imported_and_taken_home() {
    let server = Server::demo();
    let desk = server.desk();
    let begin = |body: Value| desk.post("/api/v1/practicals", &body);
    let blank = begin(json!({ "kind": "blank", "title": "Salt & \"water\"" }));
    assert_eq!((blank.status, &blank.body["id"], &blank.body["problems"]), (201, &json!("salt-water"), &json!([])));
    let unready = desk.post("/api/v1/practicals/salt-water/publish", &json!({ "step": blank.body["draft"]["step"] }));
    assert!(unready.refusal().1.contains("a practical has at least one step and one result"));
    let copy = begin(json!({ "kind": "copy", "of": "epsom-salt", "title": "Epsom salt" })).body;
    assert_eq!((&copy["id"], &copy["file"]["id"]), (&json!("epsom-salt-2"), &json!("epsom-salt-2")));
    assert!(copy["text"].as_str().unwrap().contains("# The acid is measured exactly"));
    // What is taken home comes back as the same, and a torn file is kept for mending.
    let file = desk.get("/api/v1/practicals/zinc-iodide/file").text;
    let home = file.replace("id = \"zinc-iodide\"", "id = \"zinc-iodide-home\"");
    let back = begin(json!({ "kind": "import", "text": home })).body;
    assert_eq!((&back["id"], &back["problems"]), (&json!("zinc-iodide-home"), &json!([])));
    let torn = home[..home.len() / 2].replace("-home", "-torn");
    let torn = begin(json!({ "kind": "import", "text": torn })).body;
    assert_eq!(
        (&torn["id"], torn["problems"].as_array().map(Vec::is_empty)),
        (&json!("zinc-iodide-torn"), Some(false))
    );
    assert!(begin(json!({ "kind": "import", "text": home })).refusal().1.contains("somebody else saved first"));
    let huge = begin(json!({ "kind": "import", "text": "x".repeat(250_000) })).refusal();
    assert!(huge.1.contains("at most 200000 characters, this one has 250000"), "{}", huge.1);
    let enormous = begin(json!({ "kind": "import", "text": "x".repeat(10_000_000) })).refusal();
    assert_eq!(enormous.0, 422);
    let shelf = desk.get("/api/v1/shelf").body;
    assert_eq!(shelf["drafts"].as_array().map(Vec::len), Some(4));
    assert!(!server.said().contains("panicked"), "{}", server.said());
}
