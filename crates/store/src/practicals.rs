//! Texts of practicals, by version. The text is the only truth; it is parsed where it is used.

use crate::db::Store;
use crate::error::StoreError;
use rusqlite::{Connection, OptionalExtension, named_params};
use std::collections::BTreeSet;

/// Who a version of the built-in library is from.
pub const LIBRARY: &str = "library";

/// One version of a practical's text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PracticalVersion {
    /// Such as `epsom-salt`.
    pub id: String,
    /// From 1.
    pub version: i64,
    /// The file.
    pub text: String,
    /// Who published it: [`LIBRARY`], or a person's id in words.
    pub author: String,
    /// When, in ms.
    pub created_at: i64,
}

const VERSION: &str = "SELECT id, version, text, author, created_at FROM practical";

impl Store {
    /// Keeps `text` of the built-in library as the newest version of a practical, unless it is that already, or the
    /// school has gone on with a version of its own.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn stock_practical(&self, id: String, text: String, now: i64) -> Result<PracticalVersion, StoreError> {
        self.write(move |c| match newest(c, &id)? {
            Some(kept) if kept.text == text || kept.author != LIBRARY => Ok(kept),
            _ => insert(c, &id, &text, LIBRARY, now),
        })
    }

    /// Keeps `text` as the newest version of a practical, unless it is that already.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn keep_practical(
        &self,
        id: String,
        text: String,
        author: String,
        now: i64,
    ) -> Result<PracticalVersion, StoreError> {
        self.write(move |c| publish(c, &id, &text, &author, now))
    }

    /// The newest version of every practical, by id.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn practicals(&self) -> Result<Vec<PracticalVersion>, StoreError> {
        self.read(|c| {
            let sql = format!(
                "{VERSION} AS p WHERE version > 0 AND version = (SELECT max(version) FROM practical WHERE id = p.id) ORDER BY id"
            );
            let mut statement = c.prepare_cached(&sql)?;
            let rows = statement.query_map([], to_version)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// All versions of a practical, newest first; none where it was never published.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn versions(&self, id: &str) -> Result<Vec<PracticalVersion>, StoreError> {
        self.read(|c| {
            let mut statement =
                c.prepare_cached(&format!("{VERSION} WHERE id = :id AND version > 0 ORDER BY version DESC"))?;
            let rows = statement.query_map(named_params! {":id": id}, to_version)?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// One version of a practical.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn practical(&self, id: &str, version: i64) -> Result<PracticalVersion, StoreError> {
        self.read(|c| {
            let sql = format!("{VERSION} WHERE id = :id AND version = :version");
            let found = c.query_row(&sql, named_params! {":id": id, ":version": version}, to_version).optional()?;
            found.ok_or(StoreError::NotFound("practical"))
        })
    }

    /// Practicals that are put away: no longer offered, and kept for their runs.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn archived_practicals(&self) -> Result<BTreeSet<String>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached("SELECT practical_id FROM practical_archive")?;
            Ok(statement.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
        })
    }

    /// Puts a practical away, or offers it again.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn archive_practical(&self, id: String, archived: bool, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            newest(c, &id)?.ok_or(StoreError::NotFound("practical"))?;
            c.execute("DELETE FROM practical_archive WHERE practical_id = :id", named_params! {":id": id})?;
            if archived {
                let sql = "INSERT INTO practical_archive (practical_id, archived_at) VALUES (:id, :now)";
                c.execute(sql, named_params! {":id": id, ":now": now})?;
            }
            Ok(())
        })
    }

    /// Deletes a practical of the school's own with all its versions and its draft, while no class has worked on it.
    ///
    /// # Errors
    /// [`StoreError::InUse`] for one of the library, or with runs; [`StoreError::NotFound`] when there is none.
    pub fn delete_practical(&self, id: String) -> Result<(), StoreError> {
        self.write(move |c| {
            let one = named_params! {":id": id};
            newest(c, &id)?.ok_or(StoreError::NotFound("practical"))?;
            if c.query_row("SELECT EXISTS (SELECT 1 FROM run WHERE practical_id = :id)", one, |r| r.get(0))? {
                return Err(StoreError::InUse("a class has worked on this practical: archive it instead"));
            }
            let sql = "SELECT EXISTS (SELECT 1 FROM practical WHERE id = :id AND author = :library)";
            if c.query_row(sql, named_params! {":id": id, ":library": LIBRARY}, |r| r.get(0))? {
                return Err(StoreError::InUse("this practical comes with the program: archive it instead"));
            }
            for sql in [
                "DELETE FROM draft WHERE practical_id = :id",
                "DELETE FROM practical_archive WHERE practical_id = :id",
                "DELETE FROM practical WHERE id = :id",
            ] {
                c.execute(sql, one)?;
            }
            Ok(())
        })
    }
}

/// The newest version of a practical, if it was ever published.
pub(crate) fn newest(c: &Connection, id: &str) -> Result<Option<PracticalVersion>, StoreError> {
    let sql = format!("{VERSION} WHERE id = :id AND version > 0 ORDER BY version DESC LIMIT 1");
    Ok(c.query_row(&sql, named_params! {":id": id}, to_version).optional()?)
}

/// Keeps a text as the newest version, unless it is that already.
pub(crate) fn publish(
    c: &Connection,
    id: &str,
    text: &str,
    author: &str,
    now: i64,
) -> Result<PracticalVersion, StoreError> {
    match newest(c, id)? {
        Some(kept) if kept.text == text => Ok(kept),
        _ => insert(c, id, text, author, now),
    }
}

fn insert(c: &Connection, id: &str, text: &str, author: &str, now: i64) -> Result<PracticalVersion, StoreError> {
    c.execute(
        "INSERT INTO practical (id, version, text, author, created_at)
         VALUES (:id, 1 + max(0, coalesce((SELECT max(version) FROM practical WHERE id = :id), 0)), :text, :author, :now)",
        named_params! {":id": id, ":text": text, ":author": author, ":now": now},
    )?;
    newest(c, id)?.ok_or(StoreError::NotFound("practical"))
}

/// The version with this text; one that came with a run from elsewhere has a number below 0, and is offered nowhere.
pub(crate) fn as_it_came(c: &Connection, id: &str, text: &str, author: &str, now: i64) -> Result<i64, StoreError> {
    let sql = "SELECT version FROM practical WHERE id = :id AND text = :text ORDER BY version DESC LIMIT 1";
    let known = c.query_row(sql, named_params! {":id": id, ":text": text}, |r| r.get(0)).optional()?;
    if let Some(version) = known {
        return Ok(version);
    }
    let sql = "SELECT min(0, coalesce((SELECT min(version) FROM practical WHERE id = :id), 0)) - 1";
    let version: i64 = c.query_row(sql, named_params! {":id": id}, |r| r.get(0))?;
    c.execute(
        "INSERT INTO practical (id, version, text, author, created_at) VALUES (:id, :version, :text, :author, :now)",
        named_params! {":id": id, ":version": version, ":text": text, ":author": author, ":now": now},
    )?;
    Ok(version)
}

fn to_version(r: &rusqlite::Row<'_>) -> rusqlite::Result<PracticalVersion> {
    Ok(PracticalVersion {
        id: r.get(0)?,
        version: r.get(1)?,
        text: r.get(2)?,
        author: r.get(3)?,
        created_at: r.get(4)?,
    })
}
