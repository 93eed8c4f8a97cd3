//! Records that earlier versions of the program wrote: every payload is still read, every table still comes along.

use lab::bench::{Actor, EntryKind, Room};
use lab::roll::AccountRole;
use practical::Allotted;
use rusqlite::named_params;
use serde_json::Value;
use sha2::{Digest, Sha256};
use std::collections::BTreeSet;
use std::path::Path;
use store::{RunKind, Said, Store, StoreError};
use strum::IntoEnumIterator;

/// One payload of every kind, as it was written when the kind came. A line here is never changed: it is what stands in
/// the schools' records.
const PAYLOADS: &str = include_str!("payloads.jsonl");

#[test]
fn every_payload_that_was_ever_written_is_read_and_written_alike() {
    let mut seen = BTreeSet::new();
    for line in PAYLOADS.lines() {
        for version in [1, 2] {
            let said = Said::read(version, line).unwrap_or_else(|e| panic!("{e}: {line}"));
            let (before, again): (Value, Value) =
                (serde_json::from_str(line).unwrap(), serde_json::to_value(&said).unwrap());
            assert_eq!(before, again);
            seen.insert(said.statement.kind());
        }
    }
    let entries = EntryKind::iter().map(<&'static str>::from);
    let all: BTreeSet<&str> = entries.chain(RunKind::iter().map(<&'static str>::from)).collect();
    assert_eq!(seen, all, "a kind without a line in payloads.jsonl, or a line without a kind");
}

/// Before version 2 a slip was given back with what was used instead, which is half the answer.
#[test]
fn of_an_old_release_nothing_is_told_that_was_used_instead() {
    let line = PAYLOADS.lines().find(|l| l.contains("released")).unwrap();
    let old = line.replace("\"m_dish\"", "\"m_dish ← m_full\"");
    assert_ne!(old, line);
    assert_eq!(Said::read(1, &old).unwrap(), Said::read(2, line).unwrap());
}

#[test]
fn what_cannot_be_read_is_said_to_be_so() {
    let line = PAYLOADS.lines().next().unwrap();
    assert!(matches!(Said::read(3, line), Err(StoreError::NewerPayload(3))));
    let told = |from: &str, to: &str| Said::read(1, &line.replacen(from, to, 1)).unwrap_err().to_string();
    assert!(told("\"text\"", "\"number\"").contains("unknown field `number`"));
    assert!(told("\"reading\"", "\"smell\"").contains("unknown variant `smell`"));
    assert!(told("\"kind\"", "\"sort\"").contains("missing field `kind`"));
    for nobody in ["", "device", "device x", "person 1.5", "consoles", "device -"] {
        assert!(nobody.parse::<Actor>().is_err(), "{nobody}");
    }
    for somebody in [Actor::Device(7), Actor::Person(1), Actor::Console] {
        assert_eq!(somebody.to_string().parse(), Ok(somebody));
    }
}

/// An event in a file, linked as the first of its chain.
fn write_event(file: &rusqlite::Connection, body: &str) {
    let (salt, id) = ([7u8; 16], [1u8; 16]);
    let payload: [u8; 32] = Sha256::new().chain_update(salt).chain_update(body).finalize().into();
    let mut link = Sha256::new().chain_update([0u8; 32]).chain_update(1i64.to_be_bytes()).chain_update(id);
    for number in [1i64, 1, 1, 11] {
        link.update(number.to_be_bytes());
    }
    for text in ["device 1", "reading"] {
        link.update((text.len() as u64).to_be_bytes());
        link.update(text);
    }
    let link: [u8; 32] = link.chain_update([0u8; 16]).chain_update(payload).finalize().into();
    file.execute(
        "INSERT INTO event (seq, id, run_id, group_id, actor, kind, payload_version, received_at, payload_hash, chain)
         VALUES (1, :id, 1, 1, 'device 1', 'reading', 1, 11, :payload, :link)",
        named_params! {":id": id, ":payload": payload, ":link": link},
    )
    .unwrap();
    file.execute(
        "INSERT INTO payload (seq, salt, body) VALUES (1, :salt, :body)",
        named_params! {":salt": salt, ":body": body},
    )
    .unwrap();
}

/// A record of each earlier version is brought to this one, with what it holds.
#[test]
fn records_of_every_earlier_version_come_along() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("migrations");
    let mut steps: Vec<_> = std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect();
    steps.sort();
    for version in 1..steps.len() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("record.db");
        let old = rusqlite::Connection::open(&path).unwrap();
        for step in &steps[..version] {
            old.execute_batch(&std::fs::read_to_string(step).unwrap()).unwrap();
        }
        old.execute_batch(&format!(
            "PRAGMA user_version = {version};
             INSERT INTO person (id, name, created_at) VALUES (1, 'R. Ashdown', 1);
             INSERT INTO account (person_id, passphrase_hash, created_at) VALUES (1, 'hash', 1);
             INSERT INTO class (id, name, owner_id, created_at) VALUES (1, '11-Basalt', 1, 1);
             INSERT INTO practical (id, version, text, created_at) VALUES ('epsom-salt', 1, 'text', 1);
             INSERT INTO run (id, practical_id, practical_version, class_id, code, opened_at)
             VALUES (1, 'epsom-salt', 1, 1, 'TARN 47', 2);
             INSERT INTO bench_group (id, run_id, position, name, pin) VALUES (1, 1, 0, 'Beryl', '1234');"
        ))
        .unwrap();
        write_event(&old, PAYLOADS.lines().next().unwrap());
        drop(old);

        let store = Store::open(&path).unwrap_or_else(|e| panic!("from version {version}: {e}"));
        let run = store.run(1).unwrap();
        assert_eq!((run.class.as_str(), run.class_id, run.photos, run.paused_at), ("11-Basalt", 1, false, None));
        assert_eq!(store.groups(1).unwrap()[0].allotted, Allotted::default());
        assert_eq!(store.classes(1).unwrap().len(), 1);
        assert_eq!((store.role(1).unwrap(), store.calendar().unwrap()), (AccountRole::Instructor, None));
        assert_eq!(store.bench(1, 1).unwrap().current(&Room::default()).readings["m_dish"], "47.91");
        store.tell(1, None, "It still writes.".into(), Actor::Person(1), 5).unwrap();
        let examined = store.examine();
        assert_eq!((examined.head.seq, examined.faults), (2, Vec::new()), "from version {version}");
    }
}
