//! The record of a bench: everything said there, in order, and the one way in which it is folded.
//!
//! Entries are filed one behind the other. Each fills a [`Place`]; a later one for the same place supersedes it, and nothing
//! is lost: what was superseded is what a page shows struck through. [`Record::current`] is what sums and judgement go by,
//! [`Record::standing`] what a page shows of a place, with its history.

use super::{Entries, Entry, Flag, Place, Room, Taken};
use serde::Serialize;
use std::collections::BTreeMap;
use std::fmt;
use std::str::FromStr;
use uuid::Uuid;

/// Who says something; names stand elsewhere.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Actor {
    /// A device of a group.
    Device(i64),
    /// An instructor.
    Person(i64),
    /// Somebody at the machine's own console.
    Console,
}

impl fmt::Display for Actor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Actor::Device(id) => write!(f, "device {id}"),
            Actor::Person(id) => write!(f, "person {id}"),
            Actor::Console => f.write_str("console"),
        }
    }
}

/// An actor that nobody here writes.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("'{0}' is nobody who could have said something")]
pub struct UnknownActor(String);

impl FromStr for Actor {
    type Err = UnknownActor;

    fn from_str(text: &str) -> Result<Actor, UnknownActor> {
        let unknown = || UnknownActor(text.to_owned());
        let number = |n: &str| n.parse().map_err(|_| unknown());
        match text.split_once(' ') {
            Some(("device", n)) => Ok(Actor::Device(number(n)?)),
            Some(("person", n)) => Ok(Actor::Person(number(n)?)),
            None if text == "console" => Ok(Actor::Console),
            Some(_) | None => Err(unknown()),
        }
    }
}

/// One entry with its circumstances.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Filed {
    /// The record's order.
    pub seq: i64,
    /// Made by the sender.
    pub id: Uuid,
    /// Who.
    pub actor: Actor,
    /// What.
    pub entry: Entry,
    /// Why an earlier entry is corrected.
    pub reason: Option<String>,
    /// When it was entered, in ms.
    pub at: i64,
    /// Whether that time is doubtful.
    pub about: bool,
    /// Which student of the group said it, if it was told.
    pub person: Option<i64>,
    /// Receipt, in ms.
    pub received_at: i64,
}

/// Everything that was entered for one group, in order.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Record {
    filed: Vec<Filed>,
    /// Where each place was filled, in order.
    places: BTreeMap<Place, Vec<usize>>,
}

/// What stands in one place now, and what stood there before.
#[expect(clippy::struct_excessive_bools, reason = "each is a question of its own about one entry")]
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Entered {
    /// Id of the entry, to be named by a correction.
    pub id: String,
    /// As typed or chosen.
    pub text: String,
    /// The unit, where it has one.
    pub unit: String,
    /// When, ms.
    pub at: i64,
    /// Whether that time is doubtful.
    pub about: bool,
    /// The named instrument that it was read on.
    pub on: Option<String>,
    /// The instrument sent it: nobody typed these digits.
    pub sent: bool,
    /// What the display showed before, as typed.
    pub steps: Vec<String>,
    /// What was the matter with what was weighed.
    pub flags: Vec<Flag>,
    /// Looked at again and left as it is.
    pub confirmed: bool,
    /// An instructor entered it for the group.
    pub by_instructor: bool,
    /// Whose reading it is, where it is not the group's own.
    pub borrowed: Option<String>,
    /// Earlier values, oldest first, struck through.
    pub struck: Vec<Struck>,
}

/// A value that was corrected or taken out.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Struck {
    /// As typed.
    pub text: String,
    /// When it was entered, ms.
    pub at: i64,
    /// Why it was corrected or taken out, in the words of who did.
    pub reason: Option<String>,
}

/// Places of one kind, as each is written ([`Place::slot`]).
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Standing {
    /// Where something stands.
    pub now: BTreeMap<String, Entered>,
    /// Where something was taken out and nothing put in its place: what stood there.
    pub taken_out: BTreeMap<String, Vec<Struck>>,
}

