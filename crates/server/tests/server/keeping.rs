//! Backups and what is put back from them; a record that something is wrong with.

use crate::commands::{record, run};
use crate::process::{PASSPHRASE, Server};
use serde_json::json;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

fn text(path: &Path) -> &str {
    path.to_str().unwrap()
}

fn is_called(path: &Path, ending: &str) -> bool {
    path.extension().is_some_and(|e| e == ending)
}

/// Folders in a folder, by name.
fn folders(of: &Path) -> Vec<PathBuf> {
    let mut all: Vec<PathBuf> = fs::read_dir(of).map_or(Vec::new(), |e| e.map(|e| e.unwrap().path()).collect());
    all.sort();
    all
}

#[test]
fn a_backup_made_at_the_desk_is_put_back_and_everybody_signs_in_again() {
    let server = Server::start(record(), &[]);
    let desk = server.desk();
    let before = desk.get("/api/v1/keeping").body;
    assert_eq!((before["backups"].as_array().unwrap().len(), before["may_restore"].as_bool()), (0, Some(true)));
    let made = desk.post("/api/v1/keeping/backups", &json!({})).body;
    let backup = made["backups"][0].clone();
    assert_eq!((backup["events"].as_i64(), made["failed"].is_null()), (Some(1), true), "{made}");

    assert_eq!(desk.post("/api/v1/classes", &json!({ "name": "12-Gneiss" })).status, 200);
    let other = server.colleague(&desk);
    let which = json!({ "name": backup["name"], "lies_in": backup["lies_in"] });
    assert_eq!(other.post("/api/v1/keeping/restored", &which).refusal().0, 403, "not by a colleague");
    let astray = json!({ "name": "../..", "lies_in": "/" });
    assert_eq!(desk.post("/api/v1/keeping/restored", &astray).refusal().0, 404);
    assert_eq!(desk.post("/api/v1/keeping/restored", &which).status, 204);
    assert_eq!(desk.get("/api/v1/classes").status, 401, "signed out");
    let desk = server.desk();
    let classes = desk.get("/api/v1/classes").body["classes"].to_string();
    assert!(classes.contains("11-Slate") && !classes.contains("12-Gneiss"), "{classes}");
    // What was there before it is a backup of its own, and a later one does not take its place.
    let all = desk.post("/api/v1/keeping/backups", &json!({})).body["backups"].as_array().unwrap().clone();
    let before = |b: &&serde_json::Value| b["before_restore"] == true;
    assert_eq!((all.len(), all.iter().filter(before).count()), (3, 1));
    assert_eq!(all.iter().find(before).unwrap()["events"], 1);
    assert_eq!(desk.post("/api/v1/keeping/examined", &json!({})).body["faults"], json!([]));
}

/// One folder that is not there keeps the others from nothing, and is told.
#[test]
fn a_folder_that_fails_is_told_and_the_others_have_theirs() {
    let home = tempfile::tempdir().unwrap();
    let (good, bad) = (home.path().join("second"), home.path().join("a file"));
    fs::write(&bad, "in the way").unwrap();
    let server = Server::start(record(), &["--backups", text(&bad), "--backups", text(&good)]);
    let made = server.desk().post("/api/v1/keeping/backups", &json!({})).body;
    assert_eq!(made["backups"].as_array().unwrap().len(), 2, "{made}");
    assert!(made["failed"]["why"].as_str().unwrap().contains("a file"), "{made}");
    assert_eq!(folders(&good).len(), 1);
}

#[test]
fn a_backup_is_restored_from_the_console_and_never_over_a_record() {
    let folder = record();
    let (data, home) = (folder.path().to_owned(), tempfile::tempdir().unwrap());
    let (backup, to) = (home.path().join("kept"), home.path().join("school"));
    assert!(run(&["backup", "--data", text(&data), "--to", text(&backup)], "").0);
    let (ok, _, why) = run(&["backup", "--data", text(&data), "--to", text(&backup)], "");
    assert!(!ok && why.contains("exists already; nothing was written"), "{why}");
    let (ok, _, why) = run(&["restore", "--from", text(&backup), "--data", text(&data)], "");
    assert!(!ok && why.contains("there is a record in") && why.contains("--replace"), "{why}");

    assert!(run(&["restore", "--from", text(&backup), "--data", text(&to)], "").0);
    assert!(run(&["verify", "--data", text(&to)], "").1.contains("1 events"));
    assert!(run(&["restore", "--from", text(&backup), "--data", text(&to), "--replace"], "").0);
    let aside = folders(&to).iter().filter(|f| text(f).contains("before-restore") && is_called(f, "db")).count();
    assert_eq!(aside, 1, "what was there is put aside");
    let served = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
        .args(["serve", "--port", "0", "--data", text(&backup)])
        .output()
        .unwrap();
    assert!(String::from_utf8_lossy(&served.stderr).contains("is a backup; put it back first"));

    // A backup with something else in it puts nothing back.
    let record = fs::read(backup.join("record.db")).unwrap();
    let mut other = record.clone();
    other[record.len() / 2] ^= 1;
    fs::write(backup.join("record.db"), other).unwrap();
    let (ok, words, _) = run(&["verify", "--data", text(&backup)], "");
    assert!(!ok && words.contains("'record.db' of this backup is not what was written"), "{words}");
    let new = home.path().join("new");
    let (ok, _, why) = run(&["restore", "--from", text(&backup), "--data", text(&new)], "");
    assert!(!ok && why.contains("nothing was restored") && !new.join("record.db").exists(), "{why}");
}

