//! Texts of practicals, by version. The text is the only truth; it is parsed where it is used.

use crate::error::StoreError;
use crate::writer::Store;
use rusqlite::{OptionalExtension, named_params};

/// One version of a practical's text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PracticalVersion {
    /// Such as `epsom-salt`.
    pub id: String,
    /// From 1.
    pub version: i64,
    /// The file.
    pub text: String,
}

impl Store {
    /// Keeps `text` as the newest version of a practical, unless it is that already.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn keep_practical(&self, id: String, text: String, now: i64) -> Result<PracticalVersion, StoreError> {
        self.write(move |c| {
            let newest: Option<(i64, String)> = c
                .query_row(
                    "SELECT version, text FROM practical WHERE id = :id ORDER BY version DESC LIMIT 1",
                    named_params! {":id": id},
                    |r| Ok((r.get(0)?, r.get(1)?)),
                )
                .optional()?;
            let version = match newest {
                Some((version, kept)) if kept == text => return Ok(PracticalVersion { id, version, text }),
                Some((version, _)) => version + 1,
                None => 1,
            };
            c.execute(
                "INSERT INTO practical (id, version, text, created_at) VALUES (:id, :version, :text, :now)",
                named_params! {":id": id, ":version": version, ":text": text, ":now": now},
            )?;
            Ok(PracticalVersion { id, version, text })
        })
    }

    /// The newest version of every practical, by id.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn practicals(&self) -> Result<Vec<PracticalVersion>, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, max(version), text FROM practical GROUP BY id ORDER BY id";
            let mut statement = c.prepare_cached(sql)?;
            let rows = statement
                .query_map([], |r| Ok(PracticalVersion { id: r.get(0)?, version: r.get(1)?, text: r.get(2)? }))?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// One version of a practical.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn practical(&self, id: &str, version: i64) -> Result<PracticalVersion, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, version, text FROM practical WHERE id = :id AND version = :version";
            let found = c
                .query_row(sql, named_params! {":id": id, ":version": version}, |r| {
                    Ok(PracticalVersion { id: r.get(0)?, version: r.get(1)?, text: r.get(2)? })
                })
                .optional()?;
            found.ok_or(StoreError::NotFound("practical"))
        })
    }
}
