//! What the store promises about people, practicals and runs: one first account, tokens that end, texts that are never
//! overwritten, groups that are claimed once.

use lab::bench::Actor;
use store::{Holder, NewGroup, NewRun, OfClass, Store, StoreError};
use tempfile::TempDir;

fn empty() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("record.db")).unwrap();
    (folder, store)
}

fn group(name: &str) -> NewGroup {
    NewGroup { name: name.into(), pin: "5539".into(), ..NewGroup::default() }
}

fn run_of(store: &Store, owner: i64, class: &str, code: &str, groups: &[&str], now: i64) -> NewRun {
    let practical = store.keep_practical("epsom-salt".into(), "text".into(), "person 1".into(), now).unwrap();
    NewRun {
        practical: practical.id,
        version: practical.version,
        class: OfClass::Named(class.into()),
        owner,
        code: code.into(),
        groups: groups.iter().map(|g| group(g)).collect(),
        visits: Vec::new(),
        photos: false,
        masses: "standard abridged values, 2021".into(),
        school: practical::School::default(),
        rehearsal: None,
        now,
    }
}

#[test]
fn the_first_account_is_made_once_even_by_two_at_the_same_time() {
    let (_folder, store) = empty();
    assert!(store.is_new().unwrap());
    let made: Vec<Result<_, StoreError>> = std::thread::scope(|scope| {
        let tries: Vec<_> = ["R. Ashdown", "O. Marl"]
            .map(|name| scope.spawn(|| store.create_first_account(name.into(), "hash".into(), 5)))
            .into_iter()
            .collect();
        tries.into_iter().map(|t| t.join().unwrap()).collect()
    });
    let (right, refused): (Vec<_>, Vec<_>) = made.into_iter().partition(Result::is_ok);
    assert_eq!((right.len(), refused.len()), (1, 1));
    assert!(matches!(refused[0], Err(StoreError::AccountExists)));
    let accounts = store.accounts().unwrap();
    assert_eq!(accounts.len(), 1, "the refused name left nothing behind");
    assert_eq!(store.person(accounts[0].0.id).unwrap(), accounts[0].0);
    assert!(matches!(store.person(99), Err(StoreError::NotFound("person"))));
}

#[test]
fn a_session_lasts_to_its_time_and_ends_for_its_own_token_only() {
    let (_folder, store) = empty();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let run = store.open_run(run_of(&store, owner, "11-Basalt", "TARN 47", &["Galena"], 2)).unwrap().id;
    let group = store.groups(run).unwrap()[0].id;
    store.open_session([1; 32], Holder::Person(owner), String::new(), 10, 100).unwrap();
    store.open_session([2; 32], Holder::Group(group), String::new(), 20, 100).unwrap();
    let holder = |token: u8, now: i64| store.session([token; 32], now).unwrap().map(|s| s.holder);
    assert_eq!(holder(1, 99), Some(Holder::Person(owner)));
    assert_eq!(holder(2, 99), Some(Holder::Group(group)));
    assert_eq!((holder(1, 100), holder(3, 50)), (None, None), "expired to the millisecond, and never known");
    // One token is one session: nobody can take over another's.
    assert!(store.open_session([1; 32], Holder::Group(group), String::new(), 30, 900).is_err());
    store.end_session([1; 32]).unwrap();
    assert_eq!((holder(1, 50), holder(2, 50)), (None, Some(Holder::Group(group))));
}

