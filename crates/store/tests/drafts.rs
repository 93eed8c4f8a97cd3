//! Drafts through the store's public items: nothing typed is lost, two people cannot overwrite each other, and a version
//! of the school is never run over by the library.

use store::{Draft, DraftChange, Store, StoreError};

fn empty() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("school.db")).unwrap();
    (folder, store)
}

fn change(store: &Store, on: Option<i64>, text: &str) -> Result<Draft, StoreError> {
    store.change_draft(DraftChange {
        id: "epsom-salt".into(),
        on,
        text: text.into(),
        what: format!("to {text}"),
        author: "person 1".into(),
        now: 10,
    })
}

#[test]
fn undo_leads_back_to_what_was_published_and_redo_forth_again() {
    let (_folder, store) = empty();
    store.stock_practical("epsom-salt".into(), "one".into(), 1).unwrap();
    assert_eq!(change(&store, None, "two").unwrap().steps, (0, 1));
    assert_eq!(change(&store, Some(1), "three").unwrap().text, "three");
    let step = |on, back| store.step_draft("epsom-salt".into(), on, back).map(|d| d.text);
    assert_eq!(step(2, true).unwrap(), "two");
    assert_eq!(step(1, true).unwrap(), "one");
    assert!(matches!(step(0, true), Err(StoreError::NotFound("step"))));
    assert_eq!(step(0, false).unwrap(), "two");
    // What was undone is gone once something else is changed.
    assert_eq!(change(&store, Some(1), "four").unwrap().steps, (0, 2));
    assert!(matches!(step(2, false), Err(StoreError::NotFound("step"))));
    assert_eq!(store.earlier_texts("epsom-salt", 2).unwrap(), ["two", "one"]);
}

#[test]
fn two_people_are_told_of_each_other() {
    let (_folder, store) = empty();
    let first = change(&store, None, "mine").unwrap();
    assert!(matches!(change(&store, None, "yours"), Err(StoreError::Overtaken)));
    change(&store, Some(first.step), "mine again").unwrap();
    assert!(matches!(change(&store, Some(first.step), "yours"), Err(StoreError::Overtaken)));
    assert!(matches!(
        store.publish_draft("epsom-salt".into(), first.step, "person 2".into(), 20),
        Err(StoreError::Overtaken)
    ));
    assert_eq!(store.draft("epsom-salt").unwrap().unwrap().text, "mine again");
}

#[test]
fn publishing_ends_the_draft_and_the_library_does_not_run_over_it() {
    let (_folder, store) = empty();
    let stock = |text: &str| store.stock_practical("epsom-salt".into(), text.into(), 1).unwrap();
    assert_eq!((stock("one").version, stock("one").version, stock("two").version), (1, 1, 2));
    let draft = change(&store, None, "ours").unwrap();
    assert_eq!(draft.base, Some(2));
    let version = store.publish_draft("epsom-salt".into(), draft.step, "person 1".into(), 20).unwrap();
    assert_eq!((version.version, version.author.as_str()), (3, "person 1"));
    assert!(store.draft("epsom-salt").unwrap().is_none());
    assert_eq!(stock("three").text, "ours");
    let kept: Vec<i64> = store.versions("epsom-salt").unwrap().iter().map(|v| v.version).collect();
    assert_eq!(kept, [3, 2, 1]);
}

#[test]
fn a_draft_survives_a_restart_and_is_thrown_away_only_when_asked() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("school.db");
    let store = Store::open(&path).unwrap();
    change(&store, None, "= broken").unwrap();
    drop(store);
    let store = Store::open(&path).unwrap();
    assert_eq!(store.drafts().unwrap().iter().map(|d| d.text.as_str()).collect::<Vec<_>>(), ["= broken"]);
    // Somebody else has gone on meanwhile: what they added is not thrown away unseen.
    let seen = store.drafts().unwrap()[0].step;
    let on = change(&store, Some(seen), "mended").unwrap().step;
    assert!(matches!(store.discard_draft("epsom-salt".into(), seen), Err(StoreError::Overtaken)));
    assert_eq!(store.draft("epsom-salt").unwrap().unwrap().text, "mended");
    store.discard_draft("epsom-salt".into(), on).unwrap();
    assert!(matches!(store.discard_draft("epsom-salt".into(), on), Err(StoreError::NotFound("draft"))));
    assert!(store.drafts().unwrap().is_empty());
}

/// Three hundred steps back are kept of a long day's work.
#[test]
fn a_draft_does_not_grow_for_ever() {
    let (_folder, store) = empty();
    let mut on = None;
    for n in 0..320 {
        on = Some(change(&store, on, &format!("text {n}")).unwrap().step);
    }
    let (first, last) = store.draft("epsom-salt").unwrap().unwrap().steps;
    assert_eq!(last - first + 1, 300);
}

/// A record of the first version, as its migration left it, opens with its practicals as the library's.
#[test]
fn a_record_of_the_first_version_is_brought_up() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("school.db");
    let old = rusqlite::Connection::open(&path).unwrap();
    old.execute_batch(include_str!("../migrations/01-the-record.sql")).unwrap();
    old.execute_batch("INSERT INTO practical VALUES ('epsom-salt', 1, 'old text', 5); PRAGMA user_version = 1;")
        .unwrap();
    drop(old);
    let store = Store::open(&path).unwrap();
    let kept = store.practical("epsom-salt", 1).unwrap();
    assert_eq!((kept.text.as_str(), kept.author.as_str(), kept.created_at), ("old text", "library", 5));
    assert_eq!(store.stock_practical("epsom-salt".into(), "new text".into(), 6).unwrap().version, 2);
}
