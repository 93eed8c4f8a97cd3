//! A class that was never there: groups at work side by side, some of them slow, some of them wrong.

use crate::innocence::allotments;
use crate::work::Said;
use crate::{Group, Slip};
use practical::{Allotted, Practical};
use rand::seq::SliceRandom;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;

/// The last group begins so long after the first, s.
const ALL_HAVE_BEGUN: i64 = 300;
/// The quickest and the slowest, as a part of the usual time: nobody is quicker than a clock.
const PACES: std::ops::Range<f64> = 1.0..1.45;

/// How a class works.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ClassAtWork {
    /// How many groups.
    pub groups: usize,
    /// The same seed gives the same class.
    pub seed: u64,
    /// Part of the groups that slip once at the bench, 0 to 1.
    pub slips_at_bench: f64,
    /// Part of the sums that go wrong, 0 to 1.
    pub slips_in_sums: f64,
}

/// What each group is allotted, in bench order.
#[must_use]
pub fn allotted(practical: &Practical, groups: usize) -> Vec<Allotted> {
    allotments(practical).into_iter().cycle().take(groups).collect()
}

/// Everything that the class says, in the order of time, with the number of the group from 0.
#[must_use]
pub fn class(practical: &Practical, how: ClassAtWork) -> Vec<(usize, Said)> {
    let mut rng = ChaCha8Rng::seed_from_u64(how.seed);
    let mut said: Vec<(usize, Said)> = Vec::new();
    for (number, to) in allotted(practical, how.groups).iter().enumerate() {
        let own = practical.allotted(to);
        let (seed, begins) = (rng.random(), rng.random_range(0..=ALL_HAVE_BEGUN));
        let pace: f64 = rng.random_range(PACES);
        let slips = rng.random_bool(how.slips_at_bench.clamp(0.0, 1.0));
        let mut all = Slip::all();
        all.shuffle(&mut rng);
        // One that can happen in this practical.
        let planted = all.into_iter().filter(|_| slips).find_map(|slip| Group::with(&own, seed, slip));
        let group = planted.unwrap_or_else(|| Group::at(&own, seed));
        let own_time = |at: i64| {
            #[expect(
                clippy::cast_possible_truncation,
                clippy::cast_precision_loss,
                reason = "weeks at most, in seconds"
            )]
            let at = (at as f64 * pace) as i64;
            begins + at
        };
        let all = group.with_wrong_sums(how.slips_in_sums).work(|_| {});
        said.extend(all.into_iter().map(|s| (number, Said { at: own_time(s.at), ..s })));
    }
    said.sort_by_key(|(_, s)| s.at);
    said
}
