//! What the store promises about people: names stand in one place, erasing leaves the chain whole, seats hold until a
//! later visit says otherwise, a closed run keeps the room it was computed with.

use lab::bench::{Actor, Bottle, Entry, PlaceKind, RoomItem, Taken};
use lab::roll::{AccountRole, Visit};
use practical::Allotted;
use store::{Erasure, NewEvent, NewGroup, NewRun, OfClass, Said, Statement, Store, StoreError};
use tempfile::TempDir;
use uuid::Uuid;

const DESK: Actor = Actor::Person(1);

struct School {
    folder: TempDir,
    store: Store,
    class: i64,
    people: Vec<i64>,
    run: i64,
    groups: Vec<i64>,
}

fn school() -> School {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("record.db")).unwrap();
    let owner = store.create_first_account("R. Ashdown".into(), "hash".into(), 1).unwrap().id;
    let class = store.make_class("11-Basalt".into(), owner, 1).unwrap();
    let names = ["Ona Marl", "Pim Talus", "Edda Loam"].map(String::from).to_vec();
    store.enrol(class, names, 1).unwrap();
    let people: Vec<i64> = store.members(class).unwrap().into_iter().map(|p| p.id).collect();
    store.keep_practical("epsom-salt".into(), "text".into(), "person 1".into(), 1).unwrap();
    let group = |name: &str, people: &[i64]| NewGroup {
        name: name.into(),
        pin: "1234".into(),
        people: people.to_vec(),
        ..NewGroup::default()
    };
    let run = store
        .open_run(NewRun {
            practical: "epsom-salt".into(),
            version: 1,
            class: OfClass::Known(class),
            owner,
            code: "TARN 47".into(),
            groups: vec![group("Beryl", &people[..1]), group("Galena", &people[1..])],
            visits: vec![Visit { nr: 1, begins_at: 100, minutes: 90 }, Visit { nr: 2, begins_at: 900, minutes: 60 }],
            photos: false,
            masses: "standard abridged values, 2021".into(),
            school: practical::School::default(),
            rehearsal: None,
            now: 2,
        })
        .unwrap()
        .id;
    let groups = store.groups(run).unwrap().iter().map(|g| g.id).collect();
    School { folder, store, class, people, run, groups }
}

impl School {
    fn say(&self, id: u128, actor: Actor, person: Option<i64>, entry: Entry) -> Result<i64, StoreError> {
        let said = Said { person, ..Said::at(10, Statement::Bench(entry)) };
        let event = NewEvent {
            id: Uuid::from_u128(id),
            run: self.run,
            group: Some(self.groups[0]),
            actor,
            supersedes: None,
            said,
            received_at: 11,
        };
        Ok(self.store.append(event)?.seq)
    }

    fn readings(&self) -> Vec<(String, String)> {
        let bench = self.store.bench(self.run, self.groups[0]).unwrap();
        bench.current(&self.store.room_of(self.run).unwrap()).readings.into_iter().collect()
    }

    /// Everything that the files hold, as text: also what is in no table any more.
    fn whole_file(&self) -> String {
        let read = |name: &str| std::fs::read(self.folder.path().join(name)).unwrap_or_default();
        String::from_utf8_lossy(&[read("record.db"), read("record.db-wal")].concat()).into_owned()
    }
}

fn reading(symbol: &str, text: &str) -> Entry {
    Entry::Reading(Taken { symbol: symbol.into(), text: text.into(), unit: "g".into(), ..Taken::default() })
}

