//! How far rehearsals are: what the classes that were never there will say, and how much of it they have said.

use serde::Serialize;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard};
use std::time::Duration;
use utoipa::ToSchema;

/// A wait between two things said is passed over from here on, s.
const LONGEST_WAIT: i64 = 600;
/// As many rehearsals play at once.
const MOST_AT_ONCE: usize = 8;

/// Everything that a class says, with the id of the group, in the order of time; seconds from the start.
pub type Script = Arc<Vec<(i64, simulate::Said)>>;

/// Rehearsals that were played since the server started, by run.
#[derive(Default)]
pub struct Rehearsing {
    on: Mutex<HashMap<i64, Playing>>,
}

struct Playing {
    script: Script,
    /// So many things have been said.
    said: usize,
    /// So many times as fast; none while it stands still.
    pace: Option<u32>,
    /// Another turn of the same rehearsal begins with each change of pace: earlier ones end.
    turn: u64,
}

/// How far a rehearsal is.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct RehearsalStands {
    /// So many things have been said.
    pub said: usize,
    /// So many there will be.
    pub of: usize,
    /// So many times as fast as in a laboratory; none while it stands still.
    pub pace: Option<u32>,
}

/// What is said next.
pub struct Next {
    /// After so long, in real time.
    pub after: Duration,
    /// Its number, from 0.
    pub number: usize,
    /// Id of the group.
    pub group: i64,
    /// What.
    pub said: simulate::Said,
}

impl Rehearsing {
    fn on(&self) -> MutexGuard<'_, HashMap<i64, Playing>> {
        self.on.lock().expect("no holder of this lock can panic")
    }

    /// How far a rehearsal is; none where it has not played since the server started.
    pub fn stands(&self, run: i64) -> Option<RehearsalStands> {
        self.on().get(&run).map(|p| RehearsalStands { said: p.said, of: p.script.len(), pace: p.pace })
    }

    /// What time it is in a rehearsal: when something was said last, in s from its start.
    pub fn time(&self, run: i64) -> Option<i64> {
        let on = self.on();
        let playing = on.get(&run)?;
        Some(playing.said.checked_sub(1).map_or(0, |last| playing.script[last].1.at))
    }

    /// What its class will say, and how much of it was said already.
    pub fn learn(&self, run: i64, script: Script, said: usize) {
        let said = said.min(script.len());
        self.on().entry(run).or_insert(Playing { script, said, pace: None, turn: 0 });
    }

    /// Whether as many play as can.
    pub fn is_full(&self) -> bool {
        self.on().values().filter(|p| p.pace.is_some()).count() >= MOST_AT_ONCE
    }

    /// Sets the pace, or lets it stand still: the number of the turn that begins. None where too many play already.
    pub fn set(&self, run: i64, pace: Option<u32>) -> Option<u64> {
        let mut on = self.on();
        let others = on.iter().filter(|(id, p)| **id != run && p.pace.is_some()).count();
        if pace.is_some() && others >= MOST_AT_ONCE {
            return None;
        }
        let playing = on.get_mut(&run)?;
        playing.pace = pace.filter(|_| playing.said < playing.script.len());
        playing.turn += 1;
        Some(playing.turn)
    }

    /// What is said next in this turn; none where it is over, stands still, or another turn goes on.
    pub fn next(&self, run: i64, turn: u64) -> Option<Next> {
        let on = self.on();
        let playing = on.get(&run).filter(|p| p.turn == turn)?;
        let (pace, number) = (playing.pace?, playing.said);
        let (group, said) = playing.script.get(number)?;
        let before = number.checked_sub(1).map_or(0, |last| playing.script[last].1.at);
        let wait = u64::try_from((said.at - before).clamp(0, LONGEST_WAIT)).unwrap_or(0);
        Some(Next { after: Duration::from_secs(wait) / pace.max(1), number, group: *group, said: said.clone() })
    }

    /// One more thing was said in this turn.
    pub fn said(&self, run: i64, turn: u64) {
        if let Some(playing) = self.on().get_mut(&run).filter(|p| p.turn == turn) {
            playing.said += 1;
            if playing.said >= playing.script.len() {
                playing.pace = None;
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lab::bench::Entry;

    fn rehearsing(times: &[i64]) -> Rehearsing {
        let said = |at: &i64| (7, simulate::Said { at: *at, entry: Entry::Begun { step: 0 } });
        let all = Rehearsing::default();
        all.learn(1, Arc::new(times.iter().map(said).collect()), 0);
        all
    }

    #[test]
    fn a_turn_ends_when_another_one_begins_or_it_stands_still_and_goes_on_where_it_was() {
        let all = rehearsing(&[60, 120, 50_000]);
        assert_eq!(all.set(2, Some(60)), None, "nobody has learnt it");
        let first = all.set(1, Some(60)).unwrap();
        let next = all.next(1, first).unwrap();
        assert_eq!((next.number, next.group, next.after), (0, 7, Duration::from_secs(1)));
        all.said(1, first);
        let second = all.set(1, Some(10)).unwrap();
        assert!(all.next(1, first).is_none(), "the first turn is over");
        all.said(1, first);
        assert_eq!(all.next(1, second).unwrap().after, Duration::from_secs(6));
        all.set(1, None);
        assert!(all.next(1, second).is_none());
        let third = all.set(1, Some(60)).unwrap();
        assert_eq!((all.next(1, third).unwrap().number, all.time(1)), (1, Some(60)));
        all.said(1, third);
        // A night is passed over.
        assert_eq!(all.next(1, third).unwrap().after, Duration::from_secs(10));
        all.said(1, third);
        let stands = all.stands(1).unwrap();
        assert_eq!((stands.said, stands.of, stands.pace), (3, 3, None));
        assert!(all.set(1, Some(60)).is_some_and(|turn| all.next(1, turn).is_none()), "all is said");
    }

    #[test]
    fn eight_play_at_once_and_a_ninth_waits() {
        let all = Rehearsing::default();
        for run in 0..9 {
            all.learn(run, Arc::new(vec![(1, simulate::Said { at: 1, entry: Entry::Begun { step: 0 } })]), 0);
        }
        assert!((0..8).all(|run| all.set(run, Some(1)).is_some()) && all.set(8, Some(1)).is_none());
        assert!(all.set(3, None).is_some() && all.set(8, Some(1)).is_some());
    }
}
