//! Sums over the tables beside the events, so that a row that changed by itself is found.
//!
//! The chain covers what was said; everything else (names of groups, texts of practicals, what the school chose) stands in
//! plain tables. For each of them triggers keep how many rows it has and the sum of their hashes, modulo 2⁶⁴: it does not
//! depend on the order, so that one row more costs one hash. `sqlite_schema` has a sum as well, or a trigger could vanish.

use crate::error::StoreError;
use rusqlite::functions::{Context, FunctionFlags};
use rusqlite::types::ValueRef;
use rusqlite::{Connection, named_params};
use sha2::{Digest, Sha256};

/// Tables that need none: the chain covers the first two, and the seals themselves are what is compared.
const BESIDE: &str = "name NOT LIKE 'sqlite_%' AND name NOT IN ('event', 'payload', 'seal')";
/// What the schema's own sum is kept under.
const SCHEMA: &str = "sqlite_schema";

/// Lets a connection compute what the triggers ask for.
pub(crate) fn teach(connection: &Connection) -> Result<(), StoreError> {
    let flags = FunctionFlags::SQLITE_UTF8 | FunctionFlags::SQLITE_DETERMINISTIC | FunctionFlags::SQLITE_INNOCUOUS;
    connection.create_scalar_function("row_hash", -1, flags, |row| Ok(hashed(row)))?;
    connection.create_scalar_function("sum_with", 2, flags, |c| Ok(c.get::<i64>(0)?.wrapping_add(c.get(1)?)))?;
    connection.create_scalar_function("sum_without", 2, flags, |c| Ok(c.get::<i64>(0)?.wrapping_sub(c.get(1)?)))?;
    Ok(())
}

/// A hash over the values of a row, each with its type and length.
fn hashed(row: &Context<'_>) -> i64 {
    let mut hash = Sha256::new();
    let mut add = |kind: u8, bytes: &[u8]| {
        hash.update([kind]);
        hash.update((bytes.len() as u64).to_be_bytes());
        hash.update(bytes);
    };
    for i in 0..row.len() {
        match row.get_raw(i) {
            ValueRef::Null => add(0, &[]),
            ValueRef::Integer(n) => add(1, &n.to_be_bytes()),
            ValueRef::Real(x) => add(2, &x.to_bits().to_be_bytes()),
            ValueRef::Text(text) => add(3, text),
            ValueRef::Blob(bytes) => add(4, bytes),
        }
    }
    let [a, b, c, d, e, f, g, h, ..]: [u8; 32] = hash.finalize().into();
    i64::from_be_bytes([a, b, c, d, e, f, g, h])
}

/// Takes all sums anew and sets the triggers that keep them: after a migration, when the tables are others.
pub(crate) fn seal(c: &Connection) -> Result<(), StoreError> {
    c.execute_batch("DELETE FROM seal")?;
    for table in tables(c)? {
        let columns = columns(c, &table)?;
        let of = |row: &str| columns.iter().map(|k| format!("{row}.\"{k}\"")).collect::<Vec<_>>().join(", ");
        let (old, new) = (of("OLD"), of("NEW"));
        let changed = |name: &str, when: &str, rows: &str, sum: &str| {
            format!(
                "DROP TRIGGER IF EXISTS seal_{name}_{table};
                 CREATE TRIGGER seal_{name}_{table} AFTER {when} ON \"{table}\" BEGIN
                 UPDATE seal SET rows = rows {rows}, sum = {sum} WHERE tbl = '{table}'; END;"
            )
        };
        c.execute_batch(&changed("in", "INSERT", "+ 1", &format!("sum_with(sum, row_hash({new}))")))?;
        c.execute_batch(&changed("out", "DELETE", "- 1", &format!("sum_without(sum, row_hash({old}))")))?;
        let both = format!("sum_with(sum_without(sum, row_hash({old})), row_hash({new}))");
        c.execute_batch(&changed("up", "UPDATE", "+ 0", &both))?;
    }
    for table in tables(c)?.into_iter().chain([SCHEMA.to_owned()]) {
        let (rows, sum) = summed(c, &table)?;
        let sql = "INSERT INTO seal (tbl, rows, sum) VALUES (:table, :rows, :sum)";
        c.execute(sql, named_params! {":table": table, ":rows": rows, ":sum": sum})?;
    }
    Ok(())
}

/// Whether the file has sums at all: versions before them had none.
pub(crate) fn is_sealed(c: &Connection) -> Result<bool, StoreError> {
    let sql = "SELECT EXISTS (SELECT 1 FROM sqlite_schema WHERE name = 'seal')";
    Ok(c.query_row(sql, [], |r| r.get(0))?)
}

/// Tables that do not come to their sums.
pub(crate) fn broken(c: &Connection) -> Result<Vec<String>, StoreError> {
    let mut broken = Vec::new();
    for table in tables(c)?.into_iter().chain([SCHEMA.to_owned()]) {
        let sql = "SELECT rows, sum FROM seal WHERE tbl = :table";
        let kept = c.query_row(sql, named_params! {":table": table}, |r| Ok((r.get(0)?, r.get(1)?)));
        if kept.ok() != summed(c, &table).ok() {
            broken.push(table);
        }
    }
    Ok(broken)
}

fn tables(c: &Connection) -> Result<Vec<String>, StoreError> {
    let sql = format!("SELECT name FROM sqlite_schema WHERE type = 'table' AND {BESIDE} ORDER BY name");
    let mut statement = c.prepare(&sql)?;
    Ok(statement.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?)
}

fn columns(c: &Connection, table: &str) -> Result<Vec<String>, StoreError> {
    let mut statement = c.prepare("SELECT name FROM pragma_table_info(:table)")?;
    Ok(statement.query_map(named_params! {":table": table}, |r| r.get(0))?.collect::<Result<_, _>>()?)
}

fn summed(c: &Connection, table: &str) -> Result<(i64, i64), StoreError> {
    let columns = match table {
        // Where a table begins in the file is no part of what it is.
        SCHEMA => "type, name, tbl_name, sql".to_owned(),
        _ => columns(c, table)?.iter().map(|k| format!("\"{k}\"")).collect::<Vec<_>>().join(", "),
    };
    let mut statement = c.prepare(&format!("SELECT row_hash({columns}) FROM \"{table}\""))?;
    let hashes = statement.query_map([], |r| r.get::<_, i64>(0))?;
    let mut sum = (0, 0i64);
    for hash in hashes {
        sum = (sum.0 + 1, sum.1.wrapping_add(hash?));
    }
    Ok(sum)
}