#[test]
fn a_practical_keeps_every_text_and_a_run_stays_with_the_one_it_began_with() {
    let (_folder, store) = empty();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let run = store.open_run(run_of(&store, owner, "11-Basalt", "TARN 47", &["Galena"], 2)).unwrap();
    let keep =
        |text: &str| store.keep_practical("epsom-salt".into(), text.into(), "person 1".into(), 3).unwrap().version;
    assert_eq!((keep("text"), keep("text, mended"), keep("text, mended"), keep("text")), (1, 2, 2, 3));
    assert_eq!(store.practical("epsom-salt", run.version).unwrap().text, "text");
    assert_eq!(store.practical("epsom-salt", 2).unwrap().text, "text, mended");
    let newest: Vec<_> = store.practicals().unwrap().into_iter().map(|p| (p.id, p.version, p.text)).collect();
    assert_eq!(newest, [("epsom-salt".to_owned(), 3, "text".to_owned())]);
    assert!(matches!(store.practical("epsom-salt", 4), Err(StoreError::NotFound("practical"))));
    assert!(matches!(store.practical("alum", 1), Err(StoreError::NotFound("practical"))));
}

#[test]
fn a_run_that_cannot_be_opened_leaves_no_half_of_itself() {
    let (_folder, store) = empty();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let open = |class: &str, code: &str, groups: &[&str], now: i64| {
        store.open_run(run_of(&store, owner, class, code, groups, now))
    };
    let first = open("11-Basalt", "TARN 47", &["Galena", "Beryl"], 2).unwrap();
    assert!(open("11-Gneiss", "TARN 47", &["Olivine"], 3).is_err(), "the code is taken");
    assert!(open("11-Gneiss", "FELL 12", &["Olivine", "Olivine"], 4).is_err(), "two groups of one name");
    assert!(matches!(store.run_with_code("FELL 12"), Err(StoreError::NotFound("run"))));
    // The name that failed is free again, and a class is met again by its name.
    let second = open("11-Basalt", "FELL 12", &["Olivine"], 5).unwrap();
    assert_eq!(store.runs().unwrap().iter().map(|r| r.id).collect::<Vec<_>>(), [second.id, first.id], "newest first");
    let names: Vec<String> = store.groups(first.id).unwrap().into_iter().map(|g| g.name).collect();
    assert_eq!(names, ["Galena", "Beryl"], "in bench order, not by name");
    assert_eq!(store.run_with_code("TARN 47").unwrap().id, first.id);
}

#[test]
fn of_many_devices_one_claims_the_group() {
    let (_folder, store) = empty();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let run = store.open_run(run_of(&store, owner, "11-Basalt", "TARN 47", &["Galena", "Beryl"], 2)).unwrap().id;
    let group = store.groups(run).unwrap()[0].id;
    let claimed = std::thread::scope(|scope| {
        let tries: Vec<_> = (0..12)
            .map(|i| {
                scope.spawn({
                    let store = &store;
                    move || store.claim(group, 100 + i)
                })
            })
            .collect();
        tries.into_iter().map(|t| t.join().unwrap().unwrap()).filter(|c| *c).count()
    });
    assert_eq!(claimed, 1);
    let at: Vec<Option<i64>> = store.groups(run).unwrap().into_iter().map(|g| g.claimed_at).collect();
    assert!(at[0].is_some_and(|t| (100..112).contains(&t)) && at[1].is_none(), "{at:?}");
    assert!(!store.claim(9999, 1).unwrap(), "nobody claims what is not there");
}

#[test]
fn closing_is_an_entry_of_the_record_and_so_is_opening_again() {
    let (_folder, store) = empty();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let run = store.open_run(run_of(&store, owner, "11-Basalt", "TARN 47", &["Galena"], 2)).unwrap().id;
    let before = store.last_seq(run).unwrap();
    store.set_closed(run, true, Actor::Person(1), 50).unwrap();
    assert_eq!(store.run(run).unwrap().closed_at, Some(50));
    store.set_closed(run, false, Actor::Person(1), 60).unwrap();
    assert_eq!(store.run(run).unwrap().closed_at, None);
    assert_eq!(store.last_seq(run).unwrap(), before + 2);
    assert!(store.examine().is_whole());
    assert!(matches!(store.set_closed(run + 1, true, Actor::Person(1), 70), Err(StoreError::NotFound("run"))));
    assert_eq!(store.last_seq(run).unwrap(), before + 2, "a refusal writes nothing");
}
