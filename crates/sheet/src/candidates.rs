//! Which whole-number formulas do measured amounts stand for?
//!
//! A candidate fits when the amounts agree with its subscripts within their uncertainty: χ² =
//! min over k of (n − k·s)ᵀ V⁻¹ (n − k·s), one degree of freedom less than there are parts, V the covariance of the
//! amounts with everything that they share (readings of one crucible). It is *consistent* within 95 %; several
//! consistent ones are *ambiguous*, and the data cannot decide.
//!
//! Source: generalised least squares, e.g. JCGM 102:2011, 9.3; χ² quantiles from the distribution itself.

use nalgebra::{DMatrix, DVector};
use num_integer::Integer;
use statrs::distribution::{ChiSquared, Continuous, ContinuousCDF};

/// A formula that was tried.
#[derive(Debug, Clone, PartialEq)]
pub struct Candidate {
    /// In the order of the parts, without a common factor.
    pub subscripts: Vec<u32>,
    /// How badly it fits.
    pub chi_squared: f64,
}

/// What the amounts say.
#[derive(Debug, Clone, PartialEq)]
pub struct Candidates {
    /// What is counted: symbols of elements, or formulas such as CuSO4 and H2O.
    pub parts: Vec<String>,
    /// Those that fit within 95 %, best first.
    pub consistent: Vec<Candidate>,
    /// The nearest that does not fit.
    pub nearest_rejected: Option<Candidate>,
    /// The nearest with no subscript above three, whether it fits or not.
    pub nearest_simple: Option<Candidate>,
    /// χ² that 5 % of true formulas exceed.
    pub critical: f64,
}

/// Largest subscript of a simple formula.
const SIMPLE: u32 = 3;

impl Candidates {
    /// The largest subscript that may be tried of so many parts: some ten thousand formulas at most.
    #[must_use]
    pub fn most(parts: usize) -> u32 {
        match parts {
            0..=4 => 12,
            5 => 8,
            _ => 6,
        }
    }

    /// All formulas with subscripts up to `most`, ranked by how they fit the amounts, which are in mol.
    ///
    /// `None` where an amount is not above zero, or where the covariance (mol²) allows no ranking: a part without any
    /// uncertainty.
    #[must_use]
    pub fn rank(parts: Vec<String>, amounts: &[f64], covariance: &[Vec<f64>], most: u32) -> Option<Candidates> {
        if amounts.iter().any(|n| *n <= 0.0 || !n.is_finite()) {
            return None;
        }
        let whitened = Whitened::of(amounts, covariance)?;
        let mut tried = subscripts(amounts.len(), most)
            .map(|subscripts| Some(Candidate { chi_squared: whitened.chi_squared(&subscripts)?, subscripts }))
            .collect::<Option<Vec<Candidate>>>()?;
        tried.sort_by(|a, b| a.chi_squared.total_cmp(&b.chi_squared));
        let critical = chi_quantile(amounts.len() - 1);
        let split = tried.partition_point(|c| c.chi_squared <= critical);
        let nearest_rejected = tried.get(split).cloned();
        let nearest_simple = tried.iter().find(|c| c.subscripts.iter().all(|s| *s <= SIMPLE)).cloned();
        tried.truncate(split);
        Some(Candidates { parts, consistent: tried, nearest_rejected, nearest_simple, critical })
    }

    /// Of the consistent ones, that with the smallest subscripts: what a chemist writes down.
    #[must_use]
    pub fn simplest(&self) -> Option<&Candidate> {
        self.consistent.iter().min_by_key(|c| c.subscripts.iter().sum::<u32>())
    }

    /// A candidate as a formula: `Cu2O` of elements, `CuSO4·5H2O` of greater parts.
    #[must_use]
    pub fn written(&self, candidate: &Candidate) -> String {
        let elements = self.parts.iter().all(|p| chem::element(p).is_some());
        let counted = self.parts.iter().zip(&candidate.subscripts);
        let written: Vec<String> = counted
            .map(|(part, n)| match (elements, n) {
                (_, 1) => part.clone(),
                (true, n) => format!("{part}{n}"),
                (false, n) => format!("{n}{part}"),
            })
            .collect();
        written.join(if elements { "" } else { "·" })
    }
}

/// Subscripts from 1 to `most` without a common factor, smallest first.
fn subscripts(parts: usize, most: u32) -> impl Iterator<Item = Vec<u32>> {
    let count = u64::from(most).pow(u32::try_from(parts).unwrap_or(1));
    (0..count).filter_map(move |mut code| {
        let mut s = Vec::with_capacity(parts);
        for _ in 0..parts {
            s.push(u32::try_from(code % u64::from(most)).unwrap_or(0) + 1);
            code /= u64::from(most);
        }
        let divisor = s.iter().copied().fold(0, |a, b| a.gcd(&b));
        (divisor == 1).then_some(s)
    })
}

/// The amounts and the candidates in coordinates in which each deviation has variance 1 and none hangs on another.
struct Whitened {
    /// The lower factor of the covariance.
    factor: DMatrix<f64>,
    amounts: DVector<f64>,
}

impl Whitened {
    /// None where the covariance is singular: a part without any uncertainty, or one that is a multiple of another.
    fn of(amounts: &[f64], covariance: &[Vec<f64>]) -> Option<Whitened> {
        let n = amounts.len();
        let factor = DMatrix::from_fn(n, n, |i, j| covariance[i][j]).cholesky()?.unpack();
        let amounts = factor.solve_lower_triangular(&DVector::from_column_slice(amounts))?;
        Some(Whitened { factor, amounts })
    }

    /// χ² of the amounts against k times the subscripts, at the best k.
    fn chi_squared(&self, subscripts: &[u32]) -> Option<f64> {
        let s = DVector::from_iterator(subscripts.len(), subscripts.iter().map(|n| f64::from(*n)));
        let s = self.factor.solve_lower_triangular(&s)?;
        let k = s.dot(&self.amounts) / s.norm_squared();
        Some((&self.amounts - s * k).norm_squared())
    }
}

fn chi_quantile(freedom: usize) -> f64 {
    let Ok(distribution) = ChiSquared::new(freedom as f64) else { return f64::INFINITY };
    // The library's bisection stops early; two steps of Newton's method bring it to the last digits.
    (0..2).fold(distribution.inverse_cdf(0.95), |x, _| x - (distribution.cdf(x) - 0.95) / distribution.pdf(x))
}
