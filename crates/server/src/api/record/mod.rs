//! What is there of a run afterwards, and finding it again.

pub mod afterwards;
pub mod search;
pub mod student;

use crate::api::views::name_of;
use crate::app::App;
use crate::problem::ApiError;
use serde::Serialize;
use utoipa::ToSchema;

/// A note for the next class.
#[derive(Debug, Serialize, ToSchema)]
pub struct NoteView {
    /// The run that it was learnt in.
    pub run: i64,
    /// The class of that run.
    pub class: String,
    /// The words.
    pub text: String,
    /// Who.
    pub by: String,
    /// When, ms.
    pub at: i64,
}

/// The notes that a person may read, the newest first.
fn notes(app: &App, person: i64) -> Result<Vec<NoteView>, ApiError> {
    let mut out = Vec::new();
    for note in app.store.notes_for_next_time()? {
        if app.store.may_see(person, note.run)? {
            let class = app.store.run(note.run)?.class;
            out.push(NoteView { run: note.run, class, text: note.text, by: name_of(app, note.actor)?, at: note.at });
        }
    }
    Ok(out)
}
