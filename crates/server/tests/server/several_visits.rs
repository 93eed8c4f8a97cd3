//! A class over several days and in several hands: who may see it, who is told what, what an instructor mends, what waits
//! in the oven while the server is off, photos, and a connection that nobody can listen to.

use crate::process::{Client, Server, entry, groups_of, reading};
use serde_json::{Value, json};
use std::io::{Read, Write};
use std::net::TcpStream;
use std::sync::Arc;

const ENTRIES: &str = "/api/v1/bench/entries";
const DISH: &str = "m_dish_crystals";

fn row(desk: &Client, run: i64, name: &str) -> Value {
    let board = desk.get(&format!("/api/v1/runs/{run}/board")).body;
    board["rows"].as_array().unwrap().iter().find(|r| r["name"] == name).unwrap().clone()
}

fn group_of(desk: &Client, run: i64, name: &str) -> i64 {
    row(desk, run, name)["group"].as_i64().unwrap()
}

fn id(n: u128) -> Value {
    json!(uuid::Uuid::from_u128(n))
}

#[test]
fn a_colleague_sees_what_is_shared_and_of_the_rest_not_that_it_is_there() {
    let server = Server::demo();
    let colleague = server.fairlead();
    assert_eq!(colleague.get("/api/v1/runs/2/board").status, 200);
    for path in ["board", "check", "people", "export.csv", "join.svg", "groups/1", "events"] {
        let (status, words) = colleague.get(&format!("/api/v1/runs/1/{path}")).refusal();
        assert_eq!((status, words.as_str()), (404, "there is no such run"), "{path}");
    }
    let tell = json!({ "group": null, "text": "hello" });
    assert_eq!(colleague.post("/api/v1/runs/1/messages", &tell).status, 404);
    assert_eq!(colleague.put("/api/v1/runs/1/closed", &json!({ "closed": true })).status, 404);
    let shelf = colleague.get("/api/v1/shelf").body;
    assert_eq!(shelf["runs"].as_array().unwrap().len(), 2);
    // A colleague can fill a shared roster, and not decide who else sees it.
    let classes = colleague.get("/api/v1/classes").body;
    let shared = classes["classes"][0]["id"].as_i64().unwrap();
    let (status, words) =
        colleague.put(&format!("/api/v1/classes/{shared}/share"), &json!({ "person": 1, "shared": true })).refusal();
    assert_eq!((status, words.as_str()), (403, "only its owner decides this"));
    assert_eq!(
        colleague.post(&format!("/api/v1/classes/{shared}/people"), &json!({ "text": "Nora Fjord" })).body["added"],
        1
    );
    // One name is one account, however it is written.
    let same = json!({ "name": "o. fairlead", "passphrase": "four words of another" });
    assert_eq!(server.desk().post("/api/v1/colleagues", &same).status, 409);
}

#[test]
fn a_message_reaches_whom_it_is_for_and_a_pause_keeps_entries_on_the_device() {
    let server = Server::demo();
    let desk = server.desk();
    let ((galena, id_galena), (beryl, _)) = (server.bench("Galena", "553943"), server.bench("Beryl", "418234"));
    let to_galena = json!({ "group": id_galena, "text": "  Come to\nthe balance. " });
    assert_eq!(desk.post("/api/v1/runs/1/messages", &to_galena).status, 204);
    let mine = galena.get("/api/v1/bench").body["messages"].clone();
    assert_eq!((mine[0]["text"].as_str(), mine[0]["heard"].as_bool()), (Some("Come to the balance."), Some(false)));
    assert_eq!(mine[0]["from"], "R. Ashdown");
    assert_eq!(beryl.get("/api/v1/bench").body["messages"], json!([]));
    let heard = json!({ "kind": "heard", "message": mine[0]["id"] });
    assert_eq!(galena.post(ENTRIES, &entry(1, id_galena, &heard)).status, 200);
    assert_eq!(galena.get("/api/v1/bench").body["messages"][0]["heard"], true);
    for text in ["", " \n ", &"x".repeat(301)] {
        assert_eq!(desk.post("/api/v1/runs/1/messages", &json!({ "group": null, "text": text })).status, 422);
    }

    assert_eq!(desk.put("/api/v1/runs/1/paused", &json!({ "paused": true })).status, 204);
    let held = entry(2, id_galena, &reading(DISH, "53.11", "g"));
    let refused = galena.post(ENTRIES, &held);
    assert_eq!(refused.body["type"], "/problems/run-paused");
    assert_eq!(refused.refusal().0, 409);
    assert_eq!(desk.put("/api/v1/runs/1/paused", &json!({ "paused": false })).status, 204);
    assert_eq!(galena.post(ENTRIES, &held).status, 200, "sent again, it is taken");
}

