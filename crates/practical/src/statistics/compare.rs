//! Do groups differ? Welch's t for two, one-way analysis of variance and Kruskal–Wallis for more.
//!
//! Sources: Welch, Biometrika 34, 28 (1947); ISO 5725-2:2019 (analysis of variance); Kruskal & Wallis, J. Am. Stat.
//! Assoc. 47, 583 (1952), corrected for ties, p from χ².

use super::summary::{student, two_sided};
use super::{Undefined, all_equal, mean, need, squares};
use serde::Serialize;
use statrs::distribution::{ChiSquared, ContinuousCDF, FisherSnedecor};

/// Chance of a false alarm that is put up with.
const LEVEL: f64 = 0.05;

/// Two groups with spreads of their own.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Welch {
    /// t.
    pub t: f64,
    /// Degrees of freedom, by Welch and Satterthwaite.
    pub df: f64,
    /// Two-sided.
    pub p_value: f64,
    /// p below 5 %.
    pub significant: bool,
    /// First mean less second.
    pub mean_difference: f64,
    /// Lower end of its 95 % interval.
    pub ci95_low: f64,
    /// Upper end.
    pub ci95_high: f64,
}

/// The comparison of two lists.
///
/// # Errors
/// [`Undefined`] for fewer than two values in either, or none that differ.
pub fn welch(a: &[f64], b: &[f64]) -> Result<Welch, Undefined> {
    let what = "Welch's t";
    need(what, a, 2)?;
    need(what, b, 2)?;
    if all_equal(a) && all_equal(b) {
        return Err(Undefined::NoSpread { what });
    }
    let of_mean = |v: &[f64]| squares(v) / (v.len() as f64 - 1.0) / v.len() as f64;
    let (va, vb) = (of_mean(a), of_mean(b));
    let error = (va + vb).sqrt();
    let df = (va + vb).powi(2) / (va * va / (a.len() as f64 - 1.0) + vb * vb / (b.len() as f64 - 1.0));
    let mean_difference = mean(a) - mean(b);
    let (t, reach) = (mean_difference / error, student(0.975, df) * error);
    let p_value = two_sided(t, df);
    Ok(Welch {
        t,
        df,
        p_value,
        significant: p_value < LEVEL,
        mean_difference,
        ci95_low: mean_difference - reach,
        ci95_high: mean_difference + reach,
    })
}

/// One-way analysis of variance.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Anova {
    /// Mean square between over mean square within.
    pub f: f64,
    /// Degrees of freedom between groups.
    pub df_between: usize,
    /// Degrees of freedom within.
    pub df_within: usize,
    /// Sum of squares between.
    pub ss_between: f64,
    /// Sum of squares within.
    pub ss_within: f64,
    /// Mean square between.
    pub ms_between: f64,
    /// Mean square within.
    pub ms_within: f64,
    /// Chance of so large an F where groups do not differ.
    pub p_value: f64,
    /// p below 5 %.
    pub significant: bool,
    /// Standard deviation between groups beyond what within explains; 0 when there is none.
    pub between_sd: f64,
}

/// The analysis of `groups`.
///
/// # Errors
/// [`Undefined`] for fewer than two groups, an empty one, as many groups as values, or no spread within.
pub fn anova(groups: &[Vec<f64>]) -> Result<Anova, Undefined> {
    let what = "analysis of variance";
    let all = pooled(what, groups)?;
    let (k, n) = (groups.len(), all.len());
    if n <= k {
        return Err(Undefined::TooFew { what, needed: k + 1, given: n });
    }
    let grand = mean(&all);
    let ss_between: f64 = groups.iter().map(|g| g.len() as f64 * (mean(g) - grand).powi(2)).sum();
    let ss_within: f64 = groups.iter().map(|g| squares(g)).sum();
    if groups.iter().all(|g| all_equal(g)) {
        return Err(Undefined::NoSpread { what });
    }
    let (df_between, df_within) = (k - 1, n - k);
    let (ms_between, ms_within) = (ss_between / df_between as f64, ss_within / df_within as f64);
    let f = ms_between / ms_within;
    let p_value = FisherSnedecor::new(df_between as f64, df_within as f64).map_or(1.0, |d| d.sf(f));
    let sizes: f64 = groups.iter().map(|g| (g.len() as f64).powi(2)).sum();
    let effective = (n as f64 - sizes / n as f64) / df_between as f64;
    let between_sd = ((ms_between - ms_within) / effective).max(0.0).sqrt();
    Ok(Anova {
        f,
        df_between,
        df_within,
        ss_between,
        ss_within,
        ms_between,
        ms_within,
        p_value,
        significant: p_value < LEVEL,
        between_sd,
    })
}

/// Kruskal–Wallis on ranks.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KruskalWallis {
    /// H, corrected for ties.
    pub h: f64,
    /// Degrees of freedom.
    pub df: usize,
    /// From χ²; rough for fewer than five values a group.
    pub p_value: f64,
    /// p below 5 %.
    pub significant: bool,
}

/// The test on `groups`.
///
/// # Errors
/// [`Undefined`] for fewer than two groups, an empty one, or no values that differ.
pub fn kruskal_wallis(groups: &[Vec<f64>]) -> Result<KruskalWallis, Undefined> {
    let what = "Kruskal–Wallis";
    let all = pooled(what, groups)?;
    if all_equal(&all) {
        return Err(Undefined::NoSpread { what });
    }
    let n = all.len() as f64;
    let mut sorted = all;
    sorted.sort_by(f64::total_cmp);
    // Equal values share the mean of their ranks.
    let rank = |x: f64| {
        let below = sorted.iter().filter(|v| **v < x).count() as f64;
        let same = sorted.iter().filter(|v| **v == x).count() as f64;
        below + f64::midpoint(same, 1.0)
    };
    let sum: f64 = groups.iter().map(|g| g.iter().map(|x| rank(*x)).sum::<f64>().powi(2) / g.len() as f64).sum();
    let plain = 12.0 / (n * (n + 1.0)) * sum - 3.0 * (n + 1.0);
    let ties: f64 = sorted.chunk_by(|a, b| a == b).map(|run| (run.len() as f64).powi(3) - run.len() as f64).sum();
    let h = plain / (1.0 - ties / (n.powi(3) - n));
    let df = groups.len() - 1;
    let p_value = ChiSquared::new(df as f64).map_or(1.0, |d| d.sf(h));
    Ok(KruskalWallis { h, df, p_value, significant: p_value < LEVEL })
}

fn pooled(what: &'static str, groups: &[Vec<f64>]) -> Result<Vec<f64>, Undefined> {
    if groups.len() < 2 {
        return Err(Undefined::TooFew { what, needed: 2, given: groups.len() });
    }
    groups.iter().try_for_each(|g| need(what, g, 1))?;
    Ok(groups.concat())
}
