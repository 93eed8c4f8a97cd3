//! What is there of a run afterwards, and keeping it in order: signatures, notes, products, names, accounts.

use crate::process::{CODE, PASSPHRASE, Server, entry, groups_of, reading};
use serde_json::{Value, json};

fn demo_run(desk: &crate::process::Client) -> i64 {
    let shelf = desk.get("/api/v1/shelf").body;
    let run = shelf["runs"].as_array().unwrap().iter().find(|r| r["code"] == CODE).unwrap();
    run["id"].as_i64().unwrap()
}

#[test]
fn what_is_signed_shows_what_came_later() {
    let server = Server::demo();
    let desk = server.desk();
    let run = demo_run(&desk);
    let board = desk.get(&format!("/api/v1/runs/{run}/board")).body;
    let group = board["rows"][0]["group"].as_i64().unwrap();
    let path = |what: &str| format!("/api/v1/runs/{run}/{what}");
    assert_eq!(desk.post(&path("signed-off"), &json!({ "group": group })).status, 204);
    assert_eq!(desk.post(&path("signed-off"), &json!({})).status, 204);
    assert_eq!(desk.post(&path("signed-off"), &json!({ "group": 99_999 })).refusal().0, 404);
    let signed = |n: usize| desk.get(&path("afterwards")).body["signed_off"][n].clone();
    assert_eq!((signed(0)["later"].as_i64(), signed(0)["by"].as_str()), (Some(0), Some("R. Ashdown")));
    let note = json!({ "id": uuid::Uuid::from_u128(77), "entry": { "kind": "step", "step": 0, "done": false } });
    let said = desk.post(&path(&format!("groups/{group}/entries")), &note);
    assert_eq!(said.status, 200, "{}", said.text);
    assert_eq!((signed(0)["later"].as_i64(), signed(1)["later"].as_i64()), (Some(1), Some(1)));
    assert_ne!(signed(0)["head"], signed(1)["head"]);
    assert_eq!(desk.post("/api/v1/keeping/examined", &json!({})).body["faults"], json!([]));
}

#[test]
fn notes_products_and_times_are_there_for_the_next_class() {
    let server = Server::demo();
    let desk = server.desk();
    let run = demo_run(&desk);
    let path = |what: &str| format!("/api/v1/runs/{run}/{what}");
    let text = "The hot plates were slow.\nStart them before the bell.";
    assert_eq!(desk.put(&path("next-time"), &json!({ "text": text })).status, 204);
    assert_eq!(desk.put(&path("next-time"), &json!({ "text": "x".repeat(3000) })).refusal().0, 422);
    let after = desk.get(&path("afterwards")).body;
    assert_eq!(after["next_time"]["text"], text);
    let symbol = after["products"][0]["symbol"].as_str().expect("the demo's first run makes something").to_owned();
    let board = desk.get(&path("board")).body;
    let group = board["rows"][0]["group"].as_i64().unwrap();
    let kept = json!({ "group": group, "symbol": symbol, "kept": true, "place": "desiccator 2" });
    assert_eq!(desk.put(&path("product"), &kept).status, 204);
    let thrown = json!({ "group": group, "symbol": symbol, "kept": false, "place": "" });
    assert_eq!(desk.put(&path("product"), &thrown).status, 204);
    let nothing = json!({ "group": group, "symbol": "gold", "kept": true, "place": "" });
    assert_eq!(desk.put(&path("product"), &nothing).refusal().0, 404);
    let after = desk.get(&path("afterwards")).body;
    assert_eq!((after["kept"].as_array().unwrap().len(), after["kept"][0]["kept"].as_bool()), (1, Some(false)));
    for time in after["times"].as_array().unwrap() {
        let of = |key: &str| time[key].as_f64().unwrap();
        assert!(of("groups") >= 3.0 && of("lower") <= of("median") && of("median") <= of("upper"), "{time}");
    }
    // A colleague who may not see the class finds none of it.
    let found = |client: &crate::process::Client, q: &str| client.get(&format!("/api/v1/search?q={q}")).body;
    assert_eq!(found(&desk, "hot%20PLATES")["notes"][0]["run"], run);
    let stranger = server.fairlead();
    assert_eq!(found(&stranger, "plates")["notes"], json!([]));
    assert_eq!(stranger.get(&path("afterwards")).refusal().0, 404);
}

#[test]
fn a_student_is_looked_up_over_all_practicals_and_is_gone_with_the_name() {
    let server = Server::demo();
    let desk = server.desk();
    let classes = desk.get("/api/v1/classes").body;
    let class =
        classes["classes"].as_array().unwrap().iter().find(|k| !k["people"].as_array().unwrap().is_empty()).unwrap();
    let (id, person) = (class["id"].as_i64().unwrap(), class["people"][0]["id"].as_i64().unwrap());
    let page = desk.get(&format!("/api/v1/people/{person}")).body;
    assert_eq!(page["name"], class["people"][0]["name"]);
    let answered = |run: &Value| !run["answers"].as_array().unwrap().is_empty();
    assert!(page["runs"].as_array().unwrap().iter().any(answered), "{page}");
    let stranger = server.fairlead();
    assert_eq!(stranger.get(&format!("/api/v1/people/{person}")).refusal().0, 404);
    assert_eq!(desk.delete(&format!("/api/v1/classes/{id}/people/{person}")).status, 204);
    assert_eq!(desk.get(&format!("/api/v1/people/{person}")).refusal().0, 404);
}

