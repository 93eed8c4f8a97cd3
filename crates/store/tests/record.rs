//! What the record promises: once, in order, nothing lost, nothing quietly changed.

use lab::bench::{Actor, Entry, Room, Taken};
use proptest::prelude::*;
use std::path::Path;
use store::{
    Appended, Erasure, Fault, Holder, Look, NewEvent, NewGroup, NewRun, OfClass, Said, Statement, Store, StoreError,
    examine,
};
use tempfile::TempDir;
use uuid::Uuid;

struct School {
    folder: TempDir,
    store: Store,
    run: i64,
    groups: Vec<i64>,
}

fn school() -> School {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("record.db")).unwrap();
    let owner = store.create_first_account("R. Tarn".into(), "hash".into(), 1).unwrap().id;
    let practical = store.keep_practical("epsom-salt".into(), "text".into(), "person 1".into(), 1).unwrap();
    let group = |name: &str| NewGroup { name: name.into(), pin: "1234".into(), ..NewGroup::default() };
    let new = NewRun {
        practical: practical.id,
        version: 1,
        class: OfClass::Named("11-Basalt".into()),
        owner,
        code: "TARN 47".into(),
        groups: vec![group("Beryl"), group("Galena")],
        visits: Vec::new(),
        photos: false,
        masses: String::new(),
        school: practical::School::default(),
        rehearsal: None,
        now: 2,
    };
    let run = store.open_run(new).unwrap().id;
    let groups = store.groups(run).unwrap().iter().map(|g| g.id).collect();
    School { folder, store, run, groups }
}

fn reading(symbol: &str, text: &str) -> Statement {
    let taken = Taken { symbol: symbol.into(), text: text.into(), unit: "g".into(), ..Taken::default() };
    Statement::Bench(Entry::Reading(taken))
}

impl School {
    fn event(&self, id: u128, group: usize, statement: Statement) -> NewEvent {
        NewEvent {
            id: Uuid::from_u128(id),
            run: self.run,
            group: Some(self.groups[group]),
            actor: Actor::Device(1),
            supersedes: None,
            said: Said::at(10, statement),
            received_at: 11,
        }
    }

    fn say(&self, id: u128, group: usize, statement: Statement) -> Result<Appended, StoreError> {
        self.store.append(self.event(id, group, statement))
    }

    fn current(&self, group: usize, symbol: &str) -> Option<String> {
        self.store.bench(self.run, self.groups[group]).unwrap().current(&Room::default()).readings.remove(symbol)
    }

    /// A second opinion on the file, past the store's own functions.
    fn raw(&self) -> rusqlite::Connection {
        rusqlite::Connection::open(self.folder.path().join("record.db")).unwrap()
    }
}

#[test]
fn a_retry_is_stored_once_and_an_id_means_one_thing() {
    let s = school();
    let first = s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    let again = s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    assert_eq!((again.seq, again.again), (first.seq, true));
    assert!(matches!(s.say(1, 0, reading("m_dish", "47.19")), Err(StoreError::IdTaken)));
    // The same words from another group are another event, and its id is taken.
    assert!(matches!(s.say(1, 1, reading("m_dish", "47.91")), Err(StoreError::IdTaken)));
    assert_eq!(s.current(0, "m_dish").as_deref(), Some("47.91"));
    assert_eq!(s.current(1, "m_dish"), None);
}

#[test]
fn a_correction_keeps_the_old_value_and_two_at_once_are_both_kept() {
    let s = school();
    s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    let correct =
        |id, text: &str| NewEvent { supersedes: Some(Uuid::from_u128(1)), ..s.event(id, 0, reading("m_dish", text)) };
    s.store.append(correct(2, "49.71")).unwrap();
    s.store.append(correct(3, "49.72")).unwrap();
    let record = s.store.bench(s.run, s.groups[0]).unwrap();
    let story: Vec<_> = record.filed().iter().map(|f| (f.seq, record.is_last(f))).collect();
    assert_eq!(story, [(1, false), (2, false), (3, true)]);
    assert_eq!(record.readings().now["m_dish"].struck.len(), 2);
    assert_eq!(s.current(0, "m_dish").as_deref(), Some("49.72"));
    // A correction belongs to one place of one group.
    let elsewhere = NewEvent { supersedes: Some(Uuid::from_u128(1)), ..s.event(4, 1, reading("m_dish", "1")) };
    assert!(matches!(s.store.append(elsewhere), Err(StoreError::NothingToCorrect)));
    let other_place = NewEvent { supersedes: Some(Uuid::from_u128(1)), ..s.event(5, 0, reading("m_full", "1")) };
    assert!(matches!(s.store.append(other_place), Err(StoreError::NothingToCorrect)));
}

