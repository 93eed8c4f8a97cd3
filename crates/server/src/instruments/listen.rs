//! Listening to one instrument: asked twice a second, heard whenever it speaks, connected to again when it is gone.

use super::Instrument;
use super::line::{LONGEST_LINE, read};
use std::sync::Arc;
use std::time::Duration;
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;
use tokio::time::{interval, sleep, timeout};

const CONNECTS_WITHIN: Duration = Duration::from_secs(3);
const ASKED_EVERY: Duration = Duration::from_millis(500);
/// Gone, or never there: tried again after so long.
const AGAIN_AFTER: Duration = Duration::from_secs(2);
/// Lines that are read of each question; what comes faster waits on the wire.
const LINES_AT_ONCE: usize = 20;

/// Listens until the server ends.
pub(super) async fn listen(instrument: Arc<Instrument>) {
    loop {
        let why = match timeout(CONNECTS_WITHIN, TcpStream::connect(&instrument.speaking.address)).await {
            Ok(Ok(stream)) => spoken_with(&instrument, stream).await,
            Ok(Err(error)) => format!("it cannot be reached ({error})"),
            Err(_) => "it cannot be reached".to_owned(),
        };
        instrument.is_silent(why);
        sleep(AGAIN_AFTER).await;
    }
}

/// Asks and hears until the connection ends: why it did.
async fn spoken_with(instrument: &Instrument, mut stream: TcpStream) -> String {
    let (mut reader, mut writer) = stream.split();
    let mut ask = interval(ASKED_EVERY);
    let mut kept: Vec<u8> = Vec::new();
    let mut chunk = [0u8; 512];
    let mut lines = 0;
    loop {
        tokio::select! {
            _ = ask.tick() => {
                lines = 0;
                if let Err(error) = writer.write_all(b"READ?\n").await {
                    return format!("it has gone away ({error})");
                }
            }
            read = reader.read(&mut chunk), if lines < LINES_AT_ONCE => match read {
                Ok(0) => return "it has gone away".to_owned(),
                Ok(n) => lines += hear(instrument, &mut kept, &chunk[..n]),
                Err(error) => return format!("it has gone away ({error})"),
            },
        }
    }
}

/// Takes what came in: how many lines were whole.
fn hear(instrument: &Instrument, kept: &mut Vec<u8>, came: &[u8]) -> usize {
    kept.extend_from_slice(came);
    let mut lines = 0;
    while let Some(end) = kept.iter().position(|b| *b == b'\n') {
        let line: Vec<u8> = kept.drain(..=end).collect();
        lines += 1;
        match read(&line[..end], &instrument.speaking.name, &instrument.speaking.unit) {
            Ok(sent) => instrument.hears(sent),
            Err(why) => instrument.is_silent(why.to_string()),
        }
    }
    // A line without an end is none.
    if kept.len() > LONGEST_LINE {
        kept.clear();
        instrument.is_silent("its lines have no end".to_owned());
        lines += 1;
    }
    lines
}
