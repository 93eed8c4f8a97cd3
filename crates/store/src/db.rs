//! One writer thread with group commit, and readers beside it.
//!
//! Jobs wait in a queue. The writer takes one, begins a transaction, runs it and every other job that waits by then,
//! each in a savepoint of its own so that one failure undoes that job alone, commits once, and only then answers all.
//! With `synchronous=FULL` an answer therefore means: on disk.

use crate::error::StoreError;
use lab::bench::Record;
use rusqlite::Connection;
use rusqlite_migration::{M, Migrations};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::mpsc::{Receiver, Sender, channel};
use std::sync::{Arc, Mutex};
use std::thread::JoinHandle;

/// Jobs committed together at most.
const BATCH: usize = 512;

const STEPS: &[M<'_>] = &[
    M::up(include_str!("../migrations/01-the-record.sql")),
    M::up(include_str!("../migrations/02-drafts.sql")),
    M::up(include_str!("../migrations/03-room.sql")),
    M::up(include_str!("../migrations/04-classes.sql")),
    M::up(include_str!("../migrations/05-benches.sql")),
    M::up(include_str!("../migrations/06-one-fold.sql")),
    M::up(include_str!("../migrations/07-the-school.sql")),
    M::up(include_str!("../migrations/08-preparing.sql")),
    M::up(include_str!("../migrations/09-the-calendar.sql")),
];
const MIGRATIONS: Migrations<'_> = Migrations::from_slice(STEPS);

/// What was read of a bench before.
#[derive(Debug, Clone, Default)]
pub(crate) struct Known {
    pub record: Arc<Record>,
    /// The last event of the group that was looked at, an entry or not.
    pub last: i64,
    /// How many of them there were.
    pub events: i64,
}

/// Tells a job's caller how it went, once the transaction's fate is known.
type Answer = Box<dyn FnOnce(Result<(), StoreError>) + Send>;
type Job = Box<dyn FnOnce(&Connection) -> Answer + Send>;

/// The record of one school. Cheap to clone; closed when the last clone is dropped.
#[derive(Clone)]
pub struct Store {
    inner: Arc<Inner>,
}

struct Inner {
    path: PathBuf,
    jobs: Mutex<Option<Sender<Job>>>,
    readers: Mutex<Vec<Connection>>,
    writer: Mutex<Option<JoinHandle<()>>>,
    /// What was read of benches, by group.
    benches: Mutex<HashMap<i64, Known>>,
}

impl Drop for Inner {
    fn drop(&mut self) {
        drop(self.jobs.lock().map(|mut jobs| jobs.take()));
        let handle = self.writer.lock().ok().and_then(|mut w| w.take());
        if let Some(handle) = handle {
            // A writer that panicked has told its callers by dropping their answers.
            let _ = handle.join();
        }
    }
}

