//! Simulated instruments that speak the line protocol: for trying it out, for tests, for a room without them.

use anyhow::Context;
use clap::ValueEnum;
use simulate::glass::{BalanceAct, Pan, Weighing};
use std::io::{BufRead, BufReader, Write};
use std::net::{TcpListener, TcpStream};
use std::thread;
use std::time::Instant;

/// What there are stand-ins for.
#[derive(Debug, Clone, Copy, ValueEnum)]
pub enum Kind {
    /// A balance with a boat on its pan.
    Balance,
    /// A burette's display.
    Burette,
    /// A pH meter in a buffer.
    PhMeter,
    /// A thermometer in the room.
    Thermometer,
}

/// Speaks on a port of this machine until the process is stopped.
pub fn speak(kind: Kind, port: u16, seed: u64) -> anyhow::Result<()> {
    let listener = TcpListener::bind(("127.0.0.1", port)).with_context(|| format!("port {port}"))?;
    println!("listening on {}", listener.local_addr()?);
    let begun = Instant::now();
    for stream in listener.incoming() {
        let stream = stream?;
        thread::spawn(move || answer(&stream, kind, seed, begun));
    }
    Ok(())
}

/// Whoever asks anything else than a reading hears what can be asked.
fn answer(stream: &TcpStream, kind: Kind, seed: u64, begun: Instant) {
    let mut writer = stream;
    for line in BufReader::new(stream).lines() {
        let said = match line.as_deref().map(str::trim) {
            Ok("READ?") => reading(kind, seed, begun.elapsed().as_secs_f64()),
            Ok(_) => "? READ? is all that can be asked".to_owned(),
            Err(_) => return,
        };
        if writeln!(writer, "{said}").is_err() {
            return;
        }
    }
}

fn reading(kind: Kind, seed: u64, seconds: f64) -> String {
    let put = |value: f64, decimals: usize, unit: &str| format!("{value:.decimals$} {unit} stable");
    #[expect(clippy::cast_precision_loss, reason = "a small offset")]
    let own = (seed % 40) as f64;
    match kind {
        Kind::Balance => {
            let acts = [BalanceAct::Put { what: Pan::FullBoat }, BalanceAct::Wait { seconds }];
            let shown = Weighing::at(seed).after(&acts);
            format!("{} g{}", shown.text, if shown.stable { " stable" } else { "" })
        }
        Kind::Burette => put(0.35 + own / 100.0, 2, "mL"),
        Kind::PhMeter => put(7.00 + own / 100.0, 2, "pH"),
        Kind::Thermometer => put(20.0 + own / 10.0, 1, "°C"),
    }
}
