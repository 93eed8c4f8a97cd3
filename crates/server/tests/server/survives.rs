//! Acknowledged means on disk.

use crate::process::{CODE, PASSPHRASE, Server, entry, groups_of, reading};
use lab::bench::{Entry, Taken};
use serde_json::json;
use std::collections::BTreeMap;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};
use store::Store;

/// Several devices enter as fast as they can; the process is killed in the middle. Everything that was acknowledged is
/// in the record, once, with its content; what was sent and not acknowledged is there once or not at all; the chain
/// holds.
#[test]
fn kill_under_load_loses_nothing_that_was_acknowledged() {
    const DEVICES: u128 = 4;
    let server = Server::empty();
    let account = json!({ "name": "R. Ashdown", "passphrase": PASSPHRASE });
    assert_eq!(server.client().post("/api/v1/accounts", &account).status, 204);
    let groups: Vec<String> = (0..DEVICES).map(|n| format!("Group {n}")).collect();
    let run = server
        .desk()
        .post("/api/v1/runs", &json!({ "practical": "epsom-salt", "class": "11", "groups": groups_of(&groups) }))
        .body;
    assert_ne!(run["code"], CODE);

    let acknowledged = Mutex::new(BTreeMap::new());
    let sent = AtomicUsize::new(0);
    let devices: Vec<_> = (0..DEVICES)
        .map(|_| server.client())
        .zip(1i64..)
        .map(|(client, group)| {
            let claim = json!({ "code": run["code"], "group": group });
            assert_eq!(client.post("/api/v1/join/claim", &claim).status, 204);
            (client, group)
        })
        .collect();
    let folder = std::thread::scope(|scope| {
        for (client, group) in &devices {
            let (acknowledged, sent) = (&acknowledged, &sent);
            scope.spawn(move || {
                for n in 0..10_000u128 {
                    let id = (u128::from(group.unsigned_abs()) << 32) + n;
                    let text = format!("{}.{:02}", 40 + n / 100 % 20, n % 100);
                    sent.fetch_add(1, Ordering::Relaxed);
                    let Some(seq) = client.try_enter(&entry(id, *group, &reading("m_dish", &text, "g"))) else {
                        return;
                    };
                    acknowledged.lock().unwrap().insert(id, (seq, text));
                }
            });
        }
        while acknowledged.lock().unwrap().len() < 60 {
            std::thread::yield_now();
        }
        server.kill()
    });

    let acknowledged = acknowledged.into_inner().unwrap();
    let store = Store::open(&folder.path().join("record.db")).unwrap();
    let mut kept = BTreeMap::new();
    for (_, group) in &devices {
        for e in store.bench(run["id"].as_i64().unwrap(), *group).unwrap().filed() {
            let Entry::Reading(Taken { text, .. }) = &e.entry else { panic!("only readings were sent") };
            assert!(kept.insert(e.id.as_u128(), (e.seq, text.clone())).is_none(), "stored twice");
        }
    }
    for (id, entry) in &acknowledged {
        assert_eq!(kept.get(id), Some(entry), "acknowledged and not as it was");
    }
    assert!(kept.len() <= sent.load(Ordering::Relaxed));
    assert_eq!(store.examine().faults, []);
}
