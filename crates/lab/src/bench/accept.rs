//! The door for everything that is typed at a bench: it names something that is there, and could be so.
//!
//! Odd is not impossible: a reading outside its range is taken and marked. Refused is what no instrument can show, what
//! the practical does not have, and texts beyond any use.

use super::possible::possible;
use super::refusal::{Impossible, Refusal};
use super::room::short;
use super::{Departure, Deviation, Entry, PlaceKind, Room, Taken, answer_place};
use crate::bench::Answer;

use measure::Dimension;
use practical::file::{AnswerKind, AnswersOf, ObservationKind};
use practical::{Amount, Practical};

/// Most characters of a note, of a reason, of what a call for help is about.
const LONGEST_NOTE: usize = 500;
/// Longest unit that is kept.
const LONGEST_UNIT: usize = 40;
/// Most values that a weighing is followed through.
const MOST_STEPS: usize = 30;
/// Longest clock: fourteen days.
const LONGEST_CLOCK: u32 = 14 * 24 * 3600;

fn no(why: Impossible) -> Refusal {
    Refusal::Impossible(why)
}

/// The entry as it is kept: trimmed, with the practical's own writing of units.
///
/// # Errors
/// [`Refusal`], with what was wrong in it.
pub fn accepted(practical: &Practical, room: &Room, entry: Entry) -> Result<Entry, Refusal> {
    let step_there = |step: u32| ((step as usize) < practical.steps.len()).then_some(()).ok_or(Refusal::NoSuch("step"));
    Ok(match entry {
        Entry::Reading(taken) => Entry::Reading(reading(practical, room, taken)?),
        Entry::Confirmed { symbol } => {
            practical.slot(&symbol).ok_or(Refusal::NoSuch("reading"))?;
            Entry::Confirmed { symbol }
        }
        Entry::Observation { symbol, choice } => {
            let choice = observation(practical, &symbol, &choice)?;
            Entry::Observation { symbol, choice }
        }
        Entry::Answer { result, text, unit, by } => {
            let asked = practical.result(&result).filter(|r| r.asked).ok_or(Refusal::NoSuch("result"))?;
            match (by, practical.file.feedback.answers_of) {
                (Some(_), AnswersOf::Group) => return Err(no(Impossible::GroupAnswers)),
                (None, AnswersOf::Student) => return Err(no(Impossible::StudentsAnswer)),
                (Some(_), AnswersOf::Student) | (None, AnswersOf::Group) => {}
            }
            let unit = unit.trim();
            let typed = Answer { text: text.clone(), unit: unit.to_owned() };
            typed.read(practical, asked).map_err(|why| no(Impossible::NoAnswer { what: asked.label.clone(), why }))?;
            let Answer { text, unit } = match asked.answer {
                AnswerKind::Number => typed.parted(),
                AnswerKind::Words => Answer { text: words(&text, LONGEST_NOTE, "a reason")?, ..typed },
                AnswerKind::Formula | AnswerKind::Limiting => Answer { text: text.trim().to_owned(), ..typed },
            };
            // One that was not offered stays as it was typed, beside the number as behind it, and is judged.
            if unit.chars().count() > LONGEST_UNIT && !asked.units.iter().any(|u| u.written() == unit) {
                return Err(no(Impossible::UnitNotOffered(short(&unit))));
            }
            Entry::Answer { unit, text, result, by }
        }
        Entry::Begun { step } => {
            step_there(step)?;
            Entry::Begun { step }
        }
        Entry::Step { step, done } => {
            step_there(step)?;
            Entry::Step { step, done }
        }
        Entry::Clock { step, running, seconds } => {
            step_there(step)?;
            if seconds.is_some_and(|s| !(1..=LONGEST_CLOCK).contains(&s)) {
                return Err(no(Impossible::Clock));
            }
            Entry::Clock { step, running, seconds }
        }
        Entry::Deviation(deviation) => {
            step_there(deviation.step)?;
            Entry::Deviation(departure(practical, deviation)?)
        }
        Entry::Tag { vessel, tag } => {
            let known = practical.file.vessels.iter().any(|v| v.name == vessel && v.tagged);
            known.then_some(()).ok_or(Refusal::NoSuch("vessel with a tag"))?;
            let tag = words(&tag, 20, "a tag")?;
            if tag.is_empty() {
                return Err(no(Impossible::EmptyTag));
            }
            Entry::Tag { vessel, tag }
        }
        Entry::Bottle { material, name } => {
            practical.material(&material).ok_or(Refusal::NoSuch("material"))?;
            let known = room.bottles_for(practical, &material).any(|b| b.name == name);
            known.then_some(()).ok_or(Refusal::NoSuch("bottle of it in this room"))?;
            Entry::Bottle { material, name }
        }
        Entry::Struck { place, name } => {
            let (there, what) = match place {
                PlaceKind::Reading => (practical.slot(&name).is_some(), "reading"),
                PlaceKind::Observation => (practical.observation(&name).is_some(), "observation"),
                PlaceKind::Answer => (practical.result(answer_place(&name).0).is_some(), "result"),
            };
            there.then_some(Entry::Struck { place, name }).ok_or(Refusal::NoSuch(what))?
        }
        Entry::Heard { message } if message.len() <= 40 => Entry::Heard { message },
        Entry::Heard { .. } => return Err(Refusal::NoSuch("message")),
        Entry::Photo { name, step, deleted } => {
            step_there(step)?;
            // SHA-256 in hexadecimal.
            let made_from_content = name.len() == 64 && name.bytes().all(|b| b.is_ascii_hexdigit());
            made_from_content.then_some(()).ok_or(Refusal::NoSuch("photo"))?;
            Entry::Photo { name, step, deleted }
        }
        Entry::Help { wanted, about } => Entry::Help { wanted, about: words(&about, LONGEST_NOTE, "it")? },
    })
}

