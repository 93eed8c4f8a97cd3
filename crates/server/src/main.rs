//! Keen Beaker: plan, run and check quantitative class practicals.

mod access;
mod api;
mod app;
mod clock;
mod demo;
mod door;
mod ical;
mod invalid;
mod library;
mod line;
mod live;
mod pages;
mod photos;
mod problem;
mod qr;
mod roster;
mod serve;
mod tls;

use anyhow::{Context, bail};
use clap::{Parser, Subcommand};
use photos::Photos;
use std::path::{Path, PathBuf};
use store::Store;

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
    /// Walk the chain of the record and say whether it is whole.
    Verify {
        /// Folder that holds the record.
        #[arg(long)]
        data: PathBuf,
    },
    /// Write a consistent copy of the record, while the server goes on.
    Backup {
        /// Folder that holds the record.
        #[arg(long)]
        data: PathBuf,
        /// The copy; must not exist.
        #[arg(long)]
        to: PathBuf,
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
    match Arguments::parse().command {
        Command::Serve(options) => serve::serve(&options),
        Command::Verify { data } => verify(&data),
        Command::Backup { data, to } => Ok(existing(&data)?.back_up(&to)?),
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
    let file = data.join(serve::RECORD);
    if !file.is_file() {
        bail!("there is no record in {}", data.display());
    }
    Ok(Store::open(&file)?)
}

fn verify(data: &Path) -> anyhow::Result<()> {
    let found = existing(data)?.verify()?;
    println!("{} events, head {}, {} payloads erased", found.head.seq, found.head.short(), found.erased);
    if !found.broken.is_empty() {
        bail!("the chain does not hold at events {:?}", found.broken);
    }
    println!("the chain holds");
    Ok(())
}

fn passphrase(data: &Path, name: &str) -> anyhow::Result<()> {
    let store = existing(data)?;
    let accounts = store.accounts()?;
    let (person, _) = accounts
        .into_iter()
        .find(|(p, _)| p.name == name)
        .with_context(|| format!("nobody with an account is called '{name}'"))?;
    let mut line = String::new();
    std::io::stdin().read_line(&mut line)?;
    let new = line.trim_end_matches(['\r', '\n']);
    let hash =
        api::session::free_passphrase(&store, new).map_err(|e| anyhow::anyhow!("{e}; the passphrase is as it was"))?;
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
    store.erase_group(run, found.id, lab::bench::Actor::Console, clock::Clock::Machine.now())?;
    taken.keys().try_for_each(|name| photos.delete(name))?;
    println!("what {group} entered in run {run} is deleted");
    Ok(())
}
