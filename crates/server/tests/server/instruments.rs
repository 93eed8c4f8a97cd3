//! Instruments that speak: a stand-in into the record, and ones that lie, flood, say nothing or go away.

use crate::commands::record;
use crate::process::{Client, Server, entry};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader, Write};
use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::thread;
use std::time::{Duration, Instant};

/// A stand-in of the program, and where it listens.
pub struct StandIn(Child, pub String);

impl StandIn {
    /// A balance with a boat on it.
    pub fn balance() -> StandIn {
        let mut child = Command::new(env!("CARGO_BIN_EXE_keen-beaker"))
            .args(["instrument", "balance", "--port", "0", "--seed", "7"])
            .stdout(Stdio::piped())
            .spawn()
            .unwrap();
        let mut line = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
        let address = line.trim().strip_prefix("listening on ").unwrap().to_owned();
        StandIn(child, address)
    }
}

impl Drop for StandIn {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Something that is connected to, and does as it likes.
fn hostile(act: impl Fn(TcpStream) + Send + Sync + 'static) -> String {
    let listener = TcpListener::bind("127.0.0.1:0").unwrap();
    let address = listener.local_addr().unwrap().to_string();
    thread::spawn(move || listener.incoming().flatten().for_each(&act));
    address
}

/// A file that names instruments by their addresses.
pub fn named(folder: &Path, instruments: &[(&str, &str)]) -> String {
    let file = folder.join("instruments.toml");
    let one = |(name, address): &(&str, &str)| {
        format!("[[instrument]]\nname = \"{name}\"\naddress = \"{address}\"\nunit = \"g\"\n")
    };
    std::fs::write(&file, instruments.iter().map(one).collect::<String>()).unwrap();
    file.to_str().unwrap().to_owned()
}

fn shows(bench: &Client, name: &str) -> Value {
    bench.get(&format!("/api/v1/bench/instruments/{}", name.replace(' ', "%20"))).body
}

/// What an instrument shows, once that is so.
fn until(bench: &Client, name: &str, is: impl Fn(&Value) -> bool) -> Value {
    let begun = Instant::now();
    loop {
        let now = shows(bench, name);
        if is(&now) {
            return now;
        }
        assert!(begun.elapsed() < Duration::from_secs(20), "{name}: {now}");
        thread::sleep(Duration::from_millis(50));
    }
}

#[test]
fn a_reading_comes_from_a_stand_in_into_the_record_and_nobody_can_claim_what_was_not_sent() {
    let (stand_in, home) = (StandIn::balance(), tempfile::tempdir().unwrap());
    let file = named(home.path(), &[("Balance 1", &stand_in.1)]);
    let server = Server::start(tempfile::tempdir().unwrap(), &["--demo", "--instruments", &file]);
    let (galena, id) = server.bench("Galena", "553943");
    let rests = until(&galena, "Balance 1", |s| s["stable"] == true);
    let digits = rests["digits"].as_str().unwrap().to_owned();
    assert_eq!(shows(&galena, "Balance 9")["status"], 404);
    assert_eq!(server.client().get("/api/v1/bench/instruments/Balance%201").refusal().0, 401);

    let taken = |nr: u128, text: &str| {
        let reading = json!({ "kind": "reading", "symbol": "m_dish_crystals", "text": text, "unit": "g", "on": "Balance 1", "sent": true });
        let mut body = entry(nr, id, &reading);
        if nr > 1 {
            body["supersedes"] = json!(uuid::Uuid::from_u128(1));
        }
        body
    };
    let kept = galena.post("/api/v1/bench/entries", &taken(1, &digits));
    assert_eq!(kept.status, 200, "{}", kept.text);
    let stands = || galena.get("/api/v1/bench").body["entered"]["m_dish_crystals"].clone();
    assert_eq!((stands()["text"].as_str(), stands()["sent"].as_bool()), (Some(&*digits), Some(true)));
    // Sent once more, as a device does that heard no answer, it is the same entry.
    assert_eq!(galena.post("/api/v1/bench/entries", &taken(1, &digits)).body["again"], true);
    let at_the_desk = server.desk().get(&format!("/api/v1/runs/1/groups/{id}")).text;
    assert!(at_the_desk.contains("\"sent\":true"), "the desk sees it too");
    // Digits that no instrument sent are typed ones, whatever a device says of them.
    let claimed = galena.post("/api/v1/bench/entries", &taken(2, "53.11"));
    assert_eq!(claimed.status, 200, "{}", claimed.text);
    assert_eq!((stands()["text"].as_str(), stands()["sent"].as_bool()), (Some("53.11"), Some(false)));
    let again = galena.post("/api/v1/bench/entries", &taken(2, "53.11"));
    assert_eq!((again.status, again.body["again"].as_bool()), (200, Some(true)), "{}", again.text);
}

#[test]
fn one_that_floods_lies_sends_half_lines_or_nothing_or_goes_away_harms_nobody() {
    let home = tempfile::tempdir().unwrap();
    let flood = hostile(|mut s| while s.write_all(b"1.000 g stable\n2.000 g\n").is_ok() {});
    let endless = hostile(|mut s| while s.write_all(&[b'9'; 300]).is_ok() {});
    let lies = hostile(|mut s| {
        while s.write_all(b"12.3 mg stable\n").is_ok() {
            thread::sleep(Duration::from_millis(20));
        }
    });
    let nan = hostile(|mut s| {
        while s.write_all(b"NaN g stable\n").is_ok() {
            thread::sleep(Duration::from_millis(20));
        }
    });
    // Connected to in the middle of a number, as by a bridge from a serial port: its end is no reading.
    let cut = hostile(|mut s| {
        let _ = s.write_all(b"345 g stable\n");
        let _ = s.write_all(&[b'9'; 200]);
        let _ = s.write_all(b" 7.5 g stable\n");
        std::mem::forget(s);
    });
    let half = hostile(|mut s| drop(s.write_all(b"12.3")));
    // Connected to, and never heard of.
    let mute = hostile(std::mem::forget);
    let names = [
        ("Flood", &*flood),
        ("Endless", &*endless),
        ("Lies", &*lies),
        ("Nan", &*nan),
        ("Cut", &*cut),
        ("Half", &*half),
        ("Mute", &*mute),
        ("Gone", "127.0.0.1:9"),
    ];
    let file = named(home.path(), &names);
    let server = Server::start(tempfile::tempdir().unwrap(), &["--demo", "--instruments", &file]);
    let (galena, _) = server.bench("Galena", "553943");
    let why = |name: &str, words: &str| {
        until(&galena, name, |s| s["digits"].is_null() && s["silent"].as_str().is_some_and(|w| w.contains(words)));
    };
    until(&galena, "Flood", |s| s["digits"].is_string());
    why("Endless", "without an end");
    why("Cut", "without an end");
    why("Lies", "it sends mg, not g");
    why("Nan", "not a reading");
    why("Half", "gone away");
    why("Mute", "not said anything");
    why("Gone", "cannot be reached");
    // Meanwhile the class goes on.
    let begun = Instant::now();
    assert!((0..20).all(|_| galena.get("/api/v1/bench").status == 200));
    assert!(begun.elapsed() < Duration::from_secs(10), "{:?}", begun.elapsed());
}

#[test]
fn a_file_of_instruments_that_says_nothing_sound_is_told_at_the_start() {
    let home = tempfile::tempdir().unwrap();
    let file = named(home.path(), &[("Balance 1", "127.0.0.1:9"), ("Balance 1", "127.0.0.1:10")]);
    let folder = record();
    let data = folder.path().to_str().unwrap();
    let (ok, _, why) = crate::commands::run(&["serve", "--data", data, "--port", "0", "--instruments", &file], "");
    assert!(!ok && why.contains("'Balance 1' is there twice"), "{why}");
    let (ok, _, why) = crate::commands::run(&["serve", "--data", data, "--instruments", "/nowhere.toml"], "");
    assert!(!ok && why.contains("/nowhere.toml"), "{why}");
}
