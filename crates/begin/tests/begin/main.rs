//! Every aim, begun from nothing, comes to a practical that a class can work: nothing is wrong with it, nothing in its plan
//! contradicts itself, and faultless groups hear no word of doubt.

mod cases;
mod refusals;

use begin::{Aim, Begun, Field, begin};
use lab::plan::plan;
use practical::Practical;
use simulate::innocence::{Doubt, Tally, allotments, of_one};
use std::collections::BTreeMap;
use strum::IntoEnumIterator;

fn answers(said: &[(Field, &str)]) -> BTreeMap<Field, String> {
    said.iter().map(|(field, text)| (*field, (*text).to_owned())).collect()
}

fn begun(aim: Aim, said: &[(Field, &str)]) -> Begun {
    begin(aim, &answers(said), &[])
}

/// The practical, or what is wrong with it.
fn practical(aim: Aim, said: &[(Field, &str)]) -> Result<Practical, String> {
    let begun = begun(aim, said);
    let open: Vec<_> = begun.asked.iter().filter(|a| a.problem.is_some() || a.value.is_empty()).collect();
    let text = begun.text.ok_or_else(|| format!("{open:#?}"))?;
    Practical::parse(&text).map_err(|e| format!("{e}\n{text}"))
}

fn fail_if_any(failures: &[String]) {
    assert!(failures.is_empty(), "{} failures\n{}", failures.len(), failures.join("\n\n"));
}

#[test]
fn every_aim_comes_to_a_sound_plan_in_fifteen_fields() {
    for aim in Aim::iter() {
        assert!(cases::CASES.iter().filter(|(a, _)| *a == aim).count() >= 2, "{aim:?}: two cases");
    }
    let mut failures = Vec::new();
    for (i, (aim, said)) in cases::CASES.iter().enumerate() {
        let practical = match practical(*aim, said) {
            Ok(practical) => practical,
            Err(why) => {
                failures.push(format!("case {i}, {aim:?}: {why}"));
                continue;
            }
        };
        let plan = plan(&practical);
        let recipes = plan.recipes.iter().flat_map(|r| &r.notes);
        let warned: Vec<_> = plan.notes.iter().chain(recipes).filter(|n| n.warns).collect();
        if !warned.is_empty() {
            failures.push(format!("case {i}, {aim:?}, {}: {warned:?}", practical.file.title));
        }
        assert!(said.len() <= 6, "{aim:?}: the rest is proposed");
    }
    fail_if_any(&failures);
}

#[test]
fn faultless_groups_hear_no_doubt_on_what_was_begun() {
    let mut failures = Vec::new();
    for (i, (aim, said)) in cases::CASES.iter().enumerate() {
        let Ok(practical) = practical(*aim, said) else { continue };
        let mut tally = Tally::default();
        for allotted in allotments(&practical) {
            let worked = practical.allotted(&allotted);
            (0..6).for_each(|seed| tally.add(of_one(&worked, seed)));
        }
        for doubt in [Doubt::Untrue, Doubt::Unneeded, Doubt::Refused, Doubt::DeadEnd] {
            let heard: Vec<_> = tally.heard.iter().filter(|((d, _), _)| *d == doubt).collect();
            if !heard.is_empty() {
                failures.push(format!("case {i}, {aim:?}, {}: {heard:?}", practical.file.title));
            }
        }
    }
    fail_if_any(&failures);
}
