//! The door for everything that is typed at a bench: hostile and careless input is told why, and nothing panics.

use crate::bench::Bench;
use lab::bench::{Departure, Deviation, Entries, Entry, Flag, Impossible, Refusal, Room, Taken, accepted};
use proptest::prelude::*;

fn refused(practical: &str, entry: Entry) -> String {
    Bench::of(practical).offer(entry).expect_err("it should be refused").to_string()
}

fn deviation(what: Departure, note: &str) -> Entry {
    Entry::Deviation(Deviation { nr: "1".into(), step: 0, what, note: note.into(), withdrawn: false })
}

fn lost(material: &str, amount: &str) -> Entry {
    deviation(Departure::Lost { material: material.into(), amount: amount.into() }, "")
}

macro_rules! refuses {
    ($($name:ident: $practical:literal, $entry:expr => $told:literal,)+) => {$(
        #[test]
        fn $name() {
            assert_eq!(refused($practical, $entry), $told);
        }
    )+};
}

refuses! {
    a_step_that_is_not_there: "epsom-salt", Entry::Begun { step: 99 } => "there is no such step",
    a_clock_of_no_step: "epsom-salt", Entry::Clock { step: 10, running: true, seconds: None } => "there is no such step",
    a_clock_for_a_year: "epsom-salt", Entry::Clock { step: 1, running: true, seconds: Some(31_536_000) }
        => "a clock runs from one second to fourteen days",
    a_clock_of_no_time: "epsom-salt", Entry::Clock { step: 1, running: true, seconds: Some(0) }
        => "a clock runs from one second to fourteen days",
    a_spill_of_nothing_known: "epsom-salt", lost("mercury", "1 mL") => "there is no such material",
    a_spill_below_nothing: "epsom-salt", lost("acid", "-1 mL") => "how much: more than nothing",
    a_spill_without_a_number: "epsom-salt", lost("acid", "some") => "how much: 's' does not belong to a number (character 1 of 'some')",
    a_solid_spilled_by_volume: "epsom-salt", lost("carbonate", "1 mL")
        => "basic magnesium carbonate is measured as a mass here",
    off_the_plan_without_a_word: "epsom-salt", deviation(Departure::Otherwise, "  ")
        => "say what was done, or why; it is kept beside the readings",
    a_waiver_without_a_reason: "epsom-salt", deviation(Departure::WeighedOnce { reading: "m_dish_crystals".into() }, "")
        => "say what was done, or why; it is kept beside the readings",
    a_code_of_another_run: "unknown-by-melting", Entry::Observation { symbol: "code".into(), choice: "U7".into() }
        => "'U7' is none of the codes of this practical",
    half_a_code: "unknown-by-melting", Entry::Observation { symbol: "code".into(), choice: "U".into() }
        => "'U' is none of the codes of this practical",
    an_empty_note: "zinc-iodide", Entry::Observation { symbol: "course".into(), choice: " \u{0} ".into() }
        => "a note says something",
    a_tag_on_a_vessel_without_one: "epsom-salt", Entry::Tag { vessel: "dish".into(), tag: "7".into() }
        => "there is no such vessel with a tag",
    a_bottle_that_the_room_has_not: "epsom-salt", Entry::Bottle { material: "acid".into(), name: "bottle A".into() }
        => "there is no such bottle of it in this room",
    the_hundred_and_twenty_first_point: "buffer", Entry::Reading(Taken {
        symbol: "pH_at[121]".into(), text: "4.60".into(), unit: "1".into(), ..Taken::default()
    }) => "there is no such reading",
    a_series_without_its_place: "buffer", Entry::Reading(Taken {
        symbol: "pH_at".into(), text: "4.60".into(), unit: "1".into(), ..Taken::default()
    }) => "there is no such reading",
    a_balance_that_the_room_has_not: "epsom-salt", Entry::Reading(Taken {
        symbol: "m_dish".into(), text: "48.00".into(), unit: "g".into(), on: Some("Balance 9".into()), ..Taken::default()
    }) => "there is no such instrument for this reading in the room",
    a_weighing_of_a_hundred_steps: "epsom-salt", Entry::Reading(Taken {
        symbol: "m_dish".into(), text: "48.00".into(), unit: "g".into(), steps: vec!["1.00".into(); 100], ..Taken::default()
    }) => "a weighing is followed through at most 30 values",
}

/// Letters of a script are words, and stay words; a note that is too long is told so.
#[test]
fn a_note_keeps_the_words_and_loses_what_no_screen_can_show() {
    let note = |words: &str| {
        let entry = Entry::Observation { symbol: "course".into(), choice: words.into() };
        Bench::of("zinc-iodide").offer(entry)
    };
    let kept = |words: &str| Entry::Observation { symbol: "course".into(), choice: words.into() };
    assert_eq!(note(" <b>hot</b>\u{7} \n"), Ok(kept("<b>hot</b>")));
    assert_eq!(note(&"ö".repeat(501)), Err(Refusal::Impossible(Impossible::TooLong { what: "a note", most: 500 })));
}

