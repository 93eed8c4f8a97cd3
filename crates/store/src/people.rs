//! People, accounts and sessions. A token is never stored, only its hash.

use crate::db::{END_SESSIONS, Store};
use crate::error::StoreError;
use lab::roll::AccountRole;
use rusqlite::{Connection, OptionalExtension, named_params};

/// A person with an account.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Person {
    /// Pseudonymous id, the one that events carry.
    pub id: i64,
    /// Name.
    pub name: String,
}

/// Whose session it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Holder {
    /// An instructor.
    Person(i64),
    /// One device of one group.
    Group(i64),
}

/// A session that has not expired.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Session {
    /// Pseudonymous id of the device or desk.
    pub id: i64,
    /// Whose it is.
    pub holder: Holder,
    /// In ms.
    pub created_at: i64,
}

/// A desk that somebody is signed in at.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SignedIn {
    /// Its session.
    pub session: i64,
    /// In ms.
    pub since: i64,
    /// The browser and the address, as far as they were told.
    pub place: String,
}

impl Store {
    /// Whether nobody has an account yet.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn is_new(&self) -> Result<bool, StoreError> {
        self.read(|c| Ok(c.query_row("SELECT NOT EXISTS (SELECT 1 FROM account)", [], |r| r.get(0))?))
    }

    /// Makes the first account.
    ///
    /// # Errors
    /// [`StoreError::AccountExists`] when there is one.
    pub fn create_first_account(&self, name: String, passphrase_hash: String, now: i64) -> Result<Person, StoreError> {
        self.write(move |c| {
            let taken: bool = c.query_row("SELECT EXISTS (SELECT 1 FROM account)", [], |r| r.get(0))?;
            if taken {
                return Err(StoreError::AccountExists);
            }
            insert_account(c, name, AccountRole::Instructor, &passphrase_hash, now)
        })
    }

    /// Makes an account for a colleague.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] when somebody with an account has this name.
    pub fn create_account(
        &self,
        name: String,
        role: AccountRole,
        passphrase_hash: String,
        now: i64,
    ) -> Result<Person, StoreError> {
        self.write(move |c| {
            if called(c, &name)?.is_some() {
                return Err(StoreError::NameTaken("colleague"));
            }
            insert_account(c, name, role, &passphrase_hash, now)
        })
    }

    /// Every account with its passphrase's hash, for sign-in.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn accounts(&self) -> Result<Vec<(Person, String)>, StoreError> {
        self.read(accounts)
    }

    /// The account of whoever is called so, with its passphrase's hash; case and blanks around it do not count.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn account_called(&self, name: &str) -> Result<Option<(Person, String)>, StoreError> {
        self.read(|c| called(c, name))
    }

    /// The person with this id.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub fn person(&self, id: i64) -> Result<Person, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, name FROM person WHERE id = :id";
            let found = c
                .query_row(sql, named_params! {":id": id}, |r| Ok(Person { id: r.get(0)?, name: r.get(1)? }))
                .optional()?;
            found.ok_or(StoreError::NotFound("person"))
        })
    }

    /// What a person with an account works at.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person has no account.
    pub fn role(&self, person: i64) -> Result<AccountRole, StoreError> {
        self.read(|c| {
            let sql = "SELECT role FROM account WHERE person_id = :id";
            let role: Option<String> =
                c.prepare_cached(sql)?.query_row(named_params! {":id": person}, |r| r.get(0)).optional()?;
            Ok(role_of(&role.ok_or(StoreError::NotFound("account"))?))
        })
    }

    /// Another passphrase for somebody with an account. All sessions of the person end: whoever knew the old one is out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person has no account.
    pub fn set_passphrase(&self, person: i64, passphrase_hash: String) -> Result<(), StoreError> {
        self.write(move |c| {
            let changed = c.execute(
                "UPDATE account SET passphrase_hash = :hash WHERE person_id = :id",
                named_params! {":hash": passphrase_hash, ":id": person},
            )?;
            if changed == 0 {
                return Err(StoreError::NotFound("account"));
            }
            c.execute("DELETE FROM session WHERE person_id = :id", named_params! {":id": person})?;
            Ok(())
        })
    }

    /// Takes an account away; the person's name stays beside what the person did. Classes go to whoever does it, or nobody
    /// could see them.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when the person has no account; [`StoreError::InUse`] for the last instructor.
    pub fn close_account(&self, person: i64, by: i64) -> Result<(), StoreError> {
        self.write(move |c| {
            let one = named_params! {":person": person};
            let sql = "SELECT EXISTS (SELECT 1 FROM account WHERE role = 'instructor' AND person_id <> :person)";
            if !c.query_row(sql, one, |r| r.get(0))? {
                return Err(StoreError::InUse("this is the last instructor's account"));
            }
            if c.execute("DELETE FROM account WHERE person_id = :person", one)? == 0 {
                return Err(StoreError::NotFound("account"));
            }
            c.execute("DELETE FROM session WHERE person_id = :person", one)?;
            c.execute("DELETE FROM class_share WHERE person_id = :person", one)?;
            let handed = named_params! {":person": person, ":by": by};
            c.execute("UPDATE class SET owner_id = :by WHERE owner_id = :person", handed)?;
            let sql = "DELETE FROM class_share WHERE class_id IN (SELECT id FROM class WHERE owner_id = :by) AND person_id = :by";
            c.execute(sql, named_params! {":by": by})?;
            Ok(())
        })
    }

    /// Whose account was the first: who looks after the school's record.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn keeper(&self) -> Result<Option<i64>, StoreError> {
        self.read(|c| {
            let sql = "SELECT min(person_id) FROM account WHERE role = 'instructor'";
            Ok(c.prepare_cached(sql)?.query_row([], |r| r.get(0))?)
        })
    }

    /// Where a person is signed in, the newest first.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn signed_in(&self, person: i64, now: i64) -> Result<Vec<SignedIn>, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, created_at, place FROM session WHERE person_id = :person AND expires_at > :now
                       ORDER BY created_at DESC, id DESC";
            let mut statement = c.prepare_cached(sql)?;
            let rows = statement.query_map(named_params! {":person": person, ":now": now}, |r| {
                Ok(SignedIn { session: r.get(0)?, since: r.get(1)?, place: r.get(2)? })
            })?;
            Ok(rows.collect::<Result<_, _>>()?)
        })
    }

    /// Ends all sessions, at desks and at benches.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn sign_out_everybody(&self) -> Result<(), StoreError> {
        self.write(|c| Ok(c.execute_batch(END_SESSIONS)?))
    }

    /// Ends all sessions of a person but one.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn sign_out_others(&self, person: i64, but: i64) -> Result<usize, StoreError> {
        self.write(move |c| {
            let sql = "DELETE FROM session WHERE person_id = :person AND id <> :but";
            Ok(c.execute(sql, named_params! {":person": person, ":but": but})?)
        })
    }

    /// Opens a session for a token with this hash, from some place.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn open_session(
        &self,
        token_hash: [u8; 32],
        holder: Holder,
        place: String,
        now: i64,
        expires_at: i64,
    ) -> Result<(), StoreError> {
        self.write(move |c| {
            let (person, group) = match holder {
                Holder::Person(id) => (Some(id), None),
                Holder::Group(id) => (None, Some(id)),
            };
            c.execute(
                "INSERT INTO session (token_hash, person_id, group_id, place, created_at, expires_at)
                 VALUES (:hash, :person, :group, :place, :now, :expires)",
                named_params! {
                    ":hash": token_hash, ":person": person, ":group": group, ":place": place, ":now": now,
                    ":expires": expires_at,
                },
            )?;
            Ok(())
        })
    }

    /// The session of a token with this hash, unless it has expired.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be read.
    pub fn session(&self, token_hash: [u8; 32], now: i64) -> Result<Option<Session>, StoreError> {
        self.read(|c| {
            let sql = "SELECT id, person_id, group_id, created_at FROM session WHERE token_hash = :hash AND expires_at > :now";
            let mut statement = c.prepare_cached(sql)?;
            let found = statement
                .query_row(named_params! {":hash": token_hash, ":now": now}, |r| {
                    let person: Option<i64> = r.get(1)?;
                    let holder = match person {
                        Some(id) => Holder::Person(id),
                        None => Holder::Group(r.get(2)?),
                    };
                    Ok(Session { id: r.get(0)?, holder, created_at: r.get(3)? })
                })
                .optional()?;
            Ok(found)
        })
    }

    /// Ends the session of a token with this hash.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the record cannot be written.
    pub fn end_session(&self, token_hash: [u8; 32]) -> Result<(), StoreError> {
        self.write(move |c| {
            c.execute("DELETE FROM session WHERE token_hash = :hash", named_params! {":hash": token_hash})?;
            Ok(())
        })
    }
}