#[test]
fn a_person_who_is_erased_leaves_no_name_and_no_words_and_the_chain_verifies() {
    let s = school();
    let ona = s.people[1];
    assert_eq!(s.store.person(ona).unwrap().name, "Ona Marl");
    s.say(1, Actor::Device(1), None, reading("m_dish", "47.91")).unwrap();
    s.say(2, Actor::Device(1), Some(ona), reading("m_full", "51.73")).unwrap();
    assert!(s.whole_file().contains("Ona Marl") && s.whole_file().contains("51.73"));
    assert_eq!(s.store.erase_person(s.class, ona, DESK, 40).unwrap(), Erasure::Through);
    assert_eq!(s.readings(), [("m_dish".to_owned(), "47.91".to_owned())]);
    let whole = s.store.examine();
    assert_eq!((whole.erased, whole.faults.as_slice(), whole.head.seq), (1, &[][..], 3));
    let file = s.whole_file();
    assert!(!file.contains("Ona Marl") && !file.contains("51.73") && file.contains("person-erased"));
    // Another process that erases is noticed as well.
    let other = Store::open(&s.folder.path().join("record.db")).unwrap();
    s.say(3, Actor::Device(1), Some(s.people[0]), reading("m_full", "52.00")).unwrap();
    assert_eq!(s.readings().len(), 2);
    assert_eq!(other.erase_person(s.class, s.people[0], DESK, 41).unwrap(), Erasure::Through);
    assert_eq!(s.readings().len(), 1);
    // Read anew, it stays gone; the others stay.
    assert_eq!(
        Store::open(&s.folder.path().join("record.db")).unwrap().bench(s.run, s.groups[0]).unwrap().filed().len(),
        1
    );
    assert_eq!(s.store.members(s.class).unwrap().len(), 1);
    assert!(s.store.seats(s.run).unwrap().iter().all(|seat| seat.person != ona));
    assert!(matches!(s.store.erase_person(s.class, ona, DESK, 50), Err(StoreError::NotFound(_))));
    assert!(matches!(s.store.erase_person(s.class, 1, DESK, 50), Err(StoreError::NotFound(_))), "no instructor");
}

#[test]
fn a_class_is_seen_by_its_owner_and_by_whom_it_is_shared_with() {
    let s = school();
    let other = s.store.create_account("O. Fairlead".into(), AccountRole::Instructor, "hash 2".into(), 3).unwrap().id;
    assert!(matches!(
        s.store.create_account("O. Fairlead".into(), AccountRole::Instructor, "x".into(), 3),
        Err(StoreError::NameTaken(_))
    ));
    let sees = |person: i64| (s.store.classes(person).unwrap().len(), s.store.may_see(person, s.run).unwrap());
    assert_eq!((sees(1), sees(other)), ((1, true), (0, false)));
    assert!(matches!(s.store.class(s.class, other), Err(StoreError::NotFound("class"))));
    s.store.share_class(s.class, other, true, 4).unwrap();
    s.store.share_class(s.class, other, true, 5).unwrap();
    assert_eq!(sees(other), (1, true));
    s.store.share_class(s.class, other, false, 6).unwrap();
    assert_eq!(sees(other), (0, false));
    let student = s.people[0];
    assert!(matches!(s.store.share_class(s.class, student, true, 7), Err(StoreError::NotFound("colleague"))));
    assert!(matches!(s.store.make_class("11-Basalt".into(), 1, 8), Err(StoreError::NameTaken("class"))));
    let again = s.store.enrol(s.class, vec!["Ona Marl".into(), "Nell Drift".into(), "Nell Drift".into()], 9).unwrap();
    assert_eq!((again.added, again.known), (1, vec!["Ona Marl".to_owned(), "Nell Drift".to_owned()]));
}

#[test]
fn a_seat_holds_from_its_visit_on_and_belongs_to_the_class() {
    let s = school();
    let pim = s.people[2];
    s.store.seat(s.run, 2, pim, Some(s.groups[0]), 5).unwrap();
    s.store.seat(s.run, 2, pim, None, 6).unwrap();
    let of_pim: Vec<_> =
        s.store.seats(s.run).unwrap().into_iter().filter(|x| x.person == pim).map(|x| (x.visit, x.group)).collect();
    assert_eq!(of_pim, [(1, Some(s.groups[1])), (2, None)]);
    assert!(matches!(s.store.seat(s.run, 1, 1, Some(s.groups[0]), 7), Err(StoreError::NotFound(_))), "not a member");
    assert!(matches!(s.store.seat(s.run, 1, pim, Some(999), 7), Err(StoreError::NotFound("group"))));
}

