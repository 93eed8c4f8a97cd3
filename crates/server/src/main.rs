//! Keen Beaker: plan, run and check quantitative class practicals.

mod access;
mod api;
mod app;
mod archive;
mod clock;
mod demo;
mod doctor;
mod door;
mod grid;
mod health;
mod ical;
mod instruments;
mod invalid;
mod keeping;
mod library;
mod line;
mod live;
mod machine;
mod metrics;
mod pages;
mod photos;
mod problem;
mod qr;
mod rehearsing;
mod roster;
mod rounds;
mod serve;
mod summary;
mod tls;
mod turns;

use anyhow::{Context, bail};
use clap::{Parser, Subcommand};
use photos::Photos;
use std::path::{Path, PathBuf};
use store::Store;

/// How often an erasure is tried again while somebody reads.
const TRIES_TO_ERASE: usize = 6;

#[derive(Parser)]
#[command(version, about)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve a school.
    Serve(serve::Options),
    /// A simulated instrument that speaks the line protocol of docs/instruments.md, on this machine.
    Instrument {
        /// What it is.
        kind: instruments::stand_in::Kind,
        /// Port; 0 takes any free one.
        #[arg(long)]
        port: u16,
        /// The same number, the same readings.
        #[arg(long, default_value_t = 1)]
        seed: u64,
    },
    /// Look at everything that a server needs (folder, rights, room, record, clock, backups, certificate, addresses), and say
    /// what to do. Nothing is changed.
    Doctor {
        /// Folder that holds the record.
        #[arg(long, default_value = "keen-beaker-data", env = "KEEN_BEAKER_DATA")]
        data: PathBuf,
        /// One more folder of backups; can be given several times.
        #[arg(long = "backups", value_name = "FOLDER")]
        backups: Vec<PathBuf>,
        /// Port that the server is to have.
        #[arg(long, default_value_t = 8080)]
        port: u16,
    },
    /// Look at the whole record, or at a backup, and say whether it is whole. Nothing in it is changed.
    Verify {
        /// Folder that holds the record, or a backup.
        #[arg(long)]
        data: PathBuf,
    },
    /// Write a backup with record and photos, while the server goes on; it is restored for trial before it has its name.
    Backup {
        /// Folder that holds the record.
        #[arg(long)]
        data: PathBuf,
        /// The folder of the backup; must not exist.
        #[arg(long)]
        to: PathBuf,
    },
    /// Put a backup into a folder, of which no server is at work.
    Restore {
        /// Folder of the backup.
        #[arg(long)]
        from: PathBuf,
        /// Folder for the record.
        #[arg(long)]
        data: PathBuf,
        /// Put a record that is there aside, under another name.
        #[arg(long)]
        replace: bool,
    },
    /// Delete for good what one group entered. The record says that it was done, and still verifies.
    Erase {
        /// Folder that holds the record.
        #[arg(long)]
        data: PathBuf,
        /// Number of the run, as in its address.
        #[arg(long)]
        run: i64,
        /// Name of the group.
        #[arg(long)]
        group: String,
    },
    /// Give somebody who forgot it another passphrase: one line on standard input. All devices of the person are signed out.
    Passphrase {
        /// Folder that holds the record.
        #[arg(long)]
        data: PathBuf,
        /// Whose, as the account is called.
        #[arg(long)]
        name: String,
    },
    /// Print the OpenAPI document of the interface.
    Openapi,
    /// Print the JSON Schema of the practical file.
    Schema,
    /// Say what is wrong with practical files, each with its line, and what does not add up in their plans.
    Check {
        /// As in `my.practical.toml`.
        #[arg(required = true)]
        files: Vec<PathBuf>,
    },
    /// Answer questions to the core: one JSON request a line in, one JSON answer a line out.
    Compute,
}

fn main() -> anyhow::Result<()> {
    machine::keep_files_to_oneself();
    match Arguments::parse().command {
        Command::Serve(options) => serve::serve(&options),
        Command::Instrument { kind, port, seed } => instruments::stand_in::speak(kind, port, seed),
        Command::Doctor { data, backups, port } => doctor::look(&data, &backups, port),
        Command::Verify { data } => verify(&data),
        Command::Backup { data, to } => back_up(&data, &to),
        Command::Restore { from, data, replace } => restore(&from, &data, replace),
        Command::Erase { data, run, group } => erase(&data, run, &group),
        Command::Passphrase { data, name } => passphrase(&data, &name),
        Command::Compute => door::answer_lines(std::io::stdin().lock(), std::io::stdout().lock()),
        Command::Check { files } => check_files(&files),
        Command::Schema => {
            print!("{}", api::practical_schema());
            Ok(())
        }
        Command::Openapi => {
            print!("{}", api::document());
            Ok(())
        }
    }
}

/// Tells everything that is wrong; fails if there is anything.
fn check_files(files: &[PathBuf]) -> anyhow::Result<()> {
    let mut wrong = 0;
    for file in files {
        let name = file.display();
        let text = std::fs::read_to_string(file).with_context(|| format!("{name} cannot be read"))?;
        let checked = practical::check(&text, &practical::School::default());
        checked.errors.iter().for_each(|e| println!("{name}: {e}"));
        wrong += checked.errors.len();
        let notes = checked.practical.iter().flat_map(|p| lab::plan::plan(p).notes);
        let warnings: Vec<lab::plan::Note> = notes.filter(|n| n.warns).collect();
        for note in &warnings {
            println!("{name}: {}", in_figures(note));
        }
        println!("{name}: {} to mend, {} that do not add up", checked.errors.len(), warnings.len());
    }
    if wrong > 0 {
        bail!("{wrong} to mend");
    }
    Ok(())
}

