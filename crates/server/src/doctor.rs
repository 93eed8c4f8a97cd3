//! The doctor: looks at everything that a school's server needs, and says of each what to do.

use crate::clock::{Clock, DAY_MS, is_behind, written};
use crate::health::{LITTLE_ROOM, OLD_BACKUP_MS};
use crate::keeping::{Keeping, RECORD, is_backup};
use crate::machine::{is_open_to_others, room_left};
use crate::serve::{FILES_FOR_A_SCHOOL, lan_address, locked};
use crate::tls;
use anyhow::bail;
use std::net::TcpListener;
use std::path::{Path, PathBuf};
use store::{Fault, Look, examine};

/// Days of a certificate that is soon over.
const SOON_OVER: i64 = 30;

/// One thing that was looked at.
enum Found {
    /// As it should be.
    Well(String),
    /// What is wrong, and what to do.
    Ill(String, &'static str),
}
use Found::{Ill, Well};

/// Tells everything that was looked at; fails if anything is wrong.
pub fn look(data: &Path, backups: &[PathBuf], port: u16) -> anyhow::Result<()> {
    let now = Clock::Machine.now();
    let mut found = vec![folder(data)];
    // Without a folder there is nothing else to look at.
    if data.is_dir() {
        found.extend([rights(data), room(data), at_work(data, port)]);
        found.extend(record(data, now));
        found.extend(kept(data, backups, now));
        found.extend(certificate(data, now));
    }
    found.extend([open_files(), address()]);
    let ill = found.iter().filter(|f| matches!(f, Ill(..))).count();
    for one in &found {
        match one {
            Well(what) => println!("  ok    {what}"),
            Ill(what, todo) => println!("  look  {what}\n        {todo}"),
        }
    }
    if ill > 0 {
        bail!("{ill} to see to");
    }
    println!("everything is well");
    Ok(())
}

fn folder(data: &Path) -> Found {
    let shown = data.display();
    if !data.exists() {
        return Ill(
            format!("there is no folder {shown}"),
            "name it with --data, or start the server once: it makes it",
        );
    }
    if is_backup(data) {
        return Ill(format!("{shown} is a backup"), "put it back with 'keen-beaker restore', into another folder");
    }
    // Written to and taken away again: rights alone do not tell of a disk that is mounted to be read.
    match tempfile::NamedTempFile::new_in(data) {
        Ok(_) => Well(format!("{shown} can be written to")),
        Err(why) => Ill(format!("{shown} cannot be written to ({why})"), "give it to the user that the server runs as"),
    }
}

fn rights(data: &Path) -> Found {
    match is_open_to_others(data) {
        Ok(false) => Well("nobody else on this machine can look into it".into()),
        Ok(true) => {
            Ill("others on this machine can look into it".into(), "chmod 700 it; the server does so when it starts")
        }
        Err(why) => Ill(format!("{why:#}"), "look whose it is"),
    }
}

fn room(data: &Path) -> Found {
    match room_left(data) {
        Some(left) if left < LITTLE_ROOM => Ill(
            format!("{left} MB are left on its disk"),
            "make room: old photos of the machine, other programs' files",
        ),
        Some(left) => Well(format!("{left} MB are left on its disk")),
        None => Well("how much room is left is not told by this system".into()),
    }
}

fn record(data: &Path, now: i64) -> Vec<Found> {
    let examined = examine(&data.join(RECORD), Look::Quick);
    let events = examined.head.seq;
    let mut found = vec![match examined.faults.first() {
        None => Well(format!("the record is whole at a quick look, {events} events")),
        Some(Fault::Missing) => Well("no record yet: the first start makes one".into()),
        Some(fault) => Ill(fault.to_string(), "'keen-beaker verify' tells all of it; 'restore' begins from a backup"),
    }];
    found.extend(examined.written_at.map(|last| match written(last) {
        at if is_behind(now, last) => {
            Ill(format!("this machine's clock is behind the record, last written to at {at}"), "set the clock")
        }
        at => Well(format!("the clock is not behind the record, last written to at {at}")),
    }));
    found
}

/// A server at work has the folder locked; else its port must be free.
fn at_work(data: &Path, port: u16) -> Found {
    if locked(data).is_err() {
        return Well("a server is at work on it".into());
    }
    match TcpListener::bind(("0.0.0.0", port)) {
        Ok(_) => Well(format!("port {port} is free")),
        Err(why) => Ill(format!("port {port} cannot be had ({why})"), "stop what has it, or give another --port"),
    }
}

fn kept(data: &Path, others: &[PathBuf], now: i64) -> Vec<Found> {
    let keeping = Keeping::of(data, others);
    let newest = match keeping.newest() {
        None => Ill("there is no backup".into(), "the server makes one each day, a minute after it starts"),
        Some(made) if now - made > OLD_BACKUP_MS => Ill(
            format!("the newest backup is {} days old", (now - made) / DAY_MS),
            "let the server run for a minute a day",
        ),
        Some(made) => Well(format!("the newest backup is of {}", written(made))),
    };
    let elsewhere = if others.is_empty() {
        Ill("backups lie on the disk of the record alone".into(), "name a folder on another disk with --backups")
    } else {
        Well(format!("backups go to {} folders", others.len() + 1))
    };
    vec![newest, elsewhere]
}

fn certificate(data: &Path, now: i64) -> Option<Found> {
    let days = (tls::ends_at(&data.join("tls"))? - now) / DAY_MS;
    Some(if days < SOON_OVER {
        Ill(format!("the certificate ends in {days} days"), "start the server anew: it makes another one")
    } else {
        Well(format!("the certificate ends in {days} days"))
    })
}

fn open_files() -> Found {
    match rlimit::increase_nofile_limit(u64::MAX) {
        Ok(files) if files < FILES_FOR_A_SCHOOL => Ill(
            format!("the system lets {files} files be open at once"),
            "raise it: ulimit -n, or LimitNOFILE of the service",
        ),
        Ok(files) => Well(format!("the system lets {files} files be open at once")),
        Err(why) => Ill(format!("how many files may be open cannot be told ({why})"), "look at ulimit -n"),
    }
}

fn address() -> Found {
    match lan_address() {
        Some(ip) => Well(format!("phones of the room reach this machine at {ip}")),
        None => {
            Ill("this machine has no address on a network".into(), "connect it to the network that the phones are in")
        }
    }
}