#[test]
fn a_paused_class_keeps_its_entries_waiting_and_the_instructor_can_always_mend() {
    let s = school();
    s.store.set_paused(s.run, true, DESK, 20).unwrap();
    assert!(matches!(s.say(1, Actor::Device(1), None, reading("m_dish", "47.91")), Err(StoreError::RunPaused)));
    s.say(2, DESK, None, reading("m_dish", "47.90")).unwrap();
    s.store.set_paused(s.run, false, DESK, 30).unwrap();
    s.say(1, Actor::Device(1), None, reading("m_full", "51.73")).unwrap();
    s.store.set_closed(s.run, true, DESK, 40).unwrap();
    assert!(matches!(s.say(3, Actor::Device(1), None, reading("m_dish", "1.00")), Err(StoreError::RunClosed)));
    let strike = Entry::Struck { place: PlaceKind::Reading, name: "m_dish".into() };
    s.say(4, DESK, None, strike).unwrap();
    assert_eq!(s.readings(), [("m_full".to_owned(), "51.73".to_owned())]);
    let bench = s.store.bench(s.run, s.groups[0]).unwrap();
    assert!(!bench.is_last(bench.entry(Uuid::from_u128(2)).unwrap()));
    let gone: Vec<String> = bench.readings().taken_out["m_dish"].iter().map(|s| s.text.clone()).collect();
    assert_eq!(gone, ["47.90"], "what was taken out is struck through, not gone");
    assert_eq!(s.store.examine().faults, []);
}

#[test]
fn a_closed_run_keeps_the_room_it_was_computed_with() {
    let s = school();
    let bottle = |measured: &str| {
        RoomItem::Bottle(Bottle {
            name: "bottle A".into(),
            holds: "sodium hydroxide".into(),
            strength: "0.1 mol/L".into(),
            measured: Some(measured.into()),
            made: None,
            standardised: None,
        })
    };
    let strength = || s.store.room_of(s.run).unwrap().bottles[0].measured.clone().unwrap();
    s.store.put_into_room(bottle("0.0973 mol/L"), "person 1".into(), 3).unwrap();
    s.store.set_closed(s.run, true, DESK, 4).unwrap();
    s.store.put_into_room(bottle("0.1021 mol/L"), "person 1".into(), 5).unwrap();
    assert_eq!(strength(), "0.0973 mol/L");
    s.store.set_closed(s.run, false, DESK, 6).unwrap();
    assert_eq!(strength(), "0.1021 mol/L");
}

#[test]
fn a_group_comes_late_is_given_something_or_goes_on_with_another() {
    let s = school();
    let late = |name: &str| s.store.add_group(s.run, NewGroup { name: name.into(), ..NewGroup::default() }, 9);
    let jasper = late("Jasper").unwrap();
    assert!(matches!(late("Jasper"), Err(StoreError::NameTaken("group"))));
    let names: Vec<_> = s.store.groups(s.run).unwrap().into_iter().map(|g| g.name).collect();
    assert_eq!(names, ["Beryl", "Galena", "Jasper"]);
    let given = Allotted { assignment: Some("recipe A".into()), unknown: None };
    s.store.allot(jasper.id, given.clone()).unwrap();
    assert_eq!(s.store.group(jasper.id).unwrap().allotted, given);
    s.store.place_at(jasper.id, Some("window".into())).unwrap();
    assert_eq!(s.store.group(jasper.id).unwrap().bench.as_deref(), Some("window"));
    s.store.place_at(jasper.id, None).unwrap();
    assert_eq!(s.store.group(jasper.id).unwrap().bench, None);
    assert!(matches!(s.store.place_at(999, None), Err(StoreError::NotFound("group"))));
    let merge = |group: i64, into: i64| s.store.merge_group(s.run, group, into, DESK, 10);
    merge(s.groups[0], s.groups[1]).unwrap();
    assert_eq!(s.store.group(s.groups[0]).unwrap().merged_into, Some(s.groups[1]));
    for (group, into) in [
        (s.groups[0], jasper.id), // it has moved on already
        (jasper.id, s.groups[0]), // to a bench that nobody is at
        (s.groups[1], jasper.id), // others are guests at its bench
        (jasper.id, jasper.id),   // to itself
        (jasper.id, 999),
    ] {
        assert!(matches!(merge(group, into), Err(StoreError::NoMerging)), "{group} into {into}");
    }
}

#[test]
fn what_was_told_to_whom_is_in_the_record() {
    let s = school();
    s.store.tell(s.run, None, "Goggles on.".into(), DESK, 20).unwrap();
    s.store.tell(s.run, Some(s.groups[1]), "Come to the balance.".into(), DESK, 21).unwrap();
    let told: Vec<_> = s.store.messages(s.run).unwrap().into_iter().map(|m| (m.group, m.text, m.actor, m.at)).collect();
    assert_eq!(
        told,
        [(None, "Goggles on.".to_owned(), DESK, 20), (Some(s.groups[1]), "Come to the balance.".to_owned(), DESK, 21)]
    );
    assert_eq!(s.store.last_receipt().unwrap(), Some(21));
}
