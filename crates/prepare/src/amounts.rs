//! How much of something a class needs, and into which vessels it goes.
//!
//! Needed: (groups + spare groups) × (trials × what each takes + rinses × what each takes + what stays behind in the glass) ×
//! (1 + per cent on top), rounded up to what can be measured out.

use serde::Serialize;

/// What each group takes of something, in one unit throughout.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Portion {
    /// How often.
    pub trials: u32,
    /// How much each time.
    pub per_trial: f64,
    /// How often the glass that it goes through is rinsed with it.
    pub rinses: u32,
    /// How much each time.
    pub per_rinse: f64,
    /// What stays behind in the glass.
    pub left_in_glass: f64,
}

impl Portion {
    /// For one group in all.
    #[must_use]
    pub fn per_group(&self) -> f64 {
        f64::from(self.trials) * self.per_trial + f64::from(self.rinses) * self.per_rinse + self.left_in_glass
    }

    /// What of it is really used where everything goes to plan.
    #[must_use]
    pub fn used(&self) -> f64 {
        f64::from(self.trials) * self.per_trial
    }
}

/// Rounded up to whole steps; an exact multiple stays, also one that binary numbers cannot hold.
#[must_use]
pub fn rounded_up(exact: f64, step: f64) -> f64 {
    let steps = exact / step;
    let near = steps.round();
    let whole = if (steps - near).abs() < 1e-9 * near.max(1.0) { near } else { steps.ceil() };
    whole * step
}

/// The step to which a total is rounded up: about a part in twenty of it or less, a 1, 2 or 5 of its decade.
#[must_use]
pub fn handy_step(exact: f64) -> f64 {
    if exact <= 0.0 || !exact.is_finite() {
        return 1.0;
    }
    let decade = 10f64.powf((exact / 20.0).log10().floor());
    let part = exact / 20.0 / decade;
    decade
        * if part >= 5.0 {
            5.0
        } else if part >= 2.0 {
            2.0
        } else {
            1.0
        }
}

/// The fewest vessels that together hold `needed`; of these, those that hold the least too much. Sizes largest first; none where
/// all together are too small.
///
/// Volumes in mL; a size is taken to a tenth of one.
#[must_use]
pub fn vessels(needed: f64, there: &[(f64, u32)]) -> Option<Vec<f64>> {
    let tenths = |ml: f64| {
        #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // a room's vessels
        let tenths = (ml * 10.0).round().clamp(0.0, 1e9) as u64;
        tenths
    };
    #[allow(clippy::cast_possible_truncation, clippy::cast_sign_loss)] // as above
    let needed = (needed * 10.0 - 1e-6).ceil().clamp(0.0, 1e9) as u64;
    let mut sizes: Vec<u64> = there
        .iter()
        .filter(|(size, _)| tenths(*size) > 0)
        .flat_map(|(size, count)| std::iter::repeat_n(tenths(*size), (*count).min(MOST_VESSELS) as usize))
        .collect();
    sizes.sort_unstable_by(|a, b| b.cmp(a));
    sizes.truncate(MOST_VESSELS as usize);
    let mut held = 0;
    let fewest = sizes.iter().position(|size| {
        held += size;
        held >= needed
    })? + 1;
    if needed == 0 {
        return Some(Vec::new());
    }
    let mut best: Option<(u64, Vec<u64>)> = None;
    choose(&sizes, fewest, needed, &mut Vec::new(), &mut best, &mut MOST_TRIES.clone());
    best.map(|(_, chosen)| chosen.into_iter().map(|t| t as f64 / 10.0).collect())
}

/// A room with more vessels than this is taken to have so many.
const MOST_VESSELS: u32 = 60;
/// Choices that are looked at: sizes repeat, so that it is rarely a hundred.
const MOST_TRIES: u32 = 200_000;

/// Of `sizes`, largest first, `count` that hold `needed` with the least over.
fn choose(
    sizes: &[u64],
    count: usize,
    needed: u64,
    chosen: &mut Vec<u64>,
    best: &mut Option<(u64, Vec<u64>)>,
    tries: &mut u32,
) {
    let sum: u64 = chosen.iter().sum();
    if count == 0 {
        if sum >= needed && best.as_ref().is_none_or(|(least, _)| sum < *least) {
            *best = Some((sum, chosen.clone()));
        }
        return;
    }
    let mut last = None;
    for (i, size) in sizes.iter().enumerate() {
        // The largest that are left do not reach: nothing smaller does.
        let most: u64 = sizes[i..].iter().take(count).sum();
        if sizes.len() - i < count || sum + most < needed || *tries == 0 {
            return;
        }
        if last == Some(*size) {
            continue;
        }
        last = Some(*size);
        *tries -= 1;
        chosen.push(*size);
        choose(&sizes[i + 1..], count - 1, needed, chosen, best, tries);
        chosen.pop();
    }
}
