//! Answers that were given before a reading was corrected that they hang on.

use crate::bench::{Entries, Place, Record, Room};
use crate::check::Verdict;
use crate::evaluated::Evaluated;
use practical::Practical;
use std::collections::BTreeMap;

/// The verdicts of the time when each answer was given, by result, of those whose readings have been corrected since.
///
/// `person` is the student whose sheet it is; none for the group's. A student who had no verdict then has none here: the
/// group's would be another's.
#[must_use]
pub fn stale(practical: &Practical, record: &Record, room: &Room, person: Option<i64>) -> BTreeMap<String, Verdict> {
    let now = record.current(room);
    let corrected = |result: &str| -> Option<Verdict> {
        let place = Place::Answer { result: result.to_owned(), by: person };
        let seq = record.history(&place).next_back()?.seq;
        let definition = practical.program.definition(result)?;
        let needs = practical.program.readings_of(definition);
        let then = record.as_of(seq, room);
        let slots = practical.slots();
        let used = slots.iter().filter(|s| s.reading.sheet_names().iter().any(|n| needs.contains(&n.as_str())));
        let read = |entries: &Entries, slot: &str| entries.readings.get(slot).cloned();
        let mut pairs = used.map(|s| (read(&then, &s.symbol), read(&now, &s.symbol)));
        pairs.any(|(before, after)| before.is_some() && before != after).then_some(())?;
        let evaluated = Evaluated::of(practical, &then);
        let answers = match person {
            None => &then.answers,
            Some(person) => then.own_answers.get(&person)?,
        };
        evaluated.checked(answers).remove(result)
    };
    let answers = match person {
        None => Some(&now.answers),
        Some(person) => now.own_answers.get(&person),
    };
    let results = answers.into_iter().flatten().map(|(result, _)| result);
    results.filter_map(|result| Some((result.clone(), corrected(result)?))).collect()
}