fn accounts(c: &Connection) -> Result<Vec<(Person, String)>, StoreError> {
    let sql = "SELECT p.id, p.name, a.passphrase_hash FROM account a JOIN person p ON p.id = a.person_id ORDER BY p.id";
    let mut statement = c.prepare_cached(sql)?;
    let rows = statement.query_map([], |r| Ok((Person { id: r.get(0)?, name: r.get(1)? }, r.get(2)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

/// The account with this name; a school has few, and the database does not know the case of all letters.
fn called(c: &Connection, name: &str) -> Result<Option<(Person, String)>, StoreError> {
    let wanted = name.trim().to_lowercase();
    Ok(accounts(c)?.into_iter().find(|(person, _)| person.name.to_lowercase() == wanted))
}

fn insert_account(
    c: &Connection,
    name: String,
    role: AccountRole,
    passphrase_hash: &str,
    now: i64,
) -> Result<Person, StoreError> {
    c.execute(
        "INSERT INTO person (name, created_at) VALUES (:name, :now)",
        named_params! {":name": name, ":now": now},
    )?;
    let id = c.last_insert_rowid();
    c.execute(
        "INSERT INTO account (person_id, passphrase_hash, role, created_at) VALUES (:id, :hash, :role, :now)",
        named_params! {":id": id, ":hash": passphrase_hash, ":role": written(role), ":now": now},
    )?;
    Ok(Person { id, name })
}

fn written(role: AccountRole) -> &'static str {
    match role {
        AccountRole::Instructor => "instructor",
        AccountRole::Technician => "technician",
        AccountRole::Reader => "reader",
    }
}

/// The table holds nothing but these.
fn role_of(text: &str) -> AccountRole {
    let all = [AccountRole::Instructor, AccountRole::Technician, AccountRole::Reader];
    all.into_iter().find(|role| written(*role) == text).unwrap_or_default()
}
