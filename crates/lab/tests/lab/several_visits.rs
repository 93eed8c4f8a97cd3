//! A class over several days: what waits, since when, what each group was given, what was taken out or borrowed.

use crate::bench::{Bench, matters};
use lab::bench::{Entry, PlaceKind, Taken};
use lab::evaluated::ResultState;
use lab::judge::Matter;
use practical::Allotted;
use std::sync::Arc;

const MINUTE: i64 = 60_000;
const HOUR: i64 = 60 * MINUTE;

fn done(bench: &mut Bench, step: u32, at: i64) {
    bench.entries.put(&Entry::Step { step, done: true }, at, &bench.room);
}

fn clock(bench: &mut Bench, step: u32, running: bool, at: i64) {
    bench.entries.put(&Entry::Clock { step, running, seconds: None }, at, &bench.room);
}

/// What waits as `title since ready latest`, in hours.
fn waits(bench: &Bench) -> Vec<(String, i64, i64, Option<i64>)> {
    let outcome = bench.outcome();
    let hours = |ms: i64| ms / HOUR;
    outcome.waiting.into_iter().map(|w| (w.title, hours(w.since), hours(w.ready_at), w.latest_at.map(hours))).collect()
}

/// Strontium sulfate, `wait = "12 to 72 h"` at its fifth step.
#[test]
fn the_oven_is_waited_for_from_when_it_was_shut_until_somebody_weighs() {
    let mut bench = Bench::of("strontium-sulfate");
    assert_eq!(waits(&bench), []);
    done(&mut bench, 4, 10 * HOUR);
    assert_eq!(waits(&bench), [("Dry overnight".into(), 10, 22, Some(82))]);
    // The clock knows better than the tick of the step when the door was shut.
    clock(&mut bench, 4, true, 9 * HOUR);
    assert_eq!(waits(&bench), [("Dry overnight".into(), 9, 21, Some(81))]);
    // Looking at earlier steps again changes nothing; weighing does.
    bench.entries.put(&Entry::Begun { step: 1 }, 30 * HOUR, &bench.room);
    assert_eq!(waits(&bench).len(), 1);
    let weighed = bench.clone().read("m_paper_product", "1.303");
    assert_eq!(waits(&weighed), []);
    bench.entries.put(&Entry::Begun { step: 5 }, 31 * HOUR, &bench.room);
    assert_eq!(waits(&bench), []);
}

#[test]
fn a_wait_that_was_stopped_or_taken_back_is_none_and_the_next_one_takes_over() {
    let mut bench = Bench::of("epsom-salt");
    done(&mut bench, 6, HOUR);
    // At least a day: it can stay for longer.
    assert_eq!(waits(&bench), [("Leave it to crystallise".into(), 1, 25, None)]);
    let mut stopped = bench.clone();
    clock(&mut stopped, 6, true, HOUR);
    clock(&mut stopped, 6, false, 26 * HOUR);
    assert_eq!(waits(&stopped), []);
    done(&mut bench, 7, 30 * HOUR);
    assert_eq!(waits(&bench), [("Drain, wash, dry".into(), 30, 54, None)]);
    bench.entries.put(&Entry::Step { step: 7, done: false }, 31 * HOUR, &bench.room);
    assert_eq!(waits(&bench), [("Leave it to crystallise".into(), 1, 25, None)]);
}

/// The step before the empty dish was weighed early: a reading from before the wait does not end it.
#[test]
fn readings_of_the_next_step_end_a_wait_and_others_do_not() {
    let mut bench = Bench::of("epsom-salt").read("m_dish", "48.12");
    done(&mut bench, 7, HOUR);
    assert_eq!(waits(&bench).len(), 1);
    assert_eq!(waits(&bench.read("m_dish_crystals", "52.00")), []);
}

/// Barium sulfate dries and is weighed in one step: the clock says since when, the weighing that it is over.
#[test]
fn a_step_that_waits_and_then_weighs_is_over_with_its_weighing() {
    let mut bench = Bench::of("sulfate-by-barium");
    assert_eq!(waits(&bench), []);
    clock(&mut bench, 5, true, 10 * HOUR);
    assert_eq!(waits(&bench), [("Dry and weigh".into(), 10, 22, Some(82))]);
    let then: Vec<_> = bench.outcome().waiting.into_iter().map(|w| (w.then, w.then_title)).collect();
    assert_eq!(then, [(Some(5), None)], "it is the same step that goes on");
    assert_eq!(waits(&bench.read("m_full", "31.993")), []);
}

