//! What the school chose where teaching practice differs: each change is kept, the newest counts.

use crate::db::Store;
use crate::error::StoreError;
use practical::School;
use rusqlite::{OptionalExtension, named_params};

/// The choices of the school, and since when.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Chosen {
    /// The choices.
    pub school: School,
    /// In ms; none while nobody has chosen.
    pub changed_at: Option<i64>,
}

impl Store {
    /// What the school chose; the usual choices until somebody has.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn school(&self) -> Result<Chosen, StoreError> {
        self.read(|c| {
            let sql = "SELECT body, changed_at FROM school_choice ORDER BY id DESC LIMIT 1";
            let mut statement = c.prepare_cached(sql)?;
            let newest = statement.query_row([], |r| Ok((r.get::<_, String>(0)?, r.get(1)?))).optional()?;
            let Some((body, changed_at)) = newest else { return Ok(Chosen::default()) };
            Ok(Chosen { school: serde_json::from_str(&body)?, changed_at: Some(changed_at) })
        })
    }

    /// Chooses; what was chosen before is kept beside it, and runs that are open go on as they were.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn choose_school(&self, school: School, author: String, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            c.execute(
                "INSERT INTO school_choice (body, author, changed_at) VALUES (:body, :author, :now)",
                named_params! {":body": serde_json::to_string(&school)?, ":author": author, ":now": now},
            )?;
            Ok(())
        })
    }
}
