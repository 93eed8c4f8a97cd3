//! Who may see and do what.

use crate::process::{CODE, PASSPHRASE, Server, entry, reading};
use serde_json::{Value, json};

#[test]
fn a_desk_needs_sign_in_and_a_forged_cookie_is_none() {
    let server = Server::demo();
    let nobody = server.client();
    for path in ["/shelf", "/practicals/epsom-salt", "/runs/1/board", "/runs/1/check", "/runs/1/export.csv", "/bench"] {
        let (status, _) = nobody.get(&format!("/api/v1{path}")).refusal();
        assert_eq!(status, 401, "{path}");
    }
    let forged = nobody.get_with_cookie("/api/v1/runs/1/board", Some(&format!("kb_desk={}", "a".repeat(64))));
    assert_eq!(forged.refusal().0, 401);
    assert_eq!(server.desk().get("/api/v1/runs/1/board").status, 200);
    let told = |name: &str, passphrase: &str| nobody.sign_in(name, passphrase).refusal();
    let wrong = told("R. Ashdown", "granite under cold snow");
    assert!(wrong.0 == 403 && wrong.1.starts_with("the name or the passphrase is wrong"), "{wrong:?}");
    assert_eq!(wrong, told("N. Obody", PASSPHRASE), "nobody learns who has an account");
    assert_eq!(nobody.sign_in(" r. ASHDOWN ", PASSPHRASE).status, 204);
}

#[test]
fn a_group_sees_and_writes_its_own_bench_only() {
    let server = Server::demo();
    let (galena, id) = server.bench("Galena", "553943");
    let (_, other) = server.bench("Beryl", "418234");
    let view = galena.get("/api/v1/bench");
    assert_eq!(view.body["group"], "Galena");
    assert_eq!(view.body["entered"]["m_dish"]["text"], "50.08");
    // Neither another group's readings nor what comes out, nor what is expected to be seen.
    for hidden in ["47.91", "theoretical\":", "verdict", "expected\":\"", "outcome"] {
        assert!(!view.text.contains(hidden), "the bench tells {hidden}");
    }
    assert_eq!(galena.get("/api/v1/runs/1/board").refusal().0, 401);
    let theirs = entry(1, other, &reading("m_dish_crystals", "53.11", "g"));
    let (status, words) = galena.post("/api/v1/bench/entries", &theirs).refusal();
    assert_eq!((status, words.as_str()), (403, "this entry was made for another group; it was not taken"));
    let ours = entry(1, id, &reading("m_dish_crystals", "53.11", "g"));
    assert_eq!(galena.post("/api/v1/bench/entries", &ours).status, 200);
}

#[test]
fn a_second_device_needs_the_pin_and_guessing_is_slow() {
    let server = Server::demo();
    let client = server.client();
    let groups = client.post("/api/v1/join", &json!({ "code": "tarn-47" })).body["groups"].clone();
    assert_eq!(groups[0]["name"], "Beryl");
    let claim =
        |pin: &str| client.post("/api/v1/join/claim", &json!({ "code": CODE, "group": groups[0]["id"], "pin": pin }));
    let (status, words) = claim("0000").refusal();
    assert_eq!(status, 403);
    assert!(words.starts_with("this group has a device already"), "{words}");
    let statuses: Vec<u16> = (1..=8).map(|n| claim(&format!("{n:04}")).status).collect();
    assert_eq!(statuses.iter().filter(|s| **s == 429).count(), 3, "{statuses:?}");
    // Another group's second device is not held up by that.
    server.bench("Galena", "553943");
    assert_eq!(client.post("/api/v1/join", &json!({ "code": "MOOR 11" })).refusal().0, 404);
}

/// A reader looks at what is shared, and changes nothing but what is the reader's own; a colleague works with a class, and
/// erases nobody of it.
#[test]
fn a_reader_changes_nothing_and_a_colleague_erases_nobody() {
    let server = Server::demo();
    let desk = server.desk();
    let account = json!({ "name": "I. Sill", "passphrase": "lanterns over the weir", "role": "reader" });
    assert_eq!(desk.post("/api/v1/colleagues", &account).status, 204);
    let reader = server.desk_of("I. Sill", "lanterns over the weir");
    assert_eq!(reader.get("/api/v1/runs/2/board").status, 404, "nothing is shared yet");
    let classes = desk.get("/api/v1/classes").body;
    let find = |of: &Value, name: &str| of.as_array().unwrap().iter().find(|x| x["name"] == name).unwrap().clone();
    let class = find(&classes["classes"], "12-Gneiss");
    let share = json!({ "person": find(&classes["colleagues"], "I. Sill")["id"], "shared": true });
    assert_eq!(desk.put(&format!("/api/v1/classes/{}/share", class["id"]), &share).status, 204);
    let run = desk.get("/api/v1/shelf").body["runs"]
        .as_array()
        .unwrap()
        .iter()
        .find(|r| r["class"] == "12-Gneiss")
        .unwrap()
        .clone();
    let at = format!("/api/v1/runs/{}", run["id"]);
    for path in ["board", "check", "people", "preparation", "export.csv"] {
        assert_eq!(reader.get(&format!("{at}/{path}")).status, 200, "{path}");
    }
    for (path, body) in [
        (format!("{at}/closed"), json!({ "closed": true })),
        ("/api/v1/calendar".into(), desk.get("/api/v1/calendar").body),
        (format!("{at}/paused"), json!({ "paused": true })),
    ] {
        let (status, words) = reader.put(&path, &body).refusal();
        assert!(status == 403 && words.contains("change nothing"), "{path}: {status} {words}");
    }
    assert_eq!(reader.post("/api/v1/compute", &json!({ "kind": "formula", "formula": "NaCl" })).status, 200);
    let person = &class["people"][0]["id"];
    let (status, words) =
        server.fairlead().delete(&format!("/api/v1/classes/{}/people/{person}", class["id"])).refusal();
    assert_eq!((status, words.as_str()), (403, "only its owner decides this"));
}