impl Store {
    /// Opens the record at `path`, making or migrating it as needed.
    ///
    /// # Errors
    /// [`StoreError::Migration`] when a newer version wrote it; [`StoreError::Database`] when it cannot be opened.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        let mut connection = connect(path)?;
        MIGRATIONS.to_latest(&mut connection)?;
        let (jobs, queue) = channel();
        let writer = std::thread::spawn(move || write_jobs(&connection, &queue));
        let inner = Inner {
            path: path.to_owned(),
            jobs: Mutex::new(Some(jobs)),
            readers: Mutex::new(Vec::new()),
            writer: Mutex::new(Some(writer)),
            benches: Mutex::default(),
        };
        Ok(Store { inner: Arc::new(inner) })
    }

    /// Runs `work` on the writer thread, atomically, and waits until it is on disk.
    pub(crate) fn write<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Connection) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, StoreError> {
        let (reply, answer) = channel();
        let job: Job = Box::new(move |connection| {
            let done = in_savepoint(connection, work);
            Box::new(move |committed| {
                // A caller that no longer waits needs no answer.
                let _ = reply.send(committed.and(done));
            })
        });
        let sender = self.inner.jobs.lock().map_err(|_| StoreError::Closed)?.clone();
        sender.ok_or(StoreError::Closed)?.send(job).map_err(|_| StoreError::Closed)?;
        answer.recv().map_err(|_| StoreError::Closed)?
    }

    /// Runs `work` on a reader of its own.
    pub(crate) fn read<T>(&self, work: impl FnOnce(&Connection) -> Result<T, StoreError>) -> Result<T, StoreError> {
        let idle = self.inner.readers.lock().map_err(|_| StoreError::Closed)?.pop();
        let connection = match idle {
            Some(connection) => connection,
            None => connect(&self.inner.path)?,
        };
        let done = work(&connection);
        if let Ok(mut readers) = self.inner.readers.lock() {
            readers.push(connection);
        }
        done
    }

    /// What is known of a bench.
    pub(crate) fn known_bench(&self, group: i64) -> Option<Known> {
        self.inner.benches.lock().ok()?.get(&group).cloned()
    }

    /// Keeps what is known of a bench for the next look. Two may read at once; the next look reads what is missing.
    pub(crate) fn keep_bench(&self, group: i64, known: Known) {
        if let Ok(mut benches) = self.inner.benches.lock() {
            benches.insert(group, known);
        }
    }

    /// What was read of benches is read anew at the next look.
    pub(crate) fn forget_benches(&self) {
        if let Ok(mut benches) = self.inner.benches.lock() {
            benches.clear();
        }
    }

    /// Takes what was erased out of the files themselves: freed pages are overwritten (`secure_delete`), and the log of
    /// changes, which still has them, is emptied. Somebody who reads at this moment keeps the log until the next time.
    pub(crate) fn forget_erased(&self) -> Result<(), StoreError> {
        self.forget_benches();
        self.read(|c| Ok(c.execute_batch("PRAGMA wal_checkpoint(TRUNCATE)")?))
    }

    /// Writes a consistent copy of the whole record to `to`, while work goes on.
    ///
    /// # Errors
    /// [`StoreError::Database`], among others when `to` exists.
    pub fn back_up(&self, to: &Path) -> Result<(), StoreError> {
        let to = to.to_string_lossy().into_owned();
        self.read(|c| Ok(c.execute("VACUUM INTO :to", &[(":to", &to)]).map(|_| ())?))
    }
}

fn connect(path: &Path) -> Result<Connection, StoreError> {
    let connection = Connection::open(path)?;
    // More statements than the sixteen that it keeps by itself are in use at any time.
    connection.set_prepared_statement_cache_capacity(128);
    connection.execute_batch(
        "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA busy_timeout = 5000;
         PRAGMA trusted_schema = OFF; PRAGMA secure_delete = ON;",
    )?;
    Ok(connection)
}

fn in_savepoint<T>(
    connection: &Connection,
    work: impl FnOnce(&Connection) -> Result<T, StoreError>,
) -> Result<T, StoreError> {
    connection.execute_batch("SAVEPOINT job")?;
    let done = work(connection);
    let undo = if done.is_err() { "ROLLBACK TO job; RELEASE job" } else { "RELEASE job" };
    connection.execute_batch(undo)?;
    done
}

fn write_jobs(connection: &Connection, queue: &Receiver<Job>) {
    while let Ok(first) = queue.recv() {
        let mut waiting = vec![first];
        while waiting.len() < BATCH {
            match queue.try_recv() {
                Ok(job) => waiting.push(job),
                Err(_) => break,
            }
        }
        if let Err(error) = connection.execute_batch("BEGIN IMMEDIATE") {
            // Dropping the jobs closes their answers; each caller reports that nothing was kept.
            drop((error, waiting));
            continue;
        }
        let answers: Vec<Answer> = waiting.into_iter().map(|job| job(connection)).collect();
        let committed = connection.execute_batch("COMMIT");
        if committed.is_err() {
            // The transaction is over either way; a second failure leaves nothing to undo.
            let _ = connection.execute_batch("ROLLBACK");
        }
        for answer in answers {
            answer(match &committed {
                Ok(()) => Ok(()),
                Err(error) => {
                    Err(StoreError::Database(rusqlite::Error::ToSqlConversionFailure(error.to_string().into())))
                }
            });
        }
    }
}