/// What stands follows from the order in which it was said.
#[test]
fn later_words_stand_in_the_place_of_earlier_ones() {
    let clock = |running| Entry::Clock { step: 2, running, seconds: Some(600) };
    let told = |nr: &str, withdrawn| {
        Entry::Deviation(Deviation { nr: nr.into(), step: 0, what: Departure::Otherwise, note: "so".into(), withdrawn })
    };
    let dish = |text: &str, flags: Vec<Flag>| {
        Entry::Reading(Taken {
            symbol: "m_dish".into(),
            text: text.into(),
            unit: "g".into(),
            flags,
            ..Taken::default()
        })
    };
    let confirmed = Entry::Confirmed { symbol: "m_dish".into() };
    let help = |wanted| Entry::Help { wanted, about: "step 3".into() };
    let said = [
        clock(true),
        told("a", false),
        told("b", false),
        dish("480.0", vec![Flag::Damp]),
        confirmed.clone(),
        help(true),
        clock(false),
        told("a", true),
        help(false),
        dish("48.00", vec![]),
    ];
    let after = |n: usize| {
        let mut entries = Entries::default();
        said[..n].iter().zip(1..).for_each(|(entry, at)| entries.put(entry, at * 1000, &Room::default()));
        entries
    };
    let half = after(6);
    assert_eq!((half.clocks[&2].since, half.clocks[&2].stopped), (1000, None));
    assert_eq!(half.deviations.len(), 2);
    assert!(half.circumstances["m_dish"].confirmed);
    assert_eq!(half.help.as_deref(), Some("step 3"));
    let whole = after(said.len());
    assert_eq!(whole.clocks[&2].stopped, Some(7000));
    assert_eq!(whole.deviations.iter().map(|d| d.nr.as_str()).collect::<Vec<_>>(), ["b"]);
    assert_eq!(whole.readings["m_dish"], "48.00");
    assert!(whole.circumstances.is_empty(), "a new reading was neither damp nor confirmed");
    assert_eq!(whole.help, None);
}

fn any_entry() -> impl Strategy<Value = Entry> {
    let symbol = prop_oneof![
        prop::sample::select(vec!["m_dish", "V_acid", "m_carbonate", "m_dish_crystals", "solid", "n_acid", "acid"])
            .prop_map(str::to_owned),
        "\\PC{0,12}",
    ];
    let text = prop_oneof!["[-0-9.,eE]{0,12}", "\\PC{0,40}"];
    let unit = prop_oneof![Just("g".to_owned()), Just("mL".to_owned()), "\\PC{0,6}"];
    (symbol, text, unit, any::<u32>(), any::<bool>()).prop_flat_map(|(symbol, text, unit, n, yes)| {
        let taken = Taken { symbol: symbol.clone(), text: text.clone(), unit: unit.clone(), ..Taken::default() };
        let amount = format!("{text} {unit}");
        let what = Departure::Lost { material: symbol.clone(), amount };
        prop::sample::select(vec![
            Entry::Reading(Taken { steps: vec![text.clone(), unit.clone()], ..taken.clone() }),
            Entry::Reading(taken),
            Entry::Observation { symbol: symbol.clone(), choice: text.clone() },
            Entry::Answer { result: symbol.clone(), text: text.clone(), unit: unit.clone(), by: None },
            Entry::Clock { step: n % 12, running: yes, seconds: Some(n) },
            Entry::Deviation(Deviation { nr: unit.clone(), step: n % 12, what, note: text.clone(), withdrawn: yes }),
            Entry::Tag { vessel: symbol.clone(), tag: text.clone() },
            Entry::Help { wanted: yes, about: text.clone() },
        ])
    })
}

/// A unit that nobody offered is kept beside the number as it is behind it, and stays what it is when it is sent again.
#[test]
fn a_unit_that_was_not_offered_is_kept_either_way() {
    let bench = Bench::of("epsom-salt");
    let answer = |text: &str, unit: &str| {
        let entry = Entry::Answer { result: "n_acid".into(), text: text.into(), unit: unit.into(), by: None };
        accepted(&bench.practical, &bench.room, entry)
    };
    let kept = answer("8 furlong", "").unwrap();
    assert_eq!(answer("8", "furlong"), Ok(kept.clone()));
    assert_eq!(accepted(&bench.practical, &bench.room, kept.clone()), Ok(kept));
    let long = "ж".repeat(41);
    assert!(answer("8", &long).is_err() && answer(&format!("8 {long}"), "").is_err());
}

proptest! {
    /// Whatever is typed: it is refused with a reason, or it stands and everything can be recomputed from it.
    #[test]
    fn nothing_that_is_typed_breaks_a_bench(story in prop::collection::vec(any_entry(), 1..25)) {
        let mut bench = Bench::of("epsom-salt");
        for entry in story {
            match accepted(&bench.practical, &bench.room, entry) {
                Ok(entry) => {
                    // What was accepted is accepted again, unchanged: nothing is lost by keeping it.
                    prop_assert_eq!(accepted(&bench.practical, &bench.room, entry.clone()), Ok(entry.clone()));
                    bench.entries.put(&entry, 0, &bench.room);
                }
                Err(why) => prop_assert!(!why.to_string().is_empty()),
            }
        }
        let told = bench.told().len();
        prop_assert!(told <= bench.advice().len());
    }
}
