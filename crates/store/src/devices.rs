//! Devices of groups: which are at which bench, and how one leaves it.

use crate::db::Store;
use crate::error::StoreError;
use rusqlite::{Connection, OptionalExtension, named_params};

/// A device that is at a group's bench.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Device {
    /// Its session.
    pub session: i64,
    /// The group that it was claimed for.
    pub group: i64,
    /// When it joined, ms.
    pub since: i64,
    /// The browser and the address, as far as they were told.
    pub place: String,
}

impl Store {
    /// The devices of a run's groups, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn devices(&self, run: i64, now: i64) -> Result<Vec<Device>, StoreError> {
        self.read(|c| {
            let sql =
                "SELECT s.id, s.group_id, s.created_at, s.place FROM session s JOIN bench_group g ON g.id = s.group_id
                       WHERE g.run_id = :run AND s.expires_at > :now ORDER BY s.created_at DESC, s.id DESC";
            let mut statement = c.prepare_cached(sql)?;
            let rows = statement.query_map(named_params! {":run": run, ":now": now}, |r| {
                Ok(Device { session: r.get(0)?, group: r.get(1)?, since: r.get(2)?, place: r.get(3)? })
            })?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Takes a device from a group of this run, which gets another PIN, since the device knew the old one. A group that is
    /// left without devices before it entered anything can be claimed again like one that nobody has come to.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when no group of the run has this device.
    pub fn undo_claim(&self, run: i64, session: i64, pin: String) -> Result<i64, StoreError> {
        self.write(move |c| {
            let sql = "SELECT g.id FROM session s JOIN bench_group g ON g.id = s.group_id WHERE s.id = :session AND g.run_id = :run";
            let found = c.query_row(sql, named_params! {":session": session, ":run": run}, |r| r.get(0)).optional()?;
            let group = found.ok_or(StoreError::NotFound("device"))?;
            c.execute("DELETE FROM session WHERE id = :session", named_params! {":session": session})?;
            renew_pin(c, group, &pin)?;
            open_again(c, group)?;
            Ok(group)
        })
    }

    /// Ends the session of a device that leaves its group by itself; the group, where there was one.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn leave(&self, token_hash: [u8; 32]) -> Result<Option<i64>, StoreError> {
        self.write(move |c| {
            let sql = "DELETE FROM session WHERE token_hash = :hash AND group_id IS NOT NULL RETURNING group_id";
            let group = c.query_row(sql, named_params! {":hash": token_hash}, |r| r.get(0)).optional()?;
            group.map_or(Ok(()), |group| open_again(c, group))?;
            Ok(group)
        })
    }

    /// Ends the sessions of all devices of a group, which then needs `pin` to be joined again; how many there were.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn sign_out_group(&self, group: i64, pin: String) -> Result<usize, StoreError> {
        self.write(move |c| {
            renew_pin(c, group, &pin)?;
            Ok(c.execute("DELETE FROM session WHERE group_id = :group", named_params! {":group": group})?)
        })
    }
}

fn renew_pin(c: &Connection, group: i64, pin: &str) -> Result<(), StoreError> {
    c.execute("UPDATE bench_group SET pin = :pin WHERE id = :group", named_params! {":pin": pin, ":group": group})?;
    Ok(())
}

/// Nobody is there and nobody has entered anything: the next device is the first.
fn open_again(c: &Connection, group: i64) -> Result<(), StoreError> {
    c.execute(
        "UPDATE bench_group SET claimed_at = NULL WHERE id = :group
         AND NOT EXISTS (SELECT 1 FROM session WHERE group_id = :group)
         AND NOT EXISTS (SELECT 1 FROM event WHERE group_id = :group AND actor LIKE 'device %')",
        named_params! {":group": group},
    )?;
    Ok(())
}
