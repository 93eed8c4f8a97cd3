//! What makes no sense in a request, each with what its sentence needs. Every such sentence of the server stands here; those
//! about what is typed at a bench stand in `lab::bench`.

use crate::grid::BadGrid;
use crate::ical::BadCalendar;
use crate::roster::BadRoster;
use actix_web::error::{JsonPayloadError, PathError, QueryPayloadError};
use compute::ComputeError;
use image::ImageError;
use lab::bench::{Impossible, Unsound};
use lab::cohort::NoStrength;
use measure::DecimalError;
use practical::{EditError, Place, PracticalProblem};
use prepare::calendar::CalendarFault;

/// Why a request cannot be taken as it is.
#[derive(Debug, thiserror::Error, strum::VariantNames)]
pub enum Invalid {
    /// A body that is not what its address takes.
    #[error(transparent)]
    Body(#[from] JsonPayloadError),
    /// An address whose parts are not what they stand for.
    #[error(transparent)]
    Path(#[from] PathError),
    /// What follows the question mark.
    #[error(transparent)]
    Query(#[from] QueryPayloadError),
    /// An entry that cannot be so.
    #[error(transparent)]
    Entry(#[from] Impossible),
    /// Something of the room that cannot be so.
    #[error(transparent)]
    Room(#[from] Unsound),
    /// A choice of the school that nobody could work by.
    #[error("the school's choices: {0}")]
    School(PracticalProblem),
    /// A bottle of which a class says nothing.
    #[error("{0}; the bottle is as it was")]
    Strength(#[from] NoStrength),
    /// A calendar that nobody could go by.
    #[error("the calendar: {0}")]
    Calendar(#[from] CalendarFault),
    /// A calendar file that cannot be read.
    #[error("{0}; the calendar is as it was")]
    CalendarFile(#[from] BadCalendar),
    /// A question to the core that has no answer.
    #[error(transparent)]
    Question(#[from] ComputeError),
    /// A change of a practical file that cannot be made.
    #[error(transparent)]
    Edit(#[from] EditError),
    /// A spreadsheet that cannot be read.
    #[error("{0}; nothing of it was taken")]
    Grid(#[from] BadGrid),
    /// A list of names that cannot be read.
    #[error("{0}; nobody was put on the roster")]
    Roster(#[from] BadRoster),

    /// A short text that is too long, or holds what no screen can show.
    #[error("{what} has at most {most} characters")]
    TooLong {
        /// What it is.
        what: &'static str,
        /// Characters.
        most: usize,
    },
    /// A short text that is empty or too long.
    #[error("{what} has 1 to {most} characters")]
    Length {
        /// What it is.
        what: &'static str,
        /// Characters.
        most: usize,
    },
    /// A passphrase that is too short or endless.
    #[error("a passphrase has 10 to 200 characters; four words do well")]
    Passphrase,

    /// A run of no group, or of too many.
    #[error("a run has 1 to {0} groups")]
    Groups(usize),
    /// One group more than a run has.
    #[error("a run has at most {0} groups")]
    TooManyGroups(usize),
    /// Two groups of one name.
    #[error("two groups are called '{0}'")]
    SameName(String),
    /// More visits than a run has.
    #[error("a run has at most {0} visits")]
    TooManyVisits(usize),
    /// A visit of no time, or of days.
    #[error("a visit lasts 1 to 600 minutes")]
    VisitLength,
    /// Visits that overlap, or stand in the wrong order.
    #[error("visit {later} begins before visit {earlier} is over")]
    VisitsOverlap {
        /// Its number.
        earlier: i64,
        /// Its number.
        later: i64,
    },
    /// More people than a class has.
    #[error("a class has at most {most} people: {there} are there, and these are {more} more")]
    TooManyPeople {
        /// People.
        most: usize,
        /// Who are there already.
        there: usize,
        /// Who would come to them.
        more: usize,
    },
    /// Nothing that could be given to each group.
    #[error("this practical has neither assignments nor unknowns to give")]
    NothingToDeal,

    /// More spare groups than anybody needs.
    #[error("at most {0} spare groups")]
    SpareGroups(u32),
    /// More on top than anybody needs.
    #[error("at most 200 per cent on top")]
    PercentOnTop,
    /// More of one thing than a room has.
    #[error("a room has at most {0} of one thing")]
    TooManyShared(u32),
    /// Something that the practical's groups do not share.
    #[error("the groups of this practical do not share '{0}'")]
    NoSuchShared(String),
    /// A bottle whose name stands on another one.
    #[error("there is a '{0}' in the room: take it out first, or choose another name")]
    BottleThere(String),
    /// An amount that no container holds.
    #[error("an amount on the shelf is from 0 to 1 000 000")]
    StockAmount,
    /// A date that is none.
    #[error("'{0}' is no date: write 2027-06-30")]
    KeepUntil(String),
    /// A bottle that is over before it is made.
    #[error("'{0}' has passed: a bottle made today keeps longer")]
    KeepsNoLonger(String),
    /// A list of containers that cannot be read.
    #[error("line {line}: {what}; nothing was put on the shelf")]
    StockList {
        /// Counted from 1.
        line: usize,
        /// What is wrong.
        what: String,
    },
    /// A question that no bottle comes of.
    #[error("a bottle comes of what was weighed or measured out and made up to a volume")]
    NoRecipe,

    /// A correction that does not say why.
    #[error("a correction says why; the earlier value stays")]
    NoReason,
    /// A group that lends to itself.
    #[error("a group cannot lend to itself")]
    LendsToItself,
    /// Nothing that could be lent.
    #[error("{lender} has no reading that {borrower} lacks")]
    NothingToLend {
        /// A group, or the trial run.
        lender: String,
        /// A group.
        borrower: String,
    },

    /// No ruling, or too many at once.
    #[error("1 to {0} answers are looked at in one go")]
    Rulings(usize),
    /// A ruling against what was worked out, without a word about it.
    #[error("another ruling than the one worked out says why")]
    RulingWithoutReason,
    /// Marks that are no number.
    #[error("marks: {0}")]
    MarksNumber(DecimalError),
    /// Marks beyond those of the result.
    #[error("marks for this result are 0 to {0}")]
    Marks(f64),
    /// Nothing was answered.
    #[error("there are no answers to give back yet")]
    NothingToGiveBack,

    /// More than anybody does in one sitting.
    #[error("that is more than {0} at once: start again")]
    TooMuchPractised(usize),
    /// A pace of a rehearsal that is none.
    #[error("a rehearsal runs from 1 to {0} times as fast as a real class")]
    Pace(u32),
    /// More than all of them.
    #[error("a percentage of slips is from 0 to 100")]
    PartOfHundred,
    /// A reading of a titration that is no number.
    #[error("a burette reading: {0}")]
    BuretteNumber(DecimalError),

    /// A file that is no photo.
    #[error("this is no picture: a photo is a JPEG or PNG file; nothing was kept of it")]
    NoPicture,
    /// A photo that is damaged, or beyond any camera.
    #[error("this picture cannot be read ({}); nothing was kept of it", .0.to_string().trim_end())]
    Picture(#[from] ImageError),
    /// A photo whose sending was broken off.
    #[error("the photo did not arrive whole; nothing was kept")]
    PhotoCutOff,
    /// A file whose sending was broken off.
    #[error("the file did not arrive whole; nothing of it was taken")]
    FileCutOff,
    /// A run file that cannot be read, or does not fit together.
    #[error("this is no run that could be read: {0}; nothing of it was taken")]
    RunFile(String),
    /// A run file without one of its parts.
    #[error("this is no run that could be read: '{0}' is missing; nothing of it was taken")]
    RunFileLacks(&'static str),
    /// A run file of another version of the program.
    #[error("this run was written in format {found}, and this version reads {known}; nothing of it was taken")]
    RunFileFormat {
        /// In the file.
        found: u32,
        /// Here.
        known: u32,
    },
    /// A run file that was changed.
    #[error(
        "this run was changed since it was written: its event {0} does not follow from the one before; nothing of it was taken"
    )]
    RunFileBroken(usize),
    /// A run file that is too large.
    #[error("a run has at most {0} MB; nothing of it was taken")]
    RunFileTooLarge(usize),
    /// More rows than a class has.
    #[error("at most {0} rows are taken at once; nothing was taken")]
    TooManyRows(usize),
    /// A photo that is too large.
    #[error("a photo has at most {0} MB; nothing was kept of this one")]
    PhotoTooLarge(usize),
    /// A photo with more pixels than any camera has.
    #[error("a photo has at most {0} million pixels; nothing was kept of this one")]
    TooManyPixels(u64),
    /// More entries than any group makes.
    #[error("a group has at most {0} entries; this one was not taken")]
    TooManyEntries(usize),
    /// More photos than a group has.
    #[error("a group has at most {0} photos; delete one first")]
    TooManyPhotos(usize),

    /// A practical file beyond any practical.
    #[error("a practical file has at most {most} characters, this one has {found}; the draft is as it was")]
    DraftTooLong {
        /// Characters.
        most: usize,
        /// Characters.
        found: usize,
    },
    /// A draft with something wrong in it.
    #[error("{count} to mend before it can be published, the first on {place}: {first}; the draft is kept")]
    NotReady {
        /// How many things.
        count: usize,
        /// Where the first stands.
        place: Place,
        /// What it is.
        first: Box<PracticalProblem>,
    },
    /// A draft that is no practical file at all.
    #[error("it has no shape; the draft is kept")]
    NoShape,
    /// A draft that calls itself something else.
    #[error("its identity is '{found}' in the text and '{here}' here; the draft is kept")]
    OtherIdentity {
        /// In the text.
        found: String,
        /// In the address.
        here: String,
    },
    /// A draft with nothing to do in it.
    #[error("a practical has at least one step and one result; the draft is kept")]
    NothingToDo,
    /// A practical to be begun, of which not everything is answered.
    #[error("not everything is answered yet: nothing was begun")]
    NotAllAnswered,
}

#[cfg(test)]
mod tests {
    use super::*;
    use measure::Decimal;
    use strum::VariantNames;

    /// Those that pass on what another part says; their sentences are listed there.
    const PASSED_ON: usize = 13;

    /// What the server itself says, one of every kind: read it when it changes.
    #[test]
    fn every_sentence_of_a_refused_request() {
        let faulty = practical::Practical::parse("format = '1.0'\nid = 'no-equation'\n").unwrap_err().0.remove(0);
        let broken = image::load_from_memory_with_format(&[0xff, 0xd8], image::ImageFormat::Jpeg).unwrap_err();
        let all = [
            Invalid::TooLong { what: "a remark", most: 300 },
            Invalid::Length { what: "the name of a class", most: 40 },
            Invalid::Passphrase,
            Invalid::Groups(40),
            Invalid::TooManyGroups(40),
            Invalid::SameName("Beryl".into()),
            Invalid::TooManyVisits(20),
            Invalid::VisitLength,
            Invalid::VisitsOverlap { earlier: 1, later: 2 },
            Invalid::TooManyPeople { most: 400, there: 390, more: 12 },
            Invalid::NothingToDeal,
            Invalid::SpareGroups(20),
            Invalid::PercentOnTop,
            Invalid::TooManyShared(100),
            Invalid::NoSuchShared("oven".into()),
            Invalid::BottleThere("bottle C".into()),
            Invalid::StockAmount,
            Invalid::KeepUntil("soon".into()),
            Invalid::KeepsNoLonger("2026-01-31".into()),
            Invalid::StockList { line: 3, what: "'kg' is no unit here: g or mL".into() },
            Invalid::NoRecipe,
            Invalid::NoReason,
            Invalid::LendsToItself,
            Invalid::NothingToLend { lender: "the trial run".into(), borrower: "Beryl".into() },
            Invalid::Rulings(600),
            Invalid::RulingWithoutReason,
            Invalid::MarksNumber(Decimal::parse("two").unwrap_err()),
            Invalid::Marks(3.5),
            Invalid::NothingToGiveBack,
            Invalid::TooMuchPractised(2000),
            Invalid::Pace(60),
            Invalid::PartOfHundred,
            Invalid::BuretteNumber(Decimal::parse("two").unwrap_err()),
            Invalid::NoPicture,
            Invalid::Picture(broken),
            Invalid::PhotoCutOff,
            Invalid::FileCutOff,
            Invalid::RunFile("its practical has errors".into()),
            Invalid::RunFileLacks("run.json"),
            Invalid::RunFileFormat { found: 2, known: 1 },
            Invalid::RunFileBroken(17),
            Invalid::RunFileTooLarge(32),
            Invalid::TooManyRows(500),
            Invalid::PhotoTooLarge(8),
            Invalid::TooManyPixels(50),
            Invalid::TooManyEntries(10_000),
            Invalid::TooManyPhotos(60),
            Invalid::DraftTooLong { most: 200_000, found: 200_001 },
            Invalid::NotReady { count: 3, place: faulty.place, first: Box::new(faulty.problem) },
            Invalid::NoShape,
            Invalid::OtherIdentity { found: "epsom".into(), here: "epsom-salt".into() },
            Invalid::NothingToDo,
            Invalid::NotAllAnswered,
        ];
        let kind = |e: &Invalid| format!("{e:?}").split(|c: char| !c.is_alphanumeric()).next().unwrap().to_owned();
        let kinds: Vec<String> = all.iter().map(kind).collect();
        assert_eq!(kinds, Invalid::VARIANTS[PASSED_ON..], "one of every kind, in their order");
        let lines: String = kinds.iter().zip(&all).map(|(kind, e)| format!("{kind}: {e}\n")).collect();
        insta::assert_snapshot!(lines);
    }
}