/// A consequence of the plan for a console: where it stands, what it is, its figures. The sentences are the pages'.
fn in_figures(note: &lab::plan::Note) -> String {
    use std::fmt::Write;
    let mut place = String::new();
    for key in &note.beside {
        // Counted from 1, as a reader counts.
        let written = match key {
            practical::Key::Named(name) if place.is_empty() => write!(place, "{name}"),
            practical::Key::Named(name) => write!(place, ", {name}"),
            practical::Key::At(i) => write!(place, " {}", i + 1),
        };
        written.expect("a text takes any text");
    }
    let told = serde_json::to_value(&note.what).unwrap_or_default();
    let kind = told["kind"].as_str().unwrap_or_default().to_owned();
    let figures = told.as_object().into_iter().flatten().filter(|(name, _)| *name != "kind");
    let figures: Vec<String> = figures
        .map(|(name, value)| {
            format!("{} {}", name.replace('_', " "), value.as_str().map_or_else(|| value.to_string(), str::to_owned))
        })
        .collect();
    format!("{place}: {} ({})", kind.replace('-', " "), figures.join(", "))
}

/// The record in a folder, which must be there: a slip in the path should not make a new one.
fn existing(data: &Path) -> anyhow::Result<Store> {
    let file = data.join(keeping::RECORD);
    if !file.is_file() {
        bail!("there is no record in {}", data.display());
    }
    Ok(Store::open(&file)?)
}

fn verify(data: &Path) -> anyhow::Result<()> {
    let file = data.join(keeping::RECORD);
    if !file.is_file() {
        bail!("there is no record in {}", data.display());
    }
    let found = store::examine(&file, store::Look::Whole);
    let mut wrong: Vec<String> = found.faults.iter().map(ToString::to_string).collect();
    if keeping::is_backup(data) {
        wrong.extend(keeping::file_faults(data).iter().map(ToString::to_string));
    } else {
        wrong.extend(Photos::in_folder(data.join("photos")).damaged()?);
    }
    match found.head.seq {
        0 => println!("no events"),
        events => println!("{events} events, head {}, {} payloads erased", found.head.short(), found.erased),
    }
    if wrong.is_empty() {
        println!("the chain holds; the record is whole");
        return Ok(());
    }
    for what in &wrong {
        println!("{what}");
    }
    bail!("{} wrong with {}; nothing was changed", wrong.len(), data.display());
}

fn back_up(data: &Path, to: &Path) -> anyhow::Result<()> {
    let examined = store::examine(&data.join(keeping::RECORD), store::Look::Quick);
    if let Some(fault) = examined.faults.first() {
        bail!("{fault} in {}: no backup was made", data.display());
    }
    keeping::write_to(&existing(data)?, data, to, clock::Clock::Machine.now())?;
    println!("backed up to {}, and restored from there for trial", to.display());
    Ok(())
}

fn restore(from: &Path, data: &Path, replace: bool) -> anyhow::Result<()> {
    std::fs::create_dir_all(data).with_context(|| format!("making {}", data.display()))?;
    let _lock = serve::locked(data)?;
    keeping::into_folder(data, from, replace, clock::Clock::Machine.now())?;
    println!("restored to {}; everybody signs in again", data.display());
    Ok(())
}

fn passphrase(data: &Path, name: &str) -> anyhow::Result<()> {
    let store = existing(data)?;
    let (person, _) =
        store.account_called(name)?.with_context(|| format!("nobody with an account is called '{name}'"))?;
    let mut line = String::new();
    std::io::stdin().read_line(&mut line)?;
    let new = line.trim_end_matches(['\r', '\n']);
    api::session::is_long_enough(new).map_err(|e| anyhow::anyhow!("{e}; the passphrase is as it was"))?;
    let hash = access::hash_passphrase(new)?;
    store.set_passphrase(person.id, hash)?;
    println!("{name} has another passphrase; all devices are signed out");
    Ok(())
}

fn erase(data: &Path, run: i64, group: &str) -> anyhow::Result<()> {
    let store = existing(data)?;
    let groups = store.groups(run)?;
    let found = groups.iter().find(|g| g.name == group).with_context(|| format!("run {run} has no group '{group}'"))?;
    let photos = Photos::in_folder(data.join("photos"));
    let taken = store.bench(run, found.id)?.current(&lab::bench::Room::default()).photos;
    let mut erasure = store.erase_group(run, found.id, lab::bench::Actor::Console, clock::Clock::Machine.now())?;
    // Each try waits some seconds for those who read.
    for _ in 0..TRIES_TO_ERASE {
        if erasure == store::Erasure::Pending {
            erasure = store.finish_erasing()?;
        }
    }
    let kept = store.photos_kept()?;
    taken.keys().filter(|name| !kept.contains(*name)).try_for_each(|name| photos.delete(name))?;
    println!("what {group} entered in run {run} is deleted");
    if erasure == store::Erasure::Pending {
        bail!(
            "another program keeps the record open for reading, and the log of changes still has it: it goes when that program ends"
        );
    }
    Ok(())
}
