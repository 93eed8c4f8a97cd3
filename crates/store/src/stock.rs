//! What stands on the shelves of the prep room: containers, and every change of what is in them with its reason.

use crate::db::Store;
use crate::error::StoreError;
use prepare::stock::Container;
use rusqlite::{Connection, OptionalExtension, named_params};

/// A container with what is in it.
#[derive(Debug, Clone, PartialEq)]
pub struct InStock {
    /// Id.
    pub id: i64,
    /// What it is.
    pub container: Container,
    /// In its unit.
    pub amount: f64,
    /// When that changed last, in ms.
    pub changed_at: i64,
}

impl Store {
    /// What stands on the shelves, by what is in it.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn stock(&self) -> Result<Vec<InStock>, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, body, amount, changed_at FROM stock WHERE gone_at IS NULL ORDER BY id";
            let mut statement = c.prepare_cached(sql)?;
            let rows = statement.query_map([], |r| {
                Ok((r.get::<_, i64>(0)?, r.get::<_, String>(1)?, r.get::<_, f64>(2)?, r.get::<_, i64>(3)?))
            })?;
            let mut all = Vec::new();
            for row in rows {
                let (id, body, amount, changed_at) = row?;
                all.push(InStock { id, container: serde_json::from_str(&body)?, amount, changed_at });
            }
            all.sort_by_key(|s| s.container.holds.to_lowercase());
            Ok(all)
        })
    }

    /// Puts containers on the shelf, all or none.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn put_on_shelf(&self, new: Vec<(Container, f64)>, person: i64, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            for (container, amount) in &new {
                c.execute(
                    "INSERT INTO stock (body, amount, changed_at) VALUES (:body, :amount, :now)",
                    named_params! {":body": serde_json::to_string(container)?, ":amount": amount, ":now": now},
                )?;
                changed(c, c.last_insert_rowid(), *amount, "put on the shelf", person, now)?;
            }
            Ok(())
        })
    }

    /// Says how much is in a container now, and why.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such container.
    pub fn count_stock(&self, id: i64, amount: f64, reason: String, person: i64, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            there(c, id)?;
            c.execute(
                "UPDATE stock SET amount = :amount, changed_at = :now WHERE id = :id",
                named_params! {":amount": amount, ":now": now, ":id": id},
            )?;
            changed(c, id, amount, &reason, person, now)
        })
    }

    /// Takes a container off the shelf: used up, or thrown away.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such container.
    pub fn take_off_shelf(&self, id: i64, person: i64, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            there(c, id)?;
            c.execute("UPDATE stock SET gone_at = :now WHERE id = :id", named_params! {":now": now, ":id": id})?;
            changed(c, id, 0.0, "taken off the shelf", person, now)
        })
    }
}

fn there(c: &Connection, id: i64) -> Result<(), StoreError> {
    let sql = "SELECT 1 FROM stock WHERE id = :id AND gone_at IS NULL";
    let found: Option<i64> = c.query_row(sql, named_params! {":id": id}, |r| r.get(0)).optional()?;
    found.map(|_| ()).ok_or(StoreError::NotFound("container on the shelf"))
}

fn changed(c: &Connection, id: i64, amount: f64, reason: &str, person: i64, now: i64) -> Result<(), StoreError> {
    c.execute(
        "INSERT INTO stock_change (stock_id, amount, reason, person_id, at) VALUES (:id, :amount, :reason, :person, :now)",
        named_params! {":id": id, ":amount": amount, ":reason": reason, ":person": person, ":now": now},
    )?;
    Ok(())
}
