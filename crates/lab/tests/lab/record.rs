//! One story, told to the core here, to the server in its own tests and to the page in its: what stands is the same.

use super::bench::Bench;
use lab::bench::{Actor, Entered, Entry, Filed, PlaceKind, Record, Room, StandsAlready, Taken, may_replace};
use serde::Deserialize;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use uuid::Uuid;

#[derive(Deserialize)]
struct Story {
    practical: String,
    said: Vec<Said>,
    stands: Value,
}

#[derive(Deserialize)]
struct Said {
    entry: Entry,
    reason: Option<String>,
}

fn filed(seq: i64, entry: Entry, reason: Option<String>) -> Filed {
    let id = Uuid::from_u128(seq.unsigned_abs().into());
    Filed { seq, id, actor: Actor::Device(1), entry, reason, at: seq, about: false, person: None, received_at: seq }
}

fn shown(places: &BTreeMap<String, Entered>) -> Value {
    let one = |e: &Entered| {
        let struck: Vec<Value> = e.struck.iter().map(|s| json!([s.text, s.reason])).collect();
        json!({ "text": e.text, "confirmed": e.confirmed, "struck": struck })
    };
    places.iter().map(|(slot, e)| (slot.clone(), one(e))).collect::<serde_json::Map<_, _>>().into()
}

#[test]
fn a_story_comes_to_what_it_says() {
    let story: Story = serde_json::from_str(include_str!("story.json")).unwrap();
    let bench = Bench::of(&story.practical);
    let mut record = Record::default();
    for (seq, said) in (1..).zip(story.said) {
        record.file(filed(seq, bench.offer(said.entry).unwrap(), said.reason));
    }
    let current = record.current(&Room::default());
    let clocks: Vec<Value> = current.clocks.iter().map(|(step, c)| json!([step, c.seconds])).collect();
    let deviations: Vec<&str> = current.deviations.iter().map(|d| d.nr.as_str()).collect();
    let found = json!({
        "readings": shown(&record.readings().now),
        "answers": shown(&record.answers().now),
        "done": current.done.keys().collect::<Vec<_>>(),
        "clocks": clocks,
        "deviations": deviations,
        "help": current.help,
    });
    assert_eq!(found, story.stands);
}

/// What is taken out stands nowhere and is not lost; put in anew, it has its history behind it. A student's own answer is
/// another place than the group's.
#[test]
fn what_is_taken_out_keeps_its_history() {
    let bench = Bench::of("epsom-salt");
    let answer = |text: &str, by| Entry::Answer { result: "m_theory".into(), text: text.into(), unit: "g".into(), by };
    let strike = |place, name: &str| Entry::Struck { place, name: name.into() };
    let mut record = Record::default();
    for (seq, entry) in (1..).zip([
        Entry::Reading(bench.reading("m_carbonate", "3.60")),
        strike(PlaceKind::Reading, "m_carbonate"),
        answer("6.16", None),
        answer("7.00", Some(12)),
        strike(PlaceKind::Answer, "m_theory by 12"),
    ]) {
        record.file(filed(seq, entry, Some("why".into())));
    }
    let readings = record.readings();
    assert!(readings.now.is_empty());
    assert_eq!(readings.taken_out["m_carbonate"][0].text, "3.60");
    let current = record.current(&Room::default());
    assert!(current.readings.is_empty() && current.own_answers[&12].is_empty());
    assert_eq!(current.answers["m_theory"].text, "6.16");
    assert_eq!(record.answers().now.keys().collect::<Vec<_>>(), ["m_theory"]);
    assert_eq!(record.as_of(1, &Room::default()).readings["m_carbonate"], "3.60");

    record.file(filed(6, Entry::Reading(bench.reading("m_carbonate", "3.06")), None));
    let readings = record.readings();
    assert!(readings.taken_out.is_empty());
    let stands = &readings.now["m_carbonate"];
    assert_eq!((stands.text.as_str(), stands.struck[0].text.as_str()), ("3.06", "3.60"));
}

/// Who had seen what stands says that it is corrected; who could not know is taken; what an instructor put right meanwhile
/// is written over by nobody who does not name it.
#[test]
fn what_stands_is_replaced_by_whoever_names_it_or_could_not_know() {
    let mass = |text: &str| {
        Entry::Reading(Taken { symbol: "m_dish".into(), text: text.into(), unit: "g".into(), ..Taken::default() })
    };
    let (first, other) = (Uuid::from_u128(1), Uuid::from_u128(9));
    let mut record = Record::default();
    assert_eq!(may_replace(&record, other, &mass("50.1"), None, 9_000), Ok(()), "nothing stands");
    record.file(Filed { received_at: 60, ..filed(1, mass("50.08"), None) });
    let may = |record: &Record, text: &str, supersedes, seen| may_replace(record, other, &mass(text), supersedes, seen);
    assert_eq!(may(&record, "51.20", None, 5_060), Err(StandsAlready::Seen("50.08 g".into())));
    assert_eq!(may(&record, "51.20", None, 59), Ok(()), "it was typed before the other arrived");
    assert_eq!(may(&record, "51.20", None, 5_059), Ok(()), "it had arrived and was not on the page yet");
    assert_eq!(may(&record, "50.08", None, 9_000), Ok(()), "two phones say the same");
    assert_eq!(may(&record, "51.20", Some(first), 9_000), Ok(()));
    assert_eq!(may_replace(&record, first, &mass("50.18"), None, 9_000), Ok(()), "sent again");
    let seen = |choice: &str| Entry::Observation { symbol: "colour".into(), choice: choice.into() };
    record.file(Filed { received_at: 61, ..filed(4, seen("pink"), None) });
    assert_eq!(may_replace(&record, other, &seen("colourless"), None, 9_000), Ok(()), "what is seen changes");

    record.file(Filed { actor: Actor::Person(2), received_at: 70, ..filed(2, mass("50.18"), Some("misread".into())) });
    let instructors = Err(StandsAlready::Instructors("50.18 g".into()));
    assert_eq!(may(&record, "51.20", None, 59), instructors);
    assert_eq!(may(&record, "51.20", Some(first), 65), instructors, "a correction of what is no longer there");
    assert_eq!(may(&record, "51.20", Some(Uuid::from_u128(2)), 70), Ok(()));

    record.file(Filed {
        actor: Actor::Person(2),
        ..filed(3, Entry::Struck { place: PlaceKind::Reading, name: "m_dish".into() }, None)
    });
    assert_eq!(may(&record, "51.20", None, 9_000), Ok(()), "it was taken out: the place is free");
}
