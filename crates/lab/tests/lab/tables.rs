//! A run written down as tables: a fact a row, digits as typed, nothing worked out twice.

use super::bench::Bench;
use lab::bench::{Entered, Entries, Struck};
use lab::record::{Cell, Recorded, Table, observations, readings, step_times, worked_out};
use lab::roll::Visit;
use practical::Practical;
use std::collections::BTreeMap;

fn entered(text: &str, at: i64) -> Entered {
    Entered {
        id: "1".into(),
        text: text.into(),
        unit: String::new(),
        at,
        about: false,
        on: None,
        sent: false,
        steps: Vec::new(),
        flags: Vec::new(),
        confirmed: false,
        by_instructor: false,
        borrowed: None,
        struck: Vec::new(),
    }
}

/// A bench with its readings as a page would have them.
fn tables(bench: &Bench, change: impl FnOnce(&mut BTreeMap<String, Entered>)) -> [Table; 3] {
    let mut read: BTreeMap<String, Entered> =
        bench.entries.readings.iter().map(|(slot, text)| (slot.clone(), entered(text, 1_000))).collect();
    change(&mut read);
    let seen: BTreeMap<String, Entered> =
        bench.entries.observations.iter().map(|(o, text)| (o.clone(), entered(text, 2_000))).collect();
    let out =
        BTreeMap::from([("V_end[3]".to_owned(), vec![Struck { reason: Some("spilled".into()), ..struck("31.00") }])]);
    let outcome = bench.outcome();
    let group = Recorded {
        name: "Fir",
        practical: &bench.practical,
        entries: &bench.entries,
        readings: &read,
        taken_out: &out,
        observations: &seen,
        outcome: &outcome,
    };
    [readings(&[group]), worked_out(&[group]), observations(&[group])]
}

fn struck(text: &str) -> Struck {
    Struck { text: text.into(), at: 500, reason: None }
}

fn titration() -> Bench {
    let bench = Bench::of("vinegar").read("V_vinegar", "25.00").read("V_flask", "250.00").read("V_aliquot", "25.00");
    let bench = bench.read("V_start[1]", "0.10").read("V_end[1]", "21.60");
    let bench = bench.read("V_start[2]", "0.20").read("V_end[2]", "21.20");
    bench.read("V_start[3]", "0.00").saw("colour", "first lasting pink")
}

/// The row of a table whose cells begin with these words.
fn row<'t>(table: &'t Table, begins: &[&str]) -> &'t [Cell] {
    let begin = |row: &&Vec<Cell>| row.iter().zip(begins).all(|(cell, words)| *cell == Cell::text(words));
    table.rows.iter().find(begin).unwrap_or_else(|| panic!("{begins:?} in {:#?}", table.rows))
}

fn number(text: &str, value: f64) -> Cell {
    Cell::Number { text: text.into(), value }
}

#[test]
fn a_reading_keeps_its_digits_its_instrument_and_its_past() {
    let [read, _, seen] = tables(&titration(), |all| {
        let end = all.get_mut("V_end[2]").unwrap();
        end.struck = vec![Struck { reason: Some("read at the wrong line".into()), ..struck("12.20") }, struck("21.10")];
        end.borrowed = Some("Larch".into());
    });
    assert!(read.rows.iter().all(|r| r.len() == read.head.len()));
    let end = read.rows.iter().find(|r| r[2] == number("2", 2.0) && r[4] == Cell::text("21.20")).unwrap();
    assert_eq!(end[3], number("21.20", 21.2));
    assert_eq!((&end[5], &end[6], &end[7]), (&Cell::text("mL"), &Cell::text("Burette 50 mL"), &Cell::Moment(1_000)));
    assert_eq!(end[8], Cell::text("borrowed from Larch"));
    assert_eq!(end[9], Cell::text("12.20 (read at the wrong line); 21.10 (entered again)"));
    // What was taken out has a row, and no value.
    let gone = read.rows.iter().find(|r| r[9] == Cell::text("31.00 (taken out: spilled)")).unwrap();
    assert_eq!((&gone[3], &gone[7]), (&Cell::Empty, &Cell::Empty));
    let colour = row(&seen, &["Fir", "What did the last drop do?"]);
    assert_eq!((&colour[2], &colour[3]), (&Cell::text("first lasting pink"), &Cell::Moment(2_000)));
}

/// 21.60 − 0.10 and 21.20 − 0.20 mL; a third without an end is no titre.
#[test]
fn titres_stand_by_trial_and_results_say_why_there_is_none() {
    let [_, worked, _] = tables(&titration(), |_| ());
    let titres: Vec<&Vec<Cell>> = worked.rows.iter().filter(|r| r[1] == Cell::text("titre")).collect();
    assert_eq!(titres.len(), 2);
    assert_eq!((&titres[0][2], &titres[0][4]), (&number("1", 1.0), &Cell::text("21.50")));
    assert_eq!((&titres[1][2], &titres[1][4]), (&number("2", 2.0), &Cell::text("21.00")));
    let found = row(&worked, &["Fir", "concentration of ethanoic acid in the vinegar"]);
    assert_eq!((&found[3], &found[7]), (&Cell::Empty, &Cell::text("readings are missing")));
}

#[test]
fn words_stay_words_and_nothing_is_nothing() {
    assert_eq!(Cell::number("24,85"), number("24.85", 24.85));
    assert_eq!(Cell::number("=1+1"), Cell::Text("=1+1".into()));
    assert_eq!((Cell::number(""), Cell::text("")), (Cell::Empty, Cell::Empty));
}

/// What four groups took for a step: from its beginning, or from the end of the one before; never over two lessons.
#[test]
fn the_time_of_a_step_is_that_of_hands() {
    let practical = Practical::parse(include_str!("../../../../practicals/epsom-salt.practical.toml")).unwrap();
    let minute = 60_000;
    let bench = |begun: Option<i64>, done: i64| {
        let mut entries = Entries::default();
        entries.done.insert(0, 10 * minute);
        entries.done.insert(1, done * minute);
        if let Some(at) = begun {
            entries.begun.insert(1, at * minute);
        }
        entries
    };
    let groups =
        [bench(Some(12), 20), bench(None, 22), bench(Some(12), 30), bench(Some(14), 26), bench(Some(20), 2000)];
    let groups: Vec<&Entries> = groups.iter().collect();
    let visits = [(1, 0), (2, 1900 * minute)].map(|(nr, begins_at)| Visit { nr, begins_at, minutes: 60 });
    let times = step_times(&practical, &groups, &visits);
    // 8, 12, 12 and 18 min; the first step has no beginning.
    let [time] = &times[..] else { panic!("{times:?}") };
    assert_eq!((time.step, time.groups, time.lower, time.median, time.upper), (1, 4, 11.0, 12.0, 13.5));
    assert_eq!(time.planned, practical.steps[1].minutes);
    assert_eq!(step_times(&practical, &groups[..2], &visits), [], "two groups are no class");
}