fn reading(practical: &Practical, room: &Room, taken: Taken) -> Result<Taken, Refusal> {
    let reading = practical.slot(&taken.symbol).ok_or(Refusal::NoSuch("reading"))?.reading;
    let unit = reading.unit.written();
    if taken.unit.trim() != unit {
        return Err(no(Impossible::UnitOfReading {
            what: reading.label.clone(),
            unit: unit.to_owned(),
            typed: short(&taken.unit),
        }));
    }
    let on = match &taken.on {
        Some(name) => {
            let found = room.instruments_for(reading).find(|i| i.name == *name);
            Some(found.ok_or(Refusal::NoSuch("instrument for this reading in the room"))?)
        }
        None => None,
    };
    if taken.steps.len() > MOST_STEPS {
        return Err(no(Impossible::TooManySteps(MOST_STEPS)));
    }
    let instrument = on.unwrap_or(&reading.instrument);
    let number = |typed: &String| possible(reading, instrument, typed).map(str::to_owned);
    let text = number(&taken.text)?;
    let steps = taken.steps.iter().map(number).collect::<Result<_, _>>()?;
    let mut flags = taken.flags;
    flags.sort_unstable();
    flags.dedup();
    let borrowed =
        taken.borrowed.as_deref().map(|from| words(from, 40, "where a reading is borrowed from")).transpose()?;
    Ok(Taken { text, unit: unit.to_owned(), steps, flags, borrowed, ..taken })
}

fn observation(practical: &Practical, symbol: &str, choice: &str) -> Result<String, Refusal> {
    let asked = practical.observation(symbol).ok_or(Refusal::NoSuch("observation"))?;
    match asked.kind {
        ObservationKind::Note => {
            let note = words(choice, LONGEST_NOTE, "a note")?;
            if note.is_empty() { Err(no(Impossible::EmptyNote)) } else { Ok(note) }
        }
        ObservationKind::Choice | ObservationKind::SpotTest | ObservationKind::Code => {
            if asked.choices.iter().any(|c| c == choice) {
                return Ok(choice.to_owned());
            }
            let coded = asked.kind == ObservationKind::Code;
            Err(no(Impossible::NotAChoice { choice: short(choice), coded }))
        }
    }
}

fn departure(practical: &Practical, deviation: Deviation) -> Result<Deviation, Refusal> {
    let note = words(&deviation.note, LONGEST_NOTE, "a note")?;
    let nr = deviation.nr.trim().to_owned();
    if nr.is_empty() || nr.chars().count() > 40 {
        return Err(no(Impossible::DeviationNumber));
    }
    if let Some((symbol, amount, _)) = deviation.what.amount() {
        let material = practical.material(symbol).ok_or(Refusal::NoSuch("material"))?;
        let amount = Amount::parse(amount).map_err(|e| no(Impossible::HowMuch(e)))?;
        let wanted = if material.supply.is_weighed() { Dimension::MASS } else { Dimension::VOLUME };
        if amount.unit.dimension() != wanted {
            return Err(no(Impossible::MeasuredAs { material: material.name.clone(), wanted }));
        }
        if !amount.base().is_finite() || amount.base() <= 0.0 {
            return Err(no(Impossible::Nothing));
        }
    }
    match &deviation.what {
        Departure::WeighedOnce { reading } => {
            practical.reading(reading).ok_or(Refusal::NoSuch("reading"))?;
        }
        Departure::Lost { .. }
        | Departure::Added { .. }
        | Departure::Sampled { .. }
        | Departure::Seeded { .. }
        | Departure::Otherwise => {}
    }
    let says_why = matches!(deviation.what, Departure::WeighedOnce { .. } | Departure::Otherwise);
    if says_why && note.is_empty() && !deviation.withdrawn {
        return Err(no(Impossible::SaysNothing));
    }
    Ok(Deviation { nr, note, ..deviation })
}

/// A text of a student's own: one line or several, no control characters, not endless.
fn words(text: &str, most: usize, what: &'static str) -> Result<String, Refusal> {
    let clean: String = text.chars().filter(|c| !c.is_control() || *c == '\n').collect();
    let clean = clean.trim().to_owned();
    if clean.chars().count() > most {
        return Err(no(Impossible::TooLong { what, most }));
    }
    Ok(clean)
}