#[test]
fn a_closed_run_takes_nothing_new_but_knows_what_it_has() {
    let s = school();
    s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    s.store.set_closed(s.run, true, Actor::Person(1), 20).unwrap();
    assert!(matches!(s.say(2, 0, reading("m_full", "51.73")), Err(StoreError::RunClosed)));
    assert!(s.say(1, 0, reading("m_dish", "47.91")).unwrap().again);
    s.store.set_closed(s.run, false, Actor::Person(1), 30).unwrap();
    assert!(s.say(2, 0, reading("m_full", "51.73")).is_ok());
}

#[test]
fn the_chain_shows_tampering_and_survives_erasure() {
    let s = school();
    for i in 1..=6 {
        s.say(i, usize::from(i % 2 == 0), reading("m_dish", &format!("4{i}.00"))).unwrap();
    }
    assert_eq!(s.store.erase_group(s.run, s.groups[1], Actor::Person(1), 40).unwrap(), Erasure::Through);
    let whole = s.store.examine();
    assert_eq!((whole.head.seq, whole.erased, whole.faults.as_slice()), (7, 3, &[][..]));
    assert_eq!(s.current(1, "m_dish"), None);
    let left: String = s.raw().query_row("SELECT group_concat(body) FROM payload", [], |r| r.get(0)).unwrap();
    assert!(!left.contains("42.00") && left.contains("43.00"));

    let raw = s.raw();
    assert!(raw.execute("UPDATE event SET actor = 'x'", []).unwrap_err().to_string().contains("never changed"));
    assert!(raw.execute("DELETE FROM event", []).unwrap_err().to_string().contains("never deleted"));
    // Somebody with the file and time can drop the triggers; the chain still tells.
    raw.execute_batch(
        "DROP TRIGGER payload_is_never_changed; UPDATE payload SET body = replace(body, '43.00', '44.00')",
    )
    .unwrap();
    let trigger_gone = || Fault::Changed { table: "sqlite_schema".into() };
    assert_eq!(s.store.examine().faults, [Fault::Words(3), trigger_gone()]);
    raw.execute_batch("DROP TRIGGER event_is_never_changed; UPDATE event SET received_at = 0 WHERE seq = 5").unwrap();
    assert_eq!(s.store.examine().faults, [Fault::Words(3), Fault::Link(5), trigger_gone()]);
    raw.execute_batch("DELETE FROM payload WHERE seq = 1").unwrap();
    assert!(s.store.examine().faults.contains(&Fault::Gone(1)), "taken out by hand is not erased");
}

/// What stands in plain tables is covered as well: a name, a practical's text, a row too few.
#[test]
fn a_row_that_changes_by_itself_is_found() {
    for (table, change) in [
        ("bench_group", "UPDATE bench_group SET name = 'Topaz' WHERE id = 1"),
        ("practical", "UPDATE practical SET text = text || ' '"),
        ("run", "UPDATE run SET opened_at = opened_at + 1"),
        ("bench_group", "DELETE FROM bench_group WHERE id = 2"),
    ] {
        let s = school();
        s.say(1, 0, reading("m_dish", "47.91")).unwrap();
        assert_eq!(s.store.examine().faults, []);
        assert!(s.raw().execute_batch(change).is_err(), "not by hand while the seals are kept");
        let raw = s.raw();
        raw.execute_batch("PRAGMA foreign_keys = OFF").unwrap();
        // Past the triggers, as a fault of the disk would.
        let triggers = "SELECT name, sql FROM sqlite_schema WHERE type = 'trigger' AND name LIKE 'seal_%'";
        let triggers: Vec<(String, String)> = {
            let mut all = raw.prepare(triggers).unwrap();
            all.query_map([], |r| Ok((r.get(0)?, r.get(1)?))).unwrap().collect::<Result<_, _>>().unwrap()
        };
        for (name, _) in &triggers {
            raw.execute_batch(&format!("DROP TRIGGER {name}")).unwrap();
        }
        raw.execute_batch(change).unwrap();
        for (_, sql) in &triggers {
            raw.execute_batch(sql).unwrap();
        }
        let faults = s.store.examine().faults;
        assert!(faults.contains(&Fault::Changed { table: table.into() }), "{change}: {faults:?}");
    }
}