#[test]
fn an_instructor_enters_corrects_and_takes_out_with_a_reason_and_the_group_sees_who_did() {
    let server = Server::demo();
    let desk = server.desk();
    let (galena, group) = server.bench("Galena", "553943");
    let path = format!("/api/v1/runs/1/groups/{group}/entries");
    let say = |n: u128, entry: Value, more: Value| {
        let mut body = json!({ "id": id(n), "entry": entry });
        body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        desk.post(&path, &body)
    };
    assert_eq!(say(1, reading(DISH, "53.11", "g"), json!({})).status, 200);
    let (status, words) = say(2, reading(DISH, "53.21", "g"), json!({ "supersedes": id(1) })).refusal();
    assert_eq!((status, words.as_str()), (422, "a correction says why; the earlier value stays"));
    let why = json!({ "supersedes": id(1), "reason": "misread" });
    assert_eq!(say(2, reading(DISH, "53.21", "g"), why).status, 200);
    let seen = galena.get("/api/v1/bench").body["entered"][DISH].clone();
    assert_eq!((seen["text"].as_str(), seen["by_instructor"].as_bool()), (Some("53.21"), Some(true)));
    assert_eq!(seen["struck"][0]["reason"], "misread");
    // What an instructor entered is not a slip of the group's finger, however soon it is corrected.
    let mut at_once = entry(3, group, &reading(DISH, "53.31", "g"));
    at_once["supersedes"] = id(2);
    assert_eq!(galena.post(ENTRIES, &at_once).status, 422);

    let strike = json!({ "kind": "struck", "place": "reading", "name": DISH });
    assert_eq!(say(4, strike.clone(), json!({ "supersedes": id(2) })).status, 422);
    assert_eq!(say(4, strike.clone(), json!({ "supersedes": id(2), "reason": "another group's dish" })).status, 200);
    let view = galena.get("/api/v1/bench").body;
    assert_eq!(view["entered"][DISH], Value::Null);
    let out: Vec<_> = view["taken_out"][DISH].as_array().unwrap().iter().map(|s| s["text"].clone()).collect();
    assert_eq!(out, ["53.11", "53.21"]);
    // Neither is for a device.
    let lent = json!({ "kind": "reading", "symbol": DISH, "text": "53.11", "unit": "g", "borrowed": "Beryl" });
    for (n, said) in [(5, strike), (6, lent)] {
        let (status, words) = galena.post(ENTRIES, &entry(n, group, &said)).refusal();
        assert_eq!((status, words.as_str()), (403, "only an instructor takes readings out, or lends them"));
    }
    // Lent from another group, it is labelled wherever it stands.
    let beryl = group_of(&desk, 1, "Beryl");
    let borrowed = desk.post(&format!("/api/v1/runs/1/groups/{group}/borrow"), &json!({ "from": beryl }));
    assert_eq!(borrowed.body["symbols"], json!([DISH]));
    assert_eq!(galena.get("/api/v1/bench").body["entered"][DISH]["borrowed"], "Beryl");
    let csv = desk.get("/api/v1/runs/1/export.csv").text;
    assert!(csv.contains("53.11 (misread); 53.21 (another group's dish); borrowed from Beryl"), "{csv}");
    let nothing = desk.post(&format!("/api/v1/runs/1/groups/{group}/borrow"), &json!({ "from": beryl }));
    assert_eq!(nothing.refusal(), (422, "Beryl has no reading that Galena lacks".into()));
    // The page of the group tells all of it, in order, with who said so.
    let page = desk.get(&format!("/api/v1/runs/1/groups/{group}")).body;
    let told: Vec<_> =
        page["timeline"].as_array().unwrap().iter().rev().take(4).map(|h| h["by_instructor"].clone()).collect();
    assert_eq!(told, [true, true, true, true]);
}