/// The process is killed while it writes: what has a name is whole, what is half written has none.
#[test]
fn a_backup_that_is_killed_is_none() {
    let folder = record();
    let home = tempfile::tempdir().unwrap();
    for n in 0..12 {
        let to = home.path().join(format!("backup-{n}"));
        let part = home.path().join(format!("backup-{n}.part"));
        let mut child = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
            .args(["backup", "--data", text(folder.path()), "--to", text(&to)])
            .stdout(Stdio::null())
            .spawn()
            .unwrap();
        // Killed as soon as it has begun, and later and later.
        while !part.exists() && child.try_wait().unwrap().is_none() {
            std::hint::spin_loop();
        }
        (0..n * 2000).for_each(|_| drop(fs::metadata(&part)));
        child.kill().unwrap();
        child.wait().unwrap();
    }
    for found in folders(home.path()) {
        let (ok, words, why) = run(&["verify", "--data", text(&found)], "");
        let half = is_called(&found, "part");
        assert_eq!(ok, !half, "{}: {words} {why}", found.display());
    }
}

#[test]
fn a_record_with_something_wrong_is_not_served_in_silence() {
    let serve = |folder: &Path, more: &[&str]| {
        let mut command = Command::new(env!("CARGO_BIN_EXE_keen-beaker"));
        let done = command.args(["serve", "--port", "0", "--data", text(folder)]).args(more).output().unwrap();
        format!("{}{}", String::from_utf8_lossy(&done.stdout), String::from_utf8_lossy(&done.stderr))
    };
    let empty = tempfile::tempdir().unwrap();
    fs::write(empty.path().join("record.db"), "").unwrap();
    let told = serve(empty.path(), &["--anyway"]);
    assert!(told.contains("the file is empty") && told.contains("'keen-beaker restore'"), "{told}");
    assert_eq!(fs::metadata(empty.path().join("record.db")).unwrap().len(), 0, "it was not made into a new one");

    let folder = record();
    let raw = rusqlite::Connection::open(folder.path().join("record.db")).unwrap();
    raw.execute_batch(
        "DROP TRIGGER seal_up_practical; UPDATE practical SET text = text || '#' WHERE id = 'epsom-salt'",
    )
    .unwrap();
    drop(raw);
    let told = serve(folder.path(), &[]);
    assert!(
        told.contains("the table 'practical' does not hold what was written") && told.contains("--anyway"),
        "{told}"
    );
    let server = Server::start(folder, &["--anyway"]);
    let faults = server.desk().post("/api/v1/keeping/examined", &json!({})).body["faults"].to_string();
    assert!(faults.contains("'practical' does not hold"), "{faults}");
}

#[test]
fn one_folder_has_one_server() {
    let server = Server::start(record(), &[]);
    let second = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
        .args(["serve", "--port", "0", "--data", text(server.folder())])
        .output()
        .unwrap();
    assert!(String::from_utf8_lossy(&second.stderr).contains("another server is at work on"));
    assert_eq!(server.client().sign_in("R. Ashdown", PASSPHRASE).status, 204, "the first goes on");
}

