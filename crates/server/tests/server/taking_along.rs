//! A whole run from one school to another: the same figures there, and nothing that was changed on the way.

use crate::process::{Client, PASSPHRASE, Server};
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::io::{Cursor, Read, Write};
use zip::write::SimpleFileOptions;
use zip::{ZipArchive, ZipWriter};

/// A zip's parts by name.
type Parts = BTreeMap<String, Vec<u8>>;

fn elsewhere() -> (Server, Client) {
    let server = Server::empty();
    let account = json!({ "name": "E. Loam", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let desk = server.desk_of("E. Loam", PASSPHRASE);
    (server, desk)
}

fn parts(zip: &[u8]) -> Parts {
    let mut zip = ZipArchive::new(Cursor::new(zip)).unwrap();
    (0..zip.len())
        .map(|i| {
            let mut part = zip.by_index(i).unwrap();
            let mut bytes = Vec::new();
            part.read_to_end(&mut bytes).unwrap();
            (part.name().unwrap().into_owned(), bytes)
        })
        .collect()
}

fn zipped(parts: &Parts) -> Vec<u8> {
    let mut zip = ZipWriter::new(Cursor::new(Vec::new()));
    for (name, bytes) in parts {
        zip.start_file(name.as_str(), SimpleFileOptions::default()).unwrap();
        zip.write_all(bytes).unwrap();
    }
    zip.finish().unwrap().into_inner()
}

fn send(desk: &Client, zip: &[u8]) -> crate::process::Reply {
    desk.send("/api/v1/runs/whole", zip, &[("x-keen-beaker", "1")])
}

/// What a board shows of its groups, without numbers that are each server's own.
fn shown(desk: &Client, run: &Value) -> Vec<Value> {
    let board = desk.get(&format!("/api/v1/runs/{run}/board")).body;
    let rows = board["rows"].as_array().unwrap().iter();
    rows.map(|r| {
        json!([r["name"], r["outcome"]["results"], r["outcome"]["findings"], r["outcome"]["verdicts"], r["taken_out"]])
    })
    .collect()
}

#[test]
fn every_run_of_the_demo_comes_to_the_same_figures_on_another_server() {
    let demo = Server::demo();
    let here = demo.desk();
    let (_there, there) = elsewhere();
    let runs = here.get("/api/v1/shelf").body["runs"].clone();
    for run in runs.as_array().unwrap() {
        let zip = here.bytes(&format!("/api/v1/runs/{}/whole.zip", run["id"]));
        let taken = send(&there, &zip);
        assert_eq!((taken.status, &taken.body["otherwise"]), (200, &json!([])), "{}: {}", run["title"], taken.text);
        assert_eq!(shown(&there, &taken.body["run"]), shown(&here, &run["id"]), "{}", run["title"]);
        let (status, why) = send(&there, &zip).refusal();
        assert!(status == 409 && why.contains("here already"), "{why}");
    }
    let shelf = there.get("/api/v1/shelf").body;
    let taken = shelf["runs"].as_array().unwrap();
    assert_eq!(taken.len(), runs.as_array().unwrap().len());
    assert!(taken.iter().all(|r| r["from_elsewhere"] == true && r["closed_at"].is_i64()));
    let reopened = there.put(&format!("/api/v1/runs/{}/closed", taken[0]["id"]), &json!({ "closed": false }));
    assert_eq!(reopened.refusal().0, 403, "it stays as it was read");
    assert_eq!(there.post("/api/v1/keeping/examined", &json!({})).body["faults"], json!([]));
}

#[test]
fn names_are_in_the_file_only_where_they_were_wanted() {
    let demo = Server::demo();
    let desk = demo.desk();
    let run = |names: bool| {
        let zip = desk.bytes(&format!("/api/v1/runs/1/whole.zip?names={names}"));
        String::from_utf8(parts(&zip).remove("run.json").unwrap()).unwrap()
    };
    let person = desk.get("/api/v1/runs/1/people").body["people"][0]["name"].as_str().map(str::to_owned);
    let person = person.unwrap_or_else(|| "Ona Marl".into());
    assert!(run(true).contains(&person) && !run(false).contains(&person), "{person}");
    assert!(!run(false).contains("Ashdown"));
}

#[test]
fn a_run_that_was_changed_or_does_not_fit_is_refused_whole() {
    let demo = Server::demo();
    let sound = parts(&demo.desk().bytes("/api/v1/runs/1/whole.zip"));
    let (_server, desk) = elsewhere();
    let json_of = |parts: &Parts| serde_json::from_slice::<Value>(&parts["run.json"]).unwrap();
    let told = |change: &dyn Fn(&mut Parts)| {
        let mut parts = sound.clone();
        change(&mut parts);
        let (status, why) = send(&desk, &zipped(&parts)).refusal();
        assert!(status == 422 && why.contains("nothing of it was taken"), "{why}");
        why
    };
    let with = |change: &dyn Fn(&mut Value)| {
        told(&|parts| {
            let mut run = json_of(parts);
            change(&mut run);
            parts.insert("run.json".into(), serde_json::to_vec(&run).unwrap());
        })
    };
    assert!(with(&|run| run["events"][3]["said"]["taken_at"] = json!(7)).contains("its event 4 does not follow"));
    assert!(with(&|run| drop(run["events"].as_array_mut().unwrap().remove(0))).contains("its event 1 does not follow"));
    let hostile = |run: &mut Value| {
        // Names are beside the links; they are looked at like any name.
        let shouted = "<b>".repeat(40);
        run["groups"][0]["name"] = json!(shouted);
    };
    assert!(with(&hostile).contains("a group: the name of a group has 1 to 40 characters"));
    assert!(with(&|run| run["format"] = json!(2)).contains("format 2, and this version reads 1"));
    assert!(with(&|run| run["colour"] = json!("red")).contains("unknown field `colour`"));
    assert!(told(&|parts| drop(parts.remove("practical.toml"))).contains("'practical.toml' is missing"));
    let other = |parts: &mut Parts| {
        let text = String::from_utf8(parts["practical.toml"].clone()).unwrap();
        parts.insert("practical.toml".into(), text.replace("id = \"epsom-salt\"", "id = \"epsom\"").into_bytes());
    };
    assert!(told(&other).contains("another one than it says"));
    let (status, why) = send(&desk, b"no zip at all").refusal();
    assert!(status == 422 && why.contains("no run that could be read"), "{why}");
    assert_eq!(desk.get("/api/v1/shelf").body["runs"], json!([]), "nothing is left of any of them");
}
