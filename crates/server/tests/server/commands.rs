//! The program's own commands: on a record that is there, and on one that is not.

use crate::process::{PASSPHRASE, Server, entry, groups_of, reading};
use serde_json::json;
use std::io::Write;
use std::path::Path;
use std::process::{Command, Stdio};

pub fn run(arguments: &[&str], input: &str) -> (bool, String, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    child.stdin.take().unwrap().write_all(input.as_bytes()).unwrap();
    let done = child.wait_with_output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    (done.status.success(), text(done.stdout), text(done.stderr))
}

/// A record with one entry of one group, its server gone.
pub fn record() -> tempfile::TempDir {
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let open = json!({ "practical": "epsom-salt", "class": "11-Slate", "groups": groups_of(&["Talc"]) });
    let run = server.desk().post("/api/v1/runs", &open).body;
    let talc = server.client();
    assert_eq!(talc.post("/api/v1/join/claim", &json!({ "code": run["code"], "group": 1 })).status, 204);
    assert_eq!(talc.post("/api/v1/bench/entries", &entry(1, 1, &reading("m_dish", "47.91", "g"))).status, 200);
    server.kill()
}

#[test]
fn files_are_checked_before_they_are_sent_on() {
    let folder = tempfile::tempdir().unwrap();
    let sound = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../practicals/zinc-iodide.practical.toml");
    let (ok, words, _) = run(&["check", sound.to_str().unwrap()], "");
    assert!(ok && words.contains("0 to mend, 0 that do not add up"), "{words}");
    let broken = folder.path().join("broken.practical.toml");
    let text = std::fs::read_to_string(&sound).unwrap().replace("Zn + I2 -> ZnI2", "Zn + I2 -> ZnI3");
    std::fs::write(&broken, text).unwrap();
    let (ok, words, error) = run(&["check", broken.to_str().unwrap(), "nowhere.toml"], "");
    assert!(!ok && words.contains("reaction 1: not balanced: I 2 on the left, 3 on the right"), "{words}");
    assert!(error.contains("nowhere.toml cannot be read"), "{error}");
}

#[test]
fn a_record_is_verified_copied_and_erased_from_the_console() {
    let folder = record();
    let data = folder.path().to_str().unwrap();
    let (ok, words, _) = run(&["verify", "--data", data], "");
    assert!(ok && words.contains("the chain holds"), "{words}");

    let copy = folder.path().join("copy");
    assert!(run(&["backup", "--data", data, "--to", copy.to_str().unwrap()], "").0);
    let copied = run(&["verify", "--data", copy.to_str().unwrap()], "");
    assert_eq!((copied.0, &copied.1), (true, &words), "the copy is the record");

    let (ok, told, _) = run(&["erase", "--data", data, "--run", "1", "--group", "Talc"], "");
    assert!(ok && told.contains("what Talc entered in run 1 is deleted"), "{told}");
    let (ok, words, _) = run(&["verify", "--data", data], "");
    assert!(ok && words.contains("1 payloads erased") && words.contains("the chain holds"), "{words}");
    let bytes = std::fs::read(folder.path().join("record.db")).unwrap();
    assert!(!bytes.is_empty());
    let (ok, _, why) = run(&["erase", "--data", data, "--run", "1", "--group", "Zircon"], "");
    assert!(!ok && why.contains("run 1 has no group 'Zircon'"), "{why}");
}

/// Who forgot it is let in again at the machine; a passphrase that is too short or somebody's changes nothing.
#[test]
fn a_forgotten_passphrase_is_replaced_at_the_machine() {
    let folder = record();
    let data = folder.path().to_str().unwrap();
    let set = |name: &str, line: &str| run(&["passphrase", "--data", data, "--name", name], line);
    let (ok, _, why) = set("R. Ashdown", "short\n");
    assert!(!ok && why.contains("10 to 200 characters") && why.contains("as it was"), "{why}");
    assert!(set("Nobody", "moss on a north wall\n").2.contains("nobody with an account is called 'Nobody'"));
    assert!(set("R. Ashdown", "short\n").2.contains("10 to 200 characters"));
    let (ok, words, _) = set("R. Ashdown", "moss on a north wall\r\n");
    assert!(ok && words.contains("all devices are signed out"), "{words}");
    let server = Server::start(folder, &[]);
    let sign_in = |passphrase: &str| server.client().sign_in("R. Ashdown", passphrase).status;
    assert_eq!((sign_in(PASSPHRASE), sign_in("moss on a north wall")), (403, 204));
}

#[test]
fn a_slip_in_the_path_makes_no_new_record() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().to_str().unwrap();
    for command in ["verify", "backup"] {
        let to = folder.path().join("copy");
        let mut arguments = vec![command, "--data", data];
        if command == "backup" {
            arguments.extend(["--to", to.to_str().unwrap()]);
        }
        let (ok, _, why) = run(&arguments, "");
        assert!(!ok && why.contains("there is no record in"), "{why}");
    }
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 0);
}

#[test]
fn a_tampered_record_is_told() {
    let folder = record();
    let file = folder.path().join("record.db");
    let raw = rusqlite::Connection::open(&file).unwrap();
    raw.execute_batch(
        "DROP TRIGGER payload_is_never_changed; UPDATE payload SET body = replace(body, '47.91', '41.97')",
    )
    .unwrap();
    drop(raw);
    let (ok, words, why) = run(&["verify", "--data", folder.path().to_str().unwrap()], "");
    assert!(!ok && why.contains("nothing was changed"), "{why}");
    assert!(words.contains("event 1 does not say what was written"), "{words}");
}

#[test]
fn questions_come_in_by_lines_and_answers_go_out_by_lines() {
    let questions = concat!(
        r#"{"kind":"solution","ask":"dilute","stock":"2.00 mol/L","target":"0.150 mol/L","volume":"250.0 mL"}"#,
        "\nnonsense\n",
        r#"{"kind":"equation","equation":"H2 + O2 -> H2O"}"#,
        "\n"
    );
    let (ok, answers, _) = run(&["compute"], questions);
    assert!(ok, "a bad line is no failure of the program");
    let lines: Vec<serde_json::Value> = answers.lines().map(|l| serde_json::from_str(l).unwrap()).collect();
    assert_eq!(lines.len(), 3);
    assert_eq!(lines[0]["worked"]["results"][0]["text"], "18.8");
    assert_eq!(lines[1]["error"], "request");
    assert_eq!(lines[2]["balance"]["reactants"], json!(["2", "1"]));
}

#[test]
fn the_interface_document_is_printed() {
    let (ok, text, _) = run(&["openapi"], "");
    let committed = std::fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("../../openapi.json")).unwrap();
    assert!(ok && text == committed, "openapi.json is stale: run `cargo xtask types`");
}