#[test]
fn a_file_that_is_no_record_is_told_and_left_as_it_is() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("record.db");
    assert_eq!(examine(&file, Look::Whole).faults, [Fault::Missing]);
    std::fs::write(&file, "").unwrap();
    assert_eq!(examine(&file, Look::Quick).faults, [Fault::Empty]);
    std::fs::write(&file, "a list of bottles, and nothing else. ".repeat(40)).unwrap();
    assert_eq!(examine(&file, Look::Quick).faults, [Fault::NoRecord]);
    let other = folder.path().join("other.db");
    rusqlite::Connection::open(&other).unwrap().execute_batch("CREATE TABLE recipe (name TEXT)").unwrap();
    assert_eq!(examine(&other, Look::Whole).faults, [Fault::NoRecord]);
    rusqlite::Connection::open(&other).unwrap().execute_batch("PRAGMA user_version = 99").unwrap();
    assert_eq!(examine(&other, Look::Quick).faults, [Fault::Newer { format: 99 }]);
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 2, "nothing was made");
}

/// All that a record holds, as text; `None` where it cannot be read.
fn held(file: &Path) -> Option<String> {
    let raw = rusqlite::Connection::open(file).ok()?;
    let mut names = raw.prepare("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name").ok()?;
    let names: Vec<String> = names.query_map([], |r| r.get(0)).ok()?.collect::<Result<_, _>>().ok()?;
    let mut out = String::new();
    for name in names {
        let mut rows = raw.prepare(&format!("SELECT * FROM \"{name}\"")).ok()?;
        let columns = rows.column_count();
        let mut rows = rows.query([]).ok()?;
        while let Some(row) = rows.next().ok()? {
            let cells: Vec<String> = (0..columns).map(|i| format!("{:?}", row.get_ref(i).unwrap())).collect();
            out += &cells.join(" ");
        }
    }
    Some(out)
}

/// Bits of the file turn over, one at a time: either the record says so, or it holds what it held.
#[test]
fn a_bit_that_turns_over_is_found_or_does_no_harm() {
    let s = school();
    for i in 1..=40 {
        s.say(i, usize::from(i % 2 == 0), reading("m_dish", &format!("4{}.00", i % 10))).unwrap();
    }
    let file = s.folder.path().join("copy.db");
    s.store.back_up(&file).unwrap();
    let (whole, before) = (std::fs::read(&file).unwrap(), held(&file).unwrap());
    let mut found = 0;
    // A stride without a common factor with the length goes everywhere.
    for n in 0..200usize {
        let mut bytes = whole.clone();
        let at = n * 7919 * 13 % bytes.len();
        bytes[at] ^= 1 << (n % 8);
        std::fs::write(&file, &bytes).unwrap();
        if examine(&file, Look::Whole).is_whole() {
            assert_eq!(held(&file).as_ref(), Some(&before), "bit {} of byte {at} goes unseen", n % 8);
        } else {
            found += 1;
        }
    }
    assert!(found > 15, "{found}");
}

/// The record of another file takes the place of this one while it is open; nobody stays signed in.
#[test]
fn a_record_is_replaced_whole() {
    let s = school();
    s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    s.store.open_session([7; 32], Holder::Group(s.groups[0]), String::new(), 1, 1000).unwrap();
    let copy = s.folder.path().join("copy.db");
    s.store.back_up(&copy).unwrap();
    s.say(2, 0, reading("m_full", "51.73")).unwrap();
    s.store.replace_by(&copy).unwrap();
    assert_eq!((s.current(0, "m_dish").as_deref(), s.current(0, "m_full")), (Some("47.91"), None));
    assert_eq!(s.store.session([7; 32], 2).unwrap(), None);
    s.say(3, 0, reading("m_full", "51.74")).unwrap();
    assert_eq!((s.store.examine().faults, s.store.examine().head.seq), (vec![], 2), "it goes on from there");
    rusqlite::Connection::open(&copy).unwrap().execute_batch("PRAGMA user_version = 99").unwrap();
    assert!(matches!(s.store.replace_by(&copy), Err(StoreError::NewerRecord(99))));
    std::fs::write(&copy, "no record").unwrap();
    assert!(s.store.replace_by(&copy).is_err());
    assert_eq!(s.current(0, "m_full").as_deref(), Some("51.74"), "what cannot be read replaces nothing");
}