impl Record {
    /// One more entry, which takes the place of what stood there.
    pub fn file(&mut self, filed: Filed) {
        self.places.entry(filed.entry.place()).or_default().push(self.filed.len());
        self.filed.push(filed);
    }

    /// Everything, in order.
    #[must_use]
    pub fn filed(&self) -> &[Filed] {
        &self.filed
    }

    /// The entry with this id.
    #[must_use]
    pub fn entry(&self, id: Uuid) -> Option<&Filed> {
        self.filed.iter().find(|f| f.id == id)
    }

    /// Everything that was ever put into a place, in order.
    #[must_use]
    pub fn history(&self, place: &Place) -> impl DoubleEndedIterator<Item = &Filed> {
        self.places.get(place).into_iter().flatten().map(|i| &self.filed[*i])
    }

    /// Whether nothing has taken its place since.
    #[must_use]
    pub fn is_last(&self, filed: &Filed) -> bool {
        self.history(&filed.entry.place()).next_back().is_some_and(|last| last.seq == filed.seq)
    }

    /// What sums and judgement go by.
    #[must_use]
    pub fn current(&self, room: &Room) -> Entries {
        self.as_of(i64::MAX, room)
    }

    /// What stood when the record had come to `seq`.
    #[must_use]
    pub fn as_of(&self, seq: i64, room: &Room) -> Entries {
        let mut out = Entries::default();
        for filed in self.filed.iter().take_while(|f| f.seq <= seq) {
            out.put(&filed.entry, filed.at, room);
        }
        out
    }

    /// What stands in the readings' places.
    #[must_use]
    pub fn readings(&self) -> Standing {
        self.standing(|place| matches!(place, Place::Reading(_)))
    }

    /// What stands in the places of what is seen.
    #[must_use]
    pub fn observations(&self) -> Standing {
        self.standing(|place| matches!(place, Place::Observation(_)))
    }

    /// What stands in the answers' places.
    #[must_use]
    pub fn answers(&self) -> Standing {
        self.standing(|place| matches!(place, Place::Answer { .. }))
    }

    /// Which tags the group's vessels have.
    #[must_use]
    pub fn tags(&self) -> Standing {
        self.standing(|place| matches!(place, Place::Tag(_)))
    }

    /// Which bottles the group took from.
    #[must_use]
    pub fn bottles(&self) -> Standing {
        self.standing(|place| matches!(place, Place::Bottle(_)))
    }

    fn standing(&self, of: impl Fn(&Place) -> bool) -> Standing {
        let mut out = Standing::default();
        for (place, _) in self.places.iter().filter(|(place, _)| of(place)) {
            let (mut now, mut struck): (Option<&Filed>, Vec<Struck>) = (None, Vec::new());
            for filed in self.history(place) {
                if let Some((text, _)) = now.and_then(|before| before.entry.written()) {
                    let at = now.map_or(0, |before| before.at);
                    struck.push(Struck { text: text.to_owned(), at, reason: filed.reason.clone() });
                }
                now = filed.entry.written().map(|_| filed);
            }
            match now.and_then(|filed| self.entered(filed, struck.clone())) {
                Some(entered) => {
                    out.now.insert(place.slot(), entered);
                }
                None if struck.is_empty() => {}
                None => {
                    out.taken_out.insert(place.slot(), struck);
                }
            }
        }
        out
    }

    fn entered(&self, filed: &Filed, struck: Vec<Struck>) -> Option<Entered> {
        let (text, unit) = filed.entry.written()?;
        let taken = if let Entry::Reading(taken) = &filed.entry { taken.clone() } else { Taken::default() };
        let looked_at = self.history(&Place::Confirmation(taken.symbol)).next_back();
        Some(Entered {
            id: filed.id.to_string(),
            text: text.to_owned(),
            unit: unit.to_owned(),
            at: filed.at,
            about: filed.about,
            on: taken.on,
            sent: taken.sent,
            steps: taken.steps,
            flags: taken.flags,
            confirmed: looked_at.is_some_and(|c| c.seq > filed.seq),
            by_instructor: matches!(filed.actor, Actor::Person(_)),
            borrowed: taken.borrowed,
            struck,
        })
    }
}
