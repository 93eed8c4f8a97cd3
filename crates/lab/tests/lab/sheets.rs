//! Sheets of answers: what holds by value, unit and digits together, what is given back and what never is, what is stale.

use super::bench::Bench;
use lab::bench::Answer;
use lab::bench::{Actor, Entry, Filed, Record, Room};
use lab::check::{DigitsVerdict, Stands, UnitVerdict, ValueVerdict, Verdict};
use lab::evaluated::Evaluated;
use lab::sheets::{Given, Hint, NoMoreAnswers, Review, Ruling, Sheet, may_answer, stale};
use practical::Practical;
use std::collections::BTreeMap;
use uuid::Uuid;

/// 3.06 g of the carbonate and 25.00 mL of acid: 25.00 mmol of acid, 6.16 g of crystals at most, 4.45 g were found.
fn salt() -> Bench {
    let readings = [("m_carbonate", "3.06"), ("V_acid", "25.00"), ("m_dish", "49.20"), ("m_dish_crystals", "53.65")];
    readings.into_iter().fold(Bench::of("epsom-salt"), |b, (s, t)| b.read(s, t))
}

fn verdict(bench: &Bench, result: &str) -> Verdict {
    bench.outcome().verdicts.remove(result).unwrap()
}

/// Every pair of value and unit: one word for the instructor and for the group.
#[test]
fn what_holds_is_one_word_by_value_unit_and_digits() {
    let first = |text: &str, unit: &str| verdict(&salt().answer("m_theory", text, unit), "m_theory");
    // 7.70 g carried forward: 4.45/7.70 = 57.8 %, a fraction of 0.578.
    let second = |text: &str, unit: &str| {
        let bench = salt().answer("m_theory", "7.70", "g").answer("percent_yield", text, unit);
        verdict(&bench, "percent_yield")
    };
    for (found, value, unit, stands) in [
        (first("6.16", "g"), "right", "right", Stands::Right),
        (first("6.16", ""), "right", "missing", Stands::Written),
        (first("6.16", "mg"), "right", "wrong", Stands::Written),
        (first("6.16132", "g"), "right", "right", Stands::Written),
        (second("57.8", "%"), "carried-forward", "right", Stands::CarriedForward),
        (second("57.8", ""), "carried-forward", "missing", Stands::Written),
        (second("57.8", "g"), "carried-forward", "wrong", Stands::Written),
        (first("9.99", "g"), "wrong", "right", Stands::Wrong),
        (first("9.99", ""), "wrong", "missing", Stands::Wrong),
    ] {
        let kind = |of: serde_json::Value| of["kind"].as_str().unwrap().to_owned();
        let is = (kind(serde_json::to_value(&found.value).unwrap()), kind(serde_json::to_value(&found.unit).unwrap()));
        assert_eq!((is.0.as_str(), is.1.as_str()), (value, unit), "{found:?}");
        assert_eq!(found.stands, stands, "{found:?}");
        let policy = &salt().practical.file.feedback;
        assert_eq!(Hint::of(policy, &found).stands, stands, "the group hears the same");
        assert_eq!(given(&salt(), &found, false).answers["m_theory"].stands, stands, "and so it is given back");
    }
    let open = verdict(&Bench::of("epsom-salt").answer("m_theory", "6.16", "g"), "m_theory");
    assert_eq!((open.stands, matches!(open.value, ValueVerdict::NotYet { .. })), (Stands::Open, true));
}

/// A sheet with one answer, as it is given back.
fn given(bench: &Bench, verdict: &Verdict, with_values: bool) -> Given {
    let answers = BTreeMap::from([("m_theory".to_owned(), Answer { text: "6.16".into(), unit: "g".into() })]);
    let verdicts = BTreeMap::from([("m_theory".to_owned(), verdict.clone())]);
    let outcome = bench.outcome();
    let sheet = Sheet {
        practical: &bench.practical,
        answers: &answers,
        verdicts: &verdicts,
        marks: &BTreeMap::new(),
        reviews: &BTreeMap::new(),
        results: &outcome.results,
        bench_marks: &[],
    };
    let given = sheet.given(with_values);
    assert!(!sheet.has_changed_since(&given));
    given
}

/// A titre of another trial, or another mass, was used: the hint names the place and never what was used instead, nor what
/// should stand there, nor the result.
#[test]
fn a_hint_gives_nothing_away() {
    // 53.65 g, the dish with the crystals, for 4.45 g: 53.65/6.161 = 870.8 %.
    let kept = verdict(&salt().answer("percent_yield", "870.8", "%"), "percent_yield");
    let policy = &salt().practical.file.feedback;
    let named = &kept.diagnosis.named;
    assert!(!named.is_empty(), "{kept:?}");
    let mut exchanged = kept.clone();
    exchanged.diagnosis.named[0].at.instead = Some(named[0].at.what[0].clone());
    exchanged.diagnosis.named[0].at.instead.as_mut().unwrap().label = "mass of the beaker".into();
    exchanged.diagnosis.named[0].right = Some("4.45 g".into());
    exchanged.diagnosis.named[0].instead = Some("53.65 g".into());
    for told in [
        serde_json::to_string(&Hint::of(policy, &exchanged)).unwrap(),
        serde_json::to_string(&given(&salt(), &exchanged, false)).unwrap(),
    ] {
        for kept_back in ["beaker", "4.45", "53.65", "6.161", "72.2"] {
            assert!(!told.contains(kept_back), "{kept_back} in {told}");
        }
        assert!(told.contains(&named[0].at.what[0].label), "{told}");
    }
}