fn allotted(id: &str, assignment: Option<&str>, unknown: Option<&str>) -> Bench {
    let bench = Bench::of(id);
    let to = Allotted { assignment: assignment.map(Into::into), unknown: unknown.map(Into::into) };
    Bench { practical: Arc::new(bench.practical.allotted(&to)), ..bench }
}

/// Recipe A has 20 mL of sulfate, which then limits; recipe B has 35 mL and the strontium is meant to.
#[test]
fn a_group_with_a_recipe_of_its_own_is_judged_by_it() {
    let weigh = |bench: Bench| bench.read("m_strontium", "1.500");
    let needed = |bench: &Bench| matters(bench, |m| matches!(m, Matter::Needed { .. } | Matter::AnotherLimits { .. }));
    let (a, b) =
        (allotted("strontium-sulfate", Some("recipe A"), None), allotted("strontium-sulfate", Some("recipe B"), None));
    assert_eq!(a.practical.material("sulfate").unwrap().planned.as_ref().unwrap().amount.value.to_string(), "20.0");
    assert_ne!(needed(&weigh(a).read("V_sulfate", "35.00")), needed(&weigh(b).read("V_sulfate", "35.00")));
    // A name that nobody has changes nothing.
    let none = allotted("strontium-sulfate", Some("recipe Z"), None);
    assert_eq!(none.practical.allotted, Allotted::default());
}

#[test]
fn an_unknown_is_known_by_its_code_and_another_code_is_told() {
    let other = |bench: &Bench| matters(bench, |m| matches!(m, Matter::OtherUnknown { .. }));
    let bench = allotted("unknown-by-melting", Some("vial U4"), None);
    assert_eq!(bench.practical.allotted.unknown.as_deref(), Some("U4"));
    assert_eq!(other(&bench.clone().saw("code", "U4")), []);
    let told = Matter::OtherUnknown { allotted: "U4".into(), noted: "U9".into() };
    assert_eq!(other(&bench.clone().saw("code", "U9")), [told]);
    // What it is does not leave the instructor's desk, whatever is told at the bench.
    let text = serde_json::to_string(&bench.saw("code", "U9").told()).unwrap();
    assert!(!text.contains("cinnamic") && !text.contains("urea"), "{text}");
    let own = allotted("unknown-by-melting", Some("vial U4"), Some("U9"));
    assert_eq!(
        (own.practical.allotted.unknown.as_deref(), own.practical.key_of("U9")),
        (Some("U9"), Some("trans-cinnamic acid"))
    );
    let sulfate = allotted("sulfate-by-barium", Some("unknown R8"), None);
    assert_eq!(sulfate.practical.accepted_values().get("w_sulfate").map(String::as_str), Some("55.1 %"));
}

#[test]
fn what_was_taken_out_counts_no_longer_and_what_is_borrowed_is_computed_with() {
    let bench = Bench::of("epsom-salt").read("m_carbonate", "3.04").read("V_acid", "25.00");
    let bench = bench.read("m_dish", "48.00").read("m_dish_crystals", "52.00");
    let crystals =
        |bench: &Bench| bench.outcome().results.into_iter().find(|r| r.name == "percent_yield").unwrap().state;
    assert!(matches!(crystals(&bench), ResultState::Value(v) if v.text == "64.9"));
    let struck = Entry::Struck { place: PlaceKind::Reading, name: "m_dish".into() };
    assert!(struck.is_for_the_desk());
    let without = bench.say(struck);
    assert!(matches!(crystals(&without), ResultState::NotYet { missing } if missing == ["m_dish"]));
    let lent = Taken { borrowed: Some(" Beryl ".into()), ..without.reading("m_dish", "48.10") };
    let entry = without.offer(Entry::Reading(lent)).unwrap();
    assert!(entry.is_for_the_desk());
    let with = without.say(entry);
    assert!(matches!(crystals(&with), ResultState::Value(v) if v.text == "63.3"));
    assert_eq!(with.entries.circumstances["m_dish"].borrowed.as_deref(), Some("Beryl"));
    for (entry, told) in [
        (Entry::Struck { place: PlaceKind::Answer, name: "m_dish".into() }, "there is no such result"),
        (Entry::Photo { name: "../../etc/passwd".into(), step: 0, deleted: false }, "there is no such photo"),
        (Entry::Photo { name: "a".repeat(64), step: 99, deleted: false }, "there is no such step"),
        (Entry::Heard { message: "x".repeat(1000) }, "there is no such message"),
    ] {
        assert_eq!(with.offer(entry).unwrap_err().to_string(), told);
    }
}