/// Into the oven on Wednesday; the server is off over night; on Friday another phone, with the PIN, finds where it stands.
#[test]
fn what_is_in_the_oven_is_known_after_the_night_to_other_hands() {
    let server = Server::start(tempfile::tempdir().unwrap(), &["--now", "2026-11-11T13:00:00Z"]);
    let account = json!({ "name": "R. Ashdown", "passphrase": crate::process::PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let desk = server.desk();
    let wednesday = 1_794_402_000_000_i64;
    let friday = wednesday + 45 * 3_600_000;
    let new = json!({
        "practical": "sulfate-by-barium", "class": "12-Gneiss", "groups": groups_of(&["Aspen", "Birch"]), "deal": "in-turn",
        "visits": [{ "begins_at": wednesday, "minutes": 100 }, { "begins_at": friday, "minutes": 60 }],
    });
    let run = desk.post("/api/v1/runs", &new).body;
    let code = run["code"].as_str().unwrap().to_owned();
    let groups = server.client().post("/api/v1/join", &json!({ "code": code })).body["groups"].clone();
    let aspen = groups[0]["id"].as_i64().unwrap();
    let phone = server.client();
    assert_eq!(phone.post("/api/v1/join/claim", &json!({ "code": code, "group": aspen })).status, 204);
    let start = json!({ "kind": "clock", "step": 5, "running": true });
    assert_eq!(phone.post(ENTRIES, &entry(1, aspen, &start)).status, 200);
    let pin = row(&desk, 1, "Aspen")["pin"].as_str().unwrap().to_owned();

    let later = Server::start(server.kill(), &["--now", "2026-11-13T10:05:00Z"]);
    let other = later.client();
    let claim = json!({ "code": code, "group": aspen, "pin": pin });
    assert_eq!(other.post("/api/v1/join/claim", &claim).status, 204);
    let view = other.get("/api/v1/bench").body;
    let left = &view["waiting"][0];
    assert_eq!(left["title"], "Dry and weigh");
    let hours = (view["now"].as_i64().unwrap() - left["since"].as_i64().unwrap()) / 3_600_000;
    assert_eq!(hours, 45);
    assert!(left["ready_at"].as_i64().unwrap() < view["now"].as_i64().unwrap());
    // Its unknown is known by its code alone, on every page that a group can open.
    assert_eq!(view["allotted"]["unknown"], "K3");
    let everything = view.to_string();
    assert!(!everything.contains("sodium sulfate") && !everything.contains("67.6"), "the key stays at the desk");
    // A desk is signed in for a working day.
    assert_eq!(desk.at(&later).get("/api/v1/shelf").status, 401);
    let desk = later.desk();
    let shelf = desk.get("/api/v1/shelf").body;
    assert_eq!(shelf["runs"][0]["waits"][0]["groups"], json!(["Aspen"]));
    assert_eq!(desk.get(&format!("/api/v1/runs/1/groups/{aspen}")).body["key"], "sodium sulfate");
    assert_eq!(other.post(ENTRIES, &entry(2, aspen, &reading("m_full", "31.993", "g"))).status, 200);
    assert_eq!(other.get("/api/v1/bench").body["waiting"], json!([]));
}

#[test]
fn merged_groups_share_a_bench_and_late_ones_get_one() {
    let server = Server::demo();
    let desk = server.desk();
    let ((galena, id_galena), (_, beryl)) = (server.bench("Galena", "553943"), server.bench("Beryl", "418234"));
    let merge =
        |group: i64, into: i64| desk.post(&format!("/api/v1/runs/1/groups/{group}/merge"), &json!({ "into": into }));
    assert_eq!(merge(id_galena, beryl).status, 204);
    assert_eq!(galena.get("/api/v1/bench").body["group"], "Beryl");
    // What its device still held of its own goes to its own page; new entries go to the shared bench.
    assert_eq!(galena.post(ENTRIES, &entry(1, id_galena, &reading(DISH, "53.11", "g"))).status, 200);
    assert_eq!(row(&desk, 1, "Galena")["readings"][DISH]["text"], "53.11");
    assert_eq!(galena.post(ENTRIES, &entry(2, beryl, &reading("V_acid", "25.00", "mL"))).status, 200);
    assert_eq!(merge(beryl, id_galena).refusal().0, 409);

    let late = |name: &str| desk.post("/api/v1/runs/1/groups", &json!({ "name": name }));
    assert_eq!(late("Talc").status, 204);
    assert_eq!(late("Talc").refusal(), (409, "there is a group of this name already".into()));
    let talc = group_of(&desk, 1, "Talc");
    let device = server.client();
    assert_eq!(device.post("/api/v1/join/claim", &json!({ "code": crate::process::CODE, "group": talc })).status, 204);
    assert_eq!(device.get("/api/v1/bench").body["group"], "Talc");
    // A device that is lost is signed out with all of its group, and the old PIN opens nothing.
    let pin = row(&desk, 1, "Talc")["pin"].clone();
    assert_eq!(desk.delete(&format!("/api/v1/runs/1/groups/{talc}/devices")).status, 204);
    assert_eq!(device.get("/api/v1/bench").status, 401);
    let claim = json!({ "code": crate::process::CODE, "group": talc, "pin": pin });
    assert_eq!(device.post("/api/v1/join/claim", &claim).status, 403);
}

#[test]
fn a_person_is_erased_with_what_that_person_said_and_the_chain_verifies() {
    let server = Server::demo();
    let desk = server.desk();
    let (galena, group) = server.bench("Galena", "553943");
    let people = galena.get("/api/v1/bench").body["people"].clone();
    let tilda = people.as_array().unwrap().iter().find(|p| p["name"] == "Tilda Karst").unwrap()["id"].clone();
    let mut said = entry(1, group, &reading(DISH, "53.11", "g"));
    said["person"] = json!(999);
    assert_eq!(galena.post(ENTRIES, &said).refusal(), (404, "there is no such person in this group".into()));
    said["person"] = tilda.clone();
    assert_eq!(galena.post(ENTRIES, &said).status, 200);
    let page = || desk.get(&format!("/api/v1/runs/1/groups/{group}")).body;
    assert_eq!(page()["timeline"].as_array().unwrap().last().unwrap()["by"], "Tilda Karst");
    let class =
        desk.get("/api/v1/shelf").body["runs"].as_array().unwrap().iter().find(|r| r["id"] == 1).unwrap()["class_id"]
            .clone();
    assert_eq!(desk.delete(&format!("/api/v1/classes/{class}/people/{tilda}")).status, 204);
    assert!(!page().to_string().contains("Tilda") && !page().to_string().contains("53.11"));
    assert_eq!(row(&desk, 1, "Galena")["readings"][DISH], Value::Null);
    assert!(!desk.get("/api/v1/classes").text.contains("Tilda"));
}

#[test]
fn photos_are_off_until_the_instructor_says_otherwise_and_are_pictures_of_the_own_group() {
    let server = Server::demo();
    let desk = server.desk();
    let ((galena, group), (beryl, _)) = (server.bench("Galena", "553943"), server.bench("Beryl", "418234"));
    let take = |bytes: &[u8]| galena.send("/api/v1/bench/photos?step=2", bytes, &[("x-keen-beaker", "1")]);
    let mut png = Vec::new();
    let picture = image::RgbImage::from_pixel(640, 480, image::Rgb([176, 95, 44]));
    picture.write_to(&mut std::io::Cursor::new(&mut png), image::ImageFormat::Png).unwrap();
    assert_eq!(take(&png).refusal(), (403, "photos are not taken in this run".into()));
    assert_eq!(desk.put("/api/v1/runs/1/photos", &json!({ "photos": true })).status, 204);
    assert_eq!(take(&png).status, 200);
    for (bytes, told) in [
        (
            b"<html><script>alert(1)</script>".to_vec(),
            "this is no picture: a photo is a JPEG or PNG file; nothing was kept of it",
        ),
        (vec![0xFF; 50 * 1024 * 1024], "a photo has at most 8 MB; nothing was kept of this one"),
    ] {
        assert_eq!(take(&bytes).refusal(), (422, told.into()));
    }
    assert_eq!(galena.send("/api/v1/bench/photos?step=99", &png, &[("x-keen-beaker", "1")]).status, 404);
    let photos = galena.get("/api/v1/bench").body["photos"].clone();
    let (name, step) = photos.as_object().unwrap().iter().next().unwrap();
    assert_eq!((photos.as_object().unwrap().len(), step), (1, &json!(2)));
    let own = format!("/api/v1/bench/photos/{name}");
    assert_eq!(beryl.get(&own).status, 404, "another group's");
    let named = json!({ "kind": "photo", "name": name, "step": 2 });
    let (_, id_beryl) = server.bench("Beryl", "418234");
    let (status, words) = beryl.post(ENTRIES, &entry(9, id_beryl, &named)).refusal();
    assert_eq!((status, words.as_str()), (403, "a photo is sent as a file, to its own address"));
    assert_eq!(beryl.get(&own).status, 404, "and naming it does not make it one's own");
    assert_eq!(galena.delete(&own).status, 200);
    assert_eq!(galena.get(&own).status, 404);
    assert_eq!(desk.get(&format!("/api/v1/runs/1/groups/{group}")).body["photos"], json!({}));
}

#[test]
fn a_roster_beyond_any_class_and_a_clock_set_back_are_told() {
    let server = Server::demo();
    let desk = server.desk();
    let class = desk.get("/api/v1/classes").body["classes"][0]["id"].clone();
    let path = format!("/api/v1/classes/{class}/people");
    let before = desk.get("/api/v1/classes").text;
    let (status, words) = desk.post(&path, &json!({ "text": "Ona Marl\n".repeat(100_000) })).refusal();
    assert_eq!(status, 422);
    assert_eq!(words, "a list has at most 400 people, and this one has 100000 lines; nobody was put on the roster");
    assert_eq!(desk.get("/api/v1/classes").text.len(), before.len());
    assert_eq!(desk.post(&path, &json!({ "text": "<script>alert(1)</script>" })).body["added"], 1);
    assert!(desk.get("/api/v1/classes").body.to_string().contains("<script>alert(1)</script>"), "a name stays a name");

    let server = Server::start(tempfile::tempdir().unwrap(), &["--now", "2026-11-12T10:00:00Z"]);
    let account = json!({ "name": "R. Ashdown", "passphrase": crate::process::PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let open = json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&["Talc"]) });
    let run = server.desk().post("/api/v1/runs", &open).body;
    let tell = json!({ "group": null, "text": "Goggles on." });
    assert_eq!(server.desk().post("/api/v1/runs/1/messages", &tell).status, 204);
    let set_back = Server::start(server.kill(), &["--now", "2025-11-12T10:00:00Z"]);
    let desk = set_back.desk();
    assert!(set_back.said().contains("clock is behind the record"), "{}", set_back.said());
    assert!(desk.get("/api/v1/session").body["clock_behind"].is_i64());
    let device = set_back.client();
    let group = device.post("/api/v1/join", &json!({ "code": run["code"] })).body["groups"][0]["id"].as_i64().unwrap();
    assert_eq!(device.post("/api/v1/join/claim", &json!({ "code": run["code"], "group": group })).status, 204);
    // Order is the record's, whatever the clock says.
    let kept = device.post(ENTRIES, &entry(1, group, &reading("m_dish", "48.00", "g"))).body;
    assert_eq!(kept["seq"], 2);
}

/// A backup from before a device had joined is put back: its cookie is unknown, and what it holds is sent after it has
/// joined again.
#[test]
fn a_cookie_that_a_restored_record_does_not_know_is_told_to_join_again() {
    let server = Server::demo();
    let (galena, group) = server.bench("Galena", "553943");
    let other = Server::demo();
    let galena = galena.at(&other);
    let held = entry(1, group, &reading(DISH, "53.11", "g"));
    let (status, words) = galena.post(ENTRIES, &held).refusal();
    assert_eq!((status, words.as_str()), (401, "this device belongs to no group: join with the code on the board"));
    let claim = json!({ "code": crate::process::CODE, "group": group, "pin": "553943" });
    assert_eq!(galena.post("/api/v1/join/claim", &claim).status, 204);
    assert_eq!(galena.post(ENTRIES, &held).status, 200);
}

#[test]
fn a_private_connection_has_cookies_of_its_own() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().to_owned();
    let server = Server::start(folder, &[]);
    // Asked first, so that all it says at its start has been said.
    assert_eq!(server.client().get("/healthz").status, 200);
    let said = server.said();
    let address = said.split("by TLS: https://").nth(1).unwrap();
    let port: u16 = address
        .split(':')
        .nth(1)
        .unwrap()
        .chars()
        .take_while(char::is_ascii_digit)
        .collect::<String>()
        .parse()
        .unwrap();
    let account = json!({ "name": "R. Ashdown", "passphrase": crate::process::PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let body = json!({ "name": "R. Ashdown", "passphrase": crate::process::PASSPHRASE }).to_string();
    let answer = ask_privately(
        &path.join("tls/certificate.pem"),
        port,
        &format!(
            "POST /api/v1/session HTTP/1.1\r\nhost: localhost:{port}\r\nx-keen-beaker: 1\r\nconnection: close\r\n\
             content-type: application/json\r\ncontent-length: {}\r\n\r\n{body}",
            body.len()
        ),
    );
    assert!(answer.starts_with("HTTP/1.1 204"), "{answer}");
    let cookie = answer.lines().find(|l| l.to_lowercase().starts_with("set-cookie:")).unwrap();
    assert!(cookie.contains("__Host-kb_desk=") && cookie.contains("Secure") && cookie.contains("HttpOnly"), "{cookie}");
}

/// What the server answers to a request by TLS, with its own certificate as the only one that is trusted.
fn ask_privately(certificate: &std::path::Path, port: u16, request: &str) -> String {
    use rustls::pki_types::{CertificateDer, ServerName, pem::PemObject};
    let mut trusted = rustls::RootCertStore::empty();
    trusted.add(CertificateDer::from_pem_file(certificate).unwrap()).unwrap();
    let config = rustls::ClientConfig::builder_with_provider(Arc::new(rustls::crypto::ring::default_provider()))
        .with_safe_default_protocol_versions()
        .unwrap()
        .with_root_certificates(trusted)
        .with_no_client_auth();
    let name = ServerName::try_from("localhost").unwrap();
    let connection = rustls::ClientConnection::new(Arc::new(config), name).unwrap();
    let mut stream = rustls::StreamOwned::new(connection, TcpStream::connect(("127.0.0.1", port)).unwrap());
    stream.write_all(request.as_bytes()).unwrap();
    let mut answer = String::new();
    // The other end closes without a goodbye; what came is what counts.
    let _ = stream.read_to_string(&mut answer);
    answer
}
