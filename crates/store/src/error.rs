//! What can go wrong with the record.

use rusqlite::ErrorCode;

/// Why nothing new can be kept, though the record may be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CannotKeep {
    /// No room is left.
    #[error("the server's disk is full")]
    Full,
    /// The file or its folder may only be read.
    #[error("the server may only read its record, not write to it")]
    ReadOnly,
    /// The disk fails, or the file is broken.
    #[error("the server's disk fails: {0}")]
    Failing(String),
}

impl CannotKeep {
    /// What a failure says of the disk; nothing where it is of another kind.
    #[must_use]
    pub fn of(error: &StoreError) -> Option<CannotKeep> {
        if let StoreError::NotKept(why) = error {
            return Some(why.clone());
        }
        let StoreError::Database(why) = error else { return None };
        match why.sqlite_error_code()? {
            ErrorCode::DiskFull => Some(CannotKeep::Full),
            ErrorCode::ReadOnly => Some(CannotKeep::ReadOnly),
            ErrorCode::SystemIoFailure
            | ErrorCode::CannotOpen
            | ErrorCode::DatabaseCorrupt
            | ErrorCode::NotADatabase => Some(CannotKeep::Failing(why.to_string())),
            _ => None,
        }
    }
}

/// Why the record could not do what was asked.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// There is no such thing.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// The same event id came before with other content; nothing of it is shown.
    #[error("an entry with this id exists and says something else")]
    IdTaken,
    /// The run is closed to new entries.
    #[error("this run is closed")]
    RunClosed,
    /// The class listens; entries wait on the devices.
    #[error("the class is paused; what was entered waits on this device and is sent when it goes on")]
    RunPaused,
    /// A person who signs in cannot be erased like a student.
    #[error("an instructor's account is not erased here")]
    HasAccount,
    /// A group that cannot be joined to another one.
    #[error("a group goes on at another group of its own run that has not itself moved on")]
    NoMerging,
    /// A name that is taken.
    #[error("there is a {0} of this name already")]
    NameTaken(&'static str),
    /// A correction of something that this group never entered there.
    #[error("this corrects an entry that does not exist in this place")]
    NothingToCorrect,
    /// Something that cannot be deleted, since other things need it.
    #[error("{0}; nothing was deleted")]
    InUse(&'static str),
    /// A run of a file that is in the record.
    #[error("this run is here already")]
    Here,
    /// A run of a file whose parts do not fit together.
    #[error("{0}; nothing of this run was taken")]
    Misfit(&'static str),
    /// Somebody else has changed it in the meantime.
    #[error("somebody else saved first; yours is still in the field: reload to see theirs")]
    Overtaken,
    /// An account exists already.
    #[error("the first account exists already")]
    AccountExists,
    /// The database says no.
    #[error("the database failed: {0}")]
    Database(#[from] rusqlite::Error),
    /// Nothing can be kept at this time.
    #[error("{0}")]
    NotKept(CannotKeep),
    /// The disk says no.
    #[error("the disk failed: {0}")]
    Disk(#[from] std::io::Error),
    /// Written by a newer version, or a migration failed.
    #[error("the database cannot be opened by this version: {0}")]
    Migration(#[from] rusqlite_migration::Error),
    /// A record that a later version of the program wrote.
    #[error("a newer version of the program wrote this record (format {0}); nothing was replaced")]
    NewerRecord(i64),
    /// A payload that a later version of the program wrote.
    #[error("a stored entry was written by a newer version (payload {0}); nothing of it was read")]
    NewerPayload(i64),
    /// Somebody in the record whom this version cannot read.
    #[error("the record cannot be read: {0}")]
    Actor(#[from] lab::bench::UnknownActor),
    /// A payload that this version cannot read.
    #[error("a stored entry cannot be read: {0}")]
    Payload(#[from] serde_json::Error),
    /// The operating system gave no randomness.
    #[error("no randomness to be had: {0}")]
    Randomness(String),
    /// The writer is gone: the process is stopping.
    #[error("the record is closed")]
    Closed,
}