/// Nothing can be written any more: it is said at the bench, on the desk and to whoever watches over the server, and what
/// was acknowledged is there. With room again all goes on.
#[test]
fn a_disk_that_takes_nothing_is_told_and_loses_nothing() {
    let first = Server::start(record(), &["--entry-rate", "100000"]);
    let desk = first.desk();
    let run = desk
        .post("/api/v1/runs", &json!({ "practical": "epsom-salt", "class": "11", "groups": [{ "name": "Opal" }] }))
        .body;
    let folder = first.kill();
    let size = |name: &str| fs::metadata(folder.path().join(name)).map_or(0, |file| file.len());
    let blocks = size("record.db").max(size("record.db-wal")) / 512 + 400;
    let server = Server::on_a_small_disk(folder, u32::try_from(blocks).unwrap());
    let opal = server.client();
    let group = opal.post("/api/v1/join", &json!({ "code": run["code"] })).body["groups"][0]["id"].as_i64().unwrap();
    let claimed = opal.post("/api/v1/join/claim", &json!({ "code": run["code"], "group": group }));
    assert_eq!(claimed.status, 204, "{} {}", claimed.text, server.said());
    let desk = server.desk();
    assert_eq!(desk.get("/healthz").text.lines().next(), Some("ok"));
    let told = |text: &str, n: u64| json!({ "group": null, "text": format!("{n} {}", text.repeat(40)) });
    let mut refused = (0..5000).map(|n| desk.post(&format!("/api/v1/runs/{}/messages", run["id"]), &told("hold", n)));
    let refused = refused.find(|r| r.status != 204 && r.status != 429).expect("the disk is full at some time");
    assert_eq!(refused.status, 503, "{} {}", refused.text, server.said());
    let refused = refused.refusal();
    assert!(refused.1.contains("nothing of this was kept"), "{refused:?}");
    let seen = desk.get("/api/v1/session").body["troubles"][0].clone();
    assert!(seen.as_str().unwrap().contains("disk"), "{seen}");
    let watched = desk.get("/healthz");
    assert!(watched.status == 503 && watched.text.contains("stays on their devices"), "{}", watched.text);
    assert_eq!(opal.get("/api/v1/bench").status, 200, "what is there can be read");
    let kept = opal.get("/api/v1/bench").body["messages"].as_array().unwrap().len();

    let again = Server::start(server.kill(), &[]);
    let opal = opal.at(&again);
    assert!(opal.get("/api/v1/bench").body["messages"].as_array().unwrap().len() >= kept);
    let (code, told) = doctor(again.folder());
    assert!(told.contains("a server is at work on it") && told.contains("the record is whole"), "{code}: {told}");
}

fn doctor(folder: &std::path::Path) -> (i32, String) {
    let out = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
        .args(["doctor", "--port", "0", "--data", text(folder)])
        .output()
        .unwrap();
    (out.status.code().unwrap(), String::from_utf8(out.stdout).unwrap())
}

/// The doctor says what to do, and changes nothing.
#[test]
fn the_doctor_looks_and_says_what_to_do() {
    let (code, told) = doctor(std::path::Path::new("/nowhere/at/all"));
    assert!(code == 1 && told.contains("there is no folder /nowhere/at/all") && told.contains("--data"), "{told}");
    let folder = record();
    let file = folder.path().join("record.db");
    let before = std::fs::read(&file).unwrap();
    let (_, told) = doctor(folder.path());
    for line in [
        "the record is whole at a quick look",
        "there is no backup",
        "backups lie on the disk of the record alone",
        "is free",
    ] {
        assert!(told.contains(line), "{line} is not in\n{told}");
    }
    assert_eq!(std::fs::read(&file).unwrap(), before);
    let log = folder.path().join("record.db-wal");
    if log.exists() {
        std::fs::remove_file(log).unwrap();
    }
    std::fs::write(&file, "no record at all").unwrap();
    let (code, told) = doctor(folder.path());
    assert!(code == 1 && told.contains("'keen-beaker verify' tells all of it"), "{told}");
}

/// Figures for a watching program are there where they are asked for, and name nobody; the first account sees them in words.
#[test]
fn the_server_tells_in_figures_how_it_is_doing() {
    let server = Server::start(tempfile::tempdir().unwrap(), &["--demo", "--metrics"]);
    let (desk, _group) = (server.desk(), server.bench("Galena", "553943"));
    assert_eq!(desk.get("/api/v1/shelf").status, 200);
    assert_eq!(server.client().get("/api/v1/shelf").status, 401);
    let told = server.client().get("/metrics").text;
    for line in
        ["keen_beaker_answers_total{status=\"4xx\"} 1", "# TYPE keen_beaker_devices gauge", "keen_beaker_troubles 0"]
    {
        assert!(told.contains(line), "{line} is not in\n{told}");
    }
    assert!(!told.contains("Galena") && !told.contains("Ashdown"), "{told}");
    let doing = desk.get("/api/v1/keeping").body["doing"].clone();
    assert_eq!(doing["troubles"], json!([]));
    assert!(doing["devices"].as_u64().unwrap() >= 1 && doing["record_bytes"].as_u64().unwrap() > 0, "{doing}");
    assert_eq!(server.fairlead().get("/api/v1/keeping").body["doing"], serde_json::Value::Null);
    assert!(!Server::empty().client().get("/metrics").text.contains("keen_beaker"), "not unless it is asked for");
}
