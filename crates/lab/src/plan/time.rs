//! How long it takes, in all.

use super::{Consequence, Note, Setting};

impl Setting<'_> {
    pub(super) fn time(&self, notes: &mut Vec<Note>) {
        let steps = &self.practical.steps;
        if steps.is_empty() {
            return;
        }
        let minutes = steps.iter().filter_map(|s| s.minutes);
        let minutes = minutes.fold([0u32, 0], |a, m| [a[0].saturating_add(m[0]), a[1].saturating_add(m[1])]);
        let waits = steps.iter().filter_map(|s| s.wait.clone()).collect();
        let what = Consequence::Time { minutes, waits, visits: self.practical.file.visits };
        notes.push(Note { beside: vec!["steps".into()], warns: false, what });
    }
}