/// A ruling holds over the verdict, marks set by hand over both; a value is told only where values are given back.
#[test]
fn a_ruling_holds_over_what_was_worked_out() {
    let right = verdict(&salt().answer("m_theory", "6.16", "g"), "m_theory");
    assert_eq!(Ruling::Wrong.over(&right), Stands::Wrong);
    assert_eq!(Ruling::AsJudged.over(&right), Stands::Right);
    let practical: &Practical = &salt().practical;
    let marks = practical.result("m_theory").unwrap().marks;
    let worked_out = lab::marks::awarded(practical, &BTreeMap::from([("m_theory".to_owned(), right.clone())]));
    let holds = |ruling, by_hand: Option<&str>| {
        let review = Review { ruling, marks: by_hand.map(str::to_owned), comment: String::new() };
        Review::marks(Some(&review), practical, "m_theory", &worked_out["m_theory"])
    };
    let all = marks.method + marks.value + marks.unit + marks.digits;
    assert_eq!((holds(Ruling::Right, None), holds(Ruling::Wrong, None)), (all, 0.0));
    assert_eq!(holds(Ruling::Wrong, Some("0.5")), 0.5);
    assert_eq!(given(&salt(), &right, false).answers["m_theory"].expected, None);
    assert_eq!(given(&salt(), &right, true).answers["m_theory"].expected.as_deref(), Some("6.16 g"));
}

fn record(said: &[Entry]) -> Record {
    let mut record = Record::default();
    for (seq, entry) in (1i64..).zip(said.iter().cloned()) {
        let id = Uuid::from_u128(seq.unsigned_abs().into());
        record.file(Filed {
            seq,
            id,
            actor: Actor::Device(1),
            entry,
            reason: None,
            at: seq,
            about: false,
            person: None,
            received_at: seq,
        });
    }
    record
}

fn answer(text: &str, by: Option<i64>) -> Entry {
    Entry::Answer { result: "m_theory".into(), text: text.into(), unit: "g".into(), by }
}

/// Answered on 2.06 g, which was read again as 3.06 g: the answer was right then. A student who had not answered then has
/// no verdict of that time, least of all the group's; and what was answered after the correction is not stale.
#[test]
fn an_answer_is_stale_when_its_readings_were_corrected_after_it() {
    let bench = Bench::of("epsom-salt");
    let reading = |symbol: &str, text: &str| Entry::Reading(bench.reading(symbol, text));
    let begun = [reading("V_acid", "25.00"), reading("m_carbonate", "2.06"), answer("5.04", None)];
    let corrected = record(&[&begun[..], &[reading("m_carbonate", "3.06")]].concat());
    let found = stale(&bench.practical, &corrected, &Room::default(), None);
    let of_that_time =
        bench.clone().read("V_acid", "25.00").read("m_carbonate", "2.06").answer("m_theory", "5.04", "g");
    assert_eq!(found["m_theory"], verdict(&of_that_time, "m_theory"));
    assert!(stale(&bench.practical, &record(&begun), &Room::default(), None).is_empty());
    let after = record(&[&begun[..], &[reading("m_carbonate", "3.06"), answer("6.16", None)]].concat());
    assert!(stale(&bench.practical, &after, &Room::default(), None).is_empty());
    let with_student = record(&[&begun[..], &[reading("m_carbonate", "3.06"), answer("6.16", Some(12))]].concat());
    assert!(stale(&bench.practical, &with_student, &Room::default(), Some(12)).is_empty());
    // The dish hangs on nothing of the theoretical yield.
    let elsewhere = record(&[&[reading("m_dish", "49.00")], &begun[..], &[reading("m_dish", "49.20")]].concat());
    assert!(stale(&bench.practical, &elsewhere, &Room::default(), None).is_empty());
}

#[test]
fn an_answer_is_taken_as_often_as_the_practical_says_and_not_once_the_value_is_known() {
    let practical = salt().practical;
    let mut twice = (*practical).clone();
    twice.file.feedback.attempts = Some(2);
    let asked = |practical: &Practical, before: &[Entry], text: &str, given: Option<&Given>| {
        may_answer(practical, &record(before), &answer(text, None), None, given)
    };
    let before = [answer("6.10", None), answer("6.20", None)];
    assert_eq!(asked(&practical, &before, "6.16", None), Ok(()));
    assert_eq!(asked(&twice, &before[..1], "6.16", None), Ok(()));
    let refused = asked(&twice, &before, "6.16", None).unwrap_err();
    assert_eq!(refused.to_string(), "here an answer is given 2 times; the last one stands");
    assert_eq!(asked(&twice, &before, "6.20", None), Ok(()), "sent again, it is the same answer");
    let right = Evaluated::of(&practical, &salt().answer("m_theory", "6.16", "g").entries).outcome().verdicts;
    let (known, unknown) = (given(&salt(), &right["m_theory"], true), given(&salt(), &right["m_theory"], false));
    assert_eq!(asked(&practical, &before, "6.16", Some(&known)), Err(NoMoreAnswers::GivenBack));
    assert_eq!(asked(&practical, &before, "6.16", Some(&unknown)), Ok(()));
    let by = |person| may_answer(&practical, &Record::default(), &answer("6.16", Some(12)), person, None);
    assert_eq!(
        (by(Some(12)), by(Some(13)), by(None)),
        (Ok(()), Err(NoMoreAnswers::Anothers), Err(NoMoreAnswers::Anothers))
    );
}

/// Digits that cannot be judged are no fault, and a missing unit is one whatever the digits are.
#[test]
fn digits_that_are_not_judged_are_no_fault() {
    let found = verdict(&salt().answer("m_theory", "9.99", ""), "m_theory");
    assert_eq!((found.digits, found.unit), (DigitsVerdict::NotJudged, UnitVerdict::Missing));
}