/// A school's record is nobody else's on the machine.
#[test]
fn files_are_closed_to_others() {
    use std::os::unix::fs::PermissionsExt;
    let folder = tempfile::tempdir().unwrap();
    std::fs::set_permissions(folder.path(), std::fs::Permissions::from_mode(0o755)).unwrap();
    let server = Server::start(folder, &[]);
    let of = |path: &std::path::Path| std::fs::metadata(path).unwrap().permissions().mode() & 0o777;
    assert_eq!(of(server.folder()), 0o700);
    for file in std::fs::read_dir(server.folder()).unwrap() {
        let path = file.unwrap().path();
        assert_eq!(of(&path) & 0o077, 0, "{}", path.display());
    }
}

#[test]
fn a_cookie_ends_with_its_time() {
    let first = Server::start(tempfile::tempdir().unwrap(), &["--now", "2026-11-12T08:00:00Z"]);
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(first.client().post("/api/v1/accounts", &account).status, 204);
    let desk = first.desk();
    assert_eq!(desk.get("/api/v1/shelf").status, 200);
    let folder = first.kill();
    // A working day later, at the same record: the cookie is the same, its session is over.
    let later = Server::start(folder, &["--now", "2026-11-12T20:00:01Z"]);
    let stale = desk.at(&later);
    let (status, words) = stale.get("/api/v1/shelf").refusal();
    assert_eq!((status, words.as_str()), (401, "sign in with your passphrase"));
    assert_eq!(later.desk().get("/api/v1/shelf").status, 200);
}

#[test]
fn the_first_account_is_made_once_and_from_the_machine_itself() {
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": "short" });
    assert_eq!(server.client().post("/api/v1/accounts", &account).refusal().0, 422);
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    // The same address by another name is a page that only resolves to it.
    let body = account.to_string();
    let elsewhere = [("x-keen-beaker", "1"), ("host", "bench.test")];
    assert_eq!(server.client().send("/api/v1/accounts", body.as_bytes(), &elsewhere).refusal().0, 403);
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    assert_eq!(server.client().post("/api/v1/accounts", &account).refusal().0, 409);
}

#[test]
fn another_site_cannot_send_and_pages_run_nothing_foreign() {
    let server = Server::demo();
    let desk = server.desk();
    let body = json!({ "closed": true }).to_string();
    let plain = desk.send("/api/v1/runs", body.as_bytes(), &[]);
    assert_eq!(plain.refusal(), (403, "the request does not come from this application's own pages".into()));
    let foreign =
        desk.send("/api/v1/runs", body.as_bytes(), &[("x-keen-beaker", "1"), ("origin", "http://other.test")]);
    assert_eq!(foreign.refusal(), (403, "the request comes from another site".into()));
    let page = server.client().get("/healthz");
    assert_eq!((page.status, page.text.as_str()), (200, "ok\n"));
    assert!(page.policy.starts_with("default-src 'self'") && !page.policy.contains("unsafe"), "{}", page.policy);
}

#[test]
fn questions_to_the_core_are_for_instructors_and_refused_in_words() {
    let server = Server::demo();
    let question = json!({ "kind": "formula", "formula": "MgSO4·7H2O" });
    assert_eq!(server.client().post("/api/v1/compute", &question).refusal().0, 401);
    let (galena, _) = server.bench("Galena", "553943");
    assert_eq!(galena.post("/api/v1/compute", &question).refusal().0, 401);
    let desk = server.desk();
    let answer = desk.post("/api/v1/compute", &question);
    assert_eq!((answer.status, answer.body["kind"].as_str()), (200, Some("formula")));
    let wrong = desk.post("/api/v1/compute", &json!({ "kind": "formula", "formula": "FeCL3" }));
    assert_eq!(wrong.refusal(), (422, "no element has the symbol 'L' (character 4 of 'FeCL3')".into()));
    assert_eq!(desk.post("/api/v1/compute", &json!({ "kind": "prophecy" })).refusal().0, 422);
    // A practical's text is larger than a reading: it is let through here, and here alone.
    let long = json!({ "kind": "practical", "text": "#".repeat(100_000) });
    let told = desk.post("/api/v1/compute", &long).body["problems"][0]["reason"].clone();
    assert!(told.as_str().unwrap().contains("missing field"), "{told}");
    assert_eq!(desk.post("/api/v1/compute", &json!({ "kind": "practical", "text": "#".repeat(600_000) })).status, 422);
}

/// One's own passphrase: the old one is asked, other devices are out, this one goes on.
#[test]
fn a_passphrase_is_changed_by_whoever_has_it() {
    let server = Server::demo();
    let (here, elsewhere) = (server.desk(), server.desk());
    let change = |now: &str, new: &str| here.put("/api/v1/passphrase", &json!({ "now": now, "new": new }));
    assert_eq!(change("copper over still water", "moss on a north wall").refusal().0, 403);
    assert!(change(PASSPHRASE, "short").refusal().1.contains("10 to 200 characters"));
    assert_eq!(elsewhere.get("/api/v1/shelf").status, 200);
    assert_eq!(change(PASSPHRASE, "copper over still water").status, 204, "a colleague's is nobody's business");
    assert_eq!((here.get("/api/v1/shelf").status, elsewhere.get("/api/v1/shelf").status), (200, 401));
    let bench = server.client();
    assert_eq!(bench.put("/api/v1/passphrase", &json!({ "now": "x", "new": "y" })).status, 401);
}
