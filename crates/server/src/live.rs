//! What has just changed, told to those who look: one channel per run.

use std::collections::HashMap;
use std::sync::Mutex;
use tokio::sync::broadcast::{Receiver, Sender, channel};

/// Something was appended to a run.
#[derive(Debug, Clone, Copy)]
pub struct Change {
    /// The group it is about; none for the run as a whole.
    pub group: Option<i64>,
}

/// The channels of all runs that somebody looks at.
#[derive(Debug, Default)]
pub struct Live {
    runs: Mutex<HashMap<i64, Sender<Change>>>,
}

/// Changes that a slow reader may fall behind before it has to start anew.
const BACKLOG: usize = 256;

impl Live {
    /// Changes of a run from now on.
    pub fn follow(&self, run: i64) -> Receiver<Change> {
        let mut runs = self.runs.lock().expect("no holder of this lock can panic");
        runs.entry(run).or_insert_with(|| channel(BACKLOG).0).subscribe()
    }

    /// How many streams are open.
    pub fn streams(&self) -> usize {
        let runs = self.runs.lock().expect("no holder of this lock can panic");
        runs.values().map(Sender::receiver_count).sum()
    }

    /// Tells everybody that everything has changed.
    pub fn tell_all(&self) {
        let mut runs = self.runs.lock().expect("no holder of this lock can panic");
        runs.retain(|_, sender| sender.send(Change { group: None }).is_ok());
    }

    /// Tells everybody who follows the run.
    pub fn tell(&self, run: i64, change: Change) {
        let mut runs = self.runs.lock().expect("no holder of this lock can panic");
        // Nobody listening is no failure; the channel is then given up.
        if runs.get(&run).is_some_and(|sender| sender.send(change).is_err()) {
            runs.remove(&run);
        }
    }
}
