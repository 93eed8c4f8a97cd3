//! The room: named instruments, bottles, vessels weighed beforehand.

use crate::db::Store;
use crate::error::StoreError;
use lab::bench::{Room, RoomItem};
use rusqlite::named_params;

impl Store {
    /// What the room has now.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn room(&self) -> Result<Room, StoreError> {
        self.room_where("retired_at IS NULL")
    }

    /// What the room has or ever had: what readings of earlier days were taken on.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn room_ever(&self) -> Result<Room, StoreError> {
        self.room_where("true")
    }

    fn room_where(&self, condition: &str) -> Result<Room, StoreError> {
        self.read(|c| {
            let sql = format!("SELECT body FROM room_item WHERE {condition} ORDER BY kind, name");
            let mut statement = c.prepare_cached(&sql)?;
            let bodies = statement.query_map([], |r| r.get::<_, String>(0))?.collect::<Result<Vec<_>, _>>()?;
            let items = bodies.iter().map(|b| Ok(serde_json::from_str::<RoomItem>(b)?));
            Ok(Room::of(items.collect::<Result<Vec<_>, StoreError>>()?))
        })
    }

    /// Puts a thing into the room, or describes it anew.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn put_into_room(&self, item: RoomItem, author: String, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            c.execute(
                "INSERT INTO room_item (kind, name, body, author, changed_at)
                 VALUES (:kind, :name, :body, :author, :now)
                 ON CONFLICT (kind, name) DO UPDATE SET body = excluded.body, author = excluded.author,
                     changed_at = excluded.changed_at, retired_at = NULL",
                named_params! {
                    ":kind": item.kind(),
                    ":name": item.name(),
                    ":body": serde_json::to_string(&item)?,
                    ":author": author,
                    ":now": now,
                },
            )?;
            Ok(())
        })
    }

    /// Takes a thing out of the room; what was read on it keeps it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is no such thing.
    pub fn take_out_of_room(&self, kind: String, name: String, now: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let gone = c.execute(
                "UPDATE room_item SET retired_at = :now WHERE kind = :kind AND name = :name AND retired_at IS NULL",
                named_params! {":kind": kind, ":name": name, ":now": now},
            )?;
            if gone == 0 { Err(StoreError::NotFound("thing in the room")) } else { Ok(()) }
        })
    }
}
