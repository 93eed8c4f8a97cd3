//! Practicals in the making: one draft for each, as a row of texts that undo and redo move along.
//!
//! A draft may be anything that somebody has typed; it is never lost. Two people who change one draft are told of each
//! other: a change names the step that it was made on.

use crate::db::Store;
use crate::error::StoreError;
use crate::practicals::{self, PracticalVersion};
use rusqlite::{Connection, OptionalExtension, named_params};

/// Steps that are kept for undo.
const KEPT_STEPS: i64 = 300;

/// A practical in the making, at the step where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Draft {
    /// The practical.
    pub id: String,
    /// The version that it started from, if there was one.
    pub base: Option<i64>,
    /// Where undo and redo stand.
    pub step: i64,
    /// The earliest and the latest step there is.
    pub steps: (i64, i64),
    /// The text there.
    pub text: String,
    /// What was changed last, in words.
    pub what: String,
    /// When, in ms.
    pub saved_at: i64,
}

/// A change to a draft.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DraftChange {
    /// The practical.
    pub id: String,
    /// The step that the change was made on; none for a draft that is begun.
    pub on: Option<i64>,
    /// The text after it.
    pub text: String,
    /// What was changed, in words.
    pub what: String,
    /// Who.
    pub author: String,
    /// When, in ms.
    pub now: i64,
}

impl Store {
    /// The draft of a practical, if there is one.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn draft(&self, id: &str) -> Result<Option<Draft>, StoreError> {
        self.read(|c| draft(c, id))
    }

    /// All drafts, by the practical's id.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn drafts(&self) -> Result<Vec<Draft>, StoreError> {
        self.read(|c| {
            let mut statement = c.prepare_cached("SELECT practical_id FROM draft ORDER BY practical_id")?;
            let ids: Vec<String> = statement.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?;
            ids.iter().filter_map(|id| draft(c, id).transpose()).collect()
        })
    }

    /// Begins a draft, from the newest version if there is one, or keeps a change to it. What was undone is gone then.
    ///
    /// # Errors
    /// [`StoreError::Overtaken`] when the draft is not where the change was made: somebody else has changed it.
    pub fn change_draft(&self, change: DraftChange) -> Result<Draft, StoreError> {
        self.write(move |c| {
            let id = &change.id;
            let step = match (draft(c, id)?, change.on) {
                (None, None | Some(0)) => {
                    let base = practicals::newest(c, id)?;
                    c.execute(
                        "INSERT INTO draft (practical_id, base_version, step) VALUES (:id, :base, 0)",
                        named_params! {":id": id, ":base": base.as_ref().map(|b| b.version)},
                    )?;
                    // The first undo leads back to what was published.
                    if let Some(base) = base {
                        let words = format!("version {}", base.version);
                        insert(c, id, 0, &base.text, &words, &base.author, base.created_at)?;
                    }
                    1
                }
                (Some(d), Some(on)) if d.step == on => {
                    c.execute(
                        "DELETE FROM draft_text WHERE practical_id = :id AND step > :step",
                        named_params! {":id": id, ":step": on},
                    )?;
                    on + 1
                }
                _ => return Err(StoreError::Overtaken),
            };
            insert(c, id, step, &change.text, &change.what, &change.author, change.now)?;
            c.execute(
                "DELETE FROM draft_text WHERE practical_id = :id AND step <= :old",
                named_params! {":id": id, ":old": step - KEPT_STEPS},
            )?;
            stand(c, id, step)
        })
    }

    /// Moves a draft by one step, back or forth.
    ///
    /// # Errors
    /// [`StoreError::Overtaken`] when it is not at `on`; [`StoreError::NotFound`] when there is no such step.
    pub fn step_draft(&self, id: String, on: i64, back: bool) -> Result<Draft, StoreError> {
        self.write(move |c| {
            let d = draft_at(c, &id, on)?;
            let step = if back { on - 1 } else { on + 1 };
            if !(d.steps.0..=d.steps.1).contains(&step) {
                return Err(StoreError::NotFound("step"));
            }
            stand(c, &id, step)
        })
    }

    /// The texts of a draft before the one where it stands, latest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn earlier_texts(&self, id: &str, before: i64) -> Result<Vec<String>, StoreError> {
        self.read(|c| {
            let sql = "SELECT text FROM draft_text WHERE practical_id = :id AND step < :before ORDER BY step DESC";
            let mut statement = c.prepare_cached(sql)?;
            let rows = statement.query_map(named_params! {":id": id, ":before": before}, |r| r.get(0))?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Publishes the text of a draft that stands at `on`, and ends the draft.
    ///
    /// # Errors
    /// [`StoreError::Overtaken`] when it is not there any more.
    pub fn publish_draft(&self, id: String, on: i64, author: String, now: i64) -> Result<PracticalVersion, StoreError> {
        self.write(move |c| {
            let d = draft_at(c, &id, on)?;
            let version = practicals::publish(c, &id, &d.text, &author, now)?;
            drop_draft(c, &id)?;
            Ok(version)
        })
    }

    /// Throws a draft away that stands at `on`.
    ///
    /// # Errors
    /// [`StoreError::Overtaken`] when it is not there any more: what somebody else has added is not thrown away unseen;
    /// [`StoreError::NotFound`] when there is none.
    pub fn discard_draft(&self, id: String, on: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            draft_at(c, &id, on)?;
            drop_draft(c, &id)
        })
    }
}

fn drop_draft(c: &Connection, id: &str) -> Result<(), StoreError> {
    c.execute("DELETE FROM draft WHERE practical_id = :id", named_params! {":id": id})?;
    Ok(())
}

/// The draft, if it stands at `on`.
fn draft_at(c: &Connection, id: &str, on: i64) -> Result<Draft, StoreError> {
    let found = draft(c, id)?.ok_or(StoreError::NotFound("draft"))?;
    if found.step == on { Ok(found) } else { Err(StoreError::Overtaken) }
}

fn insert(
    c: &Connection,
    id: &str,
    step: i64,
    text: &str,
    what: &str,
    author: &str,
    at: i64,
) -> Result<(), StoreError> {
    c.execute(
        "INSERT INTO draft_text (practical_id, step, text, what, author, created_at)
         VALUES (:id, :step, :text, :what, :author, :at)",
        named_params! {":id": id, ":step": step, ":text": text, ":what": what, ":author": author, ":at": at},
    )?;
    Ok(())
}

/// Lets a draft stand at a step.
fn stand(c: &Connection, id: &str, step: i64) -> Result<Draft, StoreError> {
    let sql = "UPDATE draft SET step = :step WHERE practical_id = :id";
    c.execute(sql, named_params! {":id": id, ":step": step})?;
    draft(c, id)?.ok_or(StoreError::NotFound("draft"))
}

fn draft(c: &Connection, id: &str) -> Result<Option<Draft>, StoreError> {
    let sql = "SELECT d.practical_id, d.base_version, d.step, t.text, t.what, t.created_at,
                      (SELECT min(step) FROM draft_text WHERE practical_id = d.practical_id),
                      (SELECT max(step) FROM draft_text WHERE practical_id = d.practical_id)
               FROM draft d JOIN draft_text t ON t.practical_id = d.practical_id AND t.step = d.step
               WHERE d.practical_id = :id";
    let row = c.query_row(sql, named_params! {":id": id}, |r| {
        Ok(Draft {
            id: r.get(0)?,
            base: r.get(1)?,
            step: r.get(2)?,
            text: r.get(3)?,
            what: r.get(4)?,
            saved_at: r.get(5)?,
            steps: (r.get(6)?, r.get(7)?),
        })
    });
    Ok(row.optional()?)
}