#[test]
fn what_was_made_by_mistake_is_deleted_and_what_was_used_is_archived() {
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let desk = server.desk();
    let open = json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&["Talc"]) });
    let [used, slip] = [0, 1].map(|_| desk.post("/api/v1/runs", &open).body);
    let run = |of: &Value| format!("/api/v1/runs/{}", of["id"]);
    let talc = server.client();
    assert_eq!(talc.post("/api/v1/join/claim", &json!({ "code": used["code"], "group": 1 })).status, 204);
    assert_eq!(talc.post("/api/v1/bench/entries", &entry(1, 1, &reading("m_dish", "47.91", "g"))).status, 200);

    let (status, why) = desk.delete(&run(&used)).refusal();
    assert!(status == 409 && why.contains("archive it instead"), "{why}");
    assert_eq!((desk.delete(&run(&slip)).status, desk.get(&format!("{}/board", run(&slip))).status), (204, 404));
    assert_eq!(desk.put(&format!("{}/title", run(&used)), &json!({ "title": "Epsom salt, second try" })).status, 204);
    assert_eq!(desk.put(&format!("{}/archived", run(&used)), &json!({ "archived": true })).status, 204);
    let shelf = desk.get("/api/v1/shelf").body;
    assert_eq!(shelf["runs"][0]["title"], "Epsom salt, second try");
    assert!(
        shelf["runs"][0]["archived_at"].is_i64() && shelf["runs"][0]["practical_title"] != shelf["runs"][0]["title"]
    );

    let class = used["class_id"].as_i64().unwrap();
    let (status, why) = desk.delete(&format!("/api/v1/classes/{class}")).refusal();
    assert!(status == 409 && why.contains("this class has runs; nothing was deleted"), "{why}");
    assert_eq!(desk.put(&format!("/api/v1/classes/{class}/name"), &json!({ "name": "11-Shale" })).status, 204);
    let other = desk.post("/api/v1/classes", &json!({ "name": "12-Gneiss" })).body["id"].as_i64().unwrap();
    let (status, _) = desk.put(&format!("/api/v1/classes/{other}/name"), &json!({ "name": "11-Shale" })).refusal();
    assert_eq!(status, 409, "two classes of one name");
    let people = format!("/api/v1/classes/{other}/people");
    assert_eq!(desk.post(&people, &json!({ "text": "Ona Marl" })).status, 200);
    assert_eq!(desk.delete(&format!("/api/v1/classes/{other}")).refusal().0, 409);
    let person = desk.get("/api/v1/classes").body["classes"][1]["people"][0]["id"].as_i64().unwrap();
    assert_eq!(desk.put(&format!("{people}/{person}/name"), &json!({ "name": "Ona Marle" })).status, 204);
    assert_eq!(desk.get(&format!("/api/v1/people/{person}")).body["name"], "Ona Marle");
    assert_eq!(desk.delete(&people).status, 204);
    assert_eq!(desk.delete(&format!("/api/v1/classes/{other}")).status, 204);

    let practical = |id: &str| format!("/api/v1/practicals/{id}");
    assert_eq!(desk.delete(&practical("epsom-salt")).refusal().0, 409, "a class has worked on it");
    assert_eq!(desk.delete(&practical("zinc-iodide")).refusal().0, 409, "it comes with the program");
    assert_eq!(desk.put(&format!("{}/archived", practical("zinc-iodide")), &json!({ "archived": true })).status, 204);
    let shelf = desk.get("/api/v1/shelf").body;
    let away: Vec<&str> = shelf["practicals"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|p| p["archived"] == true)
        .map(|p| p["id"].as_str().unwrap())
        .collect();
    assert_eq!(away, ["zinc-iodide"]);
}

#[test]
fn an_account_is_looked_after_by_the_first() {
    let server = Server::demo();
    let (desk, colleague) = (server.desk(), server.fairlead());
    let second = server.desk();
    let accounts = desk.get("/api/v1/accounts").body;
    let all = accounts["accounts"].as_array().unwrap();
    let mine = all.iter().find(|a| a["id"] == accounts["me"]).unwrap();
    assert!(mine["keeper"] == true && mine["signed_in"].as_array().unwrap().len() >= 2);
    assert_eq!(mine["signed_in"].as_array().unwrap().iter().filter(|s| s["here"] == true).count(), 1);
    assert_eq!(desk.delete("/api/v1/accounts/mine/elsewhere").status, 204);
    assert_eq!((second.get("/api/v1/shelf").status, desk.get("/api/v1/shelf").status), (401, 200));

    let theirs = colleague.get("/api/v1/accounts").body["me"].as_i64().unwrap();
    let path = format!("/api/v1/accounts/{theirs}");
    let me = accounts["me"].as_i64().unwrap();
    let new = json!({ "passphrase": "moss on a north wall" });
    assert_eq!(colleague.put(&format!("/api/v1/accounts/{me}/passphrase"), &new).refusal().0, 403);
    assert_eq!(desk.put(&format!("{path}/passphrase"), &new).status, 204);
    assert_eq!(colleague.get("/api/v1/shelf").status, 401, "signed out");
    let colleague = server.desk_of("O. Fairlead", "moss on a north wall");
    assert_eq!(colleague.delete(&path).refusal().0, 403, "only by the keeper");
    assert_eq!(desk.delete(&path).status, 204);
    assert_eq!(colleague.get("/api/v1/shelf").status, 401);
    assert_eq!(desk.delete(&format!("/api/v1/accounts/{me}")).refusal().0, 403, "somebody looks after the record");
}