/// Somebody reads on while a name is erased: it is said that it is not through, and it is through once they are done.
#[test]
fn erasure_says_when_it_is_through() {
    let s = school();
    s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    let reader = s.raw();
    reader.execute_batch("BEGIN").unwrap();
    let _: i64 = reader.query_row("SELECT count(*) FROM payload", [], |r| r.get(0)).unwrap();
    let erased = s.store.erase_group(s.run, s.groups[0], Actor::Person(1), 40).unwrap();
    assert_eq!((erased, s.store.erasure()), (Erasure::Pending, Erasure::Pending));
    reader.execute_batch("COMMIT").unwrap();
    assert_eq!(s.store.finish_erasing().unwrap(), Erasure::Through);
    for file in ["record.db", "record.db-wal"] {
        let bytes = std::fs::read(s.folder.path().join(file)).unwrap_or_default();
        assert!(!bytes.windows(5).any(|w| w == b"47.91"), "{file} still has it");
    }
}

#[test]
fn many_writers_at_once_lose_nothing_and_one_failure_undoes_itself_alone() {
    let s = school();
    std::thread::scope(|scope| {
        for writer in 0..8u128 {
            let s = &s;
            scope.spawn(move || {
                for i in 0..25u128 {
                    let id = writer * 1000 + i + 1;
                    s.say(id, usize::from(writer % 2 == 1), reading(&format!("r{writer}"), "1.00")).unwrap();
                    assert!(s.say(id, 0, reading("other", "2.00")).is_err());
                }
            });
        }
    });
    let examined = s.store.examine();
    assert_eq!((examined.head.seq, examined.faults), (200, vec![]));
}

#[test]
fn a_backup_is_whole_and_a_newer_record_is_refused() {
    let s = school();
    s.say(1, 0, reading("m_dish", "47.91")).unwrap();
    let copy = s.folder.path().join("copy.db");
    s.store.back_up(&copy).unwrap();
    assert_eq!(examine(&copy, Look::Whole), s.store.examine());
    rusqlite::Connection::open(&copy).unwrap().execute_batch("PRAGMA user_version = 99").unwrap();
    assert!(matches!(Store::open(&copy), Err(StoreError::Migration(_))));
    assert!(matches!(Store::open(Path::new("/nowhere/record.db")), Err(StoreError::Database(_))));
}

fn anything() -> impl Strategy<Value = (usize, Statement, Option<u128>)> {
    let place = prop::sample::select(vec!["m_dish", "m_full"]);
    let statement = prop_oneof![
        (place.clone(), "[0-9]{1,3}\\.[0-9]{2}").prop_map(|(s, t)| reading(s, &t)),
        (place, "[a-z ]{1,9}").prop_map(|(s, c)| Statement::Bench(Entry::Observation { symbol: s.into(), choice: c })),
        (0u32..4, any::<bool>()).prop_map(|(step, done)| Statement::Bench(Entry::Step { step, done })),
        (0u32..4, any::<bool>()).prop_map(|(step, running)| Statement::Bench(Entry::Clock {
            step,
            running,
            seconds: None
        })),
        "[0-9.]{1,6}".prop_map(|t| Statement::Bench(Entry::Answer {
            result: "n".into(),
            text: t,
            unit: "mol".into(),
            by: None
        })),
    ];
    (0usize..2, statement, prop::option::of(1u128..30))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(ProptestConfig::default().cases / 5))]
    /// Whatever happened, a record that was read bit by bit is the one that is read anew, and what a place shows is what
    /// sums go by. Corrections of what is not there are refused as such, and leave nothing behind.
    #[test]
    fn read_anew_equals_live(story in prop::collection::vec(anything(), 1..30)) {
        let s = school();
        let mut kept = 0;
        for (i, (group, statement, supersedes)) in story.into_iter().enumerate() {
            let event = NewEvent { supersedes: supersedes.map(Uuid::from_u128), ..s.event(i as u128 + 1, group, statement) };
            match s.store.append(event) {
                Ok(_) => kept += 1,
                Err(refused) => prop_assert!(matches!(refused, StoreError::NothingToCorrect), "{refused}"),
            }
            s.store.bench(s.run, s.groups[group]).unwrap();
        }
        let benches = |store: &Store| s.groups.iter().map(|g| store.bench(s.run, *g).unwrap()).collect::<Vec<_>>();
        let live = benches(&s.store);
        prop_assert_eq!(&live, &benches(&Store::open(&s.folder.path().join("record.db")).unwrap()));
        prop_assert_eq!(live.iter().map(|r| r.filed().len()).sum::<usize>(), kept);
        for record in live {
            let (current, shown) = (record.current(&Room::default()), record.readings().now);
            let shown: Vec<_> = shown.into_iter().map(|(slot, entered)| (slot, entered.text)).collect();
            prop_assert_eq!(shown, current.readings.into_iter().collect::<Vec<_>>());
        }
    }
}
