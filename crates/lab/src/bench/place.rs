//! Places at a bench: what an entry fills.

/// One place: a slot of a reading, an answer, the clock of a step.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Place {
    /// A slot of a reading: `V_end[2]`.
    Reading(String),
    /// That such a reading was looked at again.
    Confirmation(String),
    /// Something seen.
    Observation(String),
    /// An answer, of the group or of one student.
    Answer {
        /// Name of the result.
        result: String,
        /// The student, by number.
        by: Option<i64>,
    },
    /// That a step was begun, counted from 0.
    Begun(u32),
    /// That it was done.
    Step(u32),
    /// Its clock.
    Clock(u32),
    /// A departure from the plan, by its number.
    Deviation(String),
    /// The tag of a vessel.
    Tag(String),
    /// The bottle of a material.
    Bottle(String),
    /// That a message was read.
    Message(String),
    /// A photo.
    Photo(String),
    /// The call for help.
    Help,
}

impl Place {
    /// The place of an answer, from the way in which it is written.
    #[must_use]
    pub fn answer(slot: &str) -> Place {
        let (result, by) = answer_place(slot);
        Place::Answer { result: result.to_owned(), by }
    }

    /// The place as it is written among others of its kind.
    #[must_use]
    pub fn slot(&self) -> String {
        match self {
            Place::Reading(name)
            | Place::Confirmation(name)
            | Place::Observation(name)
            | Place::Deviation(name)
            | Place::Tag(name)
            | Place::Bottle(name)
            | Place::Message(name)
            | Place::Photo(name) => name.clone(),
            Place::Answer { result, by: None } => result.clone(),
            Place::Answer { result, by: Some(person) } => format!("{result} by {person}"),
            Place::Begun(step) | Place::Step(step) | Place::Clock(step) => step.to_string(),
            Place::Help => "help".to_owned(),
        }
    }
}

/// The result, and the student whose own sheet it stands on, of an answer's place as it is written: `m_theory by 12`.
#[must_use]
pub fn answer_place(slot: &str) -> (&str, Option<i64>) {
    match slot.split_once(" by ") {
        Some((result, person)) => (result, person.parse().ok()),
        None => (slot, None),
    }
}
