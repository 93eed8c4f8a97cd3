//! Concordance: which repeats count, and whether another is needed.
//!
//! A *titre* is the volume of titrant delivered in one run: final minus initial burette reading. Titres are
//! *concordant* when their range is within a limit set by the instructor. Rough titres are kept apart by the caller.
//!
//! Units: any one unit for all. Compared as exact decimals: 24.30 − 24.20 is 0.10, within a limit of 0.10.

use crate::Decimal;
use std::cmp::Ordering;

/// What agreement there is among some repeats.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Concordance {
    /// The best concordant set, by place in the list given, in that order.
    Agree(Vec<usize>),
    /// Several sets are equally good; which is right the numbers cannot say.
    Tied(Vec<Vec<usize>>),
    /// No two agree.
    None,
}

/// The most repeats whose range is within `limit`, then the smallest range.
///
/// An empty or single list has nothing that could agree.
///
/// ```
/// use measure::{Concordance, Decimal, concordance};
/// let titres = ["24.55", "24.35", "24.30"].map(|t| Decimal::parse(t).unwrap());
/// let limit = Decimal::parse("0.10").unwrap();
/// assert_eq!(concordance(&titres, limit), Concordance::Agree(vec![1, 2])); // 24.55 agrees with neither
/// ```
#[must_use]
pub fn concordance(repeats: &[Decimal], limit: Decimal) -> Concordance {
    let mut order: Vec<usize> = (0..repeats.len()).collect();
    order.sort_by(|a, b| repeats[*a].compare(repeats[*b]));
    let range = |set: &[usize]| match set {
        [first, .., last] => repeats[*last].minus(repeats[*first]).unwrap_or(limit),
        _ => Decimal::ZERO,
    };
    // In order of size, concordant sets are windows: whatever lies between two that agree agrees with both.
    for size in (2..=repeats.len()).rev() {
        let agreeing: Vec<&[usize]> =
            order.windows(size).filter(|w| range(w).compare(limit) != Ordering::Greater).collect();
        let Some(least) = agreeing.iter().map(|w| range(w)).min_by(|a, b| a.compare(*b)) else { continue };
        let mut best: Vec<Vec<usize>> = agreeing
            .into_iter()
            .filter(|w| range(w).compare(least) == Ordering::Equal)
            .map(|w| {
                let mut set = w.to_vec();
                set.sort_unstable();
                set
            })
            .collect();
        return if best.len() == 1 { Concordance::Agree(best.remove(0)) } else { Concordance::Tied(best) };
    }
    Concordance::None
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(titres: &[&str], limit: &str) -> Concordance {
        let titres: Vec<Decimal> = titres.iter().map(|t| Decimal::parse(t).unwrap()).collect();
        concordance(&titres, Decimal::parse(limit).unwrap())
    }

    #[test]
    fn the_most_titres_then_the_smallest_range() {
        assert_eq!(of(&["22.45", "22.55", "22.50", "22.90"], "0.20"), Concordance::Agree(vec![0, 1, 2]));
        assert_eq!(of(&["24.00", "24.10", "24.30", "24.35"], "0.10"), Concordance::Agree(vec![2, 3]));
        // A difference that exactly equals the limit counts.
        assert_eq!(of(&["24.30", "24.20"], "0.10"), Concordance::Agree(vec![0, 1]));
        assert_eq!(of(&["25.00", "26.00", "27.00"], "0.10"), Concordance::None);
        assert_eq!(of(&["25.00"], "0.10"), Concordance::None);
        let tied = Concordance::Tied(vec![vec![0, 1], vec![2, 3]]);
        assert_eq!(of(&["21.30", "21.35", "21.60", "21.65"], "0.10"), tied);
    }
}
