//! When there is school: each change is kept, the newest counts.

use crate::db::Store;
use crate::error::StoreError;
use prepare::calendar::SchoolCalendar;
use rusqlite::{OptionalExtension, named_params};

impl Store {
    /// The school's calendar; none until somebody has said anything of it.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn calendar(&self) -> Result<Option<SchoolCalendar>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached("SELECT body FROM calendar ORDER BY id DESC LIMIT 1")?;
            let newest = statement.query_row([], |r| r.get::<_, String>(0)).optional()?;
            Ok(newest.map(|body| serde_json::from_str(&body)).transpose()?)
        })
    }

    /// Says when there is school; what was said before is kept beside it.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn keep_calendar(&self, calendar: SchoolCalendar, author: String, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            c.execute(
                "INSERT INTO calendar (body, author, changed_at) VALUES (:body, :author, :now)",
                named_params! {":body": serde_json::to_string(&calendar)?, ":author": author, ":now": now},
            )?;
            Ok(())
        })
    }
}
