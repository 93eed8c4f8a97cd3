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
    let mut line = Line::default();
    let mut chunk = [0u8; 512];
    let mut lines = 0;
    loop {
        tokio::select! {
            _ = ask.tick() => {
                lines = 0;
                match timeout(CONNECTS_WITHIN, writer.write_all(b"READ?\n")).await {
                    Ok(Ok(())) => {}
                    Ok(Err(error)) => return format!("it has gone away ({error})"),
                    Err(_) => return "it does not listen".to_owned(),
                }
            }
            read = reader.read(&mut chunk), if lines < LINES_AT_ONCE => match read {
                Ok(0) => return "it has gone away".to_owned(),
                Ok(n) => lines += line.hear(instrument, &chunk[..n]),
                Err(error) => return format!("it has gone away ({error})"),
            },
        }
    }
}

/// What has come of a line so far.
#[derive(Default)]
struct Line {
    kept: Vec<u8>,
    /// Whether it was heard from its beginning: an end alone might be a number with its first digits cut off.
    whole: bool,
}

impl Line {
    /// Takes what came in: how many lines ended, or were given up.
    fn hear(&mut self, instrument: &Instrument, came: &[u8]) -> usize {
        let mut lines = 0;
        for byte in came {
            if *byte != b'\n' {
                self.kept.push(*byte);
                if self.kept.len() > LONGEST_LINE {
                    lines += 1;
                    instrument.is_silent("it sends a line without an end".to_owned());
                    *self = Line::default();
                }
                continue;
            }
            lines += 1;
            if self.whole {
                match read(&self.kept, &instrument.speaking.name, &instrument.speaking.unit) {
                    Ok(sent) => instrument.hears(sent),
                    Err(why) => instrument.is_silent(why.to_string()),
                }
            }
            *self = Line { kept: Vec::new(), whole: true };
        }
        lines
    }
}
