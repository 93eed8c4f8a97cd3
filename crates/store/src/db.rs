//! One writer thread with group commit, and readers beside it.
//!
//! Jobs wait in a queue. The writer takes one, begins a transaction, runs it and every other job that waits by then,
//! each in a savepoint of its own so that one failure undoes that job alone, commits once, and only then answers all.
//! With `synchronous=FULL` an answer therefore means: on disk.

use crate::error::{CannotKeep, StoreError};
use crate::seal::{seal, teach};
use lab::bench::Record;
use rusqlite::backup::Backup;
use rusqlite::{Connection, OpenFlags};
use rusqlite_migration::{M, Migrations};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::mpsc::{Receiver, Sender, channel};
use std::sync::{Arc, Mutex};
use std::thread::JoinHandle;
use std::time::Duration;

/// Jobs committed together at most.
const BATCH: usize = 512;
/// Pages that are copied in one go when a record is put in the place of another.
const PAGES_AT_ONCE: std::ffi::c_int = 4096;
/// So that readers get their turn, and a file that is busy is not asked without end.
const BETWEEN_PAGES: Duration = Duration::from_millis(5);

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
    M::up(include_str!("../migrations/10-keeping.sql")),
    M::up(include_str!("../migrations/11-rehearsal.sql")),
    M::up(include_str!("../migrations/12-readers.sql")),
];
/// Ends all sessions, at desks and at benches.
pub(crate) const END_SESSIONS: &str = "DELETE FROM session";
/// The format that this version writes.
#[expect(clippy::cast_possible_wrap, reason = "a handful of steps")]
pub(crate) const LATEST: i64 = STEPS.len() as i64;
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

/// What the writer does.
enum Job {
    /// With others, in one transaction.
    Together(Box<dyn FnOnce(&Connection) -> Answer + Send>),
    /// By itself, outside any transaction.
    Alone(Box<dyn FnOnce(&mut Connection) + Send>),
}

/// Whether something that was erased is out of the files too.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[must_use]
pub enum Erasure {
    /// No byte of it is left.
    Through,
    /// Somebody is reading the record, and the log of changes still has it; it goes when they are done.
    Pending,
}

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
    /// The log of changes still has something that was erased.
    erasing: AtomicBool,
    /// Why the last write did not reach the disk.
    cannot_keep: Arc<Mutex<Option<CannotKeep>>>,
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
        bring_along(&mut connection)?;
        let (jobs, queue) = channel();
        let cannot_keep: Arc<Mutex<Option<CannotKeep>>> = Arc::default();
        let told = Arc::clone(&cannot_keep);
        let writer = std::thread::spawn(move || write_jobs(connection, &queue, &told));
        let inner = Inner {
            path: path.to_owned(),
            jobs: Mutex::new(Some(jobs)),
            readers: Mutex::new(Vec::new()),
            writer: Mutex::new(Some(writer)),
            benches: Mutex::default(),
            erasing: AtomicBool::new(false),
            cannot_keep,
        };
        Ok(Store { inner: Arc::new(inner) })
    }

    /// Runs `work` on the writer thread, atomically, and waits until it is on disk.
    pub(crate) fn write<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Connection) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, StoreError> {
        let (reply, answer) = channel();
        self.queue(Job::Together(Box::new(move |connection| {
            let done = in_savepoint(connection, work);
            Box::new(move |committed| {
                // A caller that no longer waits needs no answer.
                let _ = reply.send(committed.and(done));
            })
        })))?;
        // Unanswered is what could not even be begun.
        let done = answer.recv().map_err(|_| self.cannot_keep().map_or(StoreError::Closed, StoreError::NotKept))?;
        note(&self.inner.cannot_keep, done.as_ref().err());
        done
    }

    /// Why the last write did not reach the disk, if it did not.
    #[must_use]
    pub fn cannot_keep(&self) -> Option<CannotKeep> {
        self.inner.cannot_keep.lock().ok()?.clone()
    }

    /// Runs `work` on the writer thread while nobody else writes, and waits for it.
    fn alone<T: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Connection) -> Result<T, StoreError> + Send + 'static,
    ) -> Result<T, StoreError> {
        let (reply, answer) = channel();
        self.queue(Job::Alone(Box::new(move |connection| {
            // As above.
            let _ = reply.send(work(connection));
        })))?;
        answer.recv().map_err(|_| StoreError::Closed)?
    }

    fn queue(&self, job: Job) -> Result<(), StoreError> {
        let sender = self.inner.jobs.lock().map_err(|_| StoreError::Closed)?.clone();
        sender.ok_or(StoreError::Closed)?.send(job).map_err(|_| StoreError::Closed)
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
    /// changes, which still has them, is emptied. It waits some seconds for those who read at this moment.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the file cannot be written.
    pub fn finish_erasing(&self) -> Result<Erasure, StoreError> {
        self.forget_benches();
        self.inner.erasing.store(true, Ordering::Relaxed);
        let busy: bool = self.read(|c| Ok(c.query_row("PRAGMA wal_checkpoint(TRUNCATE)", [], |r| r.get(0))?))?;
        self.inner.erasing.store(busy, Ordering::Relaxed);
        Ok(self.erasure())
    }

    /// Whether everything that was erased is out of the files.
    pub fn erasure(&self) -> Erasure {
        if self.inner.erasing.load(Ordering::Relaxed) { Erasure::Pending } else { Erasure::Through }
    }

    /// Where its file is.
    pub(crate) fn path(&self) -> &Path {
        &self.inner.path
    }

    /// Writes a consistent copy of the whole record to `to`, while work goes on; it is on disk when this returns.
    ///
    /// # Errors
    /// [`StoreError::Database`], among others when `to` exists or the disk is full.
    pub fn back_up(&self, to: &Path) -> Result<(), StoreError> {
        let name = to.to_string_lossy().into_owned();
        self.read(|c| Ok(c.execute("VACUUM INTO :to", &[(":to", &name)]).map(|_| ())?))?;
        Ok(std::fs::File::open(to)?.sync_all()?)
    }

    /// Puts the record of another file in the place of this one, all of it or nothing, and signs everybody out: what is
    /// brought back may know devices and desks that were signed out since.
    ///
    /// # Errors
    /// [`StoreError::Database`] when the file cannot be read; [`StoreError::NewerRecord`] when a newer version wrote it.
    pub fn replace_by(&self, from: &Path) -> Result<(), StoreError> {
        let source = Connection::open_with_flags(from, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        let format: i64 = source.query_row("PRAGMA user_version", [], |r| r.get(0))?;
        if format > LATEST {
            return Err(StoreError::NewerRecord(format));
        }
        self.alone(move |c| {
            Backup::new(&source, c)?.run_to_completion(PAGES_AT_ONCE, BETWEEN_PAGES, None)?;
            bring_along(c)?;
            Ok(c.execute_batch(END_SESSIONS)?)
        })?;
        self.forget_benches();
        Ok(())
    }
}

/// Brings a record to this version; its tables then have sums.
fn bring_along(connection: &mut Connection) -> Result<(), StoreError> {
    let format: i64 = connection.query_row("PRAGMA user_version", [], |r| r.get(0))?;
    MIGRATIONS.to_latest(connection)?;
    let sealed: bool = connection.query_row("SELECT EXISTS (SELECT 1 FROM seal)", [], |r| r.get(0))?;
    if format != LATEST || !sealed {
        let sealing = connection.transaction()?;
        seal(&sealing)?;
        sealing.commit()?;
    }
    Ok(())
}

fn connect(path: &Path) -> Result<Connection, StoreError> {
    let connection = Connection::open(path)?;
    // More statements than the sixteen that it keeps by itself are in use at any time.
    connection.set_prepared_statement_cache_capacity(128);
    connection.execute_batch(
        "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA busy_timeout = 5000;
         PRAGMA trusted_schema = OFF; PRAGMA secure_delete = ON;",
    )?;
    teach(&connection)?;
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

/// Remembers why nothing can be kept, until something is kept again.
fn note(last: &Mutex<Option<CannotKeep>>, failed: Option<&StoreError>) {
    let found = failed.and_then(CannotKeep::of);
    // A refusal says nothing of the disk.
    if found.is_none() && failed.is_some() {
        return;
    }
    if let Ok(mut last) = last.lock() {
        *last = found;
    }
}

/// The same failure for each of many that wait.
fn alike(error: &rusqlite::Error) -> StoreError {
    StoreError::Database(match error {
        rusqlite::Error::SqliteFailure(code, words) => rusqlite::Error::SqliteFailure(*code, words.clone()),
        other => rusqlite::Error::ToSqlConversionFailure(other.to_string().into()),
    })
}

fn write_jobs(mut connection: Connection, queue: &Receiver<Job>, cannot_keep: &Mutex<Option<CannotKeep>>) {
    let mut next = None;
    while let Some(job) = next.take().or_else(|| queue.recv().ok()) {
        let first = match job {
            Job::Alone(work) => {
                work(&mut connection);
                continue;
            }
            Job::Together(work) => work,
        };
        let mut waiting = vec![first];
        while waiting.len() < BATCH {
            match queue.try_recv() {
                Ok(Job::Together(work)) => waiting.push(work),
                Ok(alone @ Job::Alone(_)) => {
                    next = Some(alone);
                    break;
                }
                Err(_) => break,
            }
        }
        if let Err(error) = connection.execute_batch("BEGIN IMMEDIATE") {
            // Dropping the jobs closes their answers; each caller reports that nothing was kept.
            note(cannot_keep, Some(&alike(&error)));
            drop(waiting);
            continue;
        }
        let answers: Vec<Answer> = waiting.into_iter().map(|job| job(&connection)).collect();
        let committed = connection.execute_batch("COMMIT");
        if committed.is_err() {
            // The transaction is over either way; a second failure leaves nothing to undo.
            let _ = connection.execute_batch("ROLLBACK");
        }
        for answer in answers {
            answer(match &committed {
                Ok(()) => Ok(()),
                Err(error) => Err(alike(error)),
            });
        }
    }
}
